"""One pure call: a plan and a library in, every figure, answer and finding out."""

from __future__ import annotations

import logging
from collections.abc import Callable, Iterator, Sequence
from dataclasses import replace
from functools import partial
from typing import TypeVar, get_args

from machining.evaluated_operation import Told, operation_result, shown
from machining.evaluated_station import station_result
from machining.evaluation import (
    Evaluation,
    SetupResult,
)
from machining.facts import cycle_figures, ledger, times
from machining.facts.batch import shares
from machining.facts.context import (
    QUESTIONS,
    OperationFacts,
    PlanFacts,
    Ready,
    SetupFacts,
    StationFacts,
    given_up,
)
from machining.facts.kinds import kind_of
from machining.facts.ledger import Ledger
from machining.facts.left import Left, Piece, left_over, together
from machining.facts.pace import Pace
from machining.facts.route import walk
from machining.facts.totals import Totals, totals
from machining.findings.finding import Finding, PlanRule, kept
from machining.findings.rules import (
    OPERATION_RULES,
    PLAN_RULES,
    PLANNED_RULES,
    SETUP_RULES,
    STATION_RULES,
    TURNED_RULES,
)
from machining.memo import Memo
from machining.plan.document import Plan
from machining.quantities.computed import Computed
from machining.quantities.errors import MachiningError
from machining.quantities.said import Said, Shown, length
from machining.world.library import Library
from machining.world.stock.base import SIDE_WORDS, Axis

log = logging.getLogger("machining")
O = TypeVar("O", bound=OperationFacts)
S = TypeVar("S", SetupFacts, StationFacts)
# question and severity of what is told, by setup and station; of one operation under its id alone
NOBODY_KNOWS = Left(Said("somewhere: it could not be worked out"), 1, 0.0, 0.0)
_RANK = {"stop": 0, "look": 1, "note": 2}


def evaluate(
    plan: Plan,
    library: Library,
    memo: Memo | None = None,
    pace: Pace | None = None,
    *,
    to_its_end: bool = True,
) -> Evaluation:
    """Answer the plan. The memo only saves time; the result is the same without it. At a pace, what
    waits is *working*. What still stands after the last setup of a plan that is not asked
    ``to_its_end`` is told as not known.

    Never raises for what a planner can write: where there is no part or blank the evaluation's
    ``problem`` says so.
    """
    memo = memo or Memo()
    try:
        facts = walk(plan, library, memo, pace)
    except MachiningError as problem:
        return Evaluation(problem=str(problem))
    findings = [f for seen in facts.setups for f in _of_setup(seen, facts)]
    findings += [f for op in facts.operations() for f in of_operation(op, facts)]
    answer = Evaluation(working=any(op.waits for op in facts.operations()))
    if not answer.working:
        left = _pieces_left(facts, memo) if to_its_end else None
        answer.left = together(left, facts.geometry) if left is not None else [NOBODY_KNOWS]
        findings += [f for rule in PLAN_RULES for f in _of_plan(rule, facts, left or [])]
    findings = [kept(found, plan) for found in findings]
    findings.sort(key=lambda f: _RANK[f.severity])
    answer.findings, told, none = findings, _graded(findings), dict[str, Computed]()
    ledgers = ledger.of_plan(facts)
    taken = shares(facts, ledgers)
    for seen in facts.setups:
        cycle_figures.figures(seen, ledgers[seen.id])
        answer.setups.append(_setup(seen, ledgers[seen.id], facts, told))
        for figures in (seen.figures, *(each.figures for each in seen.stations)):
            answer.figures |= _by_id(figures)
        for op in seen.operations:
            answer.figures |= shown(op, "figures", partial(_by_id, op.figures), none)
    _totals(answer, facts)
    _times(answer, totals(facts, taken, ledgers))
    return answer


def _pieces_left(facts: PlanFacts, memo: Memo) -> list[Piece] | None:
    """What still stands at the end, None where that fails: then nobody knows."""
    try:
        return left_over(facts, memo)
    except Exception:
        log.exception("what is left over could not be worked out")
        return None


def _of_plan(rule: PlanRule, facts: PlanFacts, left: list[Piece]) -> list[Finding]:
    """What the rule finds; one that fails is in the log, and leaves every operation unknown."""
    try:
        return list(rule(facts, left))
    except Exception:
        for op in facts.operations():
            given_up(op, rule.__name__)
        return []


def _by_id(figures: dict[str, Computed]) -> dict[str, Computed]:
    return {each.id: each for each in figures.values()}


