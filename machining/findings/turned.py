"""What turning brings with it: grooves used for roughing, threads without room, shoulders nobody
gets behind.
"""

from __future__ import annotations

from collections.abc import Iterator
from math import floor, inf, sqrt

from machining.cutting.data import constant
from machining.facts.context import OperationFacts, PlanFacts
from machining.facts.kinds.turned import LEFT_MM, thread_depth
from machining.facts.size import tolerance_each_way
from machining.facts.turn_ways import turned_first
from machining.plan.edit import AddOperation, Change
from machining.plan.operation import TURNED
from machining.plan.turned import (
    Groove,
    Profile,
    TurnFace,
    TurnFinish,
    TurnGroove,
    TurnRough,
    TurnThread,
)

from .finding import Finding, Fix, Severity, Shown, about_operation, keep, length, of_operation
from .tools import move_after, other_tools

DEPTH_STEP_MM = 0.1
BROKEN_MM, BROKEN_SHARE = 0.2, 0.6  # thinner is no blow; and of the feed, where each turn strikes


@about_operation
def wrong_machine(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """travel.wrong-machine: turning on a mill, milling on a lathe."""
    machine = op.setup.machine
    if (
        machine is None
        or op.tool is None
        or (op.operation.kind in TURNED) == (machine.kind == "lathe")
    ):
        return
    if op.operation.kind not in TURNED:
        return  # holes on the axis are turned holes; the rest is unknown, and its answers say so
    fixes = []
    for other in facts.library.machines.values():
        if other.kind == "lathe":
            edits = (
                *(
                    Change(on=f"operation:{each.id}", fields={"tool": ""})
                    for each in op.setup.setup.operations
                    if each.tool
                ),
                Change(
                    on=f"setup:{op.setup.setup.id}", fields={"machine": other.key, "holding": None}
                ),
            )
            fixes.append(
                Fix(
                    "Run setup {setup} on {machine}; its tools must be loaded there",
                    edits,
                    {"setup": Shown(str(op.setup.number)), "machine": Shown(other.name)},
                )
            )
            break
    yield of_operation(
        op,
        "travel.wrong-machine",
        "stop",
        "{machine} turns the tool, not the part; a lathe does this.",
        {"machine": Shown(machine.name)},
        "",
        tuple(fixes),
    )


@about_operation
def groove_as_rougher(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """cut.groove-as-rougher: a narrow tool that clears what a turning tool would take quicker."""
    kind, tool = op.operation, op.tool
    if (
        tool is None
        or op.work is None
        or op.work.turned is None
        or op.work.turned.is_empty
        or "cutting_speed" not in op.figures
    ):
        return
    stay = keep(op, "cut.groove-as-rougher", "grooved on purpose: spares the finisher the corner")
    if isinstance(kind, TurnRough) and tool.kind == "turning_groove":
        others = other_tools(
            op,
            facts,
            lambda _: True,
            None,
            frozenset({"boring_bar"} if kind.on.side == "inside" else {"turning_rough"}),
        )
        sentence = (
            "A grooving tool roughs along the spindle here: its blade is bent sideways, and a"
            " turning tool takes more at once."
        )
        yield of_operation(
            op, "cut.groove-as-rougher", "look", sentence, {}, "cutting_force", (*others, stay)
        )
        return
    if not isinstance(kind, TurnGroove) or not isinstance(kind.on, Groove):
        return
    wide, on = tool.insert_width_mm or inf, kind.on
    if on.width_mm < constant("turning", "groove_rough") * wide:
        return
    found = turned_first(op, facts)
    if found is None:
        return
    edits, name, rest = found
    yield of_operation(
        op,
        "cut.groove-as-rougher",
        "look",
        "The groove is {wide} wide, {plunges} plunges of a tool {insert} wide: turned first, only"
        " {rest} is left to groove.",
        {
            "wide": length(on.width_mm),
            "plunges": Shown(op.value("plunges") or 0.0, "count"),
            "insert": length(wide),
            "rest": length(rest),
        },
        "plunges",
        (Fix("Turn it first with {tool}, groove the rest", edits, {"tool": Shown(name)}), stay),
    )


@about_operation
def interrupted(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """cut.interrupted: corners, flats and holes that a turned cut leaves and comes back to every
    turn.
    """
    kind, broken, feed = op.operation, op.notes.get("broken_mm"), op.value("chip")
    if (
        isinstance(kind, TurnThread)
        or not isinstance(broken, float)
        or broken < BROKEN_MM
        or feed is None
    ):
        return
    if kind.feed_typed:
        return
    slower = floor(1000.0 * BROKEN_SHARE * feed) / 1000.0
    on = f"operation:{kind.id}"
    yield of_operation(
        op,
        "cut.interrupted",
        "look",
        "The stock is not round where it cuts: every turn the edge leaves it and comes back to"
        " {deep} at this feed.",
        {"deep": length(broken)},
        "per_turn",
        (
            Fix(
                "Feed {feed} a turn",
                (Change(on=on, fields={"feed_per_rev_mm": slower}),),
                {"feed": Shown(slower, "feed_per_tooth")},
            ),
            keep(op, "cut.interrupted", "tough insert for the interrupted cut"),
        ),
    )


@about_operation
def thread(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """cut.thread: a turned thread whose tool has no room to start or to run out, or whose hand asks
    for the other direction.
    """
    kind, tool = op.operation, op.tool
    before, after = op.notes.get("room_before_mm"), op.notes.get("room_after_mm")
    if (
        not isinstance(kind, TurnThread)
        or tool is None
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
        pulled = Fix(
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
                Fix(
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


def _other_way(kind: TurnThread) -> Fix:
    other = "tail" if kind.towards == "chuck" else "chuck"
    return Fix(
        f"Run it towards the {other}",
        (Change(on=f"operation:{kind.id}", fields={"towards": other}),),
        {},
    )


def _relief(op: OperationFacts, facts: PlanFacts, kind: TurnThread, out: float) -> list[Fix]:
    """The relief behind the thread made wider; or one cut there, as deep as it, with a grooving
    tool that is loaded.
    """
    if kind.towards != "chuck":
        return []
    end = kind.on.z_mm - kind.on.length_mm
    for other in op.setup.setup.operations:
        if (
            isinstance(other, TurnGroove)
            and isinstance(other.on, Groove)
            and abs(other.on.z_mm - end) < LEFT_MM
            and other.on.width_mm < out
        ):
            wider = round(1.5 * out, 1)
            return [
                Fix(
                    "Groove its relief {wide} wide",
                    (Change(on=f"operation:{other.id}", fields={"on.width_mm": wider}),),
                    {"wide": length(wider)},
                )
            ]
    for each in facts.plan.tools:
        assembly = facts.library.assemblies.get(each.assembly)
        tool = facts.library.tools.get(assembly.tool) if assembly else None
        if (
            each.machine == op.setup.setup.machine
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
            at = [o.id for o in op.setup.setup.operations].index(kind.id)
            return [
                Fix(
                    "Groove a relief of {wide} first",
                    (AddOperation(setup=op.setup.setup.id, operation=groove, index=at),),
                    {"wide": length(wide)},
                )
            ]
    return []


@about_operation
def thread_before_turning(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """size.order: a thread cut before the diameter under it is turned."""
    kind = op.operation
    if not isinstance(kind, TurnThread):
        return
    high, low = kind.on.z_mm, kind.on.z_mm - kind.on.length_mm
    later = [
        other
        for other in op.setup.operations
        if other.number > op.number
        and isinstance(other.operation, TurnRough | TurnFinish)
        and other.operation.on.side == "outside"
        and other.operation.on.at_mm[0][0] > low + LEFT_MM
        and other.operation.on.at_mm[-1][0] < high - LEFT_MM
    ]
    if not later:
        return
    yield of_operation(
        op,
        "size.order",
        "stop",
        "It threads what operation {later} turns afterwards.",
        {"later": Shown(str(later[-1].number))},
        "",
        (move_after(op, later[-1]),),
    )


@about_operation
def behind_shoulder(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """reach.behind-shoulder: what a turning tool leaves behind a shoulder it can't follow down."""
    kind, work, tool = op.operation, op.work, op.tool
    if (
        not isinstance(kind, TurnRough | TurnFinish)
        or work is None
        or tool is None
        or work.left_behind <= 0
        or "rpm" not in op.figures
    ):
        return
    later = [
        other
        for other in op.setup.operations
        if other.number > op.number
        and other.operation.kind in ("turn_groove", "turn_rough", "turn_finish")
    ]
    if later:
        return
    steeper = (
        other_tools(
            op,
            facts,
            lambda other: other.max_ramp_deg > tool.max_ramp_deg,
            None,
            frozenset({"turning_rough", "turning_finish"}),
        )
        if kind.on.side == "outside"
        else []
    )
    stay = keep(
        op, "reach.behind-shoulder", "what stays behind the shoulder is cut in another setup"
    )
    yield of_operation(
        op,
        "reach.behind-shoulder",
        "look",
        "Behind a shoulder {left} of stock stays: this tool follows a contour down at {angle} at"
        " most, and nothing grooves it later.",
        {"left": length(work.left_behind), "angle": Shown(tool.max_ramp_deg, "angle")},
        "",
        (*steeper, stay),
    )


@about_operation
def too_deep(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """reach.flute-short: a cut deeper than the insert's edge; reach.entry: a bar that does not fit
    into the bore as it stands.
    """
    kind, tool, work = op.operation, op.tool, op.work
    if tool is None or work is None or work.turned is None or work.turned.is_empty:
        return
    if (
        tool.kind == "boring_bar"
        and isinstance(kind.on, Profile)
        and 2.0 * float(work.turned.bounds[0]) < tool.diameter_mm - LEFT_MM
    ):
        yield of_operation(
            op,
            "reach.entry",
            "stop",
            "The bore stands open {open} wide; this bar enters from {least} on.",
            {"open": length(2.0 * float(work.turned.bounds[0])), "least": length(tool.diameter_mm)},
            "",
            tuple(
                other_tools(
                    op,
                    facts,
                    lambda other: (
                        other.diameter_mm <= 2.0 * float(work.turned.bounds[0])
                        if work.turned is not None
                        else False
                    ),
                    None,
                )
            ),
        )
    depth = op.notes.get("depth_mm")
    if (
        not isinstance(kind, TurnFace | TurnRough | TurnFinish)
        or not isinstance(depth, float)
        or depth <= tool.cutting_depth_mm + LEFT_MM
    ):
        return
    most = floor(10.0 * tool.cutting_depth_mm) / 10.0
    fixes: tuple[Fix, ...] = ()
    if isinstance(kind, TurnFace | TurnRough):
        fixes = (
            Fix(
                "Cut {most} a side",
                (Change(on=f"operation:{kind.id}", fields={"depth_mm": most}),),
                {"most": length(most)},
            ),
        )
    yield of_operation(
        op,
        "reach.flute-short",
        "stop",
        "It meets {depth} of stock at once; this edge takes {most}.",
        {"depth": length(depth), "most": length(tool.cutting_depth_mm)},
        "cutting_force",
        (*fixes, *other_tools(op, facts, lambda other: other.cutting_depth_mm >= depth, None)),
    )


@about_operation
def finish(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """size.finish: feed marks of a turned surface over the roughness the drawing asks."""
    rough, kind = op.figures.get("turned_finish"), op.operation
    asked = min(
        (
            r.finish_um
            for r in facts.plan.part.requirements
            if r.finish_um is not None and r.feature in ("", "outside")
        ),
        default=None,
    )
    if (
        rough is None
        or asked is None
        or op.tool is None
        or not isinstance(kind, TurnFinish)
        or rough.value <= asked
    ):
        return
    feed = floor(1000.0 * sqrt(8.0 * op.tool.corner_radius_mm * asked / 1000.0)) / 1000.0
    blunter = other_tools(
        op,
        facts,
        lambda other: (
            (op.value("chip") or 0.0) ** 2 / (8.0 * other.corner_radius_mm) * 1000.0 <= asked
            if other.corner_radius_mm
            else False
        ),
        None,
    )
    values = {
        "feed": Shown(op.value("chip") or 0.0, "feed_per_tooth"),
        "nose": length(op.tool.corner_radius_mm),
        "rough": Shown(rough.value, "roughness"),
        "asked": Shown(asked, "roughness"),
    }
    yield of_operation(
        op,
        "size.finish",
        "look",
        "At {feed} a turn a nose of {nose} leaves {rough}; the drawing asks {asked}.",
        values,
        "turned_finish",
        (
            Fix(
                "Feed {feed} a turn",
                (Change(on=f"operation:{kind.id}", fields={"feed_per_rev_mm": feed}),),
                {"feed": Shown(feed, "feed_per_tooth")},
            ),
            *blunter,
        ),
    )


@about_operation
def bar_pushed_off(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """size.push-off: a boring bar bent by its last cut."""
    pushed, kind, loaded = (
        op.figures.get("size_error") or op.figures.get("push_off"),
        op.operation,
        op.loaded,
    )
    if pushed is None or op.tool is None or not isinstance(kind, TurnFinish) or loaded is None:
        return
    each_way, source = tolerance_each_way(op, facts)
    if pushed.value <= each_way * facts.library.settings.push_off_share:
        return
    needed = op.value("stick_out_needed") or loaded.stick_out_mm
    bar = op.tool.shank_diameter_mm
    fixes = [
        Fix(
            "Go over it once more",
            (Change(on=f"operation:{kind.id}", fields={"passes": kind.passes + 1}),),
            {},
        ),
        *other_tools(op, facts, lambda other: other.shank_diameter_mm > bar, loaded.stick_out_mm),
    ]
    shorter = float(int(needed) + 1)
    if shorter < loaded.stick_out_mm:
        fixes.insert(
            0,
            Fix(
                "Set stick-out to {shorter}",
                (Change(on=f"tool:{loaded.id}", fields={"stick_out_mm": shorter}),),
                {"shorter": length(shorter)},
            ),
        )
    severity: Severity = "stop" if pushed.value > each_way else "look"
    yield of_operation(
        op,
        "size.push-off",
        severity,
        "The bar is pushed off {pushed}; the tolerance is {tolerance} each way ({source}).",
        {
            "pushed": Shown(pushed.value, "size"),
            "tolerance": Shown(each_way, "size"),
            "source": Shown(source),
        },
        "size_error" if kind.passes > 1 else "push_off",
        tuple(fixes),
    )
