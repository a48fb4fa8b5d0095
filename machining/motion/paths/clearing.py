"""Clearing that grows from what is open: the passes of a tool through metal, each as wide as asked.

C(0) is where the tool's middle is free to stand, C(k+1) what lies a step further inside what it can
reach, its corners kept as round as the step allows; a pass is the part of the edge of C(k+1) where
the tool meets metal. Where its front is round outwards, of radius ρ at the tool's middle, a step s
meets a width s·(2(ρ + R) − s)/(2ρ) along the middle's way, so the step is smaller there. What such
a front can't get into is cut afterwards, in picks of falling radius.
Source: geometry of two circles; computation.md of the project, the cut as found.
"""

from __future__ import annotations

from collections.abc import Generator, Iterator
from dataclasses import dataclass
from math import acos, ceil, pi, sqrt
from typing import TypeAlias

import numpy as np
from shapely import LineString, MultiLineString, maximum_inscribed_circle
from shapely.geometry.base import BaseGeometry
from shapely.geometry.polygon import orient
from shapely.ops import linemerge

from machining.geometry.frames import Vector
from machining.geometry.regions import Region, asked_often, polygons_of

WIDER = 1.2  # than asked it may be where a front is round outwards
ROUNDEST, SHARPEST = 4.0, 0.25  # radius of a front, of the tool's
SMALLEST_STEP = 0.4, 0.05  # of the width: from where nothing is open yet, and in picks
LESS_ROUND = 0.6  # times as round are the fronts that cut what is left
CHORD_MM, SAME_MM, SHORT_MM = 0.01, 0.04, 0.05
ARC_MM, FINE_MM = 0.01, 0.004  # of a chord from its arc, and of a corner left out
ROOM_SHARE = 0.5  # of the room there is, as round a front may be that begins in little of it
HINDERED = 0.8  # of its growth or area a rounder front must keep
MOST_FRONTS = 1500


Moved: TypeAlias = tuple[list[LineString], Region, float]  # by how far, to where, by which step


@dataclass(frozen=True, slots=True)
class Front:
    """One pass of a step (mm): where the tool's middle goes, metal to its right. ``at`` is the
    number of that step: it comes after all fronts of earlier ones beside it.
    """

    line: Vector
    closed: bool
    at: int
    step: float


def off(region: Region, by: float) -> Region:
    """Grown or shrunk, its rounds as fine as a chord tells."""
    if by == 0:
        return region
    flat = max(1.0 - ARC_MM / max(abs(by), 2 * ARC_MM), 0.0)
    return region.buffer(by, quad_segs=max(4, ceil(pi / 4.0 / acos(flat))))


def _opened(region: Region, radius: float) -> Region:
    return off(off(region, -radius), radius) if radius > 0 else region


def step_for(width: float, round_: float, radius: float, growing: bool) -> float:
    """How far a front of a radius (mm, at the middle of a tool of ``radius``) may move so that its
    pass is as wide as asked; a ``growing`` one gets rounder by its step.
    """
    most = WIDER * width
    if growing:
        half = round_ + radius - most
        step = sqrt(half * half + 2.0 * round_ * most) - half
    else:
        half = round_ + radius
        step = half - sqrt(max(half * half - 2.0 * round_ * most, 0.0))
    return min(max(step, SMALLEST_STEP[not growing] * width), width)


def fronts(
    reach: Region, free: Region, metal: Region, radius: float, width: float
) -> Iterator[tuple[list[Front], Region]]:
    """The passes of one step after the other, with where the tool's middle is free afterwards.

    ``reach`` is where the middle of a tool of ``radius`` may go, ``free`` where it can stand
    without cutting, ``metal`` what stands, all in plan (mm). Raises nothing: what can't be cleared
    any narrower is cut as wide as it is.
    """
    meets = off(metal, radius - CHORD_MM)
    for at, (moved, then, step) in enumerate(_regions(reach, free, radius, width)):
        yield [Front(*each, at, step) for each in _cutting(moved, meets)], then
        if at >= MOST_FRONTS:
            return


