"""Whether a tool that is carried along its path meets what stands beside the work, and how far
apart things must stand so that it does not. Seen from above: everything stands on the table, so
only where it is and how high it reaches counts.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from math import cos, pi

import numpy as np
from numpy.typing import NDArray
from shapely import (
    MultiLineString,
    Point,
    STRtree,
    affinity,
    bounds,
    intersection,
    linestrings,
    points,
    shortest_line,
    union_all,
)
from shapely.geometry.base import BaseGeometry

from machining.geometry.along import farthest_along
from machining.geometry.frames import Vector
from machining.geometry.regions import Region

from .path import Path

TOUCHES_MM = 1e-6
QUAD_SEGS, FINE_MM = 24, 0.01
ROUND = 1.0 / cos(pi / (4.0 * QUAD_SEGS))  # chords of a drawn circle stay outside of the true one


@dataclass(frozen=True, slots=True)
class Disc:
    """A part of a tool: its radius, how far over the tip it begins, and how much room (mm) it wants
    beside it and below. Everything over it is as wide.
    """

    radius: float
    above: float
    beside: float = 0.0
    below: float = 0.0

    @property
    def reach(self) -> float:
        return self.radius + self.beside


@dataclass(frozen=True, eq=False)
class Standing:
    """Regions (n,) seen from above, each as high as its top (n,), mm."""

    regions: NDArray[np.object_]
    tops: Vector

    @classmethod
    def of(cls, regions: Sequence[Region], tops: Sequence[float] | Vector) -> Standing:
        found = np.empty(len(regions), dtype=object)
        found[:] = list(regions)
        return cls(found, np.asarray(tops, dtype=float))

    def moved(self, by: Vector) -> Standing:
        """All of it carried by (x, y, z), mm."""
        x, y, z = (float(each) for each in by)
        moved = [affinity.translate(each, x, y) for each in self.regions]
        return Standing.of(moved, self.tops + z)

    @cached_property
    def tree(self) -> STRtree:
        return STRtree(self.regions)

    @cached_property
    def boxes(self) -> NDArray[np.float64]:
        """West, south, east and north of each, mm."""
        found: NDArray[np.float64] = bounds(self.regions)
        return found

    def near(self, low: Vector, high: Vector, *discs: Disc) -> NDArray[np.bool_]:
        """In which of so many boxes of tips (n, 3) which of the discs may meet anything
        (discs, n).
        """
        west, south, east, north = self.boxes.T
        asked = np.array([(each.reach, each.above - each.below) for each in discs])
        reach, over = asked.T[:, :, None, None]
        (x0, y0, z0), (x1, y1, _) = low.T[:, None, :, None], high.T[:, None, :, None]
        beside: NDArray[np.bool_] = (
            (x0 <= east + reach)
            & (x1 >= west - reach)
            & (y0 <= north + reach)
            & (y1 >= south - reach)
            & (z0 + over < self.tops)
        )
        return np.asarray(beside.any(axis=2))


@dataclass(frozen=True, slots=True)
class Met:
    """Which of what stands, and how much (mm) too low the disc comes for it."""

    which: int
    low: float


def moves_of(path: Path) -> Vector:
    """Straight moves of the tip (m, 2, 3), at feed and at rapid, mm."""
    found = [np.stack([leg.points[:-1], leg.points[1:]], axis=1) for leg in path.legs]
    return np.concatenate(found) if found else np.zeros((0, 2, 3))


def met(moves: Vector, standing: Standing, disc: Disc) -> Met | None:
    """Where a disc on a tip that makes these moves is lowest against what stands within its reach;
    None where it has the room it wants everywhere.

    A move that goes down counts with the lowest point of its part within reach.
    """
    if not len(moves) or not len(standing.tops):
        return None
    near = moves[standing.near(moves.min(axis=1), moves.max(axis=1), disc)[0]]
    if not len(near):
        return None
    ways = linestrings(near[:, :, :2])
    upright = np.abs(near[:, 1, :2] - near[:, 0, :2]).max(axis=1) <= TOUCHES_MM
    ways[upright] = points(near[upright, 0, :2])  # a line of no length is near to nothing
    move, which = standing.tree.query(
        ways, predicate="dwithin", distance=max(disc.reach - TOUCHES_MM, 0.0)
    )
    low = near[move, :, 2].min(axis=1)
    for k in np.flatnonzero(_slopes(near)[move]):
        low[k] = _lowest_within(near[move[k]], standing.regions[which[k]], disc.reach)
    short = standing.tops[which] + disc.below - disc.above - low
    if not len(short) or short.max() <= TOUCHES_MM:
        return None
    worst = int(short.argmax())
    return Met(int(which[worst]), float(short[worst]))


def _slopes(moves: Vector) -> NDArray[np.bool_]:
    """Which of them go down or up and sideways at once."""
    across = np.abs(moves[:, 1] - moves[:, 0])
    sloping: NDArray[np.bool_] = (across[:, 2] > TOUCHES_MM) & (across[:, :2].max(axis=1) > 1e-3)
    return sloping


def _lowest_within(move: Vector, region: BaseGeometry, reach: float) -> float:
    """The lowest height of a move's part within reach of a region that it comes near to."""
    way = linestrings(move[:, :2])
    within = intersection(way, region.buffer(ROUND * reach, quad_segs=QUAD_SEGS))
    if within.is_empty:  # it touches by less than the chords of a circle are off
        within = Point(shortest_line(way, region).coords[0])
    west, south, east, north = within.bounds
    k = int(np.abs(move[1, :2] - move[0, :2]).argmax())
    ends = np.array([west, east] if k == 0 else [south, north])
    along = (ends - move[0, k]) / (move[1, k] - move[0, k])
    heights = move[0, 2] + along * (move[1, 2] - move[0, 2])
    return float(heights.min())


