"""What stands beside an operation's own part until others have cut it away there."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.beside import clears
from machining.facts.context import OperationFacts, PlanFacts, Ready, StationFacts
from machining.facts.state import State
from machining.facts.taken import metal_taken
from machining.geometry.solids import posed
from machining.memo import digest

from .reason import Reason, because

IN_WAY = "What operation {first} takes away stands beside it till then, in the way of its tool."


def beside(station: StationFacts, facts: PlanFacts) -> Iterator[Reason]:
    """Of parts that are cut with each tool in turn: one is in another's way while it is whole."""
    setup = station.setup
    several = sum(each.planned.positions for each in setup.stations) > 1
    if not several or setup.planned.order == "by part" or setup.crossed:
        return
    for k, then in enumerate(setup.operations):
        if then.station is station and isinstance(then, Ready) and then.meets is None:
            for first in setup.operations[:k]:
                if first.before.key != first.after.key and not _clears(then, first, facts):
                    yield because(first, then, "stock", IN_WAY)


def _clears(then: Ready, first: OperationFacts, facts: PlanFacts) -> bool:
    """Would it go clear of what the other takes away, were that there yet?"""
    if metal_taken(first).is_empty():
        return True
    key, memo = digest("taken", first.before.key, first.after.key), first.before.memo
    gone = State(lambda: posed(metal_taken(first), first.lie.pose.inverse()), key, memo)
    return clears(then, first.station, gone, facts, memo)