def _regions(reach: Region, free: Region, radius: float, width: float) -> Iterator[Moved]:
    """What is open grown to all there is to reach: as round as it can be, then less and less."""
    now = free.intersection(reach)
    now, round_ = yield from _growing(now, reach, radius, width)
    if round_ < SHARPEST * radius:  # it has begun in a corner and found no room
        step = step_for(width, SHARPEST * radius, radius, growing=False)
        now = yield from _held(now, reach, max(round_, SAME_MM), step)
    while round_ >= SHARPEST * radius and reach.area - now.area > CHORD_MM * reach.length / 10.0:
        now = yield from _held(now, reach, round_, step_for(width, round_, radius, growing=False))
        round_ *= LESS_ROUND
    last = reach.union(now)
    yield _moved(last, now, width), last, width


def _growing(
    now: Region, reach: Region, radius: float, width: float
) -> Generator[Moved, None, tuple[Region, float]]:
    """Rounder by each step, as long as that hinders it little; what it is then, and how round."""
    round_, most, reach = _round(now), ROUNDEST * radius, asked_often(reach)
    while round_ < most:
        step = step_for(width, round_, radius, growing=True)
        then, rounder = off(now, step), min(round_ + step, most)
        if not reach.covers(then):  # else nothing hinders it
            grown = then.intersection(reach)
            if round_ < SHARPEST * radius:  # a strip or a corner: as round as there is room
                rounder = min(rounder, max(ROOM_SHARE * _inmost(grown), round_))
            then = _opened(grown, rounder).union(now)
            if then.area - now.area < HINDERED * (grown.area - now.area):
                break
        moved = _moved(then, now, step)
        if not moved:
            break
        yield moved, then, step
        now, round_ = then.simplify(FINE_MM), rounder
    return now, min(round_, most)


def _held(now: Region, reach: Region, round_: float, step: float) -> Generator[Moved, None, Region]:
    """Step by step with fronts of one roundness: the places of a disc of it, grown; what is open
    when that moves no more.
    """
    places = off(reach, -round_)
    discs = off(now, ARC_MM - round_).intersection(places)
    while True:
        discs = off(discs, step).intersection(places).simplify(FINE_MM)
        then = off(discs, round_).intersection(reach).union(now)
        moved = _moved(then, now, step)
        if not moved:
            return now
        yield moved, then, step
        now = then.simplify(FINE_MM)


def _round(region: Region) -> float:
    """How round its corners are: of the largest circle in it, or less where that leaves much."""
    round_ = _inmost(region)
    while round_ > SAME_MM and _opened(region, round_ - SAME_MM).area < HINDERED * region.area:
        round_ /= 2.0
    return round_ if round_ > SAME_MM else 0.0


def _inmost(region: Region) -> float:
    """The radius of the largest circle in it."""
    found = (maximum_inscribed_circle(each).length for each in polygons_of(region))
    return max(found, default=0.0)


def _moved(then: Region, now: Region, step: float) -> list[LineString]:
    """The parts of a front that are not where it was, its inside to their left."""
    been = now.buffer(min(SAME_MM, step / 4.0), quad_segs=1)
    rings = [
        LineString(ring.coords).simplify(CHORD_MM / 5.0)
        for polygon in polygons_of(then)
        for whole in [orient(polygon)]
        for ring in (whole.exterior, *whole.interiors)
    ]
    return [_as(piece, ring) for ring in rings for piece in _lines(ring.difference(been))]


def _cutting(moved: list[LineString], meets: Region) -> Iterator[tuple[Vector, bool]]:
    for line in moved:
        for piece in _lines(line.intersection(meets)):
            found = _as(piece, line)
            yield np.asarray(found.coords)[:, :2], bool(found.is_closed)


def _lines(found: BaseGeometry) -> list[LineString]:
    merged = linemerge(found) if isinstance(found, MultiLineString) else found
    return [
        each
        for each in getattr(merged, "geoms", [merged])
        if isinstance(each, LineString) and each.length > SHORT_MM
    ]


def _as(piece: LineString, line: LineString) -> LineString:
    """A piece of a line, the same way round."""
    half = piece.length / 2.0
    ahead, middle = (line.project(piece.interpolate(half + by)) for by in (0.01, 0.0))
    return piece if ahead > middle else piece.reverse()
