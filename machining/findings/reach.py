"""Reach: can this tool at this stick-out get there?"""

from __future__ import annotations

from collections.abc import Iterator
from math import ceil, inf, isfinite

from machining.cutting.drilling import point_height
from machining.cutting.entry import helix_pitch
from machining.facts import size
from machining.facts.at_hand import at_hand
from machining.facts.context import OperationFacts, PlanFacts
from machining.facts.kinds import HANDLERS
from machining.facts.kinds.undercut import out_to
from machining.facts.place import NotFromHere
from machining.facts.reach import cutting_length_needed
from machining.facts.suits import ALLOWED, can_do, unsuited
from machining.facts.worked import entry_spot
from machining.geometry.frames import named
from machining.geometry.solids import bounds
from machining.plan.edit import AddOperation, Change, MoveOperation, RemoveOperation
from machining.plan.numbering import setup_numbers
from machining.plan.operation import (
    TURNED,
    Counterbore,
    Drill,
    Lines,
    MillHole,
    OnFeatures,
    Points,
    Rectangle,
    RoughPocket,
    Slope,
    SpotFace,
    Undercut,
)
from machining.world.tool import BUILT_TO_LENGTH, DRILLS, TURNS_ON_AXIS, Tool

from .finding import Finding, Fix, Shown, about_operation, keep, length, of_operation
from .tools import other_tools

NOTHING_MM3 = 0.01
HOLE_SHARE = 0.98  # of the tool's diameter that must stand open for it to go down
AT_THE_MOUTH = frozenset(
    {"chamfer", "face", "spot", "countersink", "engrave", "round_edge", "slope"}
)
UNMARKED = frozenset({"tap", "chamfer", "mill_thread", "round_edge", "slope", "turn_thread"})


def _tool_name(op: OperationFacts) -> Shown:
    return Shown(f"T{op.loaded.number}" if op.loaded else "")


