"""Slots: at the tool's own width, or by a smaller one down the middle and along both walls, or in
loops from wall to wall.
"""

from __future__ import annotations

from math import hypot, pi

import numpy as np
from shapely import LineString, unary_union

from machining.cutting import entry
from machining.geometry.regions import Region, grown
from machining.geometry.solids import Solid
from machining.motion.path import Leg, Path, Pen
from machining.motion.paths import areas
from machining.motion.paths.cleared import Level
from machining.motion.paths.entries import Entry
from machining.motion.paths.slots import along_slot, walls_beside
from machining.plan.operation import CutOut, Slot
from machining.plan.places import Drawn, Lines, OnFeatures, Rectangle
from machining.quantities.computed import Given
from machining.quantities.errors import OutOfRange
from machining.world.tool import ROUGHS_SIDES, Tool

from .. import forces, metal, size
from ..context import PlanFacts, Ready
from ..place import Work, pocket_area
from ..removed import down_to_floor
from .base import Ground, Kind, Unsuited, heights
from .sides import PASSES, clears_open, no_deeper
from .undercut import beside

Spot = tuple[float, float]
Ends = tuple[Spot, Spot]
SAME_MM, NO_SLOT = 1e-3, "straight and longer than it is wide"
LEAST_MM = 0.5  # half a tool that is not chosen yet
LOOP_SHARE = 0.1  # of the tool a loop is wide
OUT_MM, FREE_SHARE = 1.0, 0.9  # past an open end, and of its width that must be free there
LEAST_ASIDE = {"walls": 0.03, "loops": 0.15}  # of the tool, from the middle to where it goes
LAP_MM = 0.1  # of passes side by side
FINE_MM = 0.005  # of lines drawn elsewhere
STRAIGHT = 0.01  # of its area, by which a slot may miss its straight shape


def _typed_line(on: Rectangle) -> tuple[Ends, float]:
    """The same of a typed rectangle, whatever its corners."""
    long, short = max(on.length_mm, on.width_mm), min(on.length_mm, on.width_mm)
    if long - short < SAME_MM:
        raise OutOfRange("slot", f"{long:g} by {short:g}", NO_SLOT)
    half = (long - short) / 2.0
    dx, dy = (half, 0.0) if on.length_mm > on.width_mm else (0.0, half)
    return ((on.x_mm - dx, on.y_mm - dy), (on.x_mm + dx, on.y_mm + dy)), short


def _middle_line(region: Region) -> tuple[Ends, float]:
    """The ends of a straight slot's middle line, and its width (mm). Raises OutOfRange for what is
    no straight slot.
    """
    corners = np.array(region.minimum_rotated_rectangle.exterior.coords)[:4]  # type: ignore[attr-defined]
    sides = [corners[1] - corners[0], corners[2] - corners[1]]
    long, short = sorted(sides, key=lambda side: -float(np.hypot(*side)))
    length, width = float(np.hypot(*long)), float(np.hypot(*short))
    middle, half = corners.mean(axis=0), long / length * (length - width) / 2.0
    (ax, ay), (bx, by) = middle - half, middle + half
    ends = ((float(ax), float(ay)), (float(bx), float(by)))
    swept = LineString(ends).buffer(width / 2.0)
    square_corners = width**2 * (1.0 - pi / 4.0)
    missed = float(region.difference(swept).area) - square_corners
    if (
        length - width < SAME_MM
        or max(missed, float(swept.difference(region).area)) > STRAIGHT * swept.area
    ):
        raise OutOfRange("slot", "another shape", NO_SLOT)
    return ends, width


def _work(operation: Slot, ground: Ground) -> Work:
    on = operation.on
    if isinstance(on, Lines | Drawn):
        return _along_lines(operation, on, ground)
    assert isinstance(on, OnFeatures | Rectangle)
    area = pocket_area(on, ground.lie, ground.geometry)
    ends, width = _typed_line(on) if isinstance(on, Rectangle) else _middle_line(area.region)
    if not area.closed:
        ends = _out_of_open(ends, width, ground.stands_over(area.upright))
    return Work(
        region=LineString(ends).buffer(_half(operation, width, ground)),
        top=area.top,
        floor=area.floor,
        wall_height=area.top - area.floor,
        corner_radius=area.corner,
        lines=(tuple((x, y, area.floor) for x, y in ends),),
        across=width,
    )


def _half(operation: Slot, width: float, ground: Ground) -> float:
    """Half of what is cut of its width, mm."""
    if operation.cuts == "width":
        return ground.radius or width / 2.0
    if width / 2.0 - operation.leave_mm < SAME_MM:
        raise OutOfRange("leave_mm", operation.leave_mm, f"less than half of the slot, {width:g}")
    return width / 2.0 - operation.leave_mm


def _out_of_open(ends: Ends, width: float, walls: Region) -> Ends:
    """Ends with no wall beyond go on until all of the tool is out: else its round stays there."""
    (ax, ay), (bx, by) = ends
    length = hypot(bx - ax, by - ay)
    out_x, out_y = ((b - a) / length * (width + OUT_MM) for a, b in ((ax, bx), (ay, by)))
    before, after = (ax - out_x, ay - out_y), (bx + out_x, by + out_y)
    free = [
        not LineString(way).buffer(FREE_SHARE * width / 2.0).intersects(walls)
        for way in ((ends[0], before), (ends[1], after))
    ]
    return (before if free[0] else ends[0], after if free[1] else ends[1])


