"""Holes: inward cylinders all the way round or most of it, with what their ends are like."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from machining.geometry.frames import Direction, Vector, axis, opposite, orientation
from machining.geometry.kernel.faces import Face
from machining.geometry.solids import Solid, bar, volume

from ..feature import Hole, Sink, feature_id
from .body import (
    FULL_TURN_DEG,
    NOTHING_MM3,
    Body,
    across,
    as_point,
    ends_along,
    lies_along,
    on_one_axis,
    radius_at,
)

HALF_TURN_DEG = 170.0  # less than that of a wall, and a drill would not stay in it
BEYOND_MM = 0.5  # of a hole's end: from where on it is open or not
TOUCH_MM = 1e-3
POINT_SHARE = 0.05  # of a hole's radius: a cone that ends in less ends in a point


@dataclass(frozen=True, slots=True)
class Piece:
    """A face of a hole's wall, from and to along its axis."""

    number: int
    face: Face
    low: float
    high: float


def holes_of(body: Body) -> list[Hole]:
    found = [
        hole
        for along, members in _by_axis(body)
        for run in _runs(members)
        if (hole := _hole(body, along, run)) is not None
    ]
    return [_with_counterbore(hole, found) for hole in found]


def _by_axis(body: Body) -> Iterator[tuple[Direction, list[Piece]]]:
    groups: dict[tuple[object, ...], list[Piece]] = defaultdict(list)
    for number, face in enumerate(body.faces):
        along = lies_along(face) if face.kind == "cylinder" and face.inward else None
        if along is not None:
            where = np.round(across(face, along), 4) + 0.0
            groups[(along, round(face.radius, 4), *where)].append(
                Piece(number, face, *ends_along(face, axis(along)))
            )
    for key, members in groups.items():
        yield key[0], members  # type: ignore[misc]


def _runs(members: list[Piece]) -> Iterator[list[Piece]]:
    """Split faces of one axis and radius where they don't touch along the axis."""
    run: list[Piece] = []
    for piece in sorted(members, key=lambda m: (m.low, m.high)):
        if run and piece.low > max(each.high for each in run) + TOUCH_MM:
            yield run
            run = []
        run.append(piece)
    if run:
        yield run


def _hole(body: Body, along: Direction, run: list[Piece]) -> Hole | None:
    low, high = min(m.low for m in run), max(m.high for m in run)
    turn = sum(m.face.sweep_deg * (m.high - m.low) for m in run) / (high - low)
    whole = turn >= FULL_TURN_DEG
    if not whole and (turn < HALF_TURN_DEG or _runs_on(body, run)):
        return None
    face, unit = run[0].face, axis(along)
    foot = np.array(face.origin) * (1.0 - unit) + low * unit
    free, opens = _free_ends(body, along, foot, face.radius, high - low)
    cones = list(_cones(body, run, along))
    return Hole(
        id=feature_id("hole", along, as_point(foot), face.radius),
        point=as_point(foot),
        axis=along,
        diameter_mm=round(2 * face.radius, 6),
        length_mm=round(high - low, 6),
        through=free == 2,
        opens=tuple(opens),
        bottom_deg=max((_point(c, unit) for c in cones), default=0.0) if free < 2 else 0.0,
        sinks=_sinks(cones, along, face.radius, (low, high)),
        open_deg=0.0 if whole else round(360.0 - turn, 2),
    )


def _runs_on(body: Body, run: list[Piece]) -> bool:
    """Does its wall go over into another without an edge, as the corner of a pocket does?"""
    own = {piece.number for piece in run}
    return any(
        joint.tangent and other not in own
        for number in own
        for joint, other, _ in body.beside(number)
    )


def _free_ends(
    body: Body, along: Direction, foot: Vector, radius: float, length: float
) -> tuple[int, list[Direction]]:
    """How many of its ends are open, as wide as it is: the cone of a drill's point or a narrower
    hole closes one. And from which directions nothing stands before it.
    """
    free, opens = 0, list[Direction]()
    for towards in (along, opposite(along)):
        seen = body.upright(towards)
        x, y, low = orientation(towards, 0) @ foot
        mouth = low + length if towards == along else low
        is_free, is_open = end_at(seen.solid, seen.top, (x, y, mouth), radius)
        free += is_free
        if is_open:
            opens.append(towards)
    return free, opens


def end_at(
    solid: Solid, top: float, mouth: tuple[float, float, float], radius: float
) -> tuple[bool, bool]:
    """Whether a hole is open as wide as it is at its upper end, as it stands upright, and whether
    nothing stands over that as far as the solid's top (mm).
    """
    x, y, end = mouth
    narrow, begin = 0.95 * radius, end + 0.01
    is_free = volume(solid ^ bar(x, y, narrow, begin, end + BEYOND_MM)) < NOTHING_MM3
    highest = max(top, end) + 1.0
    return is_free, volume(solid ^ bar(x, y, narrow, begin, highest)) < NOTHING_MM3


def _cones(body: Body, run: list[Piece], along: Direction) -> Iterator[Face]:
    """Cones about its axis that begin where its wall ends."""
    told = set[int]()
    for piece in run:
        for _, other, face in body.beside(piece.number):
            if other not in told and face.kind == "cone" and face.inward:
                told.add(other)
                if on_one_axis(piece.face, face, along):
                    yield face


def _point(cone: Face, unit: Vector) -> float:
    """The included angle of a cone that ends in a point; 0 for another."""
    radii = [radius_at(cone, unit, end) for end in ends_along(cone, unit)]
    return round(2.0 * abs(cone.lean_deg), 3) if min(radii) < POINT_SHARE * max(radii) else 0.0


def _sinks(
    cones: list[Face], along: Direction, radius: float, ends: tuple[float, float]
) -> tuple[Sink, ...]:
    """The widest cone at either end."""
    found, unit = dict[Direction, Sink](), axis(along)
    for cone in cones:
        for end in ends_along(cone, unit):
            mouth = radius_at(cone, unit, end)
            beyond = along if end > ends[1] - TOUCH_MM else opposite(along)
            outside = end > ends[1] + TOUCH_MM or end < ends[0] - TOUCH_MM
            if outside and mouth > radius + TOUCH_MM:
                sink = Sink(
                    at=beyond,
                    diameter_mm=round(2.0 * mouth, 4),
                    angle_deg=round(2.0 * abs(cone.lean_deg), 3),
                )
                known = found.get(beyond)
                if known is None or known.diameter_mm < sink.diameter_mm:
                    found[beyond] = sink
    return tuple(found[side] for side in sorted(found))


def _with_counterbore(hole: Hole, found: list[Hole]) -> Hole:
    """With the smaller hole that begins in its floor."""
    if hole.through:
        return hole
    unit = axis(hole.axis)
    for other in found:
        if (
            other.axis == hole.axis
            and other.diameter_mm < hole.diameter_mm
            and _apart(hole, other, 1.0 - unit) < TOUCH_MM
            and _touching(hole, other, unit)
        ):
            return hole.model_copy(update={"around": other.id})
    return hole


def _apart(hole: Hole, other: Hole, along: Vector) -> float:
    return float(np.linalg.norm((np.array(hole.point) - np.array(other.point)) * along))


def _touching(hole: Hole, other: Hole, unit: Vector) -> bool:
    low, under = float(np.array(hole.point) @ unit), float(np.array(other.point) @ unit)
    return (
        abs(low + hole.length_mm - under) < TOUCH_MM
        or abs(under + other.length_mm - low) < TOUCH_MM
    )
