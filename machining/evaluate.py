"""One pure call: a plan and a library in, every figure, answer and finding out."""

from __future__ import annotations

import logging
from collections.abc import Callable, Iterator, Sequence
from dataclasses import replace
from functools import partial
from math import cos, radians, sin
from typing import TypeVar, get_args

from machining.evaluated_station import station_result
from machining.evaluation import (
    Answer,
    Evaluation,
    OperationResult,
    SetupResult,
    Worked,
)
from machining.facts import head, index, ledger, times, titles, wording, worked
from machining.facts.context import (
    QUESTIONS,
    OperationFacts,
    PlanFacts,
    Ready,
    SetupFacts,
    StationFacts,
    given_up,
)
from machining.facts.found import air_s, hardest_of, in_cut_s, removal
from machining.facts.gauges import Gauge, gauges_of
from machining.facts.gouged import gouge_mm
from machining.facts.kinds import kind_of
from machining.facts.ledger import Event, Ledger
from machining.facts.left import Left, Piece, left_over, together
from machining.facts.pace import Pace
from machining.facts.route import walk
from machining.facts.tables import Table
from machining.facts.tilted import is_tilted, runs
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
from machining.quantities.computed import FORMULAS, Computed
from machining.quantities.errors import MachiningError
from machining.quantities.said import Said, Shown, length
from machining.world.library import Library
from machining.world.stock.base import SIDE_WORDS, Axis

log = logging.getLogger("machining")
O = TypeVar("O", bound=OperationFacts)
S = TypeVar("S", SetupFacts, StationFacts)
# question and severity of what is told, by setup and station; of one operation under its id alone
Told = dict[tuple[str, str], list[tuple[str, str]]]
NOBODY_KNOWS = Left(Said("somewhere: it could not be worked out"), 1, 0.0, 0.0)
FINE, LOOK, STOP = Answer("fine"), Answer("look"), Answer("stop")
_RANK = {"stop": 0, "look": 1, "note": 2}


def evaluate(
    plan: Plan, library: Library, memo: Memo | None = None, pace: Pace | None = None
) -> Evaluation:
    """Answer the plan. The memo only saves time; the result is the same without it. At a pace, what
    waits is *working*.

    Never raises for what a planner can write: where there is no part or blank the evaluation's
    ``problem`` says so.
    """
    memo = memo or Memo()
    try:
        facts = walk(plan, library, memo, pace)
    except MachiningError as problem:
        return Evaluation(problem=str(problem))
    findings = [f for seen in facts.setups for f in _of_setup(seen, facts)]
    findings += [f for op in facts.operations() for f in _of_operation(op, facts)]
    answer = Evaluation(working=any(op.waits for op in facts.operations()))
    if not answer.working:
        left = _pieces_left(facts, memo)
        answer.left = together(left, facts.geometry) if left is not None else [NOBODY_KNOWS]
        findings += [f for rule in PLAN_RULES for f in _of_plan(rule, facts, left or [])]
    findings = [kept(found, plan) for found in findings]
    findings.sort(key=lambda f: _RANK[f.severity])
    answer.findings, told, none = findings, _graded(findings), dict[str, Computed]()
    ledgers = {seen.id: ledger.of_setup(seen, facts) for seen in facts.setups}
    for seen in facts.setups:
        ledger.figures(seen, ledgers[seen.id])
        answer.setups.append(_setup(seen, ledgers[seen.id], facts, told))
        for figures in (seen.figures, *(each.figures for each in seen.stations)):
            answer.figures |= _by_id(figures)
        for op in seen.operations:
            answer.figures |= _shown(op, "figures", partial(_by_id, op.figures), none)
    _totals(answer, facts)
    _times(answer, totals(facts, ledgers))
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


def _of_operation(op: OperationFacts, facts: PlanFacts) -> list[Finding]:
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
    results = [_operation(op, events[op.id], facts, told) for op in seen.operations]
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


T = TypeVar("T")
Events = list[Event]


def _shown(op: OperationFacts, name: str, make: Callable[[], T], without: T) -> T:
    """What is shown of an operation, made once for its facts, or what is shown ``without`` it where
    making it fails.
    """
    if name not in op.shown:
        try:
            op.shown[name] = make()
        except Exception:
            given_up(op, "what is shown of it")
            return without
    return op.shown[name]  # type: ignore[no-any-return]


