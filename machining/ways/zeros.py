"""The same zero, found in another way: no coordinate of what is cut changes."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import StationFacts
from machining.facts.holdings.vise import touched
from machining.facts.zero import LETTERS, place_said, the
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.plan.zero import AXES, From, Of
from machining.quantities.said import Said, Shown, within
from machining.world.geometry import PartGeometry

Fields = dict[str, object]


def by_what_holds_it(
    station: StationFacts, axes: tuple[int, ...], geometry: PartGeometry
) -> Proposal | None:
    """Axes of a zero taken from the fixed jaw, a stop (put there where none is) and the seat; None
    without a vise.
    """
    held, gripped = station.planned.in_vise, station.stand.gripped
    if held is None or gripped is None or station.stand.turn is not None:
        return None
    stopped = held.model_copy(update={"stop": held.stop or "low"})
    across = "xy".index(held.fixed[1])
    fields, said = Fields(), list[Said]()
    for on in axes:
        of: Of = "seat" if on == 2 else "jaw" if on == across else "stop"
        if of == "stop":
            fields["holding.stop"] = stopped.stop
        at = (
            float(station.lie.stock_low[2])
            if of == "seat"
            else touched("jaw" if of == "jaw" else "stop", stopped, gripped)[2]
        )
        taken = From(of=of, off_mm=round(0.0 - at, 6))
        fields[f"zero.{AXES[on]}"] = taken.model_dump(mode="json")
        place = the(place_said(on, taken, False, geometry).text)
        off = {"off": Shown(abs(at), "size")}
        said.append(within(Said(f"{LETTERS[on]} {{off}} from {place}", off), f"{AXES[on]}_"))
    return Proposal(
        "Take " + ", ".join(each.text for each in said) + ": nothing that is cut moves",
        (Change(on=station.on, fields=fields),),
        {name: shown for each in said for name, shown in each.values.items()},
    )


def probed(station: StationFacts, axes: tuple[int, ...]) -> Proposal | None:
    """Axes of a zero found by a probe; None where all are."""
    zero = station.planned.zero
    fields: Fields = {
        f"zero.{AXES[on]}.by": "probe"
        for on in axes
        if zero.taken[on].by != "probe" and zero.taken[on].of not in ("table", "spot")
    }
    if not fields:
        return None
    return Proposal(
        "Find zero with a probe in setup {setup}",
        (Change(on=station.on, fields=fields),),
        {"setup": Shown(str(station.number))},
    )


def on_every_part(station: StationFacts) -> Proposal | None:
    """The zero found anew on every part; None where it is."""
    if station.planned.zero.each_part:
        return None
    return Proposal(
        "Find zero on every part in setup {setup}",
        (Change(on=station.on, fields={"zero.each_part": True}),),
        {"setup": Shown(str(station.number))},
    )


def with_a_stop(station: StationFacts) -> Iterator[Proposal]:
    """A stop at either end of the jaws, where there is none."""
    held = station.planned.in_vise
    if held is None or held.stop:
        return
    ends = ("front", "back") if held.fixed[1] == "x" else ("left", "right")
    for end, words in zip(("low", "high"), ends, strict=True):
        yield Proposal(
            "A stop at the {end} end in setup {setup}",
            (Change(on=station.on, fields={"holding.stop": end}),),
            {"end": Shown(words), "setup": Shown(str(station.number))},
        )
