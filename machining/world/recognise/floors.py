"""Flat faces that look one of the six ways: outermost ones, and floors of pockets, open ones and
steps, seen by cutting the solid just above them.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import atan2, degrees, hypot

import numpy as np
from shapely import Point as Spot
from shapely import Polygon, box, minimum_bounding_circle, unary_union

from machining.geometry.frames import DIRECTIONS, Direction, named
from machining.geometry.mesh import Mesh
from machining.geometry.regions import (
    MISSED_MM,
    Region,
    grown,
    opened,
    polygons_of,
    region_from_loops,
)
from machining.geometry.solids import prism, volume

from ..feature import Flat, Hole, Pocket, feature_id
from .body import FULL_TURN_DEG, Body, Upright, ends_along, lies_along, radius_at

JUST_ABOVE_MM = 0.05
RING_MM = 0.3
WALLED_SHARE = 0.97
SAME_MM = 1e-3
NEAR_MM = 5.0  # of a floor: further off stand no walls of it
STEEPEST_DRAFT_DEG = 30.0
HIDDEN_SHARE = 0.02
CHORDS_MM = 0.004
CORNER_MM = 0.05
ROUND_SHARE = 0.99  # of the circle about it, of a radius: chords are that much off
MOST_LEAN = 2.0  # of a wall or a broken edge, to the height it gains
LARGER = 4.0  # than its floor, and what is open above a pocket is not it


@dataclass(frozen=True, slots=True)
class Floor:
    """A floor seen from above: what is cleared down to it, at ``z``; ``up`` is where its walls
    stand upright, over the fillet at their foot.
    """

    number: int
    seen: Upright
    z: float
    up: float
    region: Polygon
    closed: bool

    @property
    def fillet(self) -> float:
        return round(self.up - self.z - JUST_ABOVE_MM, 4)


def floors_of(body: Body, holes: list[Hole]) -> tuple[list[Flat], list[Pocket]]:
    flats: list[Flat] = []
    pockets: dict[str, Pocket] = {}
    for direction in DIRECTIONS:
        for number, face in enumerate(body.faces):
            if face.kind != "plane" or named(np.array(face.axis)) != direction:
                continue
            alike = _running_on(body, number)
            if number != min(alike):
                continue
            seen = body.upright(direction)
            z = float((seen.pose.rotation @ np.array(face.origin))[2])
            whole = unary_union([face_region(seen.mesh, each) for each in alike])
            if whole.is_empty:
                continue
            floor = None if z >= seen.top - 1e-6 else _floor(body, seen, number, z, whole)
            if floor is None:
                area = sum(body.faces[each].area for each in alike)
                flats.append(_flat(direction, z, area, z >= seen.top - 1e-6))
            elif not _ends_hole(floor, direction, holes) and not _hidden(floor):
                pocket = _pocket(body, floor)
                pockets.setdefault(pocket.id, pocket)
    return flats, list(pockets.values())


def _running_on(body: Body, number: int) -> set[int]:
    """A flat face with those that run on in its plane: drawn as several, they are one."""
    found, ahead = {number}, [number]
    while ahead:
        for joint, other, face in body.beside(ahead.pop()):
            if other not in found and face.kind == "plane" and joint.tangent:
                found.add(other)
                ahead.append(other)
    return found


def _flat(direction: Direction, z: float, area: float, outermost: bool) -> Flat:
    return Flat(
        id=feature_id("flat", direction, (0.0, 0.0, z), round(area, 1)),
        faces=direction,
        height_mm=round(z, 6),
        area_mm2=round(area, 3),
        outermost=outermost,
    )


def face_region(mesh: Mesh, number: int) -> Region:
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


def largest(region: Region) -> Polygon:
    return max(polygons_of(region), key=lambda p: float(p.area), default=Polygon())


def without_holes(region: Region) -> Polygon:
    biggest = largest(region)
    return biggest if biggest.is_empty else Polygon(biggest.exterior)


def walled(seen: Upright, about: Region, z: float) -> float:
    """Share of the ring around a region that is solid at height z."""
    ring = grown(about, RING_MM).difference(about)
    return float(ring.intersection(seen.cut(z)).area / ring.area) if ring.area > 0 else 0.0


def _floor(body: Body, seen: Upright, number: int, z: float, whole: Region) -> Floor | None:
    """None for a face that nothing stands around."""
    fillet = _fillet(body, number)
    up = z + fillet + JUST_ABOVE_MM
    base = without_holes(whole)
    if fillet:
        base = _over_fillet(seen, up, base, fillet)
    share = walled(seen, base, up)
    if share >= 1 - WALLED_SHARE:
        region = largest(base.difference(seen.cut(up)).buffer(0)).simplify(CHORDS_MM)
        return _known(Floor(number, seen, z, up, region, share >= WALLED_SHARE))
    region = _open_at(seen, up, whole)
    if region is None or _turned(region, seen.outline):
        return None
    closed = walled(seen, without_holes(region), up) >= WALLED_SHARE
    return _known(Floor(number, seen, z, up, region.simplify(CHORDS_MM), closed))


def _over_fillet(seen: Upright, z: float, base: Polygon, fillet: float) -> Polygon:
    """A floor up to its walls: to those about it, or as far as the fillet reaches."""
    about = opening_at(seen, z, base.representative_point())
    wider = largest(grown(base, fillet).intersection(seen.outline))
    return about if about is not None and about.area < LARGER * wider.area else wider


def opening_at(seen: Upright, z: float, spot: Spot) -> Polygon | None:
    """What is open about a place at a height, with something all round."""
    rings = (Polygon(ring) for solid in polygons_of(seen.cut(z)) for ring in solid.interiors)
    return next((ring for ring in rings if ring.contains(spot)), None)


def _known(floor: Floor) -> Floor | None:
    return None if floor.region.is_empty else floor


def _open_at(seen: Upright, z: float, whole: Region) -> Polygon | None:
    """What is open at a height about a face that no wall stands on: round bosses of a plate, over
    an island that is lower than its pocket. None where nothing stands there at all.
    """
    standing = seen.cut(z)
    if standing.is_empty:
        return None
    spot = largest(whole).representative_point()
    parts = polygons_of(seen.outline.difference(standing).buffer(0))
    return next((each for each in parts if each.contains(spot)), None)


def _turned(region: Polygon, outline: Region) -> bool:
    """A ring round a round neck is a shoulder, for a lathe."""
    if len(region.interiors) != 1 or not _is_round(outline):
        return False
    inner = Polygon(region.interiors[0])
    apart = region.centroid.distance(inner.centroid)
    return _is_round(inner) and apart < 0.01 * hypot(*_size(inner))


def _is_round(region: Region) -> bool:
    circle = minimum_bounding_circle(region)
    return not region.is_empty and bool(without_holes(region).area > ROUND_SHARE * circle.area)


def _size(region: Region) -> tuple[float, float]:
    a, b, c, d = region.bounds
    return c - a, d - b


def _fillet(body: Body, number: int) -> float:
    """The radius between a floor and the walls on it; 0 where they meet in an edge."""
    radii = [
        face.tube if face.kind == "torus" else face.radius
        for joint, _, face in body.beside(number)
        if joint.tangent and face.inward and face.kind in ("cylinder", "torus", "sphere")
    ]
    return round(min(radii), 4) if radii else 0.0


def _draft(body: Body, number: int, fillet: float) -> float:
    """By how much the walls on a floor lean outwards; 0 where one of them doesn't."""
    normal = np.array(body.faces[number].axis)
    walls = [
        face
        for _, other, _ in body.beside(number)
        for face in ((each for _, _, each in body.beside(other)) if fillet else [body.faces[other]])
        if face.kind in ("plane", "cone", "cylinder")
    ]
    leans = [
        degrees(np.arcsin(np.clip(np.array(face.axis) @ normal, -1.0, 1.0)))
        if face.kind == "plane"
        else abs(face.lean_deg)
        for face in walls
        if face.kind != "plane" or abs(np.array(face.axis) @ normal) < 1.0 - 1e-6
    ]
    least = min(leans, default=0.0)
    return round(least, 3) if SAME_MM < least <= STEEPEST_DRAFT_DEG else 0.0