def swept_below(path: Path, height: float, reach: float) -> Region:
    """What a disc covers (seen from above) while its tip is under a height, mm."""
    lines: dict[bytes, Vector] = {}
    for leg in path.legs:
        low = np.flatnonzero(leg.points[:, 2] < height - TOUCHES_MM)
        for run in np.split(low, np.flatnonzero(np.diff(low) > 1) + 1):
            if len(run):
                way = leg.points[max(run[0] - 1, 0) : run[-1] + 2, :2]
                lines.setdefault(way.tobytes(), way)
    if not lines:
        return union_all([])
    ways = [each if len(each) > 1 else np.repeat(each, 2, 0) for each in lines.values()]
    found = MultiLineString([linestrings(each) for each in ways])
    return found.simplify(FINE_MM).buffer(reach, quad_segs=QUAD_SEGS)


def apart(here: Region, there: Region, axis: int) -> float | None:
    """How far (mm) ``there`` is to be carried along an axis (0 for X, 1 for Y), up or down from
    where it is, until it lies all past ``here`` and touches it; None where one never comes beside
    the other. Whatever is farther is free.

    The widest gap of both outlines is at a corner of one of them: between corners both run
    straight.
    """
    ours, theirs = _edges(here, axis), _edges(there, axis)
    if not len(ours) or not len(theirs):
        return None  # nothing, or no wider than a line
    low = max(ours[:, :, 1].min(), theirs[:, :, 1].min())
    high = min(ours[:, :, 1].max(), theirs[:, :, 1].max())
    if high <= low + TOUCHES_MM:
        return None
    at = np.concatenate([ours[:, :, 1].ravel(), theirs[:, :, 1].ravel(), [low, high]])
    at = np.unique(at[(at >= low) & (at <= high)])
    most = farthest_along(ours, at, True, TOUCHES_MM)
    gap = most - farthest_along(theirs, at, False, TOUCHES_MM)
    return float(np.nanmax(gap)) if np.isfinite(gap).any() else None


def _edges(region: Region, axis: int) -> Vector:
    """Its outlines' straight pieces (n, 2, 2), the axis first."""
    found = [np.empty((0, 2, 2))]
    for each in getattr(region, "geoms", [region]):
        if each.geom_type == "Polygon" and not each.is_empty:
            corners = np.asarray(each.exterior.coords)[:, :2]
            found.append(np.stack([corners[:-1], corners[1:]], axis=1))
    edges = np.concatenate(found)
    return edges if axis == 0 else edges[:, :, ::-1]
