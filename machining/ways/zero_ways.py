"""The usual places of a zero in X and Y: a corner or the middle of the blank, of the part, a bore,
what holds it, a place of the table.
"""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, StationFacts
from machining.facts.zero import axes, place_said, the
from machining.plan.document import BLANK
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.plan.zero import End, From, Of
from machining.quantities.said import within
from machining.world.feature import Hole

from .zeros import by_what_holds_it

MOST_BORES = 2


def zero_ways(station: StationFacts, facts: PlanFacts) -> Iterator[Proposal]:
    """Each with Z as it is; whether anything is there to pick up is asked of the plan with it."""
    if station.turns:
        return
    yield _alike("A corner of the blank", station, From(of="stock", at="low"))
    yield _alike("The middle of the blank", station, From(of="stock", at="middle"))
    if station.planned.takes != BLANK:
        ends: tuple[tuple[str, End], ...] = (("A corner", "low"), ("The middle", "middle"))
        for words, end in ends:
            yield _alike(f"{words} of the part", station, From(of="part", at=end))
    for hole in _bores(station, facts):
        yield _named("The axis of {place}", station, From(of="hole", feature=hole), facts)
    held = by_what_holds_it(station, (0, 1), facts.geometry)
    if held is not None:
        yield held
    for spot in _places(station, facts):
        yield _named("A known place: {place}", station, spot, facts)


def _alike(label: str, station: StationFacts, taken: From) -> Proposal:
    fields = {f"zero.{axis}": taken.model_dump(mode="json") for axis in "xy"}
    return Proposal(label, (Change(on=station.on, fields=fields),))


def _named(label: str, station: StationFacts, taken: From, facts: PlanFacts) -> Proposal:
    said = within(place_said(0, taken, False, facts.geometry), "at_")
    place = the(said.text).removeprefix("the axis of ")
    made = _alike(label.replace("{place}", place), station, taken)
    return Proposal(made.label, made.edits, said.values)


def _bores(station: StationFacts, facts: PlanFacts) -> list[str]:
    """The widest holes that stand upright."""
    upright = _choices(station, facts, "hole")
    holes = [each for each in facts.geometry.features if isinstance(each, Hole)]
    found = sorted((e for e in holes if e.id in upright), key=lambda e: (-e.diameter_mm, e.id))
    return [each.id for each in found[:MOST_BORES]]


def _places(station: StationFacts, facts: PlanFacts) -> list[From]:
    spots = [From(of="spot", feature=each) for each in _choices(station, facts, "spot")]
    on_table = bool(_choices(station, facts, "table"))
    return [*spots, *([From(of="table")] if on_table else [])]


def _choices(station: StationFacts, facts: PlanFacts, of: Of) -> list[str]:
    return [e.feature for axis in axes(station, facts)[:1] for e in axis.choices if e.of == of]
