"""A vise with one or both jaws on the outer faces of what carries them: wider parts lie over it."""

from __future__ import annotations

from collections.abc import Iterator

from machining.plan.edit import Change
from machining.plan.in_vise import MOUNTED, Holding, JawsOn
from machining.plan.proposal import Proposal
from machining.quantities.errors import OutOfRange
from machining.quantities.said import Shown
from machining.world.library import Library
from machining.world.workholding import Vise

from ..context import PlanFacts, StationFacts
from ..parallels import usual_hold

CALLED = dict(MOUNTED)
OUT: tuple[JawsOn, ...] = ("back", "outside")  # the smaller change first
LEAST_JAW_MM = 1.0  # of a jaw over what carries it


def item_of(holding: Holding, library: Library) -> Vise | None:
    """The library's record, as its jaws are mounted: what lies over what carries them lies on
    that, so it stands for the bed.
    """
    vise = library.holdings.get(holding.vise)
    return mounted(vise, holding.jaws_on) if isinstance(vise, Vise) else None


def opening_of(vise: Vise, jaws_on: JawsOn) -> float | None:
    """How far (mm) it opens then, None where its jaws don't go there."""
    return {
        "inside": vise.max_opening_mm,
        "outside": vise.outer_opening_mm,
        "back": vise.back_opening_mm,
    }[jaws_on]


def mounted(vise: Vise, jaws_on: JawsOn) -> Vise:
    """The same with its jaws there; as it is where they don't go there."""
    opening = opening_of(vise, jaws_on)
    if jaws_on == "inside" or opening is None:
        return vise
    return vise.model_copy(
        update={
            "max_opening_mm": opening,
            "bed_height_mm": vise.bed_height_mm + vise.outer_seat_mm,
            "jaw_height_mm": max(vise.jaw_height_mm - vise.outer_seat_mm, LEAST_JAW_MM),
        }
    )


def goes_between(holding: Holding, vise: Vise, width: float) -> None:
    """Raises OutOfRange where its jaws can't be mounted so, or don't close so far then."""
    if holding.jaws_on == "inside":
        return
    opening = opening_of(vise, holding.jaws_on)
    if opening is None:
        has = ["inside", *(each for each in OUT if opening_of(vise, each) is not None)]
        raise OutOfRange("jaws_on", holding.jaws_on, f"{' or '.join(has)}, where {vise.name} has")
    least = opening - vise.travel_mm
    if width < least:
        raise OutOfRange(
            "width between the jaws",
            round(width, 3),
            f"at least {least:g} with the jaws of {vise.name} {CALLED[holding.jaws_on]}",
        )


def offered(
    station: StationFacts, vise: Vise, axis: int, width: float, facts: PlanFacts
) -> Iterator[Proposal]:
    """Wider parts than it opens for with its jaws inside: with one of them moved where that is
    enough.
    """
    for jaws_on in OUT:
        most = opening_of(vise, jaws_on)
        if most is None or not max(vise.max_opening_mm, most - vise.travel_mm) < width <= most:
            continue
        usual = usual_hold(mounted(vise, jaws_on), "xy"[axis], facts.library.settings.grip_least_mm)
        held = usual.model_copy(update={"jaws_on": jaws_on})
        yield Proposal(
            "Hold it in the {vise} across {axis}, its jaws {where}",
            (Change(on=station.on, fields={"holding": held.model_dump()}),),
            {"vise": Shown(vise.name), "axis": Shown("XY"[axis]), "where": Shown(CALLED[jaws_on])},
        )
        return