def _along_lines(operation: Slot, on: Lines | Drawn, ground: Ground) -> Work:
    """On the lines, or beside them by half the tool."""
    if operation.depth_mm is None:
        raise OutOfRange("depth_mm", "left out", "given: lines have no depth of their own")
    floor = on.top_mm - operation.depth_mm
    across = operation.width_mm or 2.0 * (ground.radius or LEAST_MM)
    lines = [
        line if operation.runs == "on" else tuple(beside(line, on.tool_side, across / 2.0))
        for line in on.placed
    ]
    half = _half(operation, across, ground)
    return Work(
        region=unary_union([LineString(line).simplify(FINE_MM).buffer(half) for line in lines]),
        top=on.top_mm,
        floor=floor,
        wall_height=operation.depth_mm,
        lines=tuple(tuple((x, y, floor) for x, y in line) for line in lines),
        across=across,
    )


def _removed(operation: Slot, work: Work, ground: Ground) -> Solid | None:
    return down_to_floor(work, work.region)


def _path(op: Ready[Slot], facts: PlanFacts) -> Path:
    if op.work.is_thin:
        return Path()
    kind, work, radius = op.operation, op.work, op.tool.diameter_mm / 2.0
    if kind.cuts == "loops":
        reach = grown(work.region, -radius)
        return clears_open(op, facts, reach, _width(op), Entry("ramp", kind.ramp_deg))
    near, retract = heights(op, facts)
    levels = areas.levels(work.top, work.floor, kind.step_down_mm)
    legs = list[Leg]()
    for each in work.lines:
        line, pen = [(x, y) for x, y, _ in each], Pen(retract, work.top + near)
        along_slot(pen, line, work.top, levels, kind.ramp_deg)
        if kind.cuts == "walls":
            away = grown(LineString(line), _aside(kind, work, op.tool))
            walls_beside(pen, areas.contours_of(away, inside=True), line, levels)
        legs += pen.path().legs
    return Path(tuple(legs))


def _aside(operation: Slot, work: Work, tool: Tool) -> float:
    """From its middle to where the tool's middle goes along a wall, mm."""
    return (work.across - tool.diameter_mm) / 2.0 - operation.leave_mm


def _metal(op: Ready[Slot]) -> tuple[Level, ...]:
    kind, work = op.operation, op.work
    if work.is_thin or kind.cuts != "loops":
        return ()
    levels = areas.levels(work.top, work.floor, kind.step_down_mm)
    return metal.levels(op.before, work.region, work.top, levels)


def _width(op: Ready[Slot]) -> float:
    if op.operation.cuts != "loops":
        return op.tool.diameter_mm
    return min(op.operation.step_over_mm or LOOP_SHARE * op.tool.diameter_mm, op.tool.diameter_mm)


def _size(op: Ready[Slot], facts: PlanFacts) -> None:
    kind = op.operation
    if kind.cuts == "width":
        size.pulled_in_slot(op, facts)
    else:
        aside = _aside(kind, op.work, op.tool) if kind.cuts == "walls" else None
        size.roughed_wall(op, facts, aside)


def _forces(op: Ready[Slot], facts: PlanFacts) -> None:
    forces.side_cut(op, facts, no_deeper(op, op.operation.step_down_mm), _width(op))


def ramped(op: Ready[Slot] | Ready[CutOut], facts: PlanFacts) -> None:
    """The figure ramp_length of what goes down on a slope along its line."""
    if op.work.top > op.work.floor:
        op.work_out(
            entry.ramp_length,
            "ramp_length",
            depth=Given(no_deeper(op, op.operation.step_down_mm)),
            ramp=Given(op.operation.ramp_deg),
        )


def _unsuited(operation: Slot, work: Work, tool: Tool) -> Unsuited | None:
    has, wanted = tool.diameter_mm, work.across
    if operation.cuts != "width":
        return _too_wide_or_narrow(operation, work, tool)
    if has > wanted + 1e-6:
        return "Ø {has} is wider than the slot, {wanted}.", {"has": has, "wanted": wanted}
    if has < size.SLOT_SHARE * wanted:
        return "Ø {has} leaves a part of the slot, {wanted} wide; one of its width cuts it.", {
            "has": has,
            "wanted": wanted,
        }
    return None


def _too_wide_or_narrow(operation: Slot, work: Work, tool: Tool) -> Unsuited | None:
    has, wanted, aside = tool.diameter_mm, work.across, _aside(operation, work, tool)
    if aside < LEAST_ASIDE[operation.cuts] * has:
        return "Ø {has} has too little room beside the middle of the slot, {wanted} wide.", {
            "has": has,
            "wanted": wanted,
        }
    if operation.cuts == "walls" and aside > has - LAP_MM:
        return (
            "Ø {has} leaves a rib between the middle and the walls of the slot, {wanted} wide.",
            {
                "has": has,
                "wanted": wanted,
            },
        )
    return None


def _no_trace(operation: Slot) -> frozenset[str]:
    return PASSES


KINDS = {
    "slot": Kind(
        "rough",
        ROUGHS_SIDES - {"high_feed_mill"},
        _work,
        _path,
        _forces,
        _removed,
        _size,
        ramped,
        unsuited=_unsuited,
        width=_width,
        metal=_metal,
        no_stock=PASSES | {"step_over_mm"},
        no_trace=_no_trace,
        carried=True,
        covers_region=True,
        roughs=True,
        roughs_walls=True,
    ),
}
