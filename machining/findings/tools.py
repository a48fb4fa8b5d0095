"""Fixes that change the tool, and which kinds of tool can do what."""

from __future__ import annotations

from collections.abc import Callable

from machining.facts.context import OperationFacts, PlanFacts
from machining.facts.kinds import HANDLERS
from machining.plan.edit import Change, Edit, LoadTool
from machining.plan.loading import loaded as load
from machining.world.tool import DRILLS, FACES, POINTED, ROUGHS_SIDES, TURNS_ON_AXIS, Tool

from .finding import Fix, Shown

ROUNDER_MM = 0.5  # a ball or bull takes no square end mill's place
_MILLS = ROUGHS_SIDES | FACES
ALLOWED: dict[str, frozenset[str]] = {
    "face": _MILLS, "rough_outside": _MILLS, "rough_pocket": ROUGHS_SIDES, "finish_walls": frozenset({"end_mill", "roughing_end_mill", "shell_mill"}), "finish_floor": _MILLS,
    "drill": DRILLS | {"spot_drill", "end_mill"}, "ream": frozenset({"reamer"}), "tap": frozenset({"tap"}), "bore": frozenset({"boring_head"}), "chamfer": POINTED | {"spot_drill"},
    **{kind: handler.tools for kind, handler in HANDLERS.items()},
}


def other_tools(op: OperationFacts, facts: PlanFacts, fits: Callable[[Tool], bool], stick_out: float | None, kinds: frozenset[str] | None = None) -> list[Fix]:
    """Offer a tool that fits, of the same kind (or of ``kinds``): one already loaded, else the nearest in the library."""
    assert op.tool is not None
    wanted = kinds or frozenset({op.tool.kind})
    same_size = kinds is None and op.tool.kind in TURNS_ON_AXIS
    own, shaped = op.tool, op.operation.kind in HANDLERS  # these say themselves which shape suits them

    def suits(tool: Tool | None) -> bool:
        if tool is None or tool.kind not in wanted or tool.key == own.key or (not shaped and tool.corner_radius_mm > own.corner_radius_mm + ROUNDER_MM):
            return False
        return (not same_size or tool.diameter_mm == own.diameter_mm) and fits(tool)

    for loaded in facts.plan.tools:
        assembly = facts.library.assemblies.get(loaded.assembly)
        if loaded.machine == op.setup.setup.machine and assembly and suits(facts.library.tools.get(assembly.tool)):
            edit: Edit = Change(on=f"operation:{op.operation.id}", fields={"tool": loaded.id})
            return [Fix("Use T{number} {name}", (edit,), {"number": Shown(str(loaded.number)), "name": Shown(assembly.name)})]
    candidates = [a for a in facts.library.assemblies.values() if suits(facts.library.tools.get(a.tool))]
    if not candidates:
        return []
    nearest = min(candidates, key=lambda a: (abs(facts.library.tools[a.tool].diameter_mm - own.diameter_mm), a.stick_out_mm))
    new = load(facts.plan, op.setup.setup.machine, nearest, stick_out)
    edits: tuple[Edit, ...] = (LoadTool(tool=new), Change(on=f"operation:{op.operation.id}", fields={"tool": new.id}))
    return [Fix("Load {name} as T{number}", edits, {"number": Shown(str(new.number)), "name": Shown(nearest.name)})]
