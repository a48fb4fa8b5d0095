"""What a question is about, by the id it names."""

from __future__ import annotations

from machining.facts.context import OperationFacts, PlanFacts, StationFacts
from machining.quantities.errors import Missing


def station_of(facts: PlanFacts, id: str) -> StationFacts:
    """Raises Missing."""
    found = next((each for each in facts.stations if each.id == id), None)
    if found is None:
        raise Missing("Station", id)
    return found


def operation_of(facts: PlanFacts, id: str) -> OperationFacts:
    """Raises Missing."""
    found = next((each for each in facts.operations() if each.id == id), None)
    if found is None:
        raise Missing("Operation", id)
    return found
