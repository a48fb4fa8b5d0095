"""What the planner said of the order: reasons of their own, and habits set aside."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from machining.facts.context import SetupFacts
from machining.quantities.said import Said, Shown

from .reason import Reason


def with_own(setup: SetupFacts, reasons: Iterable[Reason]) -> list[Reason]:
    """The reasons with the planner's. A habit gives way to what they said of the pair; metal, a
    place and a holding do not: where they said the opposite both stand, and no order meets them.
    """
    said = setup.planned.said_order
    pairs = {frozenset((each.first, each.then)) for each in said}
    kept = [
        each
        for each in reasons
        if each.kind != "practice" or frozenset((each.first, each.then)) not in pairs
    ]
    known = {(each.first, each.then) for each in kept}
    return [*kept, *(each for each in _own(setup) if (each.first, each.then) not in known)]


def _own(setup: SetupFacts) -> Iterator[Reason]:
    """Of operations that are there still."""
    numbers = {op.id: op.number for op in setup.operations}
    for each in setup.planned.said_order:
        if not each.free and each.first in numbers and each.then in numbers:
            values = {"first": Shown(f"{numbers[each.first]}"), "why": Shown(each.why)}
            text = "The plan says so of operation {first}: {why}."
            yield Reason(each.first, each.then, "own", Said(text, values))
