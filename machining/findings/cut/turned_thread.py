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
    kind = op.operation
    before, after = op.seen.room_before_mm, op.seen.room_after_mm
    if isinstance(kind, TurnThread) and before is not None and after is not None:
        yield from _no_way_out(op, facts, kind, after)
        yield from _no_run_in(op, kind, before)
        yield from _wrong_hand(op, kind)


def _no_way_out(op: Ready, facts: PlanFacts, kind: TurnThread, room: float) -> Iterator[Finding]:
    out = constant("turning", "open_end") * kind.pitch_mm * kind.starts
    if kind.ends != "relief" or room >= out - 1e-6:
        return
    pulled = Change(on=op.on, fields={"ends": "pulled"})
    yield of_operation(
        op,
        "cut.thread",
        "stop",
        "Behind the thread there is room for {room}; its last turn needs {needed} to run out.",
        {"room": length(room), "needed": length(out)},
        "thread_depth",
        (
            *_relief(op, facts, kind, out),
            Proposal("Pull it out over its last turn", (pulled,), {}),
        ),
    )


def _no_run_in(op: Ready, kind: TurnThread, room: float) -> Iterator[Finding]:
    run_in = kind.run_in_mm if kind.run_in_mm is not None else op.value("run_in") or 0.0
    if room >= run_in - 1e-6:
        return
    slower = (op.value("rpm") or 0.0) * sqrt(max(room, 0.0) / run_in) if run_in > 0 else 0.0
    rpm, fixes = float(int(slower / 10) * 10), [_other_way(kind)]
    if slower >= 20:
        change = Change(on=op.on, fields={"rpm": rpm})
        fixes.insert(0, Proposal("Turn at {rpm}", (change,), {"rpm": Shown(rpm, "spindle_speed")}))
    yield of_operation(
        op,
        "cut.thread",
        "stop",
        "Before the thread there is room for {room}; the slide needs {needed} to run at its lead.",
        {"room": length(room), "needed": length(run_in)},
        "run_in",
        tuple(fixes),
    )


def _wrong_hand(op: Ready, kind: TurnThread) -> Iterator[Finding]:
    forward, hand = (kind.hand == "right") == (kind.towards == "chuck"), op.tool.hand
    if hand == "neutral" or forward == (hand == "right"):
        return
    yield of_operation(
        op,
        "cut.thread",
        "stop",
        "A {hand}-hand thread run towards the {towards} turns the spindle backwards: a"
        " {tool}-hand tool then cuts with its back.",
        {"hand": Shown(kind.hand), "towards": Shown(kind.towards), "tool": Shown(hand)},
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
