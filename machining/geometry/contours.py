"""Turned contours: plane regions of (radius, z), z away from the chuck."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from math import isfinite, pi, radians, tan

import numpy as np
from shapely import LineString, Polygon, box, maximum_inscribed_circle, unary_union

from .regions import Region, polygons_of

FAR_MM = 5000.0
LEAST_MM2 = 1e-6
FOLLOWS_DEG = 27.0  # what a slim finishing tool follows down
LEAST_GROOVE_MM2 = 0.2
SAME_MM = 1e-3
Corners = Sequence[tuple[float, float]]


def inside_of(corners: Corners) -> Region:
    """The turned body under a contour of (radius, z) corners that runs towards the chuck: from the
    axis out to it.
    """
    return Polygon([(0.0, corners[0][1]), *corners, (0.0, corners[-1][1])]).buffer(0.0)


def outside_of(corners: Corners) -> Region:
    """The body round a bore's contour, out to as far as counts."""
    return Polygon([(FAR_MM, corners[0][1]), *corners, (FAR_MM, corners[-1][1])]).buffer(0.0)


def kept_from(corners: Corners, outside: bool, radial: float, axial: float) -> Region:
    """The body that a contour keeps, thicker by an allowance on the radius and one on its
    shoulders.
    """
    under = inside_of if outside else outside_of
    if radial <= 0 and axial <= 0:
        return under(corners)
    out = radial if outside else -radial
    body = under([*corners, (corners[-1][0], corners[-1][1] - axial)])
    raised = [
        _shifted(body, step_r * out, step_z * axial)
        for step_r in (0.0, 1.0)
        for step_z in (0.0, 1.0)
    ]
    return unary_union(raised).intersection(box(0.0, corners[-1][1], FAR_MM, FAR_MM))


def _shifted(body: Region, by_r: float, by_z: float) -> Region:
    moved = unary_union(
        [
            Polygon([(max(r + by_r, 0.0), z + by_z) for r, z in each.exterior.coords])
            for each in polygons_of(body)
        ]
    )
    return moved.buffer(0.0)


def in_shadow(body: Region, outside: bool, down_deg: float) -> Region:
    """What of the room behind shoulders a tool can't enter that comes from the free end and follows
    contours down up to an angle.

    For a bore 'down' is outwards. The room is what lies behind each corner, towards the chuck,
    under a line that falls at that angle.
    """
    slope = tan(radians(down_deg))
    shadows = []
    for polygon in polygons_of(body):
        low = polygon.bounds[1]
        for r, z in list(polygon.exterior.coords)[:-1]:
            long = z - low
            if long <= 1e-9 or z >= FAR_MM or (not outside and r >= FAR_MM):
                continue
            end = max(r - slope * long, 0.0) if outside else r + slope * long
            reach = long if not slope or not outside or r >= slope * long else r / slope
            edge = 0.0 if outside else FAR_MM
            shadows.append(
                Polygon([(edge, z), (r, z), (end, z - reach), (edge, z - reach)]).buffer(0.0)
            )
    return unary_union([*shadows, body]).difference(body) if shadows else Polygon()


def areas_of(region: Region, least: float = 0.0) -> Region:
    """Its areas of more than ``least`` (mm²): without the lines, points and slivers that cutting
    regions along shared edges leaves.
    """
    return unary_union([each for each in polygons_of(region) if each.area > least] or [Polygon()])


def turned_volume(region: Region) -> float:
    """Volume (mm³) of a region of (radius, z) turned about the axis: 2π·r·A at the centre of area
    (Pappus).
    """
    return sum(2.0 * pi * float(each.centroid.x) * float(each.area) for each in polygons_of(region))


def spans_at(region: Region, radius: float) -> list[tuple[float, float]]:
    """Stretches (z high, z low) of a region at a radius, the one at the free end first."""
    line = box(radius - 1e-6, -FAR_MM, radius + 1e-6, FAR_MM)
    spans = [
        (float(p.bounds[3]), float(p.bounds[1])) for p in polygons_of(region.intersection(line))
    ]
    return sorted(spans, reverse=True)


def contour_of(body: Region, outside: bool = True) -> list[tuple[float, float]]:
    """Corners (radius, z) of a turned body's outside (or its bore) from its free end to its other
    end, as a tool meets them.
    """
    heights = sorted(
        {round(z, 6) for each in polygons_of(body) for _, z in each.exterior.coords}, reverse=True
    )
    corners: list[tuple[float, float]] = []
    for upper, lower in zip(heights[:-1], heights[1:], strict=True):
        for z in (upper - 1e-7, lower + 1e-7):
            r = _met_at(body, z, outside)
            if r is not None:
                _corner(corners, (round(r, 5), round(z, 5)))
    return corners


def _met_at(body: Region, z: float, outside: bool) -> float | None:
    cut = body.intersection(box(0.0, z - 1e-9, FAR_MM, z + 1e-9))
    return None if cut.is_empty else float(cut.bounds[2 if outside else 0])


def runs_at(half: Region, z: float) -> list[tuple[float, float]]:
    """From where to where out (mm) a half section is solid at a height, from the axis on."""
    met = LineString([(0.0, z), (FAR_MM, z)]).intersection(half)
    return sorted(
        (float(each.bounds[0]), float(each.bounds[2]))
        for each in getattr(met, "geoms", [met])
        if not each.is_empty and each.length > 0.0
    )


def thickest(region: Region) -> float:
    """Diameter of the largest disc that fits into a region, mm: how thick a skin is where it is
    thickest, to a tenth of its mean.
    """
    with np.errstate(divide="ignore", invalid="ignore"):  # of slivers, which are as good as none
        widest = [
            2.0 * float(maximum_inscribed_circle(each, each.area / each.length / 10.0).length)
            for each in polygons_of(region)
            if each.area > LEAST_MM2
        ]
    return max((wide for wide in widest if isfinite(wide)), default=0.0)


def valleys(outside: Corners) -> Iterator[int]:
    """Places of the first corner of recesses with two upright walls that no finishing tool gets to
    the bottom of.
    """
    for place, ((r0, z0), (r1, z1), (r2, z2), (r3, _)) in enumerate(
        zip(outside, outside[1:], outside[2:], outside[3:], strict=False)
    ):
        if abs(z0 - z1) < SAME_MM and abs(r1 - r2) < SAME_MM and r0 > r1 and r3 > r2:
            body = inside_of([(r0, z0 + 1.0), (r0, z0), (r1, z1), (r2, z2)])
            if in_shadow(body, True, FOLLOWS_DEG).area >= LEAST_GROOVE_MM2:
                yield place


def bridged(outside: Corners) -> list[tuple[float, float]]:
    """The contour without the recesses that are grooved, at the height of their lower wall."""
    corners = list(outside)
    for place in valleys(outside):
        level = min(outside[place][0], outside[place + 3][0])
        corners[place + 1], corners[place + 2] = (
            (level, outside[place + 1][1]),
            (level, outside[place + 2][1]),
        )
    return [each for k, each in enumerate(corners) if k == 0 or each != corners[k - 1]]


def _corner(corners: list[tuple[float, float]], new: tuple[float, float]) -> None:
    """Add a corner unless it repeats the last, or lies on the line through the last two."""
    if corners and abs(corners[-1][0] - new[0]) < 1e-4 and abs(corners[-1][1] - new[1]) < 1e-4:
        return
    if len(corners) > 1:
        (a, b), (c, d) = corners[-2], corners[-1]
        if abs((c - a) * (new[1] - b) - (d - b) * (new[0] - a)) < 1e-4:
            corners.pop()
    corners.append(new)
