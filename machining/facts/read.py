"""A point of the part somebody points at: what it is, and where it is in every station and for
every position in the machine.
"""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass
from math import acos, degrees

import numpy as np

from machining.geometry.frames import Direction, Vector, axis, named, opposite
from machining.memo import Memo
from machining.quantities.errors import Missing
from machining.quantities.said import Said
from machining.world.extent import holds
from machining.world.feature import Boss, Feature, Flat, Hole, Pocket, Slanted, is_face
from machining.world.geometry import PartGeometry

from .context import PlanFacts, StationFacts
from .covered import face_words, words_for
from .offsets import Offset, offsets_of

ON_IT_MM = 0.02  # of a flat face
WALL_MM = 0.15  # of a hole's wall: what chords of meshes are off
SAME_MM = 1e-3
MEET = 3  # faces at a corner
SAME_WAY = 1.0 - 1e-6  # cosine


@dataclass(frozen=True, slots=True)
class Picked:
    """``at`` is where it is in part coordinates (mm), ``looks`` which way what it lies on looks, or
    ``slants`` where that is at an angle; ``feature`` what of the part it is, empty for a corner and
    for stock.
    """

    said: Said
    at: Vector
    looks: Direction | None
    feature: str = ""
    slants: Vector | None = None


@dataclass(frozen=True, slots=True)
class ReadAt:
    """Where it is from the zero of a station (mm), before a spindle that turns the part as a
    ``diameter`` and Z; and for each of its positions by the machine's own reckoning.
    """

    station: StationFacts
    at: Vector
    diameter_mm: float | None
    positions: list[tuple[Offset, Vector | None]]


@dataclass(frozen=True, slots=True)
class Between:
    """From a first to a second: straight (mm), along each axis, and the angle between what both lie
    on, degrees; None where one of them looks nowhere.
    """

    distance_mm: float
    along: Vector
    angle_deg: float | None


def picked(
    at: Vector, normal: Vector | None, near_mm: float, facts: PlanFacts, memo: Memo
) -> Picked:
    """What lies at a point in part coordinates: a corner within ``near_mm`` of it, the hole whose
    wall it is on, the face it is on, else the stock. ``normal`` is which way that looks.
    """
    part = facts.geometry
    corners = memo.get(("corners", part.key), lambda: _corners(part))
    if len(corners):
        away = np.linalg.norm(corners - at, axis=1)
        nearest = int(away.argmin())
        if away[nearest] <= near_mm:
            return Picked(Said("corner"), corners[nearest], None)
    looks = named(normal, 1e-3) if normal is not None else None
    hole = next((h for h in part.features if isinstance(h, Hole) and _in_wall(h, at)), None)
    if hole is not None:
        return _of_hole(hole, at)
    boss = next((b for b in part.features if isinstance(b, Boss) and _is_round_it(b, at)), None)
    if boss is not None:
        return _of_boss(boss, at)
    face = next((f for f in part.features if is_face(f) and _is_on(f, at, looks)), None)
    if face is not None:
        return _of_face(face, at)
    slanted = next((f for f in part.features if _is_slanted_there(f, at, normal)), None)
    if isinstance(slanted, Slanted):
        return _of_slanted(slanted, at)
    return Picked(Said("surface"), at, looks)


def named_as(id: str, facts: PlanFacts) -> Picked:
    """A hole at the end it opens, a boss at its high one, a face or a floor in its middle. Raises
    Missing.
    """
    feature = facts.geometry.feature(id)
    if isinstance(feature, Slanted):
        return _of_slanted(feature, np.array(feature.point) + 1e-6 * feature.direction)
    if isinstance(feature, Boss):
        return _of_boss(feature, np.array(feature.point) + feature.length_mm * feature.direction)
    if isinstance(feature, Hole):
        low = np.array(feature.point)
        opens = feature.axis if feature.axis in feature.opens else opposite(feature.axis)
        return _of_hole(feature, low + (opens == feature.axis) * feature.length_mm * axis(opens))
    if not is_face(feature):
        raise Missing("Hole or face", id)
    low, high = facts.geometry.bounds
    loops = feature.loops[0] if isinstance(feature, Pocket) else (low, high)
    middle = (np.min(loops, axis=0) + np.max(loops, axis=0)) / 2.0
    return _of_face(feature, middle)


def _corners(part: PartGeometry) -> Vector:
    """Where three faces or more of the part meet."""
    meet = defaultdict[tuple[float, ...], set[int]](set)
    for triangle, face in zip(part.mesh.triangles, part.mesh.faces, strict=True):
        for vertex in part.mesh.vertices[triangle]:
            meet[tuple(np.round(vertex, 3).tolist())].add(int(face))
    return np.array([at for at, faces in meet.items() if len(faces) >= MEET]).reshape(-1, 3)


