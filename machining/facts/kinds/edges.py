"""Outside edges: rounded, or sloped at any angle; by a form tool in one pass, by a ball or bull
nose in many.
"""

from __future__ import annotations

from dataclasses import replace
from math import cos, pi, radians, sin, tan

import numpy as np

from machining.cutting import finish, pointed
from machining.cutting.slope_methods import SAME_DEG, TIP_BELOW_MM
from machining.geometry.regions import Region, grown
from machining.geometry.solids import Solid
from machining.motion.path import Path
from machining.motion.paths import lines
from machining.motion.paths.areas import contours_of
from machining.plan.operation import RoundEdge, Slope
from machining.plan.places import Drawn, Lines
from machining.quantities.computed import Given, Value
from machining.world.tool import Tool

from .. import forces, wording
from ..context import OperationFacts, PlanFacts, Ready
from ..place import Line, Work
from ..wording import Named
from . import bevels
from .base import Ground, Kind, Unsuited, cone_of, cone_radius, heights
from .undercut import beside

SAME_MM = 0.01
ARC_POINTS = 65
_BALLS = frozenset({"end_mill"})


def _edges(operation: RoundEdge | Slope, ground: Ground, away: float, z: float) -> list[Line]:
    """Lines (mm) the tool's middle follows beside every edge, at a height of its tip."""
    on = operation.on
    if isinstance(on, Lines | Drawn):
        return [tuple((x, y, z) for x, y in beside(line, on.tool_side, away)) for line in on.placed]
    return [
        tuple((float(x), float(y), z) for x, y in contour)
        for contour in contours_of(grown(_outline(operation, ground), away))
    ]


def _top(operation: RoundEdge | Slope, ground: Ground) -> float:
    return (
        operation.on.top_mm
        if isinstance(operation.on, Lines | Drawn)
        else float(ground.lie.part_high[2])
    )


def _taken_off(operation: RoundEdge | Slope, section: bevels.Section, ground: Ground) -> Solid:
    if isinstance(operation.on, Lines | Drawn):
        return bevels.off_lines(operation.on, section)
    return bevels.off_region(_outline(operation, ground), False, section, _top(operation, ground))


def _outline(operation: RoundEdge | Slope, ground: Ground) -> Region:
    if isinstance(operation, RoundEdge):
        return ground.top_outline(operation.radius_mm)
    return ground.top_outline(operation.size_mm * tan(radians(operation.angle_deg)))


def _is_form(tool: Tool | None) -> bool:
    return tool is not None and tool.kind in ("corner_rounder", "chamfer_mill")


# -- rounding


def _round_places(operation: RoundEdge, tool: Tool | None) -> list[tuple[float, float]]:
    """Tool's middle outside the wall and its tip's height under the face (mm), for each pass."""
    r = operation.radius_mm
    if tool is None or tool.kind == "corner_rounder":
        return [(tool.tip_diameter_mm / 2.0 if tool else 0.0, -r)]
    ball, passes = tool.corner_radius_mm or tool.diameter_mm / 2.0, _round_count(operation, tool)
    found = []
    for k in range(passes):
        angle = radians(90.0 * (k + 0.5) / passes)
        found.append(
            (
                (r + ball) * sin(angle) - r + tool.diameter_mm / 2.0 - ball,
                (r + ball) * cos(angle) - r - ball,
            )
        )
    return found


def _round_count(operation: RoundEdge, tool: Tool) -> int:
    return int(
        finish.round_passes(
            operation.radius_mm, tool.corner_radius_mm or tool.diameter_mm / 2.0, operation.cusp_mm
        )
    )


def _round_work(operation: RoundEdge, ground: Ground) -> Work:
    top = _top(operation, ground)
    found = [
        line
        for away, z in _round_places(operation, ground.tool)
        for line in _edges(operation, ground, away, top + z)
    ]
    return Work(
        lines=tuple(found),
        top=top,
        floor=min(z for line in found for _, _, z in line),
        wall_height=operation.radius_mm,
    )


def _round_removed(operation: RoundEdge, work: Work, ground: Ground) -> Solid:
    return _taken_off(operation, bevels.rounded(operation.radius_mm), ground)


def _round_diameter(op: Ready[RoundEdge], facts: PlanFacts) -> Value:
    if op.tool.kind != "corner_rounder":
        op.work_out(
            finish.round_passes,
            "passes",
            corner_radius=Given(op.operation.radius_mm),
            ball_radius=op.of_tool("corner_radius_mm"),
            height=Given(op.operation.cusp_mm),
        )
    return op.of_tool("diameter_mm")