@about_operation
def not_in_this_setup(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    problem = op.work_problem
    if not isinstance(problem, NotFromHere):
        if problem is not None:
            op.unknown.setdefault("reach", str(problem))
        return
    numbers, fixes = setup_numbers(facts.plan), []
    for other in facts.setups:
        up = named(other.lie.pose.rotation[2])
        if other is not op.setup and up in problem.opens:
            edit = MoveOperation(
                operation=op.operation.id, setup=other.setup.id, index=len(other.setup.operations)
            )
            fixes.append(
                Fix(
                    "Move it to setup {setup}",
                    (edit,),
                    {"setup": Shown(str(numbers[other.setup.id]))},
                )
            )
    sides = {"+x": "right", "-x": "left", "+y": "back", "-y": "front", "+z": "top", "-z": "bottom"}
    from_where = " or ".join(f"the part's {sides[d]}" for d in problem.opens) or "no side"
    yield of_operation(
        op,
        "reach.not-in-this-setup",
        "stop",
        "What it cuts can't be seen from here; a tool can come from {where}.",
        {"where": Shown(from_where)},
        "",
        tuple(fixes),
    )


@about_operation
def stick_out(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """reach.stick-out-short, reach.stick-out-long"""
    spare, needed, loaded = (
        op.figures.get("stick_out_spare"),
        op.figures.get("stick_out_needed"),
        op.loaded,
    )
    if spare is None or needed is None or loaded is None:
        return
    values = {
        "tool": _tool_name(op),
        "has": length(loaded.stick_out_mm),
        "needed": length(needed.value),
    }
    if spare.value < -1e-6:
        longer = float(ceil(needed.value))
        longest = op.value("stick_out_longest")
        edits = (Change(on=f"tool:{loaded.id}", fields={"stick_out_mm": longer}),)
        fixes = (
            [Fix("Set stick-out to {longer}", edits, {"longer": length(longer)})]
            if longest is None or longer <= longest
            else []
        )
        corner = (
            op.work.corner_radius
            if op.work is not None and op.operation.kind == "finish_walls"
            else None
        )
        fixes += other_tools(
            op,
            facts,
            lambda tool: (
                tool.overall_length_mm - (op.holder.grip_depth_mm if op.holder else 0.0) >= longer
                and (corner is None or tool.diameter_mm / 2.0 <= corner)
            ),
            longer,
        )
        yield of_operation(
            op,
            "reach.stick-out-short",
            "stop",
            "{tool} stands out {has} and needs {needed}: its holder would touch, {short} too low.",
            {**values, "short": length(-spare.value)},
            "stick_out_needed",
            tuple(fixes),
        )
        return
    if op.tool is None or op.holder is None or op.tool.kind in BUILT_TO_LENGTH:
        return
    everywhere = [other for other in facts.operations() if other.loaded is loaded]
    most = max(
        (v for other in everywhere if (v := other.value("stick_out_needed")) is not None),
        default=0.0,
    )
    could = float(
        ceil(max(most, op.tool.flute_length_mm, op.tool.overall_length_mm - op.holder.deepest_mm))
    )
    if loaded.stick_out_mm - could > facts.library.settings.stick_out_spare_mm and op is _first_of(
        everywhere, most
    ):
        edits = (Change(on=f"tool:{loaded.id}", fields={"stick_out_mm": could}),)
        yield of_operation(
            op,
            "reach.stick-out-long",
            "look",
            "{tool} stands out {has}; {could} is enough, and a shorter tool is stiffer.",
            {**values, "could": length(could)},
            "stick_out_needed",
            (Fix("Set stick-out to {could}", edits, {"could": length(could)}),),
        )


def _first_of(everywhere: list[OperationFacts], most: float) -> OperationFacts | None:
    return next(
        (
            o
            for o in everywhere
            if (v := o.value("stick_out_needed")) is not None and v >= most - 1e-9
        ),
        None,
    )


@about_operation
def shank_in_holder(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    longest, loaded = op.figures.get("stick_out_longest"), op.loaded
    if (
        longest is None
        or loaded is None
        or op.holder is None
        or loaded.stick_out_mm <= longest.value + 1e-9
    ):
        return
    shorter = float(int(longest.value))
    yield of_operation(
        op,
        "reach.shank-in-holder",
        "stop",
        "{tool} stands out {has}, which leaves less than {grip} of its shank in the holder.",
        {
            "tool": _tool_name(op),
            "has": length(loaded.stick_out_mm),
            "grip": length(op.holder.grip_depth_mm),
        },
        "stick_out_longest",
        (
            Fix(
                "Set stick-out to {shorter}",
                (Change(on=f"tool:{loaded.id}", fields={"stick_out_mm": shorter}),),
                {"shorter": length(shorter)},
            ),
        ),
    )


@about_operation
def flute_short(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    if (
        op.work is None
        or op.tool is None
        or op.operation.kind in AT_THE_MOUTH
        or op.operation.kind in TURNED
    ):
        return
    needed = cutting_length_needed(op)
    step = min(getattr(op.operation, "step_down_mm", needed), needed)
    if (op.tool.kind in TURNS_ON_AXIS and op.tool.kind not in DRILLS) or op.tool.kind in (
        "thread_mill",
        "undercut_mill",
    ):
        step = 0.0  # it cuts at its tip; only its neck must follow
    if needed <= op.tool.usable_length_mm + 1e-6 and step <= op.tool.cutting_depth_mm + 1e-6:
        return
    has = (
        op.tool.usable_length_mm if needed > op.tool.usable_length_mm else op.tool.cutting_depth_mm
    )
    asked = needed if needed > op.tool.usable_length_mm else step
    fixes = other_tools(
        op,
        facts,
        lambda tool: tool.usable_length_mm >= needed and tool.cutting_depth_mm >= step,
        None,
    )
    if (
        hasattr(op.operation, "step_down_mm")
        and step > op.tool.cutting_depth_mm
        and needed <= op.tool.usable_length_mm
    ):
        lower = float(int(op.tool.cutting_depth_mm * 10)) / 10
        fixes.insert(
            0,
            Fix(
                "Step down {step}",
                (Change(on=f"operation:{op.operation.id}", fields={"step_down_mm": lower}),),
                {"step": length(lower)},
            ),
        )
    yield of_operation(
        op,
        "reach.flute-short",
        "stop",
        "{tool} can cut {has} deep; {asked} is wanted, so its shank would rub.",
        {"tool": _tool_name(op), "has": length(has), "asked": length(asked)},
        "",
        tuple(fixes),
    )


@about_operation
def inner_radius(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    if (
        op.work is None
        or op.tool is None
        or op.operation.kind not in ("finish_walls",)
        or op.work.corner_radius is None
    ):
        return
    corner, radius = op.work.corner_radius, op.tool.diameter_mm / 2.0
    if radius <= corner + 1e-6:
        return
    yield of_operation(
        op,
        "reach.inner-radius",
        "stop",
        "The inner corners are {corner}; {tool} leaves {radius}.",
        {"corner": length(corner), "radius": length(radius), "tool": _tool_name(op)},
        "",
        tuple(other_tools(op, facts, lambda tool: tool.diameter_mm / 2.0 <= corner, None)),
    )


@about_operation
def nothing_cut(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """reach.wrong-floor"""
    cut = op.notes.get("cut_mm3")
    if (
        op.work is None
        or op.operation.kind in UNMARKED
        or not isinstance(cut, float)
        or cut > NOTHING_MM3
    ):
        return
    out = (Fix("Take the operation out", (RemoveOperation(operation=op.operation.id),), {}),)
    top = float(bounds(op.stock_before)[1][2]) if op.stock_before is not None else op.work.top
    lowest = min((hole[3] for hole in op.work.holes), default=op.work.floor)
    if not isfinite(top):
        yield of_operation(
            op,
            "reach.wrong-floor",
            "stop",
            "Nothing is left of the blank here: nothing is cut.",
            {},
            "",
            out,
        )
    elif lowest >= top - 1e-6:
        yield of_operation(
            op,
            "reach.wrong-floor",
            "stop",
            "The stock ends {gap} below the floor of this cut: nothing is cut.",
            {"gap": length(max(lowest - top, 0.0))},
            "",
            out,
        )
    else:
        yield of_operation(
            op,
            "reach.wrong-floor",
            "look",
            "Nothing is left to cut here: what it takes is gone already.",
            {},
            "",
            out,
        )


@about_operation
def tool_impossible(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """reach.tool-impossible: a kind of tool that can't do this kind of operation, or one whose size
    or angle does not suit it.
    """
    kind, tool, work = op.operation, op.tool, op.work
    if tool is None:
        return
    handler, allowed = HANDLERS.get(kind.kind), ALLOWED[kind.kind]
    if not can_do(kind.kind, tool):
        largest = (
            work.hole_diameter + 1e-6
            if work is not None and work.holes and handler is None
            else inf
        )
        fixes = other_tools(
            op,
            facts,
            lambda other: other.diameter_mm <= largest and _suits(op, other),
            None,
            allowed,
        )
        yield of_operation(
            op,
            "reach.tool-impossible",
            "stop",
            "{tool} is a {kind}: it can't do this.",
            {"tool": _tool_name(op), "kind": Shown(tool.kind.replace("_", " "))},
            "",
            tuple(fixes),
        )
    elif (why := unsuited(op, tool)) is not None:
        sentence, values = why
        fixes = [
            *_tilted_instead(op),
            *other_tools(op, facts, lambda other: _suits(op, other), None, allowed),
        ]
        yield of_operation(
            op,
            "reach.tool-impossible",
            "stop",
            "{tool} can't do this. " + sentence,
            {
                "tool": _tool_name(op),
                **{name: Shown(value, "size") for name, value in values.items()},
            },
            "",
            tuple(fixes),
        )


def _tilted_instead(op: OperationFacts) -> list[Fix]:
    """A slope whose tool would do it leaning, on a table that tilts."""
    kind, machine, tool = op.operation, op.setup.machine, op.tool
    if (
        not isinstance(kind, Slope)
        or kind.axes != "upright"
        or machine is None
        or machine.rotary is None
        or tool is None
        or op.work is None
    ):
        return []
    leaning = kind.model_copy(update={"axes": "locked"})
    if HANDLERS["slope"].unsuited(leaning, op.work, tool) is not None:
        return []
    return [
        Fix(
            "Tilt it, the axes locked for each edge",
            (Change(on=f"operation:{kind.id}", fields={"axes": "locked"}),),
            {},
        )
    ]


def _suits(op: OperationFacts, tool: Tool) -> bool:
    return unsuited(op, tool) is None


@about_operation
def enters_inside(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """reach.entry: an undercut's line that starts or ends inside the stock, where its tool can
    neither go down nor come up.
    """
    kind = op.operation
    if (
        not isinstance(kind, Undercut)
        or not isinstance(kind.on, Lines)
        or op.tool is None
        or "enters_inside" not in op.notes
    ):
        return
    longer = tuple(
        tuple((round(x, 3), round(y, 3)) for x, y in out_to(line, op)) for line in kind.on.at_mm
    )
    yield of_operation(
        op,
        "reach.entry",
        "stop",
        "{tool} is wider than its neck: it can't go down or come up inside the stock, and its line"
        " ends there.",
        {"tool": _tool_name(op)},
        "overrun",
        (
            Fix(
                "Draw the line out to the stock's edges",
                (Change(on=f"operation:{kind.id}", fields={"on.at_mm": longer, "past_mm": None}),),
                {},
            ),
        ),
    )


@about_operation
def steep_helix(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """reach.entry, cut.plunge: a helix steeper than the tool ramps."""
    angle, tool = op.value("helix_angle"), op.tool
    if (
        angle is None
        or tool is None
        or op.work is None
        or not isinstance(op.operation, MillHole | Counterbore | SpotFace)
    ):
        return
    most = tool.max_ramp_deg or (90.0 if tool.centre_cutting else 0.0)
    if angle <= most:
        return
    fixes: list[Fix] = []
    if most > 0:
        step = (
            float(int(100 * helix_pitch(op.work.hole_diameter, tool.diameter_mm, min(most, 89.0))))
            / 100
        )
        if step > 0:
            fixes.append(
                Fix(
                    "{step} a turn",
                    (Change(on=f"operation:{op.operation.id}", fields={"step_down_mm": step}),),
                    {"step": Shown(step, "size")},
                )
            )
    fixes += other_tools(
        op,
        facts,
        lambda other: (
            (other.max_ramp_deg >= angle or (other.centre_cutting and not other.max_ramp_deg))
            and _suits(op, other)
        ),
        None,
    )
    yield of_operation(
        op,
        "cut.plunge" if tool.centre_cutting else "reach.entry",
        "look" if tool.centre_cutting else "stop",
        "Its helix goes down at {angle}; {tool} ramps at {most} at most.",
        {"angle": Shown(angle, "angle"), "most": Shown(most, "angle"), "tool": _tool_name(op)},
        "helix_angle",
        tuple(fixes),
    )


@about_operation
def entry(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """reach.entry, cut.plunge: how a pocket's rough gets down into full material."""
    kind, tool = op.operation, op.tool
    if (
        not isinstance(kind, RoughPocket)
        or tool is None
        or op.work is None
        or tool.kind not in ALLOWED["rough_pocket"]
    ):
        return
    if kind.enter == "hole":
        yield from _into_a_hole(op, facts, kind, tool)
    elif kind.enter == "plunge":
        yield from _straight_down(op, kind, tool)
    else:
        yield from _on_a_slope(op, facts, kind, tool)


def _slopes(kind: RoughPocket, tool: Tool) -> list[Fix]:
    """Ramp or helix at what the tool allows."""
    if tool.max_ramp_deg <= 0:
        return []
    on, gentle = f"operation:{kind.id}", min(kind.ramp_deg, tool.max_ramp_deg)
    return [
        Fix(
            words,
            (Change(on=on, fields={"enter": way, "ramp_deg": gentle}),),
            {"ramp": Shown(gentle, "angle")},
        )
        for words, way in (("Ramp at {ramp}", "ramp"), ("Helix at {ramp}", "helix"))
    ]


def _straight_down(op: OperationFacts, kind: RoughPocket, tool: Tool) -> Iterator[Finding]:
    values = {"tool": _tool_name(op)}
    hole = Fix(
        "Into a drilled hole", (Change(on=f"operation:{kind.id}", fields={"enter": "hole"}),), {}
    )
    if not tool.centre_cutting:
        yield of_operation(
            op,
            "reach.entry",
            "stop",
            "{tool} does not cut over its centre: straight down it stands on its middle.",
            values,
            "",
            (*_slopes(kind, tool), hole),
        )
    else:
        stay = keep(op, "cut.plunge", "straight down: shallow, and the chips come out")
        yield of_operation(
            op,
            "cut.plunge",
            "look",
            "{tool} goes straight down: its middle hardly cuts, and the chips have nowhere to go.",
            values,
            "plunge_feed",
            (*_slopes(kind, tool), hole, stay),
        )


def _into_a_hole(
    op: OperationFacts, facts: PlanFacts, kind: RoughPocket, tool: Tool
) -> Iterator[Finding]:
    """A hole as wide as the tool must stand open where it goes down."""
    stands = op.notes.get("entry_open_mm")
    if not isinstance(stands, float) or stands >= HOLE_SHARE * tool.diameter_mm or op.work is None:
        return
    x, y = entry_spot(op, kind)
    fixes = _slopes(kind, tool)
    found = at_hand(
        facts,
        op.setup.setup.machine,
        lambda other: other.kind == "drill" and other.diameter_mm >= tool.diameter_mm,
        lambda other: -other.diameter_mm,
    )
    if found is not None:
        drill = found.tool
        deep = (
            op.work.top
            - op.work.floor
            - point_height(drill.diameter_mm, drill.point_angle_deg or 180.0)
        )
        if deep > 0:
            where = Points(
                at_mm=((round(x, 3), round(y, 3)),),
                top_mm=op.work.top,
                diameter_mm=drill.diameter_mm,
                depth_mm=round(deep, 3),
            )
            at = [each.id for each in op.setup.setup.operations].index(kind.id)
            add = AddOperation(
                setup=op.setup.setup.id,
                operation=Drill(id=f"{kind.id[:40]}entry", tool=found.loaded.id, on=where),
                index=at,
            )
            fixes.insert(
                0,
                Fix("Drill {size} first", (*found.loads, add), {"size": length(drill.diameter_mm)}),
            )
    yield of_operation(
        op,
        "reach.entry",
        "stop",
        "{tool}, {wide} wide, is to go down into a hole, and {open} stands open there.",
        {"tool": _tool_name(op), "wide": length(tool.diameter_mm), "open": length(stands)},
        "",
        tuple(fixes),
    )


def _on_a_slope(
    op: OperationFacts, facts: PlanFacts, kind: RoughPocket, tool: Tool
) -> Iterator[Finding]:
    on, most = f"operation:{kind.id}", tool.max_ramp_deg
    gentle = (
        ()
        if most <= 0
        else (
            Fix(
                "Ramp at {ramp}",
                (Change(on=on, fields={"ramp_deg": most}),),
                {"ramp": Shown(most, "angle")},
            ),
        )
    )
    least = min(kind.ramp_deg, 3.0)
    fits = other_tools(
        op,
        facts,
        lambda other: (
            (other.max_ramp_deg >= least or other.centre_cutting)
            and other.diameter_mm <= tool.diameter_mm
        ),
        None,
        ALLOWED["rough_pocket"],
    )
    if not tool.centre_cutting and kind.ramp_deg > max(most, 0.0):
        steep = (
            "{tool} does not cut over its centre and goes down at {ramp}; it takes {most} at most."
        )
        yield of_operation(
            op,
            "reach.entry",
            "stop",
            (
                steep
                if most > 0
                else (
                    "{tool} neither cuts over its centre nor ramps: it can't get down into full"
                    " material."
                )
            ),
            {
                "tool": _tool_name(op),
                "ramp": Shown(kind.ramp_deg, "angle"),
                "most": Shown(most, "angle"),
            },
            "",
            (*gentle, *fits),
        )
    elif most > 0 and kind.ramp_deg > most:
        yield of_operation(
            op,
            "cut.plunge",
            "look",
            "It goes down at {ramp}, steeper than the {most} this tool ramps at: chips pack under"
            " its centre.",
            {"ramp": Shown(kind.ramp_deg, "angle"), "most": Shown(most, "angle")},
            "",
            gentle,
        )


@about_operation
def slender_tool(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    ratio, limit, loaded = op.value("slenderness"), facts.library.settings.slender_limit, op.loaded
    if (
        ratio is None
        or op.tool is None
        or loaded is None
        or op.tool.kind in TURNS_ON_AXIS
        or op.tool.kind in BUILT_TO_LENGTH
        or ratio <= limit
    ):
        return
    needed = op.value("stick_out_needed") or 0.0
    shorter = float(ceil(max(needed, op.tool.flute_length_mm, limit * op.tool.diameter_mm)))
    fixes = []
    if shorter < loaded.stick_out_mm - 0.5:
        fixes.append(
            Fix(
                "Set stick-out to {shorter}",
                (Change(on=f"tool:{loaded.id}", fields={"stick_out_mm": shorter}),),
                {"shorter": length(shorter)},
            )
        )
    fixes += other_tools(
        op,
        facts,
        lambda tool: loaded.stick_out_mm / tool.diameter_mm <= limit and _corner_fits(op, tool),
        loaded.stick_out_mm,
    )
    fixes.append(keep(op, "reach.slender-tool", "long tool: light cuts, watch for chatter"))
    yield of_operation(
        op,
        "reach.slender-tool",
        "look",
        "{tool} stands out {times} its diameter: it bends and sings.",
        {"tool": _tool_name(op), "times": Shown(ratio, "factor")},
        "slenderness",
        tuple(fixes),
    )


def _corner_fits(op: OperationFacts, tool: Tool) -> bool:
    return (
        op.work is None
        or op.work.corner_radius is None
        or tool.diameter_mm / 2.0 <= op.work.corner_radius
    )


@about_operation
def slot_width(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """reach.slot-width, and size.pulled-slot where nothing finishes the slot after it."""
    if (
        op.operation.kind not in ("rough_pocket", "finish_walls")
        or op.tool is None
        or not isinstance(op.operation.on, OnFeatures | Rectangle)
    ):
        return
    narrow = size.narrow_mm(op, facts)
    if (
        narrow is None
        or op.tool.diameter_mm < size.SLOT_SHARE * narrow
        or op.tool.diameter_mm > narrow + 1e-6
    ):
        return
    places = _features(op)
    later = [
        other
        for other in facts.operations()
        if other.number > op.number
        and other.operation.kind == "finish_walls"
        and places & _features(other)
    ]
    fixes = tuple(
        other_tools(
            op,
            facts,
            lambda tool: tool.diameter_mm <= 0.8 * narrow and _corner_fits(op, tool),
            None,
        )
    )
    values = {"tool": _tool_name(op), "slot": length(narrow)}
    if later:
        yield of_operation(
            op,
            "reach.slot-width",
            "look",
            "{tool} is as wide as the slot, {slot}: nothing is left to finish its walls with.",
            values,
            "",
            fixes,
        )
    else:
        pull = op.value("slot_pull")
        pulled = (
            "{tool} cuts the slot of {slot} at its own width: it is pulled "
            + ("{pull} " if pull is not None else "")
            + "towards one wall. Rough it smaller, then finish both walls."
        )
        yield of_operation(
            op,
            "size.pulled-slot",
            "look",
            pulled,
            values if pull is None else {**values, "pull": Shown(pull, "size")},
            "slot_pull",
            fixes,
        )


def _features(op: OperationFacts) -> frozenset[str]:
    return (
        frozenset(op.operation.on.ids) if isinstance(op.operation.on, OnFeatures) else frozenset()
    )