def _of_setup(seen: SetupFacts, facts: PlanFacts) -> Iterator[Finding]:
    for rule in SETUP_RULES:
        yield from _told(rule, seen, facts, seen.operations)
    for station in seen.stations:
        for each in STATION_RULES:
            for found in _told(each, station, facts, station.operations):
                yield replace(found, station=station.id)


def _told(
    rule: Callable[[S, PlanFacts], Iterator[Finding]],
    seen: S,
    facts: PlanFacts,
    operations: list[OperationFacts],
) -> list[Finding]:
    try:
        return list(rule(seen, facts))
    except Exception:
        for op in operations:
            given_up(op, rule.__name__)
        return []


def of_operation(op: OperationFacts, facts: PlanFacts) -> list[Finding]:
    """What is noticed of one operation."""
    if not isinstance(op, Ready):
        return _found(PLANNED_RULES, op, facts)
    turned = TURNED_RULES if kind_of(op.operation).turned else ()
    return _found((*OPERATION_RULES, *turned), op, facts)


def _found(
    rules: Sequence[Callable[[O, PlanFacts], Iterator[Finding]]], op: O, facts: PlanFacts
) -> list[Finding]:
    """What the rules find; one that fails is in the log, and leaves the operation unknown."""
    found: list[Finding] = []
    for rule in rules:
        before = len(found)
        try:
            found.extend(rule(op, facts))
        except Exception:
            del found[before:]
            given_up(op, rule.__name__)
    return found


def _totals(answer: Evaluation, facts: PlanFacts) -> None:
    blank = facts.blank
    answer.part_size, answer.part_volume_mm3 = facts.geometry.size, facts.geometry.volume_mm3
    answer.stock_words = blank.stock.words(facts.geometry.size, facts.library.geometries)
    answer.stock_round = next(
        (k for k, axis in enumerate(get_args(Axis)) if blank.stock.is_round_about(axis)), None
    )
    answer.stock_over = blank.stock.usual_over()
    answer.in_blank = sorted(blank.has_already)
    if blank.lacking is not None:
        answer.stock_lacks = Said(
            "The part stands {by} out of this blank, most on its {side}.",
            {"by": length(blank.lacking.by_mm), "side": Shown(SIDE_WORDS[blank.lacking.side])},
        )
    answer.part_low = tuple(round(float(v), 4) for v in facts.geometry.bounds[0])  # type: ignore[assignment]
    answer.stock_size = tuple(round(float(v), 4) for v in blank.high - blank.low)  # type: ignore[assignment]
    if facts.material is not None:
        per_mm3 = facts.material.density_kg_dm3 / 1e6
        answer.part_mass_kg = facts.geometry.volume_mm3 * per_mm3
        answer.stock_mass_kg = blank.volume_mm3 * per_mm3


def _times(answer: Evaluation, found: Totals) -> None:
    answer.figures.update((figure.id, figure) for figure in found.figures.values())
    answer.cutting_s = sum(s.cutting_s for s in answer.setups)
    answer.changes_s = sum(s.changes_s for s in answer.setups)
    answer.handling_s = found.of("by_hand") or found.of("load")
    answer.one_part_s = found.of("one_part")
    attended = sum(s.by_hand_s / s.parts for s in answer.setups)
    answer.by_hand_s = answer.handling_s + attended
    answer.build_s = found.of("build") + found.of("prove_out")
    answer.batch_s = found.of("batch")


def _setup(seen: SetupFacts, written: Ledger, facts: PlanFacts, told: Told) -> SetupResult:
    events = written.by_operation
    results = [operation_result(op, events[op.id], facts, told) for op in seen.operations]
    return SetupResult(
        id=seen.id,
        number=seen.number,
        turns=seen.first.turns,
        stations=[station_result(each, facts) for each in seen.stations],
        operations=results,
        cutting_s=sum(o.cutting_s * o.times for o in results),
        changes_s=written.of("change"),
        by_hand_s=written.of(*ledger.BY_HAND),
        cycle_s=written.ends_s,
        events=written.events,
        parts=times.parts(seen.planned),
        tools=len({op.loaded.id for op in seen.operations if op.loaded}),
    )


def _graded(findings: list[Finding]) -> Told:
    """How grave the findings are that nobody keeps."""
    told: Told = {}
    for each in findings:
        if not each.kept:
            about = ("", each.operation) if each.operation else (each.setup, each.station)
            if each.question in QUESTIONS:
                told.setdefault(about, []).append((each.question, each.severity))
    return told
