"""What a whole route gains: parts at a time, sides in one load, the order of its operations."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from math import inf
from typing import Any

from pydantic import TypeAdapter

from machining.evaluation import Evaluation
from machining.ordering.in_setup import edits_to, held_to, problem_of
from machining.ordering.rules import reasons_of
from machining.ordering.solve import solve
from machining.plan.apply import EditRefused, apply
from machining.plan.document import Plan, Setup
from machining.plan.edit import RemoveOperation
from machining.plan.trade import AnyEdit, Hold, Load, Together
from machining.ways import trade
from machining.ways.loads import most_of
from machining.ways.one_load import sides_of
from machining.ways.one_range import one_range

from ..changes import EFFORT
from ..trying import is_worse
from .route import Bench, stops_of

ANY: TypeAdapter[list[AnyEdit]] = TypeAdapter(list[AnyEdit])
PARTS = (4, 12, 24, 2, 8)  # at a time: more where that is better, else fewer
MOST_LOADS = 2  # that are tried of a setup
OF_ROOM = ("travel.", "hold.overhang")
TAKEN_ALREADY = "reach.wrong-floor"
LEAST_S = 0.05  # of a part, over the batch
WORTH = 0.005  # of a cycle: for less than that no order is worked out whole


def fuller(plan: Plan, told: Evaluation, bench: Bench) -> tuple[Plan, Evaluation]:
    """With its sides in one load, or more parts of each at a time, where the batch takes less: the
    better of them.
    """
    ways = [loaded(*in_one_load(plan, told, bench), bench)]
    if len(ways[0][0].setups) < len(plan.setups):
        ways.append(loaded(plan, told, bench))
    return min(ways, key=lambda each: each[1].batch_s)


def in_one_load(plan: Plan, told: Evaluation, bench: Bench) -> tuple[Plan, Evaluation]:
    """Setups after each other on one machine as sides of one load, where the batch takes less."""
    for first, then in list(sides_of(plan)):
        fresh = {each.id for each in plan.setups[len(bench.kept) :]}
        if {first.id, then.id} <= fresh:
            edits = [Together(setup=first.id, other=then.id)]
            plan, told = _kept(plan, told, edits, bench) or (plan, told)
    return plan, told


def loaded(plan: Plan, told: Evaluation, bench: Bench) -> tuple[Plan, Evaluation]:
    """So many parts at a time in each setup of one side that the batch takes less, in other vises
    where only those leave the room.
    """
    for setup in plan.setups[len(bench.kept) :]:
        if len(setup.stations) > 1 or setup.stations[0].in_chuck is not None:
            continue
        best, least, most = (plan, told), setup.stations[0].positions, inf
        for _ in range(MOST_LOADS):
            parts = next((n for n in PARTS if least < n < most and n <= plan.quantity), None)
            if parts is None or bench.spent:
                break
            found = _many(plan, best[1], setup, parts, bench)
            best = found or best
            least, most = (parts, most) if found else (least, parts)
        plan, told = best
    return plan, told


def _many(
    plan: Plan, told: Evaluation, setup: Setup, parts: int, bench: Bench
) -> tuple[Plan, Evaluation] | None:
    """With so many, in other vises where only room is lacking."""
    load: list[AnyEdit] = [Load(station=each.id, parts=parts) for each in setup.stations]
    for held in ([], *_in_others(setup, bench)):
        so = None if bench.spent else _held(plan, held, bench)
        if so is None or not all(
            _goes_on(each, setup, parts, bench) for each in (_bare(so, setup), so)
        ):
            continue  # mostly that is known without their tools, which takes no time
        after = _with(plan, [*held, *load], bench)
        if after is not None and _is_better(after[1], told, plan):
            return after
        known = {each.key for each in stops_of(told)}
        new = [each for each in stops_of(after[1]) if each.key not in known] if after else []
        if not new or not all(each.id.startswith(OF_ROOM) for each in new):
            return None
    return None


def _held(plan: Plan, held: Sequence[AnyEdit], bench: Bench) -> Plan | None:
    """Held in something else; None where it can't be."""
    try:
        meant = trade.structural(plan, bench.library, bench.memo, ANY.validate_python(held))
        return apply(plan, meant)
    except EditRefused:
        return None


