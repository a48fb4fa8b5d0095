"""Finds holes, pockets and flat faces in a solid read by the kernel.

A hole is an inward cylinder that goes all the way round; a pocket is a flat floor with walls around
it, seen by cutting the solid just above the floor. Only the six directions of the axes are looked
at.
"""

from __future__ import annotations

from collections import defaultdict

import numpy as np
from shapely import Point as Spot
from shapely import Polygon
from shapely.geometry.base import BaseGeometry

from machining.geometry.frames import (
    DIRECTIONS,
    Direction,
    Pose,
    Vector,
    axis,
    named,
    opposite,
    orientation,
)
from machining.geometry.kernel import Examined, Face
from machining.geometry.mesh import Mesh
from machining.geometry.regions import grown, polygons_of, region_from_loops
from machining.geometry.solids import Solid, bar, bounds, from_mesh, posed, prism, section, volume

from .feature import Feature, Flat, Hole, Pocket, feature_id
from .record import Point

FULL_TURN_DEG = 355.0
JUST_ABOVE_MM = 0.05
RING_MM = 0.3
BEYOND_MM = 0.5  # of a hole's end: from where on it is open or not
WALLED_SHARE = 0.97


def recognise(examined: Examined) -> tuple[Feature, ...]:
    """Features in a stable order: flats, pockets, holes, each from big to small."""
    solid = from_mesh(examined.mesh)
    holes = _holes(examined.faces, solid)
    flats, pockets = _floors(examined, solid, holes)
    return (
        *sorted(flats, key=lambda f: (-f.area_mm2, f.id)),
        *sorted(pockets, key=lambda p: (-p.depth_mm, p.id)),
        *sorted(holes, key=lambda h: (-h.diameter_mm, h.point)),
    )


def _point(vector: Vector) -> Point:
    return tuple(round(float(v), 6) + 0.0 for v in vector)  # type: ignore[return-value]


def _holes(faces: tuple[Face, ...], solid: Solid) -> list[Hole]:
    groups: dict[tuple[object, ...], list[tuple[Face, float, float]]] = defaultdict(list)
    for face in faces:
        direction = named(np.array(face.axis)) if face.kind == "cylinder" and face.inward else None
        if direction is None:
            continue
        along: Direction = direction if direction[0] == "+" else opposite(direction)
        unit = axis(along)
        ends = sorted(
            float((np.array(face.origin) + v * np.array(face.axis)) @ unit)
            for v in (face.low, face.high)
        )
        across = np.array(face.origin) * (1.0 - unit)
        groups[(along, round(face.radius, 4), *np.round(across, 4))].append(
            (face, ends[0], ends[1])
        )
    found = []
    for members in groups.values():
        for run in _runs(members):
            if sum(face.sweep_deg * (high - low) for face, low, high in run) < FULL_TURN_DEG * (
                run[-1][2] - run[0][1]
            ):
                continue
            found.append(_hole(run, solid))
    return found


def _runs(members: list[tuple[Face, float, float]]) -> list[list[tuple[Face, float, float]]]:
    """Split faces of one axis and radius where they don't touch along the axis."""
    runs: list[list[tuple[Face, float, float]]] = []
    for member in sorted(members, key=lambda m: (m[1], m[2])):
        if runs and member[1] <= max(m[2] for m in runs[-1]) + 1e-3:
            runs[-1].append(member)
        else:
            runs.append([member])
    return runs


def _hole(run: list[tuple[Face, float, float]], solid: Solid) -> Hole:
    face = run[0][0]
    direction = named(np.array(face.axis))
    assert direction is not None
    along: Direction = direction if direction[0] == "+" else opposite(direction)
    unit = axis(along)
    low, high = min(m[1] for m in run), max(m[2] for m in run)
    foot = np.array(face.origin) * (1.0 - unit) + low * unit
    opens: list[Direction] = []
    ends_open = 0
    for towards in (along, opposite(along)):
        upright = posed(solid, Pose(orientation(towards, 0), np.zeros(3)))
        x, y, z_low = orientation(towards, 0) @ foot
        mouth = z_low + (high - low) if towards == along else z_low
        top = float(bounds(upright)[1][2])
        # as wide as it is: the cone of a drill's point, or a narrower hole, closes it
        ends_open += (
            volume(upright ^ bar(x, y, 0.95 * face.radius, mouth + 0.01, mouth + BEYOND_MM)) < 1e-6
        )
        if volume(upright ^ bar(x, y, 0.95 * face.radius, mouth + 0.01, top + 1.0)) < 1e-6:
            opens.append(towards)
    return Hole(
        id=feature_id("hole", along, _point(foot), face.radius),
        point=_point(foot),
        axis=along,
        diameter_mm=round(2 * face.radius, 6),
        length_mm=round(high - low, 6),
        through=ends_open == 2,
        opens=tuple(opens),
    )


def _floors(examined: Examined, solid: Solid, holes: list[Hole]) -> tuple[list[Flat], list[Pocket]]:
    flats: list[Flat] = []
    pockets: list[Pocket] = []
    for direction in DIRECTIONS:
        pose = Pose(orientation(direction, 0), np.zeros(3))
        upright = posed(solid, pose)
        mesh = examined.mesh.posed(pose)
        top = float(bounds(upright)[1][2])
        for number, face in enumerate(examined.faces):
            if face.kind != "plane" or named(np.array(face.axis)) != direction:
                continue
            z = float((pose.rotation @ np.array(face.origin))[2])
            floor = face_region(mesh, number)
            filled = _without_holes(floor)
            if filled.is_empty:
                continue
            ring = grown(filled, RING_MM).difference(filled)
            if z >= top - 1e-6 or _walled(upright, ring, z + JUST_ABOVE_MM) < 1 - WALLED_SHARE:
                flats.append(_flat(direction, z, face, z >= top - 1e-6))
                continue
            region = filled.difference(section(upright, z + JUST_ABOVE_MM)).buffer(0)
            region = max(polygons_of(region), key=lambda p: p.area, default=Polygon()).simplify(
                0.004
            )
            if (
                region.is_empty
                or _covered(upright, region, z, top)
                or _is_hole_bottom(region, direction, pose, holes)
            ):
                continue
            pockets.append(_pocket(region, z, direction, pose, upright, ring, examined, mesh))
    return flats, pockets


