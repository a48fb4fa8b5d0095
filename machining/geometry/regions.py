"""Plane regions (shapely), always in the setup frame's XY, mm."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TypeAlias

import numpy as np
from numpy.typing import NDArray
from shapely import (
    GEOSException,
    MultiPoint,
    MultiPolygon,
    Point,
    Polygon,
    STRtree,
    affinity,
    area,
    box,
    coverage_union_all,
    force_2d,
    make_valid,
    points,
    prepare,
)
from shapely.geometry.base import BaseGeometry
from shapely.ops import unary_union

Region: TypeAlias = BaseGeometry
ARC_STEPS = 12  # segments per quarter circle
CHORD_MM = 0.005
MISSED_MM, MISSED_SHARE = 0.03, 0.004  # as good as reached, and of a radius: chords of arcs
FINE_STEPS = 48
SAME_AREA = 1e-6


def rectangle(
    centre_x: float, centre_y: float, length_x: float, length_y: float, corner_radius: float = 0.0
) -> Region:
    half_x, half_y = length_x / 2, length_y / 2
    radius = min(max(corner_radius, 0.0), half_x, half_y)
    if radius == 0:
        return box(centre_x - half_x, centre_y - half_y, centre_x + half_x, centre_y + half_y)
    x, y = half_x - radius, half_y - radius  # of the middles of its corners
    middles = [(centre_x + a * x, centre_y + b * y) for a in (-1, 1) for b in (-1, 1)]
    return MultiPoint(middles).convex_hull.buffer(radius, quad_segs=ARC_STEPS)


def disc(x: float, y: float, radius: float) -> Region:
    return Point(x, y).buffer(radius, quad_segs=ARC_STEPS)


def grown(region: Region, by: float) -> Region:
    """Offset outwards (by > 0, round corners) or inwards."""
    return region.buffer(by, quad_segs=ARC_STEPS)


def opened(region: Region, radius: float) -> Region:
    """What a round tool of this radius can reach of the region."""
    return grown(grown(region, -radius), radius)


def asked_often(region: Region) -> Region:
    """A copy of its own that answers many questions fast. What answers them is built by the first
    ones, and that is not safe where two threads share a region: so never the region itself.
    """
    own: Region = force_2d(region)
    prepare(own)
    return own


def region_from_loops(loops: Sequence[NDArray[np.float64]]) -> Region:
    """The region of loops that don't cross: outer ones counter-clockwise, holes clockwise, islands
    in holes counter-clockwise again, and so on.
    """
    outers: list[Polygon] = []
    holes: list[Polygon] = []
    for loop in loops:
        if len(loop) < 3:
            continue
        x, y = loop[:, 0], loop[:, 1]
        (
            outers if float(np.dot(x, np.roll(y, -1)) - np.dot(y, np.roll(x, -1))) > 0 else holes
        ).append(Polygon(loop))
    return _nested(outers, holes)


def _nested(outers: list[Polygon], holes: list[Polygon]) -> Region:
    if not outers:
        return Polygon()
    islands = _lying_in(outers, holes)
    if len(islands) in (0, len(outers)):
        return unary_union(outers).difference(unary_union(holes))
    around = [each for k, each in enumerate(outers) if k not in islands]
    within = [outers[k] for k in sorted(islands)]
    theirs = [holes[k] for k in sorted(_lying_in(holes, within))]
    outside = unary_union(around).difference(unary_union(holes))
    return outside.union(_nested(within, theirs))


def _lying_in(these: list[Polygon], those: list[Polygon]) -> set[int]:
    """Which of these lie in one of those."""
    if not those:
        return set()
    starts = points([each.exterior.coords[0] for each in these])
    found, about = STRtree(those).query(starts, predicate="within")
    return {int(k) for k, n in zip(found, about, strict=True) if these[k].area < those[n].area}


def polygons_of(region: Region) -> list[Polygon]:
    if isinstance(region, Polygon):
        return [] if region.is_empty else [region]
    if isinstance(region, MultiPolygon):
        return [p for p in region.geoms if not p.is_empty]
    return [p for part in getattr(region, "geoms", ()) for p in polygons_of(part)]


def side_by_side(triangles: NDArray[np.object_]) -> Region:
    """Union of triangles that share their edges; of those that overlap too, which takes longer."""
    try:
        found: Region = coverage_union_all(triangles)
    except GEOSException:  # edges that do not meet in their ends
        return unary_union(triangles)
    found = found if found.is_valid else make_valid(found)
    whole = float(area(triangles).sum())
    same = abs(found.area - whole) <= SAME_AREA * max(whole, 1.0)
    return found if same else unary_union(triangles)


def filled(region: Region) -> Region:
    """The region without its holes: a part's outline, whatever can be seen through it."""
    return unary_union([Polygon(p.exterior) for p in polygons_of(region)])


def moved(region: Region, x: float, y: float) -> Region:
    return affinity.translate(region, x, y)


def between(lines: Sequence[Sequence[tuple[float, float]]]) -> Region:
    """What closed lines go round, none of which crosses itself: every second one an island."""
    region: Region = Polygon()
    for line in lines:
        region = region.symmetric_difference(Polygon(line))
    return region.simplify(CHORD_MM)


def smallest_corner(region: Region) -> float | None:
    """Radius (mm) of the smallest inner corner, which is that of the largest round tool that gets
    everywhere, past islands too; None where a corner is sharp.
    """
    low, high = 0.0, max(region.area, 0.0) ** 0.5
    while high - low > 0.01:
        radius = (low + high) / 2.0
        reached = region.buffer(-radius, quad_segs=FINE_STEPS).buffer(radius, quad_segs=FINE_STEPS)
        missed = region.difference(reached.buffer(MISSED_MM + MISSED_SHARE * radius))
        low, high = (radius, high) if missed.is_empty else (low, radius)
    low -= (MISSED_MM + MISSED_SHARE * low) / (2.0**0.5 - 1.0)  # what a square corner may miss
    return round(low, 2) if low > MISSED_MM else None