def _goes_on(plan: Plan, setup: Setup, parts: int, bench: Bench) -> bool:
    """Can they be held so, and do so many go on the table and in reach of its tools?"""
    facts = bench.walk(plan)
    stations = [facts.station(each.id) for each in setup.stations]
    return all(
        "hold" not in each.unknown and parts <= most_of(each, facts, bench.memo)
        for each in stations
    )


def _bare(plan: Plan, setup: Setup) -> Plan:
    """As far as a setup, of which nothing is cut."""
    upto = [each.id for each in plan.setups].index(setup.id)
    last = plan.setups[upto].model_copy(update={"operations": ()})
    return plan.model_copy(update={"setups": (*plan.setups[:upto], last)})


def _in_others(setup: Setup, bench: Bench) -> Iterator[list[AnyEdit]]:
    """All its parts in another of the shop's vises: beside or behind narrower ones more of them
    go.
    """
    now = [each.in_vise for each in setup.stations]
    if any(each is None or each.vise not in bench.library.vises for each in now):
        return
    vises = bench.library.vises
    have = {each.vise for each in now if each is not None}
    others = sorted(vises.values(), key=lambda each: each.jaw_width_mm)
    for vise in (each for each in others if each.key not in have):
        yield [Hold(station=each.id, item=vise.key) for each in setup.stations]


def ordered(plan: Plan, told: Evaluation, bench: Bench) -> tuple[Plan, Evaluation]:
    """Each setup in the order that takes least and keeps every reason, habits too."""
    for id in [each.id for each in plan.setups[len(bench.kept) :] if not bench.spent]:
        facts = bench.walk(plan)
        setup = next(each for each in facts.setups if each.id == id)
        free = problem_of(setup, facts)
        solved = solve(held_to(free, setup, reasons_of(setup, facts)), range(free.many), EFFORT)
        cycle = next(each.cycle_s for each in told.setups if each.id == id)
        gains = free.seconds(range(free.many)) - solved.seconds
        if solved.order is not None and gains > WORTH * cycle:
            edits = edits_to(setup, [setup.operations[k].id for k in solved.order])
            plan, told = _kept(plan, told, edits, bench) or (plan, told)
    return plan, told


def nothing_twice(plan: Plan, told: Evaluation, bench: Bench) -> tuple[Plan, Evaluation]:
    """Without what is there for what others take already."""
    fresh = {op.id for setup in plan.setups[len(bench.kept) :] for op in setup.operations}
    for each in told.open:
        if each.id == TAKEN_ALREADY and each.operation in fresh and not bench.spent:
            after = _with(plan, [RemoveOperation(operation=each.operation)], bench)
            if after is not None and not is_worse(after[1], told):
                plan, told = after
    return plan, told


def in_one_range(plan: Plan, told: Evaluation, bench: Bench) -> tuple[Plan, Evaluation]:
    """Each setup without a change of its spindle's range, where one of them does all of it."""
    for id in [each.id for each in plan.setups[len(bench.kept) :] if not bench.spent]:
        facts = bench.walk(plan)
        setup = next(each for each in facts.setups if each.id == id)
        for way in one_range(setup, facts):
            plan, told = _kept(plan, told, way.edits, bench) or (plan, told)
    return plan, told


def _kept(
    plan: Plan, told: Evaluation, edits: Sequence[Any], bench: Bench
) -> tuple[Plan, Evaluation] | None:
    """With edits, where nothing new is stopped or unknown and the batch takes less."""
    after = _with(plan, edits, bench)
    return after if after is not None and _is_better(after[1], told, plan) else None


def _with(plan: Plan, edits: Sequence[Any], bench: Bench) -> tuple[Plan, Evaluation] | None:
    """With edits, and its answer then; None where they can't be done."""
    try:
        meant = trade.structural(plan, bench.library, bench.memo, ANY.validate_python(edits))
        after = apply(plan, meant)
    except EditRefused:
        return None
    return after, bench.evaluate(after)


def _is_better(then: Evaluation, told: Evaluation, plan: Plan) -> bool:
    return not is_worse(then, told) and then.batch_s < told.batch_s - LEAST_S * plan.quantity