def _flat(direction: Direction, z: float, face: Face, outermost: bool) -> Flat:
    return Flat(
        id=feature_id("flat", direction, (0.0, 0.0, z), round(face.area, 1)),
        faces=direction,
        height_mm=round(z, 6),
        area_mm2=round(face.area, 3),
        outermost=outermost,
    )


def face_region(mesh: Mesh, number: int) -> BaseGeometry:
    """One flat face as a region in XY, from the boundary of its triangles."""
    triangles = mesh.triangles[mesh.faces == number]
    directed: dict[tuple[int, int], int] = {}
    for a, b, c in triangles.tolist():
        for edge in ((a, b), (b, c), (c, a)):
            if (edge[1], edge[0]) in directed:
                del directed[(edge[1], edge[0])]
            else:
                directed[edge] = 1
    following = dict(directed.keys())
    loops = []
    while following:
        start, at = following.popitem()
        loop = [start]
        while at != start and at in following:
            loop.append(at)
            at = following.pop(at)
        loops.append(mesh.vertices[loop][:, :2])
    return region_from_loops(loops)


def _without_holes(region: BaseGeometry) -> BaseGeometry:
    biggest = max(polygons_of(region), key=lambda p: p.area, default=Polygon())
    return Polygon(biggest.exterior) if not biggest.is_empty else biggest


def _walled(upright: Solid, ring: BaseGeometry, z: float) -> float:
    """Share of the ring around a floor that is solid at height z."""
    return float(ring.intersection(section(upright, z)).area / ring.area) if ring.area > 0 else 0.0


def _covered(upright: Solid, region: BaseGeometry, z: float, top: float) -> bool:
    """Is a good part of the floor hidden from above, as the wall of another pocket is?"""
    above = volume(upright ^ prism(grown(region, -0.05), z + JUST_ABOVE_MM, top + 1.0))
    return above > 0.02 * region.area * (top + 1.0 - z)


def _is_hole_bottom(
    region: BaseGeometry, direction: Direction, pose: Pose, holes: list[Hole]
) -> bool:
    for hole in holes:
        if (
            hole.axis[1] != direction[1]
            or abs(region.area - np.pi * hole.diameter_mm**2 / 4) > 0.05 * region.area
        ):
            continue
        x, y, _ = pose.apply(np.array(hole.point))
        if np.hypot(region.centroid.x - x, region.centroid.y - y) < 0.01 * hole.diameter_mm + 1e-3:
            return True
    return False


def _pocket(
    region: BaseGeometry,
    z: float,
    direction: Direction,
    pose: Pose,
    upright: Solid,
    ring: BaseGeometry,
    examined: Examined,
    mesh: Mesh,
) -> Pocket:
    levels = sorted({round(float(v), 4) for v in mesh.vertices[:, 2] if v > z + 1e-3})
    top, at = z, z
    closed = _walled(upright, ring, z + JUST_ABOVE_MM) >= WALLED_SHARE
    for level in levels:
        share = _walled(upright, ring, (at + level) / 2)
        if share < (WALLED_SHARE if closed else 1 - WALLED_SHARE):
            break
        top = at = level
    back = pose.inverse()
    loops = tuple(
        tuple(
            _point(p)
            for p in back.apply(
                np.column_stack([np.asarray(ring_.coords)[:-1], np.full(len(ring_.coords) - 1, z)])
            )
        )
        for poly in polygons_of(region)
        for ring_ in (poly.exterior, *poly.interiors)
    )
    centre = region.centroid
    return Pocket(
        id=feature_id(
            "pocket",
            direction,
            _point(back.apply(np.array([centre.x, centre.y, z]))),
            round(region.area, 1),
        ),
        loops=loops,
        opens=direction,
        depth_mm=round(top - z, 6),
        corner_radius_mm=_corner_radius(examined.faces, region, z, direction, pose),
        closed=closed,
    )


def _corner_radius(
    faces: tuple[Face, ...], region: BaseGeometry, z: float, direction: Direction, pose: Pose
) -> float:
    """Smallest inner corner of the walls that stand on the floor; 0 where they meet sharply."""
    near, radii = grown(region, 0.1), []
    for face in faces:
        if face.kind != "cylinder" or not face.inward or face.sweep_deg >= FULL_TURN_DEG:
            continue
        along = named(np.array(face.axis))
        if along is None or along[1] != direction[1]:
            continue
        foot = pose.apply(np.array(face.origin))
        ends = sorted(
            float((pose.rotation @ (np.array(face.origin) + v * np.array(face.axis)))[2])
            for v in (face.low, face.high)
        )
        if ends[0] <= z + 0.01 < ends[1] and near.contains(_spot(foot)):
            radii.append(face.radius)
    if not radii:
        return 0.0
    return round(min(radii), 4)


def _spot(foot: Vector) -> BaseGeometry:
    return Spot(float(foot[0]), float(foot[1]))
