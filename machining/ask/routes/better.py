"""What a whole route gains: parts at a time, sides in one load, the order of its operations."""

from __future__ import annotations

from collections.abc import Sequence
from math import inf
from typing import Any

from pydantic import TypeAdapter

from machining.evaluation import Evaluation
from machining.ordering.in_setup import edits_to, held_to, problem_of
from machining.ordering.rules import reasons_of
from machining.ordering.solve import solve
from machining.plan.apply import EditRefused, apply
from machining.plan.document import Plan
from machining.plan.trade import AnyEdit, Load, Together
from machining.ways import trade
from machining.ways.one_load import sides_of

from ..savings import EFFORT
from .route import Bench, stops_of

ANY: TypeAdapter[list[AnyEdit]] = TypeAdapter(list[AnyEdit])
PARTS = (4, 12, 24, 2, 8)  # at a time: more where that is better, else fewer
MOST_LOADS = 2  # that are tried of a setup
LEAST_S = 0.05  # of a part, over the batch


def in_one_load(plan: Plan, told: Evaluation, bench: Bench) -> tuple[Plan, Evaluation]:
    """Setups after each other on one machine as sides of one load, where the batch takes less."""
    for first, then in list(sides_of(plan)):
        if {first.id, then.id} <= {each.id for each in plan.setups}:
            edits = [Together(setup=first.id, other=then.id)]
            plan, told = _kept(plan, told, edits, bench) or (plan, told)
    return plan, told


def loaded(plan: Plan, told: Evaluation, bench: Bench) -> tuple[Plan, Evaluation]:
    """So many parts at a time in each setup that the batch takes least."""
    for setup in plan.setups:
        if any(each.in_chuck is not None for each in setup.stations):
            continue
        best, least, most = (plan, told), 1, inf
        for _ in range(MOST_LOADS):
            parts = next((n for n in PARTS if least < n < most and n <= plan.quantity), None)
            if parts is None:
                break
            edits = [Load(station=each.id, parts=parts) for each in setup.stations]
            found = _kept(plan, best[1], edits, bench)
            best = found or best
            least, most = (parts, most) if found else (least, parts)
        plan, told = best
    return plan, told


def ordered(plan: Plan, told: Evaluation, bench: Bench) -> tuple[Plan, Evaluation]:
    """Each setup in the order that takes least and keeps every reason, habits too."""
    for id in [each.id for each in plan.setups]:
        facts = bench.walk(plan)
        setup = next(each for each in facts.setups if each.id == id)
        free = problem_of(setup, facts)
        solved = solve(held_to(free, setup, reasons_of(setup, facts)), range(free.many), EFFORT)
        if solved.order is not None:
            edits = edits_to(setup, [setup.operations[k].id for k in solved.order])
            plan, told = _kept(plan, told, edits, bench) or (plan, told)
    return plan, told


def _kept(
    plan: Plan, told: Evaluation, edits: Sequence[Any], bench: Bench
) -> tuple[Plan, Evaluation] | None:
    """With edits, where nothing new is stopped or unknown and the batch takes less."""
    try:
        meant = trade.structural(plan, bench.library, bench.memo, ANY.validate_python(edits))
        after = apply(plan, meant)
    except EditRefused:
        return None
    then = bench.evaluate(after)
    known = {each.key for each in stops_of(told)}
    worse = then.problem or then.unknown > told.unknown
    if worse or any(each.key not in known for each in stops_of(then)):
        return None
    return (after, then) if then.batch_s < told.batch_s - LEAST_S * plan.quantity else None
