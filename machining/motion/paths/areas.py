"""Paths over regions: raster, rings round the part, rings out of a pocket, one contour along walls."""

from __future__ import annotations

from collections.abc import Iterable
from math import ceil, radians, tan

import numpy as np
from shapely import LineString, MultiLineString, distance, points
from shapely.geometry.base import BaseGeometry
from shapely.ops import linemerge

from machining.geometry.frames import Vector
from machining.geometry.regions import Region, grown, polygons_of
from machining.motion.path import Path, Pen

RUN_IN_MM = 2.0
SMOOTH_MM = 0.01


def levels(top: float, floor: float, step_down: float) -> list[float]:
    """Heights of the passes, equal steps no larger than asked, the last on the floor."""
    count = max(1, ceil((top - floor) / step_down - 1e-9))
    return [top - (top - floor) * k / count for k in range(1, count + 1)]


def raster(region: Region, radius: float, step_over: float, heights: Iterable[float], near: float, retract: float, one_way: bool = False) -> Path:
    """Along the longer side, one line per step, the tool clear of the work at both ends: back and forth, or always the same way."""
    pen = Pen(retract, near)
    x0, y0, x1, y1 = region.bounds
    swap = (y1 - y0) > (x1 - x0)
    if swap:
        x0, y0, x1, y1 = y0, x0, y1, x1
    lines = max(1, ceil((y1 - y0) / step_over - 1e-9))
    middle, pitch = (y0 + y1) / 2.0, (y1 - y0) / lines
    rows = [middle + pitch * (k - (lines - 1) / 2.0) for k in range(lines)]
    ends = (x0 - radius - RUN_IN_MM, x1 + radius + RUN_IN_MM)
    for z in heights:
        for k, y in enumerate(rows):
            run = [(x, y) for x in (ends if one_way or k % 2 == 0 else ends[::-1])]
            flat = np.array([(b, a, z) if swap else (a, b, z) for a, b in run])
            if k and not one_way:
                pen.link(flat[:1])
            else:
                pen.go_to(*flat[0, :2])
                pen.plunge(z)
            pen.cut(flat[1:])
    return pen.path()


def round_outside(kept: Region, stock: Region, radius: float, step_over: float, heights: Iterable[float], near: float, retract: float) -> Path:
    """Rings round what is kept, outermost first, cut only where they meet the stock."""
    rings = max(1, ceil(thickness_round(kept, stock) / step_over - 1e-9))
    meets = grown(stock, radius - SMOOTH_MM)
    pen = Pen(retract, near)
    runs = [run for k in range(rings - 1, -1, -1) for run in _runs(grown(kept, radius + k * step_over), meets)]
    for z in heights:
        for run in runs:
            _cut_run(pen, run, z)
    return pen.path()


def thickness_round(kept: Region, stock: Region) -> float:
    """How far the stock stands over what is kept, at most."""
    corners = [p for polygon in polygons_of(stock) for p in polygon.exterior.coords]
    return float(max(distance(kept, points(np.array(corners)[:, :2])), default=0.0)) if corners else 0.0


def _runs(centre_area: Region, meets: BaseGeometry) -> list[Vector]:
    found = []
    for polygon in polygons_of(centre_area):
        ring = LineString(polygon.exterior.coords).simplify(SMOOTH_MM)
        hit = ring.intersection(meets)
        merged = linemerge(hit) if isinstance(hit, MultiLineString) else hit
        for line in getattr(merged, "geoms", [merged]):
            if isinstance(line, LineString) and line.length > 0.05:
                found.append(np.asarray(line.coords)[:, :2])
    return found


def _cut_run(pen: Pen, run: Vector, z: float) -> None:
    pen.go_to(*run[0])
    pen.plunge(z)
    pen.cut(np.column_stack([run, np.full(len(run), z)]))


def out_of_pocket(region: Region, radius: float, step_over: float, top: float, heights: list[float], ramp_deg: float, near: float, retract: float) -> Path:
    """From the middle outwards in offset rings; each level is entered by a ramp along the innermost ring."""
    pen = Pen(retract, near)
    at = top
    for z in heights:
        for rings in _nested(grown(region, -radius), step_over):
            first = rings[0]
            pen.go_to(float(first[0][0]), float(first[0][1]), at + near)
            slope = max(at - z, 0.0) / tan(radians(ramp_deg))
            along = _along(first, slope, at, z)
            pen.cut(along)
            for ring in rings:
                pen.cut(np.column_stack([ring, np.full(len(ring), z)]))
        at = z
    return pen.path()


def _nested(area: Region, step: float) -> list[list[Vector]]:
    """For each separate island of tool-centre area: its rings from the inside out."""
    islands = []
    for polygon in polygons_of(area):
        rings, k = [], 0
        while True:
            inner = polygon.buffer(-k * step)
            parts = polygons_of(inner)
            if not parts:
                break
            for part in parts:
                for ring in (part.exterior, *part.interiors):
                    rings.append(np.asarray(LineString(ring.coords).simplify(SMOOTH_MM).coords)[:, :2])
            k += 1
        if rings:
            islands.append(rings[::-1])
    return islands


def _along(ring: Vector, length: float, z_from: float, z_to: float) -> Vector:
    """The corners passed when going round the ring for a length while falling evenly, and where that ends."""
    steps = np.linalg.norm(np.diff(ring, axis=0), axis=1)
    around = float(steps.sum())
    if around < 1e-6 or length <= 0:
        return np.array([[*ring[0], z_to]])
    corners = np.concatenate([[0.0], np.cumsum(steps)])
    turns = int(length // around)
    at = np.concatenate([k * around + corners[:-1] for k in range(turns + 1)])
    at = np.append(at[at < length - 1e-9], length)
    inside = np.mod(at, around)
    spots = np.column_stack([np.interp(inside, corners, ring[:, 0]), np.interp(inside, corners, ring[:, 1])])
    return np.column_stack([spots, z_from + (z_to - z_from) * at / length])


def along_walls(contours: Iterable[Vector], heights: list[float], passes: int, near: float, retract: float) -> Path:
    """Once round each contour and height, and again for each further pass, with a short run in and out."""
    pen = Pen(retract, near)
    for z in heights:
        for contour in contours:
            _cut_run(pen, contour, z)
            for _ in range(passes - 1):
                pen.cut(np.column_stack([contour, np.full(len(contour), z)]))
    return pen.path()


def contours_of(area: Region) -> list[Vector]:
    return [np.asarray(LineString(ring.coords).simplify(SMOOTH_MM).coords)[:, :2] for p in polygons_of(area) for ring in (p.exterior, *p.interiors)]
