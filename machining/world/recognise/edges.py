"""Broken edges: chamfers, and rounds that run on into both of their faces."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from dataclasses import dataclass, field
from math import cos, radians
from typing import Literal

import numpy as np
from shapely import Polygon, contains_xy

from machining.geometry.frames import DIRECTIONS, Direction, Vector, named
from machining.geometry.kernel.faces import Face
from machining.geometry.kernel.joints import Joint

from ..extent import NEAR_MM, holds
from ..feature import Edge, Hole, Pocket, feature_id
from .body import FULL_TURN_DEG, Body, as_point

LEAST_BEND_DEG, MOST_BEND_DEG = 10.0, 80.0
WIDEST_MM = 6.0  # wider, and it is a face of its own
MOST_SWEEP_DEG = 135.0
SAME_MM = 0.01
BEST_FIRST: tuple[Direction, ...] = ("+z", "-z", "+x", "-x", "+y", "-y")


@dataclass(slots=True)
class Broken:
    """A face that breaks an edge; ``beside`` are the two faces it lies between."""

    number: int
    shape: Literal["chamfer", "round"]
    size: float
    angle: float
    length: float
    opens: list[Direction]
    beside: tuple[int, int] = field(default=(-1, -1))


def edges_of(body: Body, holes: list[Hole], pockets: list[Pocket]) -> list[Edge]:
    found = [
        broken
        for number, face in enumerate(body.faces)
        if (broken := _broken(body, number, face)) is not None
    ]
    rims = [_rim_of(body, broken, [*holes, *pockets]) for broken in found]
    corners = _corners(body, {broken.number for broken in found})
    return [_edge(body, alike, rim, corners) for alike, rim in _runs(found, rims)]


def _corners(body: Body, broken: set[int]) -> dict[int, set[int]]:
    """Faces where broken edges meet, by a broken one beside each."""
    found = defaultdict[int, set[int]](set)
    for number, face in enumerate(body.faces):
        beside = {other for _, other, _ in body.beside(number)}
        if number not in broken and _faces(face) is None and beside and beside <= broken:
            found[min(beside)].add(number)
    return found


def _broken(body: Body, number: int, face: Face) -> Broken | None:
    if face.kind == "plane" and named(np.array(face.axis)) is None:
        return _chamfer(body, number, face)
    if face.kind == "cone" and (not face.inward or face.sweep_deg < FULL_TURN_DEG):
        return _chamfer(body, number, face)
    small = face.sweep_deg <= MOST_SWEEP_DEG or face.kind == "torus"
    if face.kind in ("cylinder", "torus", "sphere") and not face.inward and small:
        return _round(body, number, face)
    return None


def _sides(body: Body, number: int, tangent: bool) -> list[tuple[Joint, int, Face]]:
    """The two longest edges to faces it breaks the edge between."""
    found = [
        (joint, other, face)
        for joint, other, face in body.beside(number)
        if (joint.tangent if tangent else LEAST_BEND_DEG <= joint.bend_deg <= MOST_BEND_DEG)
    ]
    return sorted(found, key=lambda each: (-each[0].length, each[1]))[:2]


def _chamfer(body: Body, number: int, face: Face) -> Broken | None:
    sides = _sides(body, number, tangent=False)
    if len(sides) < 2:
        return None
    length = 0.5 * (sides[0][0].length + sides[1][0].length)
    wide = face.area / length
    if wide > WIDEST_MM:
        return None
    opens = _opens([face for _, _, face in sides])
    if not opens:
        return None
    bend = next(
        (joint.bend_deg for joint, _, each in sides if _faces(each) == opens[0]),
        sides[0][0].bend_deg,
    )
    size = wide * cos(radians(bend))
    beside = (sides[0][1], sides[1][1])
    return Broken(number, "chamfer", round(size, 3), round(bend, 2), length, opens, beside)


def _round(body: Body, number: int, face: Face) -> Broken | None:
    sides = _sides(body, number, tangent=True)
    if len(sides) < 2:
        return None
    opens = _opens([each for _, _, each in sides])
    radius = face.tube if face.kind == "torus" else face.radius
    length = 0.5 * (sides[0][0].length + sides[1][0].length)
    beside = (sides[0][1], sides[1][1])
    return Broken(number, "round", round(radius, 3), 0.0, length, opens, beside) if opens else None


def _faces(face: Face) -> Direction | None:
    return named(np.array(face.axis)) if face.kind == "plane" else None


def _opens(faces: list[Face]) -> list[Direction]:
    """Where the faces beside it look: from there a tool cuts it as an edge."""
    looks = {_faces(face) for face in faces}
    return [side for side in BEST_FIRST if side in looks]


def _runs(found: list[Broken], rims: list[str]) -> Iterator[tuple[list[Broken], str]]:
    """Those that are alike: broken by one tool in one setup."""
    alike = defaultdict[tuple[object, ...], list[Broken]](list)
    for broken, rim in zip(found, rims, strict=True):
        side = broken.opens[0] if broken.opens[0][1] == "z" else "upright"
        size = round(broken.size / SAME_MM)
        alike[(broken.shape, side, size, round(broken.angle), rim)].append(broken)
    for key, group in alike.items():
        yield group, str(key[-1])


def _edge(body: Body, alike: list[Broken], rim: str, corners: dict[int, set[int]]) -> Edge:
    first = alike[0]
    point = as_point(body.corners(first.number).mean(axis=0))
    common = [side for side in DIRECTIONS if all(side in each.opens for each in alike)]
    return Edge(
        id=feature_id("edge", f"{first.shape} {first.opens[0]}", point, first.size),
        shape=first.shape,
        size_mm=first.size,
        angle_deg=first.angle,
        length_mm=round(sum(each.length for each in alike), 3),
        point=point,
        opens=tuple(sorted(common, key=BEST_FIRST.index)),
        of=rim,
        surfaces=tuple(
            sorted(n for each in alike for n in (each.number, *corners.get(each.number, ())))
        ),
    )


def _rim_of(body: Body, broken: Broken, features: list[Hole | Pocket]) -> str:
    """The feature whose walls it breaks; none for an edge that stands upright."""
    if broken.opens[0][1] != "z" and len(broken.opens) > 1:
        return ""
    for number in broken.beside:
        corners = body.corners(number)
        for feature in features:
            opens = feature.opens if isinstance(feature, Hole) else (feature.opens,)
            if broken.opens[0] in opens and bool(holds(feature, corners).all()):
                return feature.id if _is_round_it(feature, body.corners(broken.number)) else ""
    return ""


def _is_round_it(feature: Hole | Pocket, corners: Vector) -> bool:
    """Is it broken off what lies round it? A boss in a pocket is the part's own."""
    if isinstance(feature, Hole):
        return True
    across = [k for k in range(3) if k != "xyz".index(feature.opens[1])]
    outer = Polygon(np.array(feature.loops[0])[:, across]).buffer(-NEAR_MM)
    return feature.closed and not contains_xy(outer, *corners[:, across].T).any()
