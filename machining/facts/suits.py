"""Which kinds of tool can do which kind of operation, and why one of them does not suit
this one.
"""

from __future__ import annotations

from machining.plan.operation import Operation
from machining.world.capability import rig
from machining.world.tool import STANDS_STILL, Tool

from .context import OperationFacts, PlanFacts
from .hole_size import wrong_size
from .kinds import KINDS, kind_of
from .kinds.base import Unsuited


def can_do(kind: str, tool: Tool) -> bool:
    """Is it a kind of tool that does this kind of operation?"""
    return tool.kind in KINDS[kind].tools


def unsuited(op: OperationFacts, tool: Tool) -> Unsuited | None:
    """Why a tool of the right kind can't do this operation on its machine, as a sentence with
    ``{names}`` of lengths (mm); None where it can.
    """
    still, machine = tool.kind in STANDS_STILL, op.setup.machine
    with_it = rig(machine, op.station.planned.place, still=still) if machine is not None else None
    if with_it is not None and with_it.turns_work != still:
        return (
            "It has to turn itself, and on this machine the work turns."
            if with_it.turns_work
            else "It stands still, and on this machine the work does too."
        ), {}
    if op.work is None:
        return None
    return kind_of(op.operation).unsuited(op.operation, op.work, tool)


def suits_way(op: OperationFacts, way: Operation, tool: Tool) -> bool:
    """Would a tool do the operation if it were cut another ``way``, at the same place?"""
    return op.work is not None and kind_of(way).unsuited(way, op.work, tool) is None


def why_not(op: OperationFacts, facts: PlanFacts, tool: Tool) -> Unsuited | None:
    """The first reason against choosing a tool for an operation; None where it suits."""
    if not can_do(op.operation.kind, tool):
        name = tool.kind.replace("_", " ")
        return f"{'An' if name[0] in 'aeiou' else 'A'} {name} can't do this.", {}
    if (wrong := unsuited(op, tool)) is not None:
        return wrong
    holds = op.rig.carrier if op.rig is not None else None
    if holds is not None and tool.diameter_mm > holds.max_tool_diameter_mm:
        return f"Ø {{has}}: the {holds.kind} takes up to {{most}}.", {
            "has": tool.diameter_mm,
            "most": holds.max_tool_diameter_mm,
        }
    return wrong_size(op, facts, tool)
