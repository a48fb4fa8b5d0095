"""What is answered of an operation: its figures, times, and the five questions."""

from __future__ import annotations

from collections.abc import Callable
from math import cos, radians, sin
from typing import Any, TypeVar

from machining.evaluation import (
    Answer,
    OperationResult,
    Worked,
)
from machining.facts import clamp_change, head, index, titles, wording, worked
from machining.facts.context import (
    QUESTIONS,
    OperationFacts,
    PlanFacts,
    Ready,
    given_up,
)
from machining.facts.found import air_s, hardest_of, in_cut_s, removal
from machining.facts.gauges import Gauge, gauges_of
from machining.facts.gouged import gouge_mm
from machining.facts.kinds import kind_of
from machining.facts.ledger import Event
from machining.facts.tables import Table
from machining.facts.tilted import is_tilted, runs
from machining.quantities.computed import FORMULAS

T = TypeVar("T")
Told = dict[tuple[str, str], list[tuple[str, str]]]
FINE, LOOK, STOP = Answer("fine"), Answer("look"), Answer("stop")
Events = list[Event]


def shown(op: OperationFacts, name: str, make: Callable[[], T], without: T) -> T:
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


def operation_result(
    op: OperationFacts, events: Events, facts: PlanFacts, told: Told
) -> OperationResult:
    """With what is found of it, ``told`` by the place it is about."""
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
        **_turning(op),
        rpm=op.value("rpm"),
        feed_mm_min=op.value("feed"),
        feed_per_rev_mm=op.value("per_turn"),
        cutting_speed_m_min=op.value("cutting_speed") if "top_rpm" in op.figures else None,
        depth_mm=_depth_mm(op),
        width_mm=op.seen.width_mm,
        **_found(op),
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
        time_s=op.time.total_s,
        **_in_the_cycle(events),
        answers=_answers(op, told),
        gauges=shown(op, "gauges", lambda: gauges_of(op, facts), list[Gauge]()),
        worked=shown(op, "worked", lambda: _worked(op), []),
        table=shown(op, "table", lambda: _table(op), None),
        removed_mm3=op.seen.cut_mm3 or 0.0,
        stock_key=op.after.key,
        tool_at=shown(op, "tool at", lambda: _tool_at(op), None),
        tool_axis=shown(op, "tool axis", lambda: _tool_axis(op), None),
        clamps=clamp_change.numbers_on(op),
        change=clamp_change.said_after(op),
    )


def _turning(op: OperationFacts) -> dict[str, Any]:
    """Its spindle, the range it is cut in, and all of the spindle's, where it has several."""
    names = [each.name for each in op.rig.whole_spindle.ranges] if op.rig else []
    return {
        "spindle": op.rig.spindle.id if op.rig else "",
        "spindle_range": op.seen.spindle_range or "",
        "ranges": names if len(names) > 1 else [],
    }


def _found(op: OperationFacts) -> dict[str, Any]:
    """How hard the cut is where it is hardest."""
    return {
        "found_depth_mm": hardest_of(op, "depth"),
        "found_width_mm": hardest_of(op, "width"),
        "found_power_kw": op.value("power") if op.found or op.found_turned else None,
        "found_removal_cm3_min": shown(op, "removal", lambda: removal(op), None),
    }


def _in_the_cycle(events: Events) -> dict[str, Any]:
    """How long its tool changes take, when it begins and when it is done (s)."""
    return {
        "change_s": sum(each.seconds for each in events if each.kind == "change"),
        "starts_s": min((each.starts_s for each in events), default=0.0),
        "ends_s": max((each.ends_s for each in events), default=0.0),
    }


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
    return shown(op, "title", lambda: titles.title(op, facts), bare)


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