def _hidden(floor: Floor) -> bool:
    """Is a good part of the floor hidden from above, as the wall of another pocket is?"""
    seen, region = floor.seen, floor.region
    if grown(region, -JUST_ABOVE_MM).is_empty:
        return True
    above = volume(seen.solid ^ prism(grown(region, -JUST_ABOVE_MM), floor.up, seen.top + 1.0))
    return above > HIDDEN_SHARE * region.area * (seen.top + 1.0 - floor.z)


def _ends_hole(floor: Floor, direction: Direction, holes: list[Hole]) -> bool:
    """Is it the bottom of a hole, or a piece of one?"""
    for hole in holes:
        if hole.axis[1] != direction[1]:
            continue
        x, y, low = floor.seen.pose.apply(np.array(hole.point))
        ends = (low, low + hole.length_mm * (1.0 if hole.axis == direction else -1.0))
        within = Spot(float(x), float(y)).buffer(0.5 * hole.diameter_mm + 1e-2, 64)
        large = floor.region.area > 0.3 * within.area
        if large and min(abs(floor.z - z) for z in ends) < SAME_MM and within.covers(floor.region):
            return True
    return False


def _pocket(body: Body, floor: Floor) -> Pocket:
    seen, region, z = floor.seen, floor.region, floor.z
    centre = region.centroid
    middle = seen.back(np.array([[centre.x, centre.y, z]]))[0]
    return Pocket(
        id=feature_id("pocket", seen.up, middle, round(region.area, 1)),
        loops=loops_at(seen, region, z),
        opens=seen.up,
        depth_mm=round(_rim(floor) - z, 6),
        corner_radius_mm=corner_radius(body, seen, region, floor.up),
        closed=floor.closed,
        floor_radius_mm=max(floor.fillet, 0.0),
        draft_deg=_draft(body, floor.number, floor.fillet),
        across_flats_mm=across_flats(region),
    )


