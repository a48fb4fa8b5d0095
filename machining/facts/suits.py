"""Which kinds of tool can do which kind of operation, and why one of them does not suit
this one.
"""

from __future__ import annotations

from machining.plan.operation import OnFeatures, Points
from machining.quantities.errors import MachiningError
from machining.world.tool import DRILLS, FACES, POINTED, ROUGHS_SIDES, STANDS_STILL, Tool

from .context import OperationFacts, PlanFacts
from .kinds import HANDLERS
from .kinds.base import Unsuited
from .place import hole_ends

_MILLS = ROUGHS_SIDES | FACES
ALLOWED: dict[str, frozenset[str]] = {
    "face": _MILLS,
    "rough_outside": _MILLS,
    "rough_pocket": ROUGHS_SIDES,
    "finish_walls": frozenset({"end_mill", "roughing_end_mill", "shell_mill"}),
    "finish_floor": _MILLS,
    "drill": DRILLS | {"spot_drill", "end_mill"},
    "ream": frozenset({"reamer"}),
    "tap": frozenset({"tap"}),
    "bore": frozenset({"boring_head"}),
    "chamfer": POINTED | {"spot_drill"},
    **{kind: handler.tools for kind, handler in HANDLERS.items()},
}


def can_do(kind: str, tool: Tool) -> bool:
    """Is it a kind of tool that does this kind of operation?"""
    return tool.kind in ALLOWED[kind]


def unsuited(op: OperationFacts, tool: Tool) -> Unsuited | None:
    """Why a tool of the right kind can't do this operation on its machine, as a sentence with
    ``{names}`` of lengths (mm); None where it can.
    """
    machine, handler = op.setup.machine, HANDLERS.get(op.operation.kind)
    if machine is not None and (machine.kind == "lathe") != (tool.kind in STANDS_STILL):
        return (
            "It has to turn itself, and on this machine the work turns."
            if machine.kind == "lathe"
            else "It stands still, and on this machine the work does too."
        ), {}
    return (
        handler.unsuited(op.operation, op.work, tool)
        if handler is not None and op.work is not None
        else None
    )


def why_not(op: OperationFacts, facts: PlanFacts, tool: Tool) -> Unsuited | None:
    """The first reason against choosing a tool for an operation; None where it suits."""
    if not can_do(op.operation.kind, tool):
        name = tool.kind.replace("_", " ")
        return f"{'An' if name[0] in 'aeiou' else 'A'} {name} can't do this.", {}
    if (wrong := unsuited(op, tool)) is not None:
        return wrong
    machine = op.setup.machine
    if machine is not None and tool.diameter_mm > machine.max_tool_diameter_mm:
        return "Ø {has}: the magazine takes up to {most}.", {
            "has": tool.diameter_mm,
            "most": machine.max_tool_diameter_mm,
        }
    drawn = _drawn_hole(op, facts)
    if drawn is not None and tool.diameter_mm > drawn + 1e-6:
        return "Ø {has} is larger than the hole, Ø {drawn}.", {
            "has": tool.diameter_mm,
            "drawn": drawn,
        }
    return None


def _drawn_hole(op: OperationFacts, facts: PlanFacts) -> float | None:
    """Diameter (mm) of the hole a drill or reamer is to leave; None where there is none to compare
    with.
    """
    on = op.operation.on
    if op.operation.kind not in ("drill", "ream") or not isinstance(on, OnFeatures | Points):
        return None
    try:
        return hole_ends(on, op.setup.lie, facts.geometry)[1]
    except MachiningError:
        return None
