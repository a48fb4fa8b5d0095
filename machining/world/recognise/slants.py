"""Faces and holes along none of the six directions."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from math import acos, asin, degrees
from typing import Literal

import numpy as np
from numpy.typing import NDArray
from shapely import Point as Spot
from shapely import Polygon

from machining.geometry.frames import (
    DIRECTIONS,
    Direction,
    Pose,
    Vector,
    axis,
    named,
    standing,
)
from machining.geometry.kernel.faces import Face
from machining.geometry.mesh import Mesh, crease_edges
from machining.geometry.regions import Region
from machining.geometry.solids import bounds, posed

from ..extent import holds
from ..feature import Edge, Pocket, Slanted, feature_id
from ..record import Point
from .body import FULL_TURN_DEG, Body, as_point, ends_along
from .flats_round import flats_round
from .floors import across_flats
from .holes import end_at

UPRIGHT_DEG = 0.05
MOST_EDGES = 100
UPWARDS: tuple[Direction, ...] = ("+z", "+y", "+x")
SKIN_MM = 0.05  # what chords of an outline are off


def slants_of(body: Body, edges: list[Edge], pockets: list[Pocket]) -> list[Slanted]:
    broken = {number for edge in edges for number in edge.surfaces}
    return [*_faces(body, broken, pockets), *_holes(body)]


def nearest(along: Vector) -> tuple[Direction, float]:
    """The direction of the six that is nearest to a unit vector, and what it leans from it
    (degrees).
    """
    best = max(DIRECTIONS, key=lambda side: float(axis(side) @ along))
    return best, degrees(acos(min(1.0, float(axis(best) @ along))))


def _faces(body: Body, broken: set[int], pockets: list[Pocket]) -> Iterator[Slanted]:
    round_it = flats_round(body)
    for number, face in enumerate(body.faces):
        normal = np.array(face.axis)
        if face.kind != "plane" or named(normal) is not None or number in broken:
            continue
        corners = body.corners(number)
        if number not in round_it and (
            _of_pocket(normal, corners, pockets) or _of_outline(body, normal, corners)
        ):
            continue
        opens, lean = nearest(normal)
        point = as_point(corners.mean(axis=0))
        yield Slanted(
            id=feature_id("slanted", "face", point, round(face.area, 1)),
            shape="face",
            along=_unit(normal),
            opens=opens,
            lean_deg=round(lean, 3),
            point=point,
            area_mm2=round(face.area, 3),
            edges=tuple(_level_edges(body, number, opens)),
            surfaces=(number,),
        )


def _level_edges(body: Body, number: int, up: Direction) -> list[tuple[Point, Point]]:
    """Ends of straight edges of a face that lie level, the highest first."""
    flat = Mesh(body.mesh.vertices, *_of_face(body, number))
    ends = crease_edges(flat)
    heights = ends @ axis(up)
    level = np.flatnonzero(np.abs(heights[:, 0] - heights[:, 1]) < SKIN_MM)
    order = sorted(level, key=lambda k: -float(heights[k].mean()))
    return [(as_point(ends[k][0]), as_point(ends[k][1])) for k in order][:MOST_EDGES]


def _of_face(body: Body, number: int) -> tuple[NDArray[np.int32], NDArray[np.int32]]:
    own = body.mesh.faces == number
    return body.mesh.triangles[own], body.mesh.faces[own]


def _of_pocket(normal: Vector, corners: Vector, pockets: list[Pocket]) -> bool:
    """Is it a wall of a pocket, as far as that is drafted?"""
    leans = (
        (pocket, degrees(asin(min(1.0, abs(float(normal @ axis(pocket.opens)))))))
        for pocket in pockets
    )
    walls = [pocket for pocket, lean in leans if lean < pocket.draft_deg + UPRIGHT_DEG]
    return any(bool(holds(pocket, corners).all()) for pocket in walls)


def _of_outline(body: Body, normal: Vector, corners: Vector) -> bool:
    """Does it stand upright on the part's outline as it is drawn, or on that of a hexagon bar?"""
    for up in UPWARDS:
        seen = body.upright(up)
        if abs(float(normal @ axis(up))) < 1e-6 and (up == "+z" or _is_hexagon(seen.outline)):
            flat = seen.pose.apply(corners)[:, :2]
            if max(seen.outline.boundary.distance(Spot(*at)) for at in flat) < SKIN_MM:
                return True
    return False


def _is_hexagon(outline: Region) -> bool:
    return isinstance(outline, Polygon) and across_flats(outline.simplify(SKIN_MM)) > 0


def _holes(body: Body) -> Iterator[Slanted]:
    groups = defaultdict[tuple[object, ...], list[tuple[int, Face]]](list)
    for number, face in enumerate(body.faces):
        along = np.array(face.axis)
        if (
            face.kind == "cylinder"
            and face.inward
            and named(along) is None
            and (named(-along) is None)
        ):
            towards = outwards(face)
            foot = np.array(face.origin) - (np.array(face.origin) @ along) * along
            key = (round(face.radius, 4), *np.round(foot, 3) + 0.0, *np.round(towards, 5) + 0.0)
            groups[key].append((number, face))
    for members in groups.values():
        ends = [ends_along(face, outwards(members[0][1])) for _, face in members]
        low, high = min(end[0] for end in ends), max(end[1] for end in ends)
        turn = sum(f.sweep_deg * (f.high - f.low) for _, f in members) / (high - low)
        if turn >= FULL_TURN_DEG:
            yield _hole(body, members, low, high)


def _unit(along: Vector) -> Point:
    return tuple(round(float(v), 12) + 0.0 for v in along)  # type: ignore[return-value]


def outwards(face: Face) -> Vector:
    """The sense of an axis that is nearer to one of the six."""
    along = np.array(face.axis)
    return along if nearest(along)[1] <= nearest(-along)[1] else -along


def _hole(body: Body, members: list[tuple[int, Face]], low: float, high: float) -> Slanted:
    face = members[0][1]
    along = outwards(face)
    opens, lean = nearest(along)
    origin = np.array(face.origin)
    middle = origin + (0.5 * (low + high) - float(origin @ along)) * along
    free, comes = _ends(body, along, middle, face.radius, high - low)
    return Slanted(
        id=feature_id("slanted", "hole", as_point(middle), face.radius),
        shape="hole",
        along=_unit(along),
        opens=opens,
        lean_deg=round(lean, 3),
        point=as_point(middle),
        area_mm2=round(sum(each.area for _, each in members), 3),
        diameter_mm=round(2.0 * face.radius, 6),
        length_mm=round(high - low, 6),
        surfaces=tuple(number for number, _ in members),
        through=free == 2,
        comes=comes,
    )


def _ends(
    body: Body, along: Vector, middle: Vector, radius: float, length: float
) -> tuple[int, tuple[Literal["high", "low"], ...]]:
    """How many of its ends are open, and from which a straight tool can come."""
    free, comes = 0, list[Literal["high", "low"]]()
    ends: tuple[tuple[Literal["high", "low"], Vector], ...] = (("high", along), ("low", -along))
    for name, towards in ends:
        turn = standing(towards)
        solid = posed(body.solid, Pose(turn, np.zeros(3)))
        x, y, z = (float(each) for each in turn @ middle)
        top = float(bounds(solid)[1][2])
        is_free, is_open = end_at(solid, top, (x, y, z + length / 2.0), radius)
        free += is_free
        if is_open:
            comes.append(name)
    return free, tuple(comes)
