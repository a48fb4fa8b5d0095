"""A setup's order as a problem: what its ledger says of every two operations that follow each
other.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from machining.facts import ledger
from machining.facts.context import OperationFacts, PlanFacts, SetupFacts
from machining.facts.times import cycles
from machining.plan.edit import MoveOperation

from .moves import moves
from .problem import Problem
from .reason import Reason


def problem_of(setup: SetupFacts, facts: PlanFacts) -> Problem:
    """Operations by their place in the setup as it is planned, free to come in any order."""
    ops, ask = setup.operations, ledger.between(setup, facts)
    again = cycles(setup.planned, facts.plan.quantity) > 1
    by_tool = setup.planned.order == "by tool"
    n = len(ops)
    between, back, start = np.zeros((n, n)), np.zeros((n, n)), np.zeros(n)
    for i, j in np.ndindex(n, n):
        first, then = ops[i], ops[j]
        last, most = _last(first), min(_last(first), _last(then))
        if by_tool:
            between[i, j] = ask((first, last), (then, 0))
        else:
            between[i, j] = sum(ask((first, k), (then, k)) for k in range(most + 1))
            back[i, j] = sum(ask((first, k), (then, k + 1)) for k in range(most))
        if again:
            back[i, j] += ask((first, last), (then, 0))
    if not again:
        start = np.array([ask(None, (each, 0)) for each in ops])
    return Problem(between, back, start, _alike(ops))


def held_to(
    problem: Problem, setup: SetupFacts, reasons: Sequence[Reason], pins: bool = True
) -> Problem:
    """The same, in no order that reasons speak against; what is pinned keeps its place."""
    place = {each.id: k for k, each in enumerate(setup.operations)}
    before = tuple((place[each.first], place[each.then]) for each in reasons)
    fixed = [k for k, each in enumerate(setup.operations) if pins and each.operation.pinned]
    return replace(problem, before=before, fixed={k: k for k in fixed})


def _last(op: OperationFacts) -> int:
    return op.station.planned.positions - 1


def _alike(ops: Sequence[OperationFacts]) -> list[int]:
    names = [
        (
            each.rig.carrier.id if each.rig is not None else "",
            each.loaded.id if each.loaded is not None else each.id,
            each.seen.spindle_range,
            each.station.id,
            each.operation.aim if each.aimed is not None else "",
        )
        for each in ops
    ]
    return [names.index(each) for each in names]


def edits_to(setup: SetupFacts, new: Sequence[str]) -> list[MoveOperation]:
    """That put its operations in a new order, what is pinned left where it is."""
    now = [op.id for op in setup.operations]
    pinned = {op.id for op in setup.operations if op.operation.pinned}
    return [
        MoveOperation(operation=id, setup=setup.id, index=to) for id, to in moves(now, new, pinned)
    ]