def _operation(op: OperationFacts, events: Events, facts: PlanFacts, told: Told) -> OperationResult:
    title, detail, sizes = _named(op, facts)
    return OperationResult(
        id=op.operation.id,
        number=op.number,
        station=op.station.id,
        times=op.station.planned.positions,
        kind=op.operation.kind,
        title=title,
        turned=_turned(op, events),
        detail=detail,
        sizes=sizes,
        tool_number=op.loaded.number if op.loaded else None,
        tool_name=op.kit.assembly.name if op.kit else "",
        spindle=op.rig.spindle.id if op.rig else "",
        rpm=op.value("rpm"),
        feed_mm_min=op.value("feed"),
        feed_per_rev_mm=op.value("per_turn"),
        cutting_speed_m_min=op.value("cutting_speed") if "top_rpm" in op.figures else None,
        depth_mm=_depth_mm(op),
        width_mm=op.seen.width_mm,
        found_depth_mm=hardest_of(op, "depth"),
        found_width_mm=hardest_of(op, "width"),
        found_power_kw=op.value("power") if op.found or op.found_turned else None,
        found_removal_cm3_min=_shown(op, "removal", lambda: removal(op), None),
        gouge_mm=gouge_mm(op),
        leaves_mm=kind_of(op.operation).leaves_mm(op.operation),
        z_to_mm=_lowest_mm(op),
        path_mm=op.path.cutting_mm,
        rapid_mm=op.path.rapid_mm,
        cutting_s=op.time.cutting_s,
        in_cut_s=in_cut_s(op),
        air_s=air_s(op),
        link_s=op.time.link_s,
        rapid_s=op.time.rapid_s,
        moving_s=op.time.rapid_s + op.time.dwell_s,
        change_s=sum(each.seconds for each in events if each.kind == "change"),
        time_s=op.time.total_s,
        starts_s=min((each.starts_s for each in events), default=0.0),
        ends_s=max((each.ends_s for each in events), default=0.0),
        answers=_answers(op, told),
        gauges=_shown(op, "gauges", lambda: gauges_of(op, facts), list[Gauge]()),
        worked=_shown(op, "worked", lambda: _worked(op), []),
        table=_shown(op, "table", lambda: _table(op), None),
        removed_mm3=op.seen.cut_mm3 or 0.0,
        stock_key=op.after.key,
        tool_at=_shown(op, "tool at", lambda: _tool_at(op), None),
        tool_axis=_shown(op, "tool axis", lambda: _tool_axis(op), None),
    )


def _turned(op: OperationFacts, events: Events) -> index.TurnedTo | None:
    """Edges that it turns to while it cuts are in its own time."""
    if op.aimed is None and "index_time" in op.figures:
        return None
    seconds = sum(each.seconds for each in events if each.kind == "index")
    if op.aimed is None and not seconds:
        return None
    aim = op.operation.aim if op.aimed is not None else None
    side = index.aim_words(op.station, aim) if aim else ""
    askew, loose = head.reached(op.station, aim)
    return index.TurnedTo(side, index.words(index.angles(op, 0) or {}), seconds, askew, loose)


def _named(op: OperationFacts, facts: PlanFacts) -> wording.Named:
    bare: wording.Named = (type(op.operation).VERB, "", {})
    return _shown(op, "title", lambda: titles.title(op, facts), bare)


def _table(op: OperationFacts) -> Table | None:
    return kind_of(op.operation).table(op) if isinstance(op, Ready) else None


def _depth_mm(op: OperationFacts) -> float | None:
    """Depth of cut, or of its holes."""
    if op.seen.depth_mm is None and op.work is not None and op.work.holes:
        return op.work.hole_depth
    return op.seen.depth_mm


def _lowest_mm(op: OperationFacts) -> float | None:
    """The height it cuts down to, in its station."""
    if op.work is None:
        return None
    return min((hole[3] for hole in op.work.holes), default=op.work.floor)


def _tool_at(op: OperationFacts) -> list[float] | None:
    """Where to draw the tool: tip at the start of its deepest cut, in the setup frame."""
    cuts = [leg.points for leg in op.path.legs if leg.kind != "rapid"]
    if not cuts:
        return None
    deepest = min(cuts, key=lambda points: float(points[-1][2]))
    at = deepest[-1]
    if op.aimed is not None:
        at = op.station.lie.pose.apply(op.aimed.pose.inverse().apply(at))
    return [float(v) for v in at]


def _tool_axis(op: OperationFacts) -> list[float] | None:
    """From the tip of a tilted tool to its holder, in the setup frame, where it is drawn; None for
    one that stands upright.
    """
    if op.aimed is not None:
        axis_of_tool = op.station.lie.pose.rotation @ op.aimed.pose.rotation[2]
        return [float(v) for v in axis_of_tool]
    if not isinstance(op, Ready) or not is_tilted(op) or "lean" not in op.figures:
        return None
    edges = [run for line in runs(op) for run in line]
    at = _tool_at(op)
    if at is None or not edges:
        return None
    along = min(edges, key=lambda run: float(abs(run.points - at).sum(axis=1).min())).along
    lean = radians(op.figures["lean"].value)
    return [along[1] * sin(lean), -along[0] * sin(lean), cos(lean)]


def _graded(findings: list[Finding]) -> Told:
    """How grave the findings are that nobody keeps."""
    told: Told = {}
    for each in findings:
        if not each.kept:
            about = ("", each.operation) if each.operation else (each.setup, each.station)
            if each.question in QUESTIONS:
                told.setdefault(about, []).append((each.question, each.severity))
    return told


def _answers(op: OperationFacts, told: Told) -> dict[str, Answer]:
    if op.waits:
        return dict.fromkeys(QUESTIONS, Answer("working"))
    here, mine = op.setup.id, list[tuple[str, str]]()
    for about in (("", op.id), (here, ""), (here, op.station.id)):
        mine += told.get(about, ())
    answers = dict.fromkeys(QUESTIONS, FINE)
    for question, severity in mine:
        if severity == "stop" or (severity == "look" and answers[question] is FINE):
            answers[question] = STOP if severity == "stop" else LOOK
    for question in QUESTIONS:
        # what is not known is not to be looked at, and kept, as if the rest were known
        if reason := op.unknown.get(question, ""):
            stops = answers[question] is STOP
            answers[question] = Answer("stop" if stops else "unknown", reason)
    return answers


def _worked(op: OperationFacts) -> list[Worked]:
    found = [
        (name, words, op.figures[name])
        for name, words in worked.NAMES.items()
        if name in op.figures
    ]
    return [
        Worked(name, words, figure.id, figure.value, FORMULAS[figure.formula].quantity)
        for name, words, figure in found
    ]
