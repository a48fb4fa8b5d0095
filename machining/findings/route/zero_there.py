"""route.zero-not-there: nothing to pick the zero up from when the part comes into the machine."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, StationFacts
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown, length
from machining.world.feature import Hole
from machining.world.geometry import taken_by

from ..finding import Finding

ID = "route.zero-not-there"
FILLED_SHARE = 0.5  # of the hole, over which nobody can probe it
STANDS_MM = 0.06
ENDS = {
    ("x", "low"): ("left end", 0),
    ("x", "high"): ("right end", 0),
    ("y", "low"): ("front side", 1),
    ("y", "high"): ("back side", 1),
}


def zero_there(station: StationFacts, facts: PlanFacts) -> Iterator[Finding]:
    if station.turns:
        return  # X is on the spindle's axis, and Z is touched where it is faced
    zero = station.planned.zero
    if zero.of == "hole":
        yield from _hole(station, facts)
    elif zero.of == "part":
        yield from _sides(station)


def _hole(station: StationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """A hole that is first drilled here, or never opened before."""
    hole = facts.geometry.feature(station.planned.zero.hole)
    if not isinstance(hole, Hole):
        return
    state, takes = station.arrives.in_part(), taken_by(hole)
    key = ("filled", state.key, hole.id, facts.geometry.key)
    filled = state.memo.get(key, lambda: float((takes ^ state.solid).volume()))
    if filled <= FILLED_SHARE * float(takes.volume()):
        return
    drilled = next(
        (op for op in facts.operations() if hole.id in getattr(op.operation.on, "ids", ())), None
    )
    yield Finding(
        ID,
        "stop",
        station.setup.id,
        "",
        "Its zero is on a hole of {d} that isn’t there when the part comes in; operation {op} makes"
        " it."
        if drilled
        else "Its zero is on a hole of {d} that isn’t there when the part comes in.",
        {
            "d": Shown(hole.diameter_mm, "size"),
            **({"op": Shown(str(drilled.number))} if drilled else {}),
        },
        "",
        (_of(station, "part", "the finished part"), _of(station, "stock", "the blank")),
    )


def _sides(station: StationFacts) -> Iterator[Finding]:
    """A side of the finished part under stock that still stands: it can only be touched beside."""
    zero, lie = station.planned.zero, station.lie
    for (axis, end), (name, k) in ENDS.items():
        if getattr(zero, axis) != end:
            continue
        part, stock = (
            (lie.part_low, lie.stock_low) if end == "low" else (lie.part_high, lie.stock_high)
        )
        stands = abs(float(stock[k] - part[k]))
        if stands > STANDS_MM:
            yield Finding(
                ID,
                "look",
                station.setup.id,
                "",
                "Its zero is on the {side} of the finished part, which is not cut yet: {stands}"
                " stands over it.",
                {"side": Shown(name), "stands": length(round(stands, 3))},
                "",
                (_of(station, "stock", "the blank"),),
            )
            return


def _of(station: StationFacts, of: str, words: str) -> Proposal:
    side = {"x": "middle", "y": "middle"} if station.planned.zero.of == "hole" else {}
    fields = {"of": of, "hole": "", **side}
    return Proposal(
        "Take the zero from {of}",
        (Change(on=f"station:{station.id}", fields={f"zero.{k}": v for k, v in fields.items()}),),
        {"of": Shown(words)},
    )
