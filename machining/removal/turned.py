"""A path through the section of what turns: exact, in plane regions of (radius, z)."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from math import ceil, pi, radians, tan

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely import MultiPolygon, Polygon

from machining.geometry.contours import FAR_MM
from machining.geometry.frames import Vector
from machining.geometry.regions import Region, polygons_of
from machining.motion.path import Path
from machining.quantities.errors import OutOfRange
from machining.world.tool import DRILLS, Tool

STRIP_MM = 0.25  # a cut is told no finer than that,
MOST_STRIPS, IN_ALL = 48, 4000  # and a stretch in no more parts, nor a path
MOST_MOVES = 3000  # of a path that is carried
SOME_MM2, SOME_DEEP_MM = 1e-6, 1e-3  # less of a section is none, nor a cut less deep
APART_MM = 1e-6
STRAIGHT_MM = 1e-6  # corners that ways along one edge leave on it


@dataclass(frozen=True, slots=True)
class Swept:
    """What a path met in strips (n,), in its order: where the tip began and ended (n, 2), the leg
    it belongs to, how far it went, mm, and what it took: of the section, mm², and turned about the
    axis, mm³.
    """

    start: Vector
    end: Vector
    leg: NDArray[np.intp]
    length: Vector
    area: Vector
    volume: Vector

    @property
    def in_cut(self) -> NDArray[np.bool_]:
        return self.area > np.maximum(SOME_MM2, SOME_DEEP_MM * self.length)


def corner(tool: Tool, outside: bool) -> Vector:
    """Of a turning insert, as corners from its tip: its edge, and its other flank, which follows
    contours down up to an angle.
    """
    out = FAR_MM if outside else -FAR_MM
    along_edge = np.array([out, FAR_MM * tan(radians(_edge(tool) - 90.0))])
    behind = np.array([out * tan(radians(tool.max_ramp_deg)), FAR_MM])
    return np.array([[0.0, 0.0], along_edge, behind, along_edge + behind])


def blade(width: float, from_z: float) -> Vector:
    """Of a blade that plunges towards the axis, as wide as its insert, ``from_z`` of its tip on."""
    return np.array(
        [[0.0, from_z], [0.0, from_z + width], [FAR_MM, from_z], [FAR_MM, from_z + width]]
    )


def blade_in_face(width: float) -> Vector:
    """Of a blade that plunges along the axis, either side of its tip."""
    half = width / 2.0
    return np.array([[-half, 0.0], [half, 0.0], [-half, FAR_MM], [half, FAR_MM]])


def on_axis(tool: Tool) -> Vector:
    """Half of a tool that stands on the axis: a drill with its point, or level."""
    radius, point = tool.diameter_mm / 2.0, 0.0
    if tool.kind in DRILLS or tool.kind == "spot_drill":
        point = radius / tan(radians(tool.point_angle_deg or 180.0) / 2.0)
    return np.array([[0.0, 0.0], [radius, point], [radius, FAR_MM], [0.0, FAR_MM]])


def _edge(tool: Tool) -> float:
    """Angle (degrees) of a turning edge to its way along the spindle; never ahead of its tip."""
    return max(tool.edge_angle_deg, 90.0)


def sweep(path: Path, profile: Vector, section: Region) -> tuple[Swept, Region]:
    """Carry a profile (k, 2) of convex corners from the tip along a path of (radius, 0, z) through
    a section; what is left of it comes back too. Strips are cut where contact begins and ends.
    Raises OutOfRange for a path of too many moves.
    """
    moves = sum(len(leg.points) - 1 for leg in path.legs)
    if moves > MOST_MOVES:
        raise OutOfRange("moves", str(moves), f"at most {MOST_MOVES} to be followed through stock")
    left, rows = section, list[tuple[Vector, Vector, int, float, float]]()
    most = min(max(IN_ALL // max(moves, 1), 1), MOST_STRIPS)
    for leg, each in enumerate(path.legs):
        for a, b in zip(each.points[:-1, ::2], each.points[1:, ::2], strict=True):
            if float(np.linalg.norm(b - a)) < APART_MM:
                continue
            whole = _hulls(a, b[None, :], profile)[0]
            met = _areas(left.intersection(whole)) if left.intersects(whole) else Polygon()
            if met.is_empty:
                rows.append((a, b, leg, 0.0, 0.0))
                continue
            left = _areas(left.difference(whole).simplify(STRAIGHT_MM))
            rows += [
                (s, e, leg, area, volume)
                for s, e, area, volume in _strips(a, b, profile, met, most)
            ]
    return _swept(rows), left


def share_within(path: Path, section: Region) -> float:
    """Of the way that a path is fed, what runs through a section: of a thread, which turns none of
    it away.
    """
    legs = [leg for leg in path.legs if leg.kind != "rapid"]
    ways = shapely.linestrings([leg.points[:, ::2] for leg in legs]) if legs else np.array([])
    way = float(shapely.length(ways).sum())
    return float(shapely.length(shapely.intersection(ways, section)).sum()) / way if way else 0.0


def _areas(region: Region) -> Region:
    """Without the films that ways along one edge leave, and that would add up."""
    if isinstance(region, Polygon):
        return region if region.area > SOME_MM2 else Polygon()
    return MultiPolygon([each for each in polygons_of(region) if each.area > SOME_MM2])


def _hulls(a: Vector, ends: Vector, profile: Vector) -> NDArray[np.object_]:
    """What the profile sweeps from ``a`` to each of ``ends`` (n, 2)."""
    first = np.broadcast_to(a + profile, (len(ends), *profile.shape))
    last = ends[:, None, :] + profile[None, :, :]
    hulls: NDArray[np.object_] = shapely.convex_hull(
        shapely.linestrings(np.concatenate([first, last], axis=1))
    )
    return hulls


def _strips(
    a: Vector, b: Vector, profile: Vector, met: Region, most: int
) -> Iterator[tuple[Vector, Vector, float, float]]:
    """Parts of a straight way, with the section (mm²) and volume (mm³) that each takes of what all
    of it meets.
    """
    long = float(np.linalg.norm(b - a))
    ahead = (b - a) / long
    at = _cuts(met, a, ahead, long, most)
    ends = a + at[1:, None] * ahead
    taken = shapely.intersection(met, _hulls(a, ends, profile))
    areas, reach = shapely.area(taken), np.zeros(len(taken))
    some = areas > 0
    reach[some] = shapely.get_x(shapely.centroid(taken[some]))
    area = np.maximum.accumulate(areas)
    volume = np.maximum.accumulate(2.0 * pi * areas * reach)
    starts = np.concatenate([a[None, :], ends[:-1]])
    steps = (np.diff(each, prepend=0.0).tolist() for each in (area, volume))
    yield from zip(starts, ends, *steps, strict=True)


def _cuts(met: Region, a: Vector, ahead: Vector, long: float, most: int) -> Vector:
    """Where a way is divided (mm from its start): where it comes to metal and leaves it, evenly
    between.
    """
    marks = {0.0, long}
    for each in polygons_of(met):
        along = (np.asarray(each.exterior.coords) - a) @ ahead
        marks |= {float(np.clip(m, 0.0, long)) for m in (along.min(), along.max())}
    spots = sorted(marks)
    cuts = [np.zeros(1)]
    for low, high in zip(spots[:-1], spots[1:], strict=True):
        if high - low > APART_MM:
            count = min(max(ceil((high - low) / STRIP_MM), 1), most)
            cuts.append(np.linspace(low, high, count + 1)[1:])
    return np.concatenate(cuts)


def _swept(rows: list[tuple[Vector, Vector, int, float, float]]) -> Swept:
    start = np.array([row[0] for row in rows]).reshape(-1, 2)
    end = np.array([row[1] for row in rows]).reshape(-1, 2)
    return Swept(
        start,
        end,
        np.array([row[2] for row in rows], dtype=np.intp),
        np.linalg.norm(end - start, axis=1),
        np.array([row[3] for row in rows], dtype=float),
        np.array([row[4] for row in rows], dtype=float),
    )
