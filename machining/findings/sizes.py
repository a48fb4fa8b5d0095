"""What findings of sizes ask of a plan: places an operation works at, and what is drawn of it."""

from __future__ import annotations

from machining.facts.context import OperationFacts, PlanFacts, Ready
from machining.facts.size import tolerance_each_way
from machining.plan.places import OnFeatures, Outside


def places_of(op: OperationFacts) -> frozenset[str]:
    on = op.operation.on
    if isinstance(on, OnFeatures):
        return frozenset(on.ids)
    return (
        frozenset({f"outside at station {op.station.id}"})
        if isinstance(on, Outside)
        else frozenset()
    )


def drawn_of(op: Ready, facts: PlanFacts) -> float | None:
    """Half the narrowest band the drawing asks of what it finishes, None where the drawing is
    silent.
    """
    each_way, source = tolerance_each_way(op, facts)
    return each_way if source.startswith("drawing") else None