def _in_wall(hole: Hole, at: Vector) -> bool:
    across = [k for k in range(3) if k != "xyz".index(hole.axis[1])]
    away = float(np.hypot(*(at[across] - np.array(hole.point)[across])))
    within = bool(holds(hole, at[None, :], WALL_MM)[0])
    return within and abs(away - hole.diameter_mm / 2.0) <= WALL_MM


def _is_round_it(boss: Boss, at: Vector) -> bool:
    away = at - np.array(boss.point)
    along = float(away @ boss.direction)
    off = float(np.linalg.norm(away - along * boss.direction)) - boss.diameter_mm / 2.0
    return abs(off) <= WALL_MM and SAME_MM < along < boss.length_mm - SAME_MM


def _of_boss(boss: Boss, at: Vector) -> Picked:
    """Its axis at the end that is nearer."""
    low = np.array(boss.point)
    far = float((at - low) @ boss.direction) > boss.length_mm / 2.0
    words = words_for(boss)
    said = Said(f"axis of the {words.text}", words.values)
    end = low + boss.length_mm * boss.direction if far else low
    return Picked(said, end, boss.axis if far else opposite(boss.axis), boss.id)


def _of_hole(hole: Hole, at: Vector) -> Picked:
    """Its axis at the end that is nearer."""
    low = np.array(hole.point)
    high = low + hole.length_mm * axis(hole.axis)
    far = np.linalg.norm(at - high) < np.linalg.norm(at - low)
    side = hole.axis if far else opposite(hole.axis)
    words = words_for(hole)
    opens = side if side in hole.opens else next(iter(hole.opens), None)
    said = Said(f"axis of the {words.text}", words.values)
    return Picked(said, high if far else low, opens, hole.id)


def _of_face(face: Flat | Pocket, at: Vector) -> Picked:
    """The place on it that is nearest."""
    side, height = face.plane
    on_it = at.copy()
    on_it["xyz".index(side[1])] = height if side[0] == "+" else -height
    return Picked(face_words(face), on_it, side, face.id)


def _of_slanted(feature: Slanted, at: Vector) -> Picked:
    """The place on a face that is nearest, or on a hole's axis at the end that is nearer."""
    words, middle = words_for(feature), np.array(feature.point)
    if feature.shape == "face":
        out = float((at - middle) @ feature.looks)
        return Picked(words, at - out * feature.looks, None, feature.id, feature.looks)
    half = feature.length_mm / 2.0 * feature.direction
    end = middle + half if (at - middle) @ feature.direction > 0 else middle - half
    said = Said(f"axis of the {words.text}", words.values)
    return Picked(said, end, None, feature.id, feature.direction)


def _is_slanted_there(feature: Feature, at: Vector, normal: Vector | None) -> bool:
    if not isinstance(feature, Slanted):
        return False
    away = at - np.array(feature.point)
    if feature.shape == "face":
        faces = normal is not None and float(normal @ feature.looks) > SAME_WAY
        return faces and abs(float(away @ feature.looks)) <= ON_IT_MM
    along = float(away @ feature.direction)
    off = abs(float(np.linalg.norm(away - along * feature.direction)) - feature.diameter_mm / 2.0)
    return off <= WALL_MM and abs(along) <= feature.length_mm / 2.0 + WALL_MM


def _is_on(face: Flat | Pocket, at: Vector, looks: Direction | None) -> bool:
    side, height = face.plane
    if looks is not None and looks != side:
        return False
    off = abs(float(at @ axis(side)) - height)
    return off <= ON_IT_MM and (isinstance(face, Flat) or bool(holds(face, at[None, :])[0]))


def read_at(at: Vector, facts: PlanFacts) -> list[ReadAt]:
    """Where a point of the part is in every station, in the order of the plan."""
    offsets, found = [*offsets_of(facts)], []
    for station in facts.stations:
        here = station.lie.pose.apply(at)
        mine = [e for e in offsets if e.station is station and e.side is None]
        positions = [(each, None if each.at is None else here + each.at) for each in mine]
        across = 2.0 * float(np.hypot(here[0], here[1])) if station.turns else None
        found.append(ReadAt(station, here, across, positions))
    return found


def between(first: Picked, second: Picked) -> Between:
    along = second.at - first.at
    angle = None
    ways = _way(first), _way(second)
    if ways[0] is not None and ways[1] is not None:
        cosine = float(ways[0] @ ways[1])
        angle = degrees(acos(max(-1.0, min(1.0, cosine))))
    return Between(float(np.linalg.norm(along)), along, angle)


def _way(point: Picked) -> Vector | None:
    return axis(point.looks) if point.looks is not None else point.slants


def feature_of(point: Picked, part: PartGeometry) -> Feature | None:
    return part.feature(point.feature) if point.feature else None
