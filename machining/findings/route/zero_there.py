"""route.zero-not-there: nothing to pick the zero up from when the part comes into the machine."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Literal

from machining.facts.context import PlanFacts, StationFacts
from machining.facts.covered import share_there
from machining.facts.made import stands_clear
from machining.facts.zero import ENDS, LETTERS, place_said, the
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.plan.zero import End, From
from machining.quantities.said import Shown, length
from machining.world.feature import Boss, is_plane, is_round
from machining.world.geometry import taken_by

from ..finding import Finding

ID = "route.zero-not-there"
FILLED_SHARE = 0.5  # of the hole, over which nobody can probe it
STANDS_MM = 0.06
THERE = 0.5  # of a face, and somebody can touch it


def zero_there(station: StationFacts, facts: PlanFacts) -> Iterator[Finding]:
    if station.turns:
        return  # X is on the spindle's axis, and Z is touched where it is faced
    zero = station.planned.zero
    for id in dict.fromkeys(each.feature for each in (zero.x, zero.y) if each.of == "hole"):
        yield from _hole(id, station, facts)
    for k, taken in enumerate(zero.taken):
        if taken.of == "face":
            yield from _face(k, taken, station, facts)
        elif k < 2 and taken.of == "part" and taken.at != "middle":
            yield from _side(k, taken, station)


def _hole(id: str, station: StationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """A hole that is first drilled here, or never opened before."""
    hole = facts.geometry.feature(id)
    if isinstance(hole, Boss):
        yield from _boss(hole, station, facts)
        return
    if not is_round(hole):
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
        (_from(station, "part", "the finished part"), _from(station, "stock", "the blank")),
    )


def _boss(boss: Boss, station: StationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """A boss that is still inside the stock: nothing to sweep round."""
    if stands_clear(boss, station.arrives, facts):
        return
    yield Finding(
        ID,
        "stop",
        station.setup.id,
        "",
        "Its zero is on a boss of {d} that still lies inside the stock when the part comes in.",
        {"d": Shown(boss.diameter_mm, "size")},
        "",
        (_from(station, "part", "the finished part"), _from(station, "stock", "the blank")),
    )


def _face(k: int, taken: From, station: StationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """A face that still lies inside the stock, so that nothing can be touched there."""
    face = facts.geometry.feature(taken.feature)
    if not is_plane(face) or share_there(face, station.arrives, facts.geometry) >= THERE:
        return
    said = place_said(k, taken, False, facts.geometry)
    high = bool((station.lie.pose.rotation @ face.looks)[k] > 0)
    yield Finding(
        ID,
        "stop",
        station.setup.id,
        "",
        f"Its zero’s {LETTERS[k]} is taken from {the(said.text)}, which isn’t there when the part"
        " comes in.",
        said.values,
        "",
        (_as_far(k, station, high),),
    )


def _side(k: int, taken: From, station: StationFacts) -> Iterator[Finding]:
    """A side of the finished part under stock that still stands: it can only be touched beside."""
    high = taken.at == "high"
    stands = abs(_end(k, station, high) - _end(k, station, high, of_part=True))
    if stands > STANDS_MM:
        yield Finding(
            ID,
            "look",
            station.setup.id,
            "",
            "Its zero is on the {side} of the finished part, which is not cut yet: {stands} stands"
            " over it.",
            {"side": Shown(ENDS[k, taken.at]), "stands": length(round(stands, 3))},
            "",
            (_as_far(k, station, high),),
            about="xyz"[k],
        )


def _end(k: int, station: StationFacts, high: bool, of_part: bool = False) -> float:
    lie = station.lie
    both = (lie.part_low, lie.part_high) if of_part else (lie.stock_low, lie.stock_high)
    return float(both[high][k])


def _as_far(k: int, station: StationFacts, high: bool) -> Proposal:
    """The same place, measured from the blank's side: no coordinate changes."""
    letter = "xyz"[k]
    end: End = "high" if high else "low"
    off = round(0.0 - _end(k, station, high), 6)
    fields = {f"zero.{letter}": From(of="stock", at=end, off_mm=off).model_dump(mode="json")}
    return Proposal(
        f"Take {letter.upper()} {{off}} from the {{side}} of the blank",
        (Change(on=station.on, fields=fields),),
        {"off": Shown(abs(off), "size"), "side": Shown(ENDS[k, end])},
    )


def _from(station: StationFacts, of: Literal["part", "stock"], words: str) -> Proposal:
    """X and Y in the middle of something that is there."""
    middle = From(of=of).model_dump(mode="json")
    return Proposal(
        "Take the zero from {of}",
        (Change(on=station.on, fields={"zero.x": middle, "zero.y": middle}),),
        {"of": Shown(words)},
    )
