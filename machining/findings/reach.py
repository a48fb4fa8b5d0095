"""Reach: can this tool at this stick-out get there?"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from math import ceil

from machining.facts.context import OperationFacts, PlanFacts
from machining.facts.place import NotFromHere
from machining.facts.reach import cutting_length_needed
from machining.geometry.frames import named
from machining.geometry.solids import bounds
from machining.plan.edit import Change, Edit, LoadTool, MoveOperation, RemoveOperation
from machining.plan.loading import loaded as load
from machining.plan.numbering import setup_numbers
from machining.world.tool import BUILT_TO_LENGTH, DRILLS, TURNS_ON_AXIS, Tool

from .finding import Finding, Fix, Shown, about_operation, length, of_operation

NOTHING_MM3 = 0.01


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
            edit = MoveOperation(operation=op.operation.id, setup=other.setup.id, index=len(other.setup.operations))
            fixes.append(Fix("Move it to setup {setup}", (edit,), {"setup": Shown(str(numbers[other.setup.id]))}))
    sides = {"+x": "right", "-x": "left", "+y": "back", "-y": "front", "+z": "top", "-z": "bottom"}
    from_where = " or ".join(f"the part's {sides[d]}" for d in problem.opens) or "no side"
    yield of_operation(op, "reach.not-in-this-setup", "stop", "What it cuts can't be seen from here; a tool can come from {where}.", {"where": Shown(from_where)}, "", tuple(fixes))


@about_operation
def stick_out(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """reach.stick-out-short, reach.stick-out-long"""
    spare, needed, loaded = op.figures.get("stick_out_spare"), op.figures.get("stick_out_needed"), op.loaded
    if spare is None or needed is None or loaded is None:
        return
    values = {"tool": _tool_name(op), "has": length(loaded.stick_out_mm), "needed": length(needed.value)}
    if spare.value < -1e-6:
        longer = float(ceil(needed.value))
        longest = op.value("stick_out_longest")
        edits = (Change(on=f"tool:{loaded.id}", fields={"stick_out_mm": longer}),)
        fixes = [Fix("Set stick-out to {longer}", edits, {"longer": length(longer)})] if longest is None or longer <= longest else []
        corner = op.work.corner_radius if op.work is not None and op.operation.kind == "finish_walls" else None
        fixes += _other_tools(
            op, facts, lambda tool: tool.overall_length_mm - (op.holder.grip_depth_mm if op.holder else 0.0) >= longer and (corner is None or tool.diameter_mm / 2.0 <= corner), longer,
        )
        yield of_operation(
            op, "reach.stick-out-short", "stop", "{tool} stands out {has} and needs {needed}: its holder would touch, {short} too low.",
            {**values, "short": length(-spare.value)}, "stick_out_needed", tuple(fixes),
        )
        return
    if op.tool is None or op.holder is None or op.tool.kind in BUILT_TO_LENGTH:
        return
    everywhere = [other for other in facts.operations() if other.loaded is loaded]
    most = max((v for other in everywhere if (v := other.value("stick_out_needed")) is not None), default=0.0)
    could = float(ceil(max(most, op.tool.flute_length_mm, op.tool.overall_length_mm - op.holder.deepest_mm)))
    if loaded.stick_out_mm - could > facts.library.settings.stick_out_spare_mm and op is _first_of(everywhere, most):
        edits = (Change(on=f"tool:{loaded.id}", fields={"stick_out_mm": could}),)
        yield of_operation(
            op, "reach.stick-out-long", "look", "{tool} stands out {has}; {could} is enough, and a shorter tool is stiffer.",
            {**values, "could": length(could)}, "stick_out_needed", (Fix("Set stick-out to {could}", edits, {"could": length(could)}),),
        )


def _first_of(everywhere: list[OperationFacts], most: float) -> OperationFacts | None:
    return next((o for o in everywhere if (v := o.value("stick_out_needed")) is not None and v >= most - 1e-9), None)


@about_operation
def shank_in_holder(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    longest, loaded = op.figures.get("stick_out_longest"), op.loaded
    if longest is None or loaded is None or op.holder is None or loaded.stick_out_mm <= longest.value + 1e-9:
        return
    shorter = float(int(longest.value))
    yield of_operation(
        op, "reach.shank-in-holder", "stop", "{tool} stands out {has}, which leaves less than {grip} of its shank in the holder.",
        {"tool": _tool_name(op), "has": length(loaded.stick_out_mm), "grip": length(op.holder.grip_depth_mm)}, "stick_out_longest",
        (Fix("Set stick-out to {shorter}", (Change(on=f"tool:{loaded.id}", fields={"stick_out_mm": shorter}),), {"shorter": length(shorter)}),),
    )


@about_operation
def flute_short(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    if op.work is None or op.tool is None or op.operation.kind in ("chamfer", "face"):
        return
    needed = cutting_length_needed(op)
    step = min(getattr(op.operation, "step_down_mm", needed), needed)
    if op.tool.kind in TURNS_ON_AXIS and op.tool.kind not in DRILLS:
        step = 0.0  # a tap, reamer or boring bar cuts at its tip; only its neck must follow
    if needed <= op.tool.usable_length_mm + 1e-6 and step <= op.tool.cutting_depth_mm + 1e-6:
        return
    has = op.tool.usable_length_mm if needed > op.tool.usable_length_mm else op.tool.cutting_depth_mm
    asked = needed if needed > op.tool.usable_length_mm else step
    fixes = _other_tools(op, facts, lambda tool: tool.usable_length_mm >= needed and tool.cutting_depth_mm >= step, None)
    if hasattr(op.operation, "step_down_mm") and step > op.tool.cutting_depth_mm and needed <= op.tool.usable_length_mm:
        lower = float(int(op.tool.cutting_depth_mm * 10)) / 10
        fixes.insert(0, Fix("Step down {step}", (Change(on=f"operation:{op.operation.id}", fields={"step_down_mm": lower}),), {"step": length(lower)}))
    yield of_operation(
        op, "reach.flute-short", "stop", "{tool} can cut {has} deep; {asked} is wanted, so its shank would rub.",
        {"tool": _tool_name(op), "has": length(has), "asked": length(asked)}, "", tuple(fixes),
    )


@about_operation
def inner_radius(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    if op.work is None or op.tool is None or op.operation.kind not in ("finish_walls",) or op.work.corner_radius is None:
        return
    corner, radius = op.work.corner_radius, op.tool.diameter_mm / 2.0
    if radius <= corner + 1e-6:
        return
    yield of_operation(
        op, "reach.inner-radius", "stop", "The inner corners are {corner}; {tool} leaves {radius}.",
        {"corner": length(corner), "radius": length(radius), "tool": _tool_name(op)}, "", tuple(_other_tools(op, facts, lambda tool: tool.diameter_mm / 2.0 <= corner, None)),
    )


@about_operation
def nothing_cut(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """reach.wrong-floor"""
    cut = op.notes.get("cut_mm3")
    if op.work is None or op.operation.kind in ("tap", "chamfer") or not isinstance(cut, float) or cut > NOTHING_MM3:
        return
    out = (Fix("Take the operation out", (RemoveOperation(operation=op.operation.id),), {}),)
    top = float(bounds(op.stock_before)[1][2]) if op.stock_before is not None else op.work.top
    lowest = min((hole[3] for hole in op.work.holes), default=op.work.floor)
    if lowest >= top - 1e-6:
        yield of_operation(op, "reach.wrong-floor", "stop", "The stock ends {gap} below the floor of this cut: nothing is cut.", {"gap": length(max(lowest - top, 0.0))}, "", out)
    else:
        yield of_operation(op, "reach.wrong-floor", "look", "Nothing is left to cut here: what it takes is gone already.", {}, "", out)


def _other_tools(op: OperationFacts, facts: PlanFacts, fits: Callable[[Tool], bool], stick_out: float | None) -> list[Fix]:
    """Offer tools of the same kind that fit: first one already loaded, else the nearest in the library."""
    assert op.tool is not None
    same = op.tool.kind in TURNS_ON_AXIS
    fixes: list[Fix] = []

    def suits(tool: Tool | None) -> bool:
        assert op.tool is not None
        return tool is not None and tool.kind == op.tool.kind and tool.key != op.tool.key and (not same or tool.diameter_mm == op.tool.diameter_mm) and fits(tool)

    for loaded in facts.plan.tools:
        assembly = facts.library.assemblies.get(loaded.assembly)
        if loaded.machine == op.setup.setup.machine and assembly and suits(facts.library.tools.get(assembly.tool)):
            edit: Edit = Change(on=f"operation:{op.operation.id}", fields={"tool": loaded.id})
            fixes.append(Fix("Use T{number} {name}", (edit,), {"number": Shown(str(loaded.number)), "name": Shown(assembly.name)}))
    if fixes:
        return fixes[:1]
    candidates = [a for a in facts.library.assemblies.values() if suits(facts.library.tools.get(a.tool))]
    candidates.sort(key=lambda a: (abs(facts.library.tools[a.tool].diameter_mm - op.tool.diameter_mm), a.stick_out_mm) if op.tool else (0.0, 0.0))
    for assembly in candidates[:1]:
        new = load(facts.plan, op.setup.setup.machine, assembly, stick_out)
        edits: tuple[Edit, ...] = (LoadTool(tool=new), Change(on=f"operation:{op.operation.id}", fields={"tool": new.id}))
        fixes.append(Fix("Load {name} as T{number}", edits, {"number": Shown(str(new.number)), "name": Shown(assembly.name)}))
    return fixes
