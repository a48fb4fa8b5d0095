"""Clamps that are changed between operations: what comes before stays before."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import combinations

from machining.facts.context import PlanFacts, StationFacts

from .reason import Reason, because


def clamps(station: StationFacts, facts: PlanFacts) -> Iterator[Reason]:
    """The operation that a change follows is the last under the clamps before it."""
    for first, then in combinations(station.operations, 2):
        if first.operation.clamps_after is not None:
            yield because(
                first, then, "holding", "Clamps are changed after operation {first}, for it."
            )
        if then.operation.clamps_after is not None:
            yield because(
                first,
                then,
                "holding",
                "Clamps are changed after it: operation {first} is cut under those before.",
            )
