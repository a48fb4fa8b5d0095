"""Paths over regions: raster, rings round the part, rings out of a pocket, one contour
along walls.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from math import ceil, pi
from typing import Literal

import numpy as np
from shapely import LineString, MultiLineString, Point, Polygon, distance, points, unary_union
from shapely.geometry.base import BaseGeometry
from shapely.geometry.polygon import orient
from shapely.ops import linemerge

from machining.geometry.frames import Vector
from machining.geometry.regions import Region, grown, polygons_of
from machining.motion.path import Path, Pen
from machining.quantities.errors import OutOfRange

from .entries import Entry, down_at, down_ring

RUN_IN_MM = 2.0
LEAST_LEAD_MM = 0.2
LAP_MM = 0.2  # of the last line of a raster over its region
MOST_PASSES = 1000
SMOOTH_MM = 0.01
BESIDE_MM = 0.05  # of a wall: what chords of contours are off
MIDDLE = 0.9  # of the radius in from the last ring, for what stands in the middle
SWEPT_MM, SWEPT_STEPS = 0.03, 24  # what facets of a round may lie inside of it


def counted(field: str, step: float, passes: float, most: int = MOST_PASSES) -> int:
    """Whole passes, at least one. Raises OutOfRange for a step so small that nobody would wait for
    them.
    """
    if passes > most:
        raise OutOfRange(
            field,
            f"{step:g}",
            f"at least {step * passes / most:.3g}, for {most} passes or fewer",
        )
    return max(1, ceil(passes - 1e-9))


def bearable(beside: int, heights: Sequence[float], most: int = 5 * MOST_PASSES) -> None:
    """Raises OutOfRange for passes beside and below one another that are too many together."""
    if beside * len(heights) > most:
        raise OutOfRange(
            "passes", beside * len(heights), f"{most} or fewer in all; take larger steps"
        )


def levels(top: float, floor: float, step_down: float, field: str = "step_down_mm") -> list[float]:
    """Heights of the passes, equal steps no larger than asked in ``field``, the last on
    the floor.
    """
    count = counted(field, step_down, (top - floor) / step_down)
    return [top - (top - floor) * k / count for k in range(1, count + 1)]


def raster(
    region: Region,
    radius: float,
    step_over: float,
    heights: Sequence[float],
    near: float,
    retract: float,
    one_way: bool = False,
    towards: str = "",
) -> Path:
    """One line per step ``towards`` x+, x-, y+ or y-, else along the longer side, the tool clear of
    the work at both ends: back and forth, or always the same way.
    """
    pen = Pen(retract, near)
    x0, y0, x1, y1 = region.bounds
    swap = (towards or runs(region)).startswith("y")
    if swap:
        x0, y0, x1, y1 = y0, x0, y1, x1
    lines = counted("step_over_mm", step_over, (y1 - y0) / step_over)
    bearable(lines, heights)
    # the first takes no more than the others: what it is wider, it is beside the work
    pitch, first = (y1 - y0) / lines, y0 + LAP_MM - radius
    rows = [first + pitch * k for k in range(1, lines + 1)] if lines > 1 else [(y0 + y1) / 2.0]
    ends = (x0 - radius - RUN_IN_MM, x1 + radius + RUN_IN_MM)
    if towards.endswith("-"):
        ends = ends[::-1]
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


def runs(region: Region) -> Literal["x+", "y+"]:
    """Along the longer side of what is cut."""
    x0, y0, x1, y1 = region.bounds
    return "y+" if (y1 - y0) > (x1 - x0) else "x+"


def round_outside(
    kept: Region,
    stock: Region,
    radius: float,
    step_over: float,
    heights: Sequence[float],
    near: float,
    retract: float,
) -> Path:
    """Rings round what is kept, outermost first, cut only where they meet the stock."""
    rings = counted("step_over_mm", step_over, thickness_round(kept, stock) / step_over)
    bearable(rings, heights)
    meets = grown(stock, radius - SMOOTH_MM)
    pen = Pen(retract, near)
    runs = [
        run
        for k in range(rings - 1, -1, -1)
        for run in _runs(grown(kept, radius + k * step_over), meets)
    ]
    for z in heights:
        for run in runs:
            _cut_run(pen, run, z)
    return pen.path()


def thickness_round(kept: Region, stock: Region) -> float:
    """How far the stock stands over what is kept, at most."""
    corners = [p for polygon in polygons_of(stock) for p in polygon.exterior.coords]
    return (
        float(max(distance(kept, points(np.array(corners)[:, :2])), default=0.0))
        if corners
        else 0.0
    )


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


def out_of_pocket(
    region: Region,
    radius: float,
    step_over: float,
    top: float,
    heights: list[float],
    entry: Entry,
    near: float,
    retract: float,
) -> Path:
    """In plain rings: from the middle outwards, whatever each of them meets. Each level is entered
    anew. Raises OutOfRange where a helix finds no room.
    """
    pen = Pen(retract, near)
    at = top
    for z in heights:
        for polygon, rings in nested(grown(region, -radius), step_over, radius):
            if entry.by == "ramp":
                down_ring(pen, rings[0], at, z, entry.ramp_deg, near)
            else:
                down_at(pen, polygon, radius, at, z, entry, near)
            for ring in rings:
                pen.cut(np.column_stack([ring, np.full(len(ring), z)]))
        at = z
    return pen.path()


def nested(area: Region, step: float, radius: float) -> list[tuple[Polygon, list[Vector]]]:
    """Each separate island of tool-centre area with its rings from the inside out; where more than
    the radius would stand in the middle, one more that takes it.
    """
    islands = []
    for polygon in polygons_of(area):
        low_x, low_y, high_x, high_y = polygon.bounds
        counted("step_over_mm", step, min(high_x - low_x, high_y - low_y) / 2.0 / step)
        rings, k = [], 0
        while True:
            inner = polygon.buffer(-k * step)
            parts = polygons_of(inner)
            if not parts:
                last = (k - 1) * step
                if not polygon.buffer(-last - radius).is_empty:
                    within = polygon.buffer(-last - MIDDLE * radius)
                    rings += [r for part in polygons_of(within) for r in contours_of(part, True)]
                break
            rings += [ring for part in parts for ring in contours_of(part, inside=True)]
            k += 1
        if rings:
            islands.append((polygon, rings[::-1]))
    return islands


def swept(lines: Iterable[Vector], radius: float) -> Region:
    """What a tool sweeps along lines (n, 2), in plan (mm)."""
    found = [LineString(line).buffer(radius + SWEPT_MM, quad_segs=SWEPT_STEPS) for line in lines]
    return unary_union(found)


Lead = Literal["straight", "angle", "arc"]


def along_walls(
    contours: Iterable[Vector],
    heights: list[float],
    passes: int,
    near: float,
    retract: float,
    lead: Lead = "straight",
    free: Callable[[float, float], bool] | None = None,
    reach: float = 0.0,
) -> Path:
    """Once round each contour and height, and again for each further pass. A lead comes in and goes
    out within ``reach`` of the wall (mm), at 45° or on an arc that touches it, as far as the tool's
    middle stays where it is ``free``.
    """
    pen = Pen(retract, near)
    led = (
        [_with_lead(contour, lead, free, reach) for contour in contours]
        if lead != "straight" and free is not None
        else [(None, contour, None) for contour in contours]
    )
    for z in heights:
        for before, contour, after in led:
            ring = np.column_stack([contour, np.full(len(contour), z)])
            closed = bool(np.allclose(contour[0], contour[-1]))
            pen.go_to(*(contour if before is None else before)[0])
            pen.plunge(z)
            if before is not None:
                pen.cut(np.column_stack([before, np.full(len(before), z)]))
            for k in range(passes):
                if k and not closed:
                    pen.go_to(*contour[0])
                    pen.plunge(z)
                pen.cut(ring)
            if after is not None:
                pen.cut(np.column_stack([after, np.full(len(after), z)]))
    return pen.path()


def _with_lead(
    contour: Vector, lead: Lead, free: Callable[[float, float], bool], reach: float
) -> tuple[Vector | None, Vector, Vector | None]:
    """The ring begun in the middle of its longest side, with the way in and the way out; None where
    there is no room.
    """
    if not np.allclose(contour[0], contour[-1]):
        return None, contour, None  # it begins and ends in the open
    k = int(np.argmax(np.linalg.norm(np.diff(contour, axis=0), axis=1)))
    start, end = contour[k], contour[k + 1]
    middle, along = (
        (start + end) / 2.0,
        (end - start) / max(float(np.linalg.norm(end - start)), 1e-9),
    )
    ring = np.concatenate([[middle], contour[k + 1 : -1], contour[: k + 1], [middle]])
    for side in (np.array([-along[1], along[0]]), np.array([along[1], -along[0]])):
        if not free(*(middle + 0.01 * side)):
            continue
        for radius in (reach, reach / 2.0, reach / 4.0):
            turn = np.linspace(0.0, pi / 2.0, 9) if lead == "arc" else np.array([0.0, pi / 2.0])
            way = np.array(
                [
                    middle + radius * (1.0 - np.sin(a)) * side - radius * np.cos(a) * along
                    for a in turn
                ]
            )
            if radius > LEAST_LEAD_MM and all(free(*spot) for spot in way[:-1]):
                return (
                    way,
                    ring,
                    np.array(
                        [
                            2.0 * middle + 2.0 * side * (spot - middle).dot(side) - spot
                            for spot in way[::-1]
                        ]
                    ),
                )
    return None, ring, None


def beside(contours: Iterable[Vector], walls: Region, away: float) -> list[Vector]:
    """What of contours (n, 2) runs beside walls, so far away (mm), in the sense they have."""
    zone, found = walls.buffer(away + BESIDE_MM), list[Vector]()
    for contour in contours:
        ring = LineString(contour)
        if zone.covers(ring):
            found.append(contour)
            continue
        pieces = [_as_along(piece, ring) for piece in _lines_of(ring.intersection(zone))]
        pieces.sort(key=lambda piece: float(ring.project(Point(piece[0]))))
        if len(pieces) > 1 and np.allclose(pieces[-1][-1], pieces[0][0], atol=1e-6):
            pieces[0] = np.vstack([pieces.pop(), pieces[0][1:]])
        found += pieces
    return found


def _lines_of(cut: BaseGeometry) -> list[LineString]:
    if isinstance(cut, MultiLineString):
        cut = linemerge(cut)
    parts = getattr(cut, "geoms", [cut])
    return [part for part in parts if isinstance(part, LineString) and part.length > SMOOTH_MM]


def _as_along(piece: LineString, ring: LineString) -> Vector:
    corners = np.asarray(piece.coords)[:, :2]
    middle = 0.5 * (corners[0] + corners[1])
    backwards = ring.project(Point(middle)) < ring.project(Point(corners[0]))
    return corners[::-1] if backwards else corners


def contours_of(area: Region, inside: bool = False) -> list[Vector]:
    """Round what a tool keeps out of, or stays ``inside`` of: the work to its right."""
    return [
        np.asarray(LineString(ring.coords).simplify(SMOOTH_MM).coords)[:, :2]
        for p in polygons_of(area)
        for p in (orient(p, 1.0 if inside else -1.0),)
        for ring in (p.exterior, *p.interiors)
    ]
