"""What edges lose: chamfers, slopes and rounds, as solids."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from math import ceil, cos, pi, sin

import numpy as np
from shapely import LineString, Polygon, box
from shapely.geometry.polygon import orient

from machining.geometry.edges import drawn_along
from machining.geometry.frames import Vector
from machining.geometry.regions import Region, grown, polygons_of
from machining.geometry.solids import Solid, from_mesh, joined, prism
from machining.plan.places import Drawn, Lines
from machining.world.tool import Tool

OUT_MM, OVER_MM = 0.2, 0.05  # into the air beside and over an edge
ARC_STEPS = 8
FAR_MM = 1e3
FINE_MM = 0.005  # of an outline
SLICE_MM = 0.05  # of an edge that bends too sharply to be drawn along
Section = list[tuple[float, float]]


def sloped(wide: float, high: float) -> Section:
    """What a slope takes of an edge: so wide from above, so high from the side (mm)."""
    return [
        (-wide - OVER_MM * wide / high, OVER_MM),
        (0.0, -high),
        (OUT_MM, -high),
        (OUT_MM, OVER_MM),
    ]


def rounded(radius: float) -> Section:
    """What a round takes of an edge, mm."""
    turns = [pi / 2.0 * k / ARC_STEPS for k in range(ARC_STEPS + 1)]
    arc = [(radius * (sin(turn) - 1.0), radius * (cos(turn) - 1.0)) for turn in turns]
    return [(-radius, OVER_MM), *arc, (OUT_MM, -radius), (OUT_MM, OVER_MM)]


def shares(corner: Section, tool: Tool, places: Sequence[tuple[float, float]]) -> list[float]:
    """What each pass of a round-nosed tool takes of a corner's section (mm²), of what the passes
    before have left: its middle so far outside the wall, its tip so far under the face (mm).
    """
    nose, radius = tool.corner_radius_mm, tool.diameter_mm / 2.0
    left, found = Polygon(corner), []
    for away, tip in places:
        middles = LineString(
            [(away - radius + nose, tip + nose), (away + radius - nose, tip + nose)]
        )
        shank = box(away - radius, tip + nose, away + radius, tip + FAR_MM)
        swept = middles.buffer(nose, quad_segs=8 * ARC_STEPS).union(shank)
        found.append(float(left.intersection(swept).area))
        left = left.difference(swept)
    return found


def off_region(region: Region, inside: bool, section: Section, top: float) -> Solid:
    """Taken off all round a region of material at its top (mm), or round a pocket from within."""
    taken = []
    for polygon in polygons_of(region.simplify(FINE_MM)):
        whole = orient(polygon, -1.0 if inside else 1.0)
        for ring in (whole.exterior, *whole.interiors):
            taken.append(_off(np.asarray(ring.coords)[:, :2], section, top))
    return joined(taken)


def off_lines(on: Lines | Drawn, section: Section) -> Solid:
    """Taken off beside typed lines, where the tool stands."""
    lines = (np.asarray(LineString(line).simplify(FINE_MM).coords) for line in on.placed)
    right = (line if on.tool_side == "right" else line[::-1] for line in lines)
    return joined([_off(line, section, on.top_mm) for line in right])


def _off(line: Vector, section: Section, top: float) -> Solid:
    mesh = drawn_along(line, section, top)
    if mesh is not None:
        return from_mesh(mesh)
    if len(line) > 3 and (line[0] == line[-1]).all():
        return joined(list(_slices(line, section, top)))
    straight = (drawn_along(line[k : k + 2], section, top) for k in range(len(line) - 1))
    return joined([from_mesh(each) for each in straight if each is not None])


def _slices(line: Vector, section: Section, top: float) -> Iterator[Solid]:
    """The same in steps, where a ring bends more sharply than its edge is wide."""
    ring = Polygon(line)
    side = 1.0 if ring.exterior.is_ccw else -1.0
    deep = min(height for _, height in section)
    count = ceil((OVER_MM - deep) / SLICE_MM)
    heights = np.linspace(deep, OVER_MM, count + 1)
    for low, high in zip(heights[:-1], heights[1:], strict=True):
        across = _across((low + high) / 2.0, section)
        edges = [grown(ring, side * each).simplify(SLICE_MM / 4.0) for each in (OUT_MM, across)]
        outer, inner = edges if side > 0 else reversed(edges)
        yield prism(outer.difference(inner), top + float(low), top + float(high))


def _across(height: float, section: Sequence[tuple[float, float]]) -> float:
    """How far to the right the section begins at a height."""
    return min(
        a + (b - a) * (height - low) / (high - low)
        for (a, low), (b, high) in zip(section, [*section[1:], section[0]], strict=True)
        if min(low, high) <= height <= max(low, high) and low != high
    )