def loops_at(seen: Upright, region: Region, z: float) -> tuple[tuple[tuple[float, ...], ...], ...]:
    """The outlines of a region at a height, in part coordinates."""
    rings = [ring for poly in polygons_of(region) for ring in (poly.exterior, *poly.interiors)]
    flat = [np.asarray(ring.coords)[:-1] for ring in rings]
    return tuple(seen.back(np.column_stack([at, np.full(len(at), z)])) for at in flat)


def _rim(floor: Floor) -> float:
    """How high its walls stand: to the highest where some are lower, over a broken edge too."""
    seen, at = floor.seen, floor.up
    top, about = floor.z, floor.region
    near = grown(about, NEAR_MM).bounds
    for level in levels_near(seen.mesh, near, at):
        share = walled(seen, about, at + min(JUST_ABOVE_MM, 0.5 * (level - at)))
        if share < 1 - WALLED_SHARE:
            break
        about = _wider(seen, about, level - min(SAME_MM, 0.5 * (level - at)), level - at)
        top = at = level
    return top


def levels_near(mesh: Mesh, near: tuple[float, float, float, float], above: float) -> list[float]:
    """Heights of the corners of what stands about a place."""
    corners = mesh.vertices[mesh.triangles]
    low, high = corners.min(axis=1), corners.max(axis=1)
    a, b, c, d = near
    there = (high[:, 0] > a) & (low[:, 0] < c) & (high[:, 1] > b) & (low[:, 1] < d)
    z = corners[there & (high[:, 2] > above + SAME_MM), :, 2]
    return sorted(set(np.round(z[z > above + SAME_MM], 4).tolist()))


def _wider(seen: Upright, about: Region, z: float, higher: float) -> Region:
    """What is open about a pocket at a height: leaning walls and broken edges make it wider, by no
    more than they can over that much height.
    """
    free = grown(about, RING_MM + MOST_LEAN * higher).difference(seen.cut(z))
    return about.union(unary_union([each for each in polygons_of(free) if each.intersects(about)]))


def corner_radius(body: Body, seen: Upright, region: Region, z: float) -> float:
    """Smallest inner corner of the walls around a region at a height; 0 where they meet sharply."""
    near, radii = grown(region, 0.1), []
    for face in body.faces:
        along = lies_along(face) if face.kind in ("cylinder", "cone") and face.inward else None
        if along is None or along[1] != seen.up[1] or face.sweep_deg >= FULL_TURN_DEG:
            continue
        unit = seen.pose.rotation[2]
        low, high = ends_along(face, unit)
        foot = seen.pose.apply(np.array(face.origin))
        if low <= z <= high and near.contains(Spot(float(foot[0]), float(foot[1]))):
            radii.append(radius_at(face, unit, z))
    return _passed(seen, region, z, round(min(radii), 4)) if radii else 0.0


def _passed(seen: Upright, region: Region, z: float, radius: float) -> float:
    """The radius where a tool of it gets everywhere, from open sides too; else that of the largest
    that does.
    """
    if _reached(seen, region, z, radius):
        return radius
    low, high = 0.0, radius
    while high - low > CORNER_MM:
        middle = 0.5 * (low + high)
        low, high = (middle, high) if _reached(seen, region, z, middle) else (low, middle)
    return round(low, 2) if low > 2.0 * CORNER_MM else 0.0


def _reached(seen: Upright, region: Region, z: float, radius: float) -> bool:
    free = box(*grown(region, 3.0 * radius).bounds).difference(seen.cut(z))
    reached = opened(free, ROUND_SHARE * radius)
    missed = region.difference(grown(reached, MISSED_MM + (1.0 - ROUND_SHARE) * radius))
    return bool(missed.is_empty)


def across_flats(region: Polygon) -> float:
    """The width of a regular hexagon (mm); 0 for any other outline."""
    ring = np.asarray(region.exterior.coords)[:-1]
    if region.interiors or len(ring) != 6:
        return 0.0
    sides = np.roll(ring, -1, axis=0) - ring
    lengths = np.hypot(sides[:, 0], sides[:, 1])
    headings = np.array([degrees(atan2(y, x)) for x, y in sides])
    turns = np.mod(np.diff(np.append(headings, headings[0])), 360.0)
    even = np.ptp(lengths) < 0.01 * lengths.mean()
    bent = np.abs(np.minimum(turns, 360.0 - turns) - 60.0).max() < 0.5
    return round(float(lengths.mean()) * 3.0**0.5, 3) if even and bent else 0.0
