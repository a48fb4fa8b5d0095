"""Operations that are changed together: the same at other places, at other sides."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from .document import Plan, Setup
from .operation import Operation

# what each has of its own: where it is and what it cuts there, and what is said of it alone
OWN = frozenset({"id", "station", "aim", "on", "like", "pinned", "reason", "stop_after", "stop_s"})
Changing = Callable[[Operation, dict[str, Any]], Operation]


def like_it(plan: Plan, operation: Operation) -> list[Operation]:
    """The others that are changed with it, as they come."""
    if not operation.like:
        return []
    every = (each for setup in plan.setups for each in setup.operations)
    return [
        each
        for each in every
        if each.like == operation.like and each.kind == operation.kind and each.id != operation.id
    ]


def shared(fields: dict[str, Any]) -> dict[str, Any]:
    """Of changed fields those that all of them have."""
    return {path: value for path, value in fields.items() if path.partition(".")[0] not in OWN}


def spread(plan: Plan, operation: Operation, fields: dict[str, Any], change: Changing) -> Plan:
    """The plan with what was changed of one changed of the others too."""
    common = shared(fields)
    others = {each.id for each in like_it(plan, operation)}
    if not common or not others:
        return plan

    def changed(setup: Setup) -> Setup:
        if others.isdisjoint(op.id for op in setup.operations):
            return setup
        operations = [change(op, common) if op.id in others else op for op in setup.operations]
        return setup.model_copy(update={"operations": tuple(operations)})

    return plan.model_copy(update={"setups": tuple(map(changed, plan.setups))})
