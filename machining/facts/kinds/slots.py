"""Straight slots cut at the tool's own width."""

from __future__ import annotations

from math import pi

import numpy as np
from shapely import LineString, unary_union

from machining.cutting import entry
from machining.geometry.regions import Region
from machining.geometry.solids import Solid
from machining.motion.path import Path
from machining.motion.paths import areas
from machining.motion.paths.slots import along_slot
from machining.plan.operation import Slot
from machining.plan.places import Drawn, Lines, OnFeatures, Rectangle
from machining.quantities.computed import Given
from machining.quantities.errors import OutOfRange
from machining.world.tool import ROUGHS_SIDES, Tool

from .. import forces, size
from ..context import PlanFacts, Ready
from ..place import Work, pocket_area
from ..removed import down_to_floor
from .base import Ground, Kind, Unsuited, heights
from .sides import PASSES, no_deeper
from .undercut import beside

Spot = tuple[float, float]
Ends = tuple[Spot, Spot]
SAME_MM, NO_SLOT = 1e-3, "straight and longer than it is wide"
LEAST_MM = 0.5  # half a tool that is not chosen yet
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
    radius = ground.radius or width / 2.0
    return Work(
        region=LineString(ends).buffer(radius),
        top=area.top,
        floor=area.floor,
        wall_height=area.top - area.floor,
        corner_radius=area.corner,
        lines=(tuple((x, y, area.floor) for x, y in ends),),
        across=width,
    )


def _along_lines(operation: Slot, on: Lines | Drawn, ground: Ground) -> Work:
    """On the lines, or beside them by half the tool."""
    if operation.depth_mm is None:
        raise OutOfRange("depth_mm", "left out", "given: lines have no depth of their own")
    radius, floor = ground.radius or LEAST_MM, on.top_mm - operation.depth_mm
    lines = [
        line if operation.runs == "on" else tuple(beside(line, on.tool_side, radius))
        for line in on.placed
    ]
    return Work(
        region=unary_union([LineString(line).buffer(radius) for line in lines]),
        top=on.top_mm,
        floor=floor,
        wall_height=operation.depth_mm,
        lines=tuple(tuple((x, y, floor) for x, y in line) for line in lines),
        across=2.0 * radius,
    )


def _removed(operation: Slot, work: Work, ground: Ground) -> Solid | None:
    return down_to_floor(work, work.region)


def _path(op: Ready[Slot], facts: PlanFacts) -> Path:
    near, retract = heights(op, facts)
    if op.work.is_thin:
        return Path()
    kind, work = op.operation, op.work
    levels = areas.levels(work.top, work.floor, kind.step_down_mm)
    legs = [
        leg
        for line in work.lines
        for leg in along_slot(
            [(x, y) for x, y, _ in line], work.top, levels, kind.ramp_deg, work.top + near, retract
        ).legs
    ]
    return Path(tuple(legs))


def _width(op: Ready[Slot]) -> float:
    return op.tool.diameter_mm


def _forces(op: Ready[Slot], facts: PlanFacts) -> None:
    forces.side_cut(op, facts, no_deeper(op, op.operation.step_down_mm), _width(op))


def _worked(op: Ready[Slot], facts: PlanFacts) -> None:
    if op.work.top > op.work.floor:
        op.work_out(
            entry.ramp_length,
            "ramp_length",
            depth=Given(no_deeper(op, op.operation.step_down_mm)),
            ramp=Given(op.operation.ramp_deg),
        )


def _unsuited(operation: Slot, work: Work, tool: Tool) -> Unsuited | None:
    has, wanted = tool.diameter_mm, work.across
    if has > wanted + 1e-6:
        return "Ø {has} is wider than the slot, {wanted}.", {"has": has, "wanted": wanted}
    if has < size.SLOT_SHARE * wanted:
        return "Ø {has} leaves a part of the slot, {wanted} wide; one of its width cuts it.", {
            "has": has,
            "wanted": wanted,
        }
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
        size.pulled_in_slot,
        _worked,
        unsuited=_unsuited,
        width=_width,
        no_stock=PASSES,
        no_trace=_no_trace,
        carried=True,
        covers_region=True,
        roughs=True,
        roughs_walls=True,
    ),
}
