"""cut.thread: a turned thread whose tool has no room to start or to run out, or whose hand asks for
the other direction.
"""

from __future__ import annotations

from collections.abc import Iterator
from math import sqrt

from machining.cutting.data import constant
from machining.facts.context import PlanFacts, Ready
from machining.facts.kinds.turned import LEFT_MM
from machining.facts.kinds.turned_thread import thread_depth
from machining.plan.edit import AddOperation, Change
from machining.plan.proposal import Proposal
from machining.plan.turned import Groove, TurnGroove, TurnThread
from machining.quantities.said import Shown, length

from ..finding import Finding, of_operation

DEPTH_STEP_MM = 0.1


def turned_thread(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    kind, tool = op.operation, op.tool
    before, after = op.seen.room_before_mm, op.seen.room_after_mm
    if (
        not isinstance(kind, TurnThread)
        or not isinstance(before, float)
        or not isinstance(after, float)
    ):
        return
    on, lead = f"operation:{kind.id}", kind.pitch_mm * kind.starts
    run_in, out = (
        kind.run_in_mm if kind.run_in_mm is not None else op.value("run_in") or 0.0,
        constant("turning", "open_end") * lead,
    )
    if kind.ends == "relief" and after < out - 1e-6:
        pulled = Proposal(
            "Pull it out over its last turn", (Change(on=on, fields={"ends": "pulled"}),), {}
        )
        yield of_operation(
            op,
            "cut.thread",
            "stop",
            "Behind the thread there is room for {room}; its last turn needs {needed} to run out.",
            {"room": length(after), "needed": length(out)},
            "thread_depth",
            (*_relief(op, facts, kind, out), pulled),
        )
    if before < run_in - 1e-6:
        slower = (op.value("rpm") or 0.0) * sqrt(max(before, 0.0) / run_in) if run_in > 0 else 0.0
        fixes = (
            []
            if slower < 20
            else [
                Proposal(
                    "Turn at {rpm}",
                    (Change(on=on, fields={"rpm": float(int(slower / 10) * 10)}),),
                    {"rpm": Shown(float(int(slower / 10) * 10), "spindle_speed")},
                )
            ]
        )
        yield of_operation(
            op,
            "cut.thread",
            "stop",
            "Before the thread there is room for {room}; the slide needs {needed} to run at its"
            " lead.",
            {"room": length(before), "needed": length(run_in)},
            "run_in",
            (*fixes, _other_way(kind)),
        )
    forward = (kind.hand == "right") == (kind.towards == "chuck")
    if tool.hand != "neutral" and forward != (tool.hand == "right"):
        yield of_operation(
            op,
            "cut.thread",
            "stop",
            "A {hand}-hand thread run towards the {towards} turns the spindle backwards: a"
            " {tool}-hand tool then cuts with its back.",
            {"hand": Shown(kind.hand), "towards": Shown(kind.towards), "tool": Shown(tool.hand)},
            "",
            (_other_way(kind),),
        )


def _other_way(kind: TurnThread) -> Proposal:
    other = "tail" if kind.towards == "chuck" else "chuck"
    return Proposal(
        f"Run it towards the {other}",
        (Change(on=f"operation:{kind.id}", fields={"towards": other}),),
        {},
    )


def _relief(op: Ready, facts: PlanFacts, kind: TurnThread, out: float) -> list[Proposal]:
    """The relief behind the thread made wider; or one cut there, as deep as it, with a grooving
    tool that is loaded.
    """
    if kind.towards != "chuck":
        return []
    end = kind.on.z_mm - kind.on.length_mm
    for other in op.setup.planned.operations:
        if (
            isinstance(other, TurnGroove)
            and isinstance(other.on, Groove)
            and abs(other.on.z_mm - end) < LEFT_MM
            and other.on.width_mm < out
        ):
            wider = round(1.5 * out, 1)
            return [
                Proposal(
                    "Groove its relief {wide} wide",
                    (Change(on=f"operation:{other.id}", fields={"on.width_mm": wider}),),
                    {"wide": length(wider)},
                )
            ]
    for each in facts.plan.tools:
        assembly = facts.library.assemblies.get(each.assembly)
        tool = facts.library.tools.get(assembly.tool) if assembly else None
        if (
            each.machine == op.setup.planned.machine
            and tool is not None
            and tool.kind == "turning_groove"
            and tool.insert_width_mm is not None
        ):
            wide = max(round(1.5 * out, 1), tool.insert_width_mm)
            bottom = round(kind.diameter_mm - 2.0 * thread_depth(kind) - 2.0 * DEPTH_STEP_MM, 1)
            if bottom <= 0:
                return []
            groove = TurnGroove(
                id=f"{kind.id[:38]}relief",
                tool=each.id,
                on=Groove(z_mm=end, width_mm=wide, diameter_mm=bottom),
            )
            at = [o.id for o in op.setup.planned.operations].index(kind.id)
            return [
                Proposal(
                    "Groove a relief of {wide} first",
                    (AddOperation(setup=op.setup.planned.id, operation=groove, index=at),),
                    {"wide": length(wide)},
                )
            ]
    return []
