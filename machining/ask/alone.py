"""Operations of a changed plan worked out where they stand, without what comes after them."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import replace
from itertools import pairwise
from math import inf

from machining.evaluate import of_operation
from machining.evaluation import Evaluation
from machining.facts import ledger, times
from machining.facts.context import OperationFacts, PlanFacts, SetupFacts, StationFacts
from machining.facts.operations import operation_facts
from machining.facts.route import walk
from machining.facts.set_up import built
from machining.findings.finding import Finding
from machining.memo import Memo
from machining.plan.base import ClampChange
from machining.plan.document import Plan, Setup
from machining.plan.operation import Operation

NOTHING: dict[str, str] = {}


def promised(changed: Plan, facts: PlanFacts, before: Evaluation, memo: Memo) -> float | None:
    """What a changed plan may take less of the batch (s), about, by the operations that are others
    in it; None where they take more, or are stopped and were not. Where more than operations and
    tools are others the first at each station tells of stops, and nobody knows of time: it is inf.
    """
    then = _others(changed, facts, memo)
    if then is None:
        return inf if _begins(changed, facts, before, memo) else None
    more = _of_one(then) - _of_one(facts) + _more_changes_s(then, facts, before)
    saved = _built_s(facts) - _built_s(then) - more * facts.plan.quantity
    return None if saved <= 0.0 or _stopped(then, facts, before) else saved


def _begins(changed: Plan, facts: PlanFacts, before: Evaluation, memo: Memo) -> bool:
    """Does nothing stop the first operation of a station that is another one in it?"""
    was = {each.id: each for each in facts.plan.stations}
    for setup in changed.setups:
        for station in setup.stations:
            first = next((op for op in setup.operations if setup.station_of(op) is station), None)
            if first is None or was.get(station.id) == station:
                continue
            upto = walk(_upto(changed, first), facts.library, memo)
            op = next(each for each in upto.operations() if each.id == first.id)
            if stops(of_operation(op, upto), before):
                return False
    return True


def _upto(plan: Plan, last: Operation) -> Plan:
    """As far as an operation."""
    setups = list[Setup]()
    for setup in plan.setups:
        ids = [op.id for op in setup.operations]
        if last.id in ids:
            done = setup.operations[: ids.index(last.id) + 1]
            return plan.model_copy(
                update={"setups": (*setups, setup.model_copy(update={"operations": done}))}
            )
        setups.append(setup)
    return plan


def stops_nothing(changed: Plan, facts: PlanFacts, before: Evaluation, memo: Memo) -> bool:
    """May a changed plan go on, by the operations that are others in it?"""
    then = _others(changed, facts, memo)
    return then is None or not _stopped(then, facts, before)


def _stopped(then: PlanFacts, facts: PlanFacts, before: Evaluation) -> bool:
    known = {id(op) for op in facts.operations()}
    new = (op for op in then.operations() if id(op) not in known)
    return stops((f for op in new for f in of_operation(op, then)), before)


def stops(found: Iterable[Finding], before: Evaluation) -> bool:
    """Does any of it stop the plan that did not before?"""
    known = {f.key for f in before.open if f.severity == "stop"}
    return any(f.severity == "stop" and f.key not in known for f in found)


def _bare(plan: Plan) -> Plan:
    """Without what is done, and with what."""
    setups = [setup.model_copy(update={"operations": []}) for setup in plan.setups]
    return plan.model_copy(update={"tools": [], "setups": setups})


def _clamping(plan: Plan) -> list[list[tuple[str, ClampChange | None]]]:
    """Where clamps are changed on the way, what comes before and after that."""
    ways = [[(op.id, op.clamps_after) for op in setup.operations] for setup in plan.setups]
    return [way for way in ways if any(change is not None for _, change in way)]


def _moved(changed: Plan, plan: Plan) -> bool:
    """Does an operation that is in both come sooner or later than it did?"""
    was, now = ([op.id for setup in e.setups for op in setup.operations] for e in (plan, changed))
    return [id for id in was if id in now] != [id for id in now if id in was]


def _others(changed: Plan, facts: PlanFacts, memo: Memo) -> PlanFacts | None:
    """The facts with those operations worked out that are others in a changed plan. Each meets the
    stock that it met before, or what one that is new just before it leaves. None where more than
    operations and tools changed, or other clamps stand there.
    """
    if _bare(changed) != _bare(facts.plan) or _moved(changed, facts.plan):
        return None
    if _clamping(changed) != _clamping(facts.plan):
        return None
    then = replace(facts, plan=changed, setups=[], every=[])
    for old in facts.setups:
        planned = changed.setup(old.id)
        setup = replace(old, planned=planned, stations=[], shown={})
        setup.stations = [_station(each, setup, then, memo) for each in old.stations]
        known = {op.id: op for each in setup.stations for op in each.operations}
        setup.operations = [known[op.id] for op in planned.operations]
        then.setups.append(setup)
    return then


def _station(station: StationFacts, setup: SetupFacts, then: PlanFacts, memo: Memo) -> StationFacts:
    place = {op.id: k for k, op in enumerate(station.operations)}
    here, done, found = replace(station, setup=setup, operations=[]), 0, list[OperationFacts]()
    for each in here.work:
        k = place.get(each.id)
        if k is not None:
            done = k + 1
        if k is not None and _same(station.operations[k], each, then.plan):
            here = replace(here, operations=station.operations[:done])
        else:
            if k is not None:
                here = replace(here, operations=station.operations[:k])
            number = station.operations[k].number if k is not None else 0
            operation_facts(each, number, here, then, memo)
        found.append(here.operations[-1])
    return replace(here, operations=found)


def _same(was: OperationFacts, now: Operation, plan: Plan) -> bool:
    on = was.setup.planned.machine
    loaded = (t for t in plan.tools if t.id == now.tool and t.machine == on)
    return was.operation == now and was.loaded == next(loaded, None)


def _of_one(facts: PlanFacts) -> float:
    """What the operations take of one part (s)."""
    return sum(op.time.total_s for op in facts.operations())


def _built_s(facts: PlanFacts) -> float:
    return sum(each.seconds for each in built(facts).values())


def _more_changes_s(then: PlanFacts, facts: PlanFacts, before: Evaluation) -> float:
    """How much longer changes of tools and ranges take of one part (s), about."""
    more = 0.0
    for setup, old, known in zip(then.setups, facts.setups, before.setups, strict=True):
        was, now = (changes_of(each) for each in (old, setup))
        each = known.changes_s / times.parts(old.planned) / max(was, 1)
        more += each * (now - was)
        more += _more_ranges_s(setup, then, old, facts) / times.parts(old.planned)
    return more


def _more_ranges_s(setup: SetupFacts, then: PlanFacts, old: SetupFacts, facts: PlanFacts) -> float:
    """How much longer changes of range take of a cycle (s)."""
    if setup.machine is None or not any(e.range_change_s > 0 for e in setup.machine.spindles):
        return 0.0
    return ledger.of_setup(setup, then).of("range") - ledger.of_plan(facts)[old.id].of("range")


def changes_of(setup: SetupFacts, instead: Mapping[str, str] = NOTHING) -> int:
    """How often another tool follows, from the last to the first one of the next part, too; with
    others ``instead`` of some.
    """
    tools = [instead.get(op.operation.tool, op.operation.tool) for op in setup.operations]
    return sum(one != other for one, other in pairwise([*tools[-1:], *tools]))