def _round_forces(op: Ready[RoundEdge], facts: PlanFacts) -> None:
    radius = op.operation.radius_mm
    op.seen = replace(op.seen, depth_mm=radius, width_mm=radius)
    forces.of_section(op, facts, _round_section(op))


def _round_section(op: Ready[RoundEdge]) -> float:
    """What a corner loses, r²·(1 − π/4): the largest share of a pass."""
    radius = op.operation.radius_mm
    if op.tool.kind == "corner_rounder":
        return radius**2 * (1.0 - pi / 4.0)
    turns = np.linspace(0.0, pi / 2.0, ARC_POINTS)
    arc = [(radius * (sin(turn) - 1.0), radius * (cos(turn) - 1.0)) for turn in turns]
    return max(bevels.shares([*arc, (0.0, 0.0)], op.tool, _round_places(op.operation, op.tool)))


def _round_unsuited(operation: RoundEdge, work: Work, tool: Tool) -> Unsuited | None:
    if tool.kind == "corner_rounder":
        if abs(tool.corner_radius_mm - operation.radius_mm) <= SAME_MM:
            return None
        return "It leaves a radius of {has}, not {wanted}.", {
            "has": tool.corner_radius_mm,
            "wanted": operation.radius_mm,
        }
    return (
        None
        if tool.corner_radius_mm > 0
        else ("A square end mill of Ø {has} can't round an edge.", {"has": tool.diameter_mm})
    )


# -- slopes


def _slope_places(operation: Slope, tool: Tool | None) -> list[tuple[float, float]]:
    beta = radians(operation.angle_deg)
    high = operation.size_mm * tan(beta)
    if tool is None or tool.kind == "chamfer_mill":
        return [(cone_radius(tool, TIP_BELOW_MM), -high - TIP_BELOW_MM)]
    nose, passes = tool.corner_radius_mm, _slope_count(operation, tool)
    found = []
    for k in range(passes):
        along = (k + 0.5) / passes
        across, down = (
            -operation.size_mm * (1.0 - along) + nose * sin(beta),
            -high * along + nose * cos(beta),
        )
        found.append((across + tool.diameter_mm / 2.0 - nose, down - nose))
    return found


def _slope_count(operation: Slope, tool: Tool) -> int:
    if tool.corner_radius_mm <= 0:
        return 1
    step = finish.scallop_step(tool.corner_radius_mm, min(operation.cusp_mm, tool.corner_radius_mm))
    return int(
        finish.passes_of_step(pointed.slope_length(operation.size_mm, operation.angle_deg), step)
    )


def _slope_work(operation: Slope, ground: Ground) -> Work:
    top = _top(operation, ground)
    if operation.axes != "upright":  # the tip lies in the middle of the slope
        high = operation.size_mm * tan(radians(operation.angle_deg))
        middle = _edges(operation, ground, -operation.size_mm / 2.0, top - high / 2.0)
        return Work(lines=tuple(middle), top=top, floor=top - high, wall_height=high)
    found = [
        line
        for away, z in _slope_places(operation, ground.tool)
        for line in _edges(operation, ground, away, top + z)
    ]
    return Work(
        lines=tuple(found),
        top=top,
        floor=min(z for line in found for _, _, z in line),
        wall_height=operation.size_mm * tan(radians(operation.angle_deg)),
    )


def _slope_removed(operation: Slope, work: Work, ground: Ground) -> Solid:
    high = operation.size_mm * tan(radians(operation.angle_deg))
    return _taken_off(operation, bevels.sloped(operation.size_mm, high), ground)


def _slope_diameter(op: Ready, facts: PlanFacts) -> Value:
    kind, tool = op.operation, op.tool
    assert isinstance(kind, Slope) and tool is not None
    angle = Given(kind.angle_deg)
    length = op.work_out(
        pointed.slope_length, "slope_length", size=Given(kind.size_mm), surface_angle=angle
    )
    if kind.axes != "upright":
        return (
            Given((tool.tip_diameter_mm + tool.diameter_mm) / 2.0, "middle of its edge")
            if tool.kind == "chamfer_mill"
            else op.of_tool("diameter_mm")
        )
    if _is_form(tool):
        return Given(
            2.0 * cone_radius(tool, TIP_BELOW_MM + kind.size_mm * tan(radians(kind.angle_deg))),
            "top of the slope",
        )
    if tool.corner_radius_mm <= 0:
        return op.of_tool("diameter_mm")
    step = op.work_out(
        finish.scallop_step,
        "cusp_step",
        ball_radius=op.of_tool("corner_radius_mm"),
        height=Given(kind.cusp_mm),
    )
    op.work_out(finish.passes_of_step, "passes", length=length, step=step)
    return op.work_out(
        pointed.slope_contact_diameter,
        "cutting_diameter",
        diameter=op.of_tool("diameter_mm"),
        corner_radius=op.of_tool("corner_radius_mm"),
        surface_angle=angle,
    )


