"""A slot at the tool's own width: down on a slope to and fro, then once along its whole length;
and the walls beside it.
"""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise
from math import radians, tan

import numpy as np
from shapely import LineString, Point

from machining.geometry.frames import Vector
from machining.motion.path import Pen

from .areas import counted
from .tabs import Raised

Spot = tuple[float, float]


def along_slot(
    pen: Pen,
    line: Sequence[Spot],
    top: float,
    heights: Sequence[float],
    ramp_deg: float,
    raised: Raised | None = None,
) -> None:
    """From a slot's ``top`` down to each height (mm) in turn, no steeper than the ramp; at each the
    whole length is cut flat. A closed line is gone round and round, ``raised`` over its tabs.
    Raises OutOfRange for a ramp so flat that the moves can't be counted.
    """
    corners = np.array(line)
    way = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(corners, axis=0).T))])
    length = float(way[-1])
    pen.go_to(*corners[0])
    pen.plunge(top)
    at, z = 0.0, top
    closed = bool(np.allclose(corners[0], corners[-1]))
    for low in heights:
        counted("ramp_deg", ramp_deg, (z - low) / (length * tan(radians(ramp_deg))))
        if closed:
            down = (z - low) / tan(radians(ramp_deg))
            nodes = [(at, z), (at + down, low), (at + down + length, low)]
            pen.cut(_along(corners, way, raised.over(nodes) if raised else nodes))
            at, z = (at + down) % length, low
            continue
        spots = [(at, z)]
        while z - low > 1e-9:
            end = length if at < length / 2.0 else 0.0
            run = min(abs(end - at), (z - low) / tan(radians(ramp_deg)))
            at += run if end > at else -run
            z -= run * tan(radians(ramp_deg))
            z = low if z - low < 1e-9 else z
            spots.append((at, z))
            if z <= low:
                spots.append((end, low))
                at = end
        other = 0.0 if at > length / 2.0 else length
        spots.append((other, low))
        at = other
        pen.cut(_along(corners, way, spots))


def walls_beside(
    pen: Pen, contours: Sequence[Vector], line: Sequence[Spot], heights: Sequence[float]
) -> None:
    """Both walls of what is cut along a line, at each height (mm) from the highest on: out of its
    middle and back there, where it is open all the way down.
    """
    middle = LineString(line)
    for ring in contours:
        for z in heights:
            assert pen.at is not None
            first = int(np.hypot(*(ring - pen.at[:2]).T).argmin())
            round_ = np.concatenate([ring[first:-1], ring[: first + 1]])
            near = middle.interpolate(middle.project(Point(round_[0])))
            beside = np.array([[near.x, near.y, pen.at[2]]])
            if not np.allclose(pen.at, beside[0]):
                pen.link(beside)
            pen.rapid_z(z)
            pen.cut(np.column_stack([round_, np.full(len(round_), z)]))
        pen.link(np.array([[near.x, near.y, z]]))


def _along(corners: Vector, way: Vector, spots: list[tuple[float, float]]) -> Vector:
    """Places (mm along a line, height) as points, with the line's corners between them; past a
    closed line's end it goes on from its start. The first is where the tool is.
    """
    found = []
    length = float(way[-1])
    for (s, z), (t, low) in pairwise(spots):
        laps = np.arange(np.floor(min(s, t) / length), np.floor(max(s, t) / length) + 1.0)
        between = (way[None, :-1] + laps[:, None] * length).ravel()
        between = np.sort(between[(between > min(s, t) + 1e-9) & (between < max(s, t) - 1e-9)])
        for at in (*(between if t > s else between[::-1]), t):
            share = (at - s) / (t - s) if t != s else 1.0
            found.append((at, z + (low - z) * share))
    return np.array([(*_spot(corners, way, at), height) for at, height in found])


def _spot(corners: Vector, way: Vector, at: float) -> Vector:
    length = float(way[-1])
    within = at if 0.0 <= at <= length else at % length
    k = min(int(np.searchsorted(way, within, side="right")) - 1, len(way) - 2)
    spot: Vector = corners[k] + (corners[k + 1] - corners[k]) * (
        (within - way[k]) / (way[k + 1] - way[k])
    )
    return spot
