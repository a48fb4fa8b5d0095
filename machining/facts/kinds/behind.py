"""The far edge of a through hole, chamfered by a tool that passes it and comes up against it."""

from __future__ import annotations

from math import radians, tan

from machining.cutting import pointed
from machining.geometry.solids import Solid
from machining.motion.path import Path
from machining.motion.paths import rounds
from machining.plan.operation import BackChamfer
from machining.quantities.computed import Given, Value
from machining.world.tool import Tool

from .. import wording
from ..context import OperationFacts, PlanFacts, Ready
from ..place import Work, hole_ends
from ..removed import stood_at
from ..wording import Named
from .base import Ground, Kind, Unsuited, cone_of, half_angle, heights

PASSES_BY_MM = 0.2  # room per side a tool needs to pass a hole


def _work(operation: BackChamfer, ground: Ground) -> Work:
    ends, diameter, _ = hole_ends(operation.on, ground.lie, ground.geometry)  # type: ignore[arg-type]
    return Work(
        holes=tuple((x, y, mouth, far - operation.below_mm) for x, y, mouth, far in ends),
        hole_diameter=diameter,
        hole_depth=max(m - f for _, _, m, f in ends),
    )


def _offset(operation: BackChamfer, hole: float, tool: Tool) -> float:
    return pointed.behind_offset(
        hole, operation.size_mm, tool.diameter_mm, operation.below_mm, cone_of(tool)[0] / 2.0
    )


def _path(op: Ready[BackChamfer], facts: PlanFacts) -> Path:
    near, retract = heights(op, facts)
    return rounds.behind(
        op.work.holes, _offset(op.operation, op.work.hole_diameter, op.tool), near, retract
    )


def _diameter(op: Ready[BackChamfer], facts: PlanFacts) -> Value:
    op.work_out(
        pointed.behind_offset,
        "aside",
        hole=Given(op.work.hole_diameter, "part"),
        size=Given(op.operation.size_mm),
        diameter=op.of_tool("diameter_mm"),
        below=Given(op.operation.below_mm),
        half_angle=half_angle(op),
    )
    return op.of_tool("diameter_mm")


def _removed(operation: BackChamfer, work: Work, ground: Ground) -> Solid:
    radius, size = work.hole_diameter / 2.0, operation.size_mm
    rise = size / tan(radians(cone_of(ground.tool)[0] / 2.0))
    profile = [(0.0, radius + size), (rise, radius)]
    return stood_at(profile, [(x, y, tip + operation.below_mm) for x, y, _, tip in work.holes])


def _does_not_pass(operation: BackChamfer, work: Work, tool: Tool) -> Unsuited | None:
    hole = work.hole_diameter
    if tool.diameter_mm > hole - 2.0 * PASSES_BY_MM:
        return "Ø {has} does not pass the hole, Ø {hole}.", {"has": tool.diameter_mm, "hole": hole}
    aside = _offset(operation, hole, tool)
    if aside + tool.behind_flutes_mm / 2.0 > hole / 2.0:
        return "Moved {aside} aside, its neck of Ø {neck} meets the wall of the hole.", {
            "aside": aside,
            "neck": tool.behind_flutes_mm,
        }
    return None


def _words(op: OperationFacts[BackChamfer], facts: PlanFacts) -> Named:
    count, size = wording.places_of(op), {"s": op.operation.size_mm}
    return wording.named(op, f"{{s}} on {count} holes" if count > 1 else "{s}", size)


KINDS = {
    "back_chamfer": Kind(
        "chamfer",
        frozenset({"undercut_mill"}),
        _work,
        _path,
        removed=_removed,
        words=_words,
        unsuited=_does_not_pass,
        diameter=_diameter,
        carried=True,
        edge=True,
    ),
}