def _slope_forces(op: Ready[Slope], facts: PlanFacts) -> None:
    deep = op.operation.size_mm * tan(radians(op.operation.angle_deg))
    op.seen = replace(op.seen, depth_mm=deep, width_mm=op.operation.size_mm)
    forces.of_section(op, facts, _slope_section(op))


def _slope_section(op: Ready[Slope]) -> float:
    """The triangle a slope takes: the largest share of a pass."""
    kind, tool = op.operation, op.tool
    high = kind.size_mm * tan(radians(kind.angle_deg))
    if kind.axes != "upright" or _is_form(tool) or tool.corner_radius_mm <= 0:
        return kind.size_mm * high / 2.0
    corner = [(-kind.size_mm, 0.0), (0.0, -high), (0.0, 0.0)]
    return max(bevels.shares(corner, tool, _slope_places(kind, tool)))


def _slope_unsuited(operation: Slope, work: Work, tool: Tool) -> Unsuited | None:
    if operation.axes != "upright":
        has, wanted = (
            _tilted_reach(tool),
            pointed.slope_length(operation.size_mm, operation.angle_deg),
        )
        return (
            None
            if has >= wanted - 1e-9
            else (
                "Tilted, its edge reaches over {has}; the slope is {wanted}.",
                {"has": has, "wanted": wanted},
            )
        )
    if tool.kind != "chamfer_mill":
        return (
            None
            if tool.corner_radius_mm > 0
            else (
                "A square end mill of Ø {has} leaves steps, not a slope.",
                {"has": tool.diameter_mm},
            )
        )
    if abs(90.0 - cone_of(tool)[0] / 2.0 - operation.angle_deg) > SAME_DEG:
        return "Its edge lies at another angle than the slope; it would have to be tilted.", {}
    most, has = (
        cone_radius(tool, TIP_BELOW_MM + operation.size_mm * tan(radians(operation.angle_deg))),
        tool.diameter_mm / 2.0,
    )
    return (
        None
        if most <= has + 1e-9
        else (
            "Its edge ends at Ø {has}; the slope asks for Ø {wanted}.",
            {"has": 2.0 * has, "wanted": 2.0 * most},
        )
    )


def _tilted_reach(tool: Tool) -> float:
    """How wide a slope (mm) a tilted tool covers in one pass: an end mill's flat bottom, a chamfer
    mill's flank.
    """
    if tool.kind == "chamfer_mill":
        return (
            (tool.diameter_mm - tool.tip_diameter_mm) / 2.0 / sin(radians(cone_of(tool)[0] / 2.0))
        )
    return tool.diameter_mm - 2.0 * tool.corner_radius_mm


def _path(op: Ready, facts: PlanFacts) -> Path:
    near, retract = heights(op, facts)
    return lines.followed(op.work.lines, op.work.top + near, retract)


def _round_words(op: OperationFacts[RoundEdge], facts: PlanFacts) -> Named:
    return wording.named(op, "R {r}", {"r": op.operation.radius_mm})


def _slope_words(op: OperationFacts[Slope], facts: PlanFacts) -> Named:
    return wording.named(op, f"{{s}} at {op.operation.angle_deg:g}°", {"s": op.operation.size_mm})


KINDS = {
    "round_edge": Kind(
        "chamfer",
        _BALLS | {"corner_rounder"},
        _round_work,
        _path,
        _round_forces,
        _round_removed,
        words=_round_words,
        unsuited=_round_unsuited,
        diameter=_round_diameter,
        section=_round_section,
        in_mouth=True,
        carried=True,
        edge=True,
    ),
    "slope": Kind(
        "chamfer",
        _BALLS | {"chamfer_mill"},
        _slope_work,
        _path,
        _slope_forces,
        _slope_removed,
        words=_slope_words,
        unsuited=_slope_unsuited,
        diameter=_slope_diameter,
        section=_slope_section,
        in_mouth=True,
        carried=True,
        edge=True,
        bench="slope-methods",
    ),
}
