"""What could be cut next in a setup, each offer as ready edits with a fitting tool and starting
values.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from machining.facts.context import PlanFacts, StationFacts
from machining.facts.roughed import same_place
from machining.plan.edit import AddOperation, Change
from machining.plan.operation import FinishFloor, FinishWalls, RoughOutside, RoughPocket
from machining.plan.places import OnFeatures

from .bench import Bench, Offer
from .by_hand import by_hand, edges
from .drawn_edges import drawn_edges
from .gentle import gentle
from .holes import holes
from .sides import outside, pockets, top
from .turned import turn_offers

FINISH_LEFT_MM = 0.3


def offers(seen: StationFacts, facts: PlanFacts, fresh: Callable[[], str]) -> list[Offer]:
    """Top, outside, pockets and holes that can be reached from this setup's spindle and are not
    planned yet.
    """
    bench = Bench(seen, facts, fresh)
    if seen.turns:
        return list(turn_offers(bench))
    done: set[tuple[str, str]] = {
        (op.kind, id)
        for setup in facts.plan.setups
        for op in setup.operations
        if isinstance(op.on, OnFeatures)
        for id in op.on.ids
    }
    here: set[str] = {op.kind for op in seen.work if not isinstance(op.on, OnFeatures)}
    found = [
        *top(bench, here),
        *outside(bench, here),
        *pockets(bench, done),
        *holes(bench, done),
        *drawn_edges(bench, done, here),
        *edges(bench, here),
        *by_hand(bench),
    ]
    left = (_leaves_something(offer, facts) for offer in found)
    return [gentle(offer, seen, facts) for offer in left if offer is not None]


def _leaves_something(offer: Offer, facts: PlanFacts) -> Offer | None:
    """A finish needs something left for it: not before the roughing, and after one that leaves
    nothing only with an allowance for it.
    """
    added = offer.edits[-1]
    if not isinstance(added, AddOperation) or not isinstance(
        added.operation, FinishWalls | FinishFloor
    ):
        return offer
    finish, field = (
        added.operation,
        "leave_mm" if isinstance(added.operation, FinishWalls) else "leave_floor_mm",
    )
    roughs = [
        op
        for setup in facts.plan.setups
        for op in setup.operations
        if isinstance(op, RoughOutside | RoughPocket) and same_place(op.on, finish.on)
    ]
    if not roughs:
        return None
    bare = [op for op in roughs if getattr(op, field, 0.0) <= 0]
    if len(bare) < len(roughs):
        return offer
    allowances = tuple(
        Change(on=f"operation:{op.id}", fields={field: FINISH_LEFT_MM})
        for op in bare
        if field in type(op).model_fields
    )
    return (
        replace(
            offer,
            label=f"{offer.label}, {FINISH_LEFT_MM:g} left for it",
            edits=(*allowances, *offer.edits),
        )
        if allowances
        else None
    )
