"""A vise with its jaws on the outer faces of what carries them: wider parts lie over those."""

from __future__ import annotations

from collections.abc import Iterator

from machining.plan.edit import Change
from machining.plan.in_vise import Holding
from machining.plan.proposal import Proposal
from machining.quantities.errors import OutOfRange
from machining.quantities.said import Shown
from machining.world.library import Library
from machining.world.workholding import Vise

from ..context import PlanFacts, StationFacts
from ..parallels import usual_hold

LEAST_JAW_MM = 1.0  # of a jaw over what carries it


def item_of(holding: Holding, library: Library) -> Vise | None:
    """The library's record, as its jaws are mounted: what lies between outer jaws lies over what
    carries them, so that stands for the bed.
    """
    vise = library.holdings.get(holding.vise)
    if not isinstance(vise, Vise):
        return None
    return outside(vise) if holding.jaws_on == "outside" else vise


def outside(vise: Vise) -> Vise:
    """The same with its jaws on the outside; as it is where they don't go there."""
    if vise.outer_opening_mm is None:
        return vise
    return vise.model_copy(
        update={
            "max_opening_mm": vise.outer_opening_mm,
            "bed_height_mm": vise.bed_height_mm + vise.outer_seat_mm,
            "jaw_height_mm": max(vise.jaw_height_mm - vise.outer_seat_mm, LEAST_JAW_MM),
        }
    )


def goes_between(holding: Holding, vise: Vise, width: float) -> None:
    """Raises OutOfRange where its jaws can't be mounted so, or don't close so far then."""
    if holding.jaws_on == "inside":
        return
    if vise.outer_opening_mm is None:
        raise OutOfRange("jaws_on", "outside", f"inside: those of {vise.name} go nowhere else")
    least = vise.outer_opening_mm - vise.travel_mm
    if width < least:
        raise OutOfRange(
            "width between the jaws",
            round(width, 3),
            f"at least {least:g} with the jaws of {vise.name} on the outside",
        )


def offered(
    station: StationFacts, vise: Vise, axis: int, width: float, facts: PlanFacts
) -> Iterator[Proposal]:
    """Wider parts than it opens for with its jaws inside."""
    most = vise.outer_opening_mm
    if most is None or not max(vise.max_opening_mm, most - vise.travel_mm) < width <= most:
        return
    held = usual_hold(outside(vise), "xy"[axis], facts.library.settings.grip_least_mm)
    held = held.model_copy(update={"jaws_on": "outside"})
    yield Proposal(
        "Hold it in the {vise} across {axis}, its jaws on the outside",
        (Change(on=station.on, fields={"holding": held.model_dump()}),),
        {"vise": Shown(vise.name), "axis": Shown("XY"[axis])},
    )
