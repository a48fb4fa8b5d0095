"""route.said-order: an order that the plan itself says must not be."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, SetupFacts
from machining.plan.edit import MoveOperation
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown

from ..finding import Finding


def said_order(setup: SetupFacts, facts: PlanFacts) -> Iterator[Finding]:
    """Of operations that are there still."""
    at = {op.id: (place, op) for place, op in enumerate(setup.operations)}
    for each in setup.planned.said_order:
        if each.free or each.first not in at or each.then not in at:
            continue
        (early, first), (late, then) = at[each.first], at[each.then]
        if early < late:
            continue
        values = {
            "first": Shown(str(first.number)),
            "then": Shown(str(then.number)),
            "why": Shown(each.why),
        }
        move = MoveOperation(operation=then.id, setup=setup.id, index=early)
        yield Finding(
            "route.said-order",
            "look",
            setup.id,
            then.id,
            "Operation {then} comes before {first}, after which the plan wants it: {why}.",
            values,
            "",
            (Proposal("Move it behind operation {first}", (move,), values),),
            about=each.first,
        )
