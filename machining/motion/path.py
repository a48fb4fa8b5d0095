"""A nominal path: legs of rapid and feed in the setup frame, and what they add up to."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field
from functools import cached_property
from typing import Literal

import numpy as np

from machining.geometry.frames import Vector

from .timing import Drive, block_times, rapid_time

TOGETHER_MM = 1e-6
LegKind = Literal["rapid", "cut", "plunge", "link", "ramp"]


@dataclass(frozen=True, slots=True)
class Leg:
    """Points (n, 3) followed without stopping; a link is a move past the work that the tool makes
    without cutting, a ramp its way down into full metal and once round at the bottom.

    ``repeat`` counts equal legs at other heights.
    """

    kind: LegKind
    points: Vector
    repeat: int = 1

    @property
    def length(self) -> float:
        return float(np.linalg.norm(np.diff(self.points, axis=0), axis=1).sum()) * self.repeat


@dataclass(frozen=True)
class Path:
    """Its lengths are worked out once: a path lives as long as what it was drawn from."""

    legs: tuple[Leg, ...] = ()
    dwell_s: float = 0.0

    @cached_property
    def lengths(self) -> Vector:
        """Of each leg, mm; of equal ones at other heights only the first is counted."""
        if not self.legs:
            return np.zeros(0)
        ends = np.cumsum([len(leg.points) for leg in self.legs])
        points = np.concatenate([leg.points for leg in self.legs])
        ways = np.linalg.norm(np.diff(points, axis=0, append=points[-1:]), axis=1)
        ways[ends - 1] = 0.0  # from one leg to the next
        return np.add.reduceat(ways, np.concatenate([[0], ends[:-1]]))  # type: ignore[no-any-return]

    def way(self, *kinds: LegKind) -> float:
        """Of all legs of these kinds, mm."""
        return sum(
            float(length) * leg.repeat
            for leg, length in zip(self.legs, self.lengths, strict=True)
            if leg.kind in kinds
        )

    @cached_property
    def cutting_mm(self) -> float:
        return self.way("cut", "ramp", "plunge", "link")

    @cached_property
    def rapid_mm(self) -> float:
        return self.way("rapid")

    @property
    def start(self) -> Vector | None:
        return self.legs[0].points[0] if self.legs else None

    @property
    def end(self) -> Vector | None:
        return self.legs[-1].points[-1] if self.legs else None

    @cached_property
    def settles(self) -> int:
        """How often a rapid ends where feeding begins: each waits until the axes stand."""
        return sum(
            leg.repeat
            for before, leg in zip(self.legs, self.legs[1:], strict=False)
            if before.kind == "rapid" != leg.kind
        )

    def bounds(self) -> tuple[Vector, Vector]:
        """Lowest and highest tool-tip position. The path must not be empty."""
        return self._bounds

    @cached_property
    def _bounds(self) -> tuple[Vector, Vector]:
        every = np.concatenate([leg.points for leg in self.legs])
        return every.min(axis=0), every.max(axis=0)


@dataclass(frozen=True, slots=True)
class PathTime:
    """``sideways_s`` is the part of the cutting time that is spent at the feed of the cut, on
    ``sideways_mm`` of path; ``link_s`` the part past the work. So many ``waits`` for the spindle to
    come to its speed are in ``dwell_s``, with ``waited_s``.
    """

    cutting_s: float = 0.0
    rapid_s: float = 0.0
    dwell_s: float = 0.0
    sideways_s: float = 0.0
    sideways_mm: float = 0.0
    link_s: float = 0.0
    waits: int = 0
    waited_s: float = 0.0

    @property
    def total_s(self) -> float:
        return self.cutting_s + self.rapid_s + self.dwell_s


def time_of(
    path: Path,
    feed_mm_min: float,
    plunge_mm_min: float,
    drive: Drive,
    link_mm_min: float | None = None,
) -> PathTime:
    """Seconds in cut and in rapid, with acceleration and corners. Links count as cutting, at a feed
    of their own; the axes stand only where a rapid begins or ends.
    """
    feeds = {
        "cut": feed_mm_min,
        "ramp": feed_mm_min,
        "plunge": plunge_mm_min,
        "link": link_mm_min or feed_mm_min,
    }
    taken = dict.fromkeys((*feeds, "rapid"), 0.0)
    for run in _runs(path.legs):
        if run[0].kind == "rapid":
            taken["rapid"] += run[0].repeat * sum(
                rapid_time(a, b, drive)
                for a, b in zip(run[0].points[:-1], run[0].points[1:], strict=True)
            )
            continue
        points = np.concatenate([run[0].points[:1], *(leg.points[1:] for leg in run)])
        counts = [len(leg.points) - 1 for leg in run]
        at = np.repeat([feeds[leg.kind] for leg in run], counts)
        ends = np.cumsum(counts)
        blocks = block_times(points, at, drive)
        for leg, end, count in zip(run, ends, counts, strict=True):
            taken[leg.kind] += leg.repeat * float(blocks[end - count : end].sum())
    sideways = path.way("cut", "ramp")
    return PathTime(
        taken["cut"] + taken["ramp"] + taken["plunge"] + taken["link"],
        taken["rapid"],
        path.dwell_s,
        taken["cut"] + taken["ramp"],
        sideways,
        taken["link"],
    )


def _runs(legs: tuple[Leg, ...]) -> Iterator[list[Leg]]:
    """Each rapid, each repeated leg, and what is fed along between two of them without a stop."""
    run: list[Leg] = []
    for leg in legs:
        follows = run and leg.repeat == 1 and _meet(run[-1].points[-1], leg.points[0])
        if run and ("rapid" in (leg.kind, run[-1].kind) or run[-1].repeat > 1 or not follows):
            yield run
            run = []
        run.append(leg)
    if run:
        yield run


def _meet(end: Vector, start: Vector) -> bool:
    """Does a leg begin where another ended?"""
    return all(abs(a - b) < TOGETHER_MM for a, b in zip(end.tolist(), start.tolist(), strict=True))


@dataclass
class Pen:
    """Draws a path: lifts to the retract height between cuts, comes down at feed from just above
    the work.
    """

    retract_z: float
    near_z: float
    legs: list[Leg] = field(default_factory=list)
    at: Vector | None = None

    def go_to(self, x: float, y: float, z: float | None = None, over: float | None = None) -> None:
        """Rapid across, then down to z (default: just above the work): at first at the retract
        height, later at a height ``over`` what lies between, if one is given.
        """
        down = self.near_z if z is None else z
        across = self.retract_z if over is None or self.at is None else max(over, self.at[2])
        points = [np.array([x, y, across]), np.array([x, y, down])]
        if self.at is not None:
            points = [self.at, np.array([self.at[0], self.at[1], across]), *points]
        self._add("rapid", np.array(points))

    def plunge(self, z: float) -> None:
        assert self.at is not None
        self._add("plunge", np.array([self.at, [self.at[0], self.at[1], z]]))

    def rapid_z(self, z: float) -> None:
        assert self.at is not None
        self._add("rapid", np.array([self.at, [self.at[0], self.at[1], z]]))

    def cut(self, points: Vector) -> None:
        """Feed from where the tool is through the points."""
        start = points[:1] if self.at is None else self.at[None, :]
        self._add("cut", np.concatenate([start, points]))

    def ramp(self, points: Vector) -> None:
        """Feed through the points on the way down."""
        assert self.at is not None
        self._add("ramp", np.concatenate([self.at[None, :], points]))

    def link(self, points: Vector) -> None:
        """Past the work to where the next cut begins."""
        assert self.at is not None
        self._add("link", np.concatenate([self.at[None, :], points]))

    def lift(self) -> None:
        self.rapid_z(self.retract_z)

    def path(self, dwell_s: float = 0.0) -> Path:
        if self.at is not None and self.at[2] < self.retract_z:
            self.lift()
        return Path(tuple(self.legs), dwell_s)

    def _add(self, kind: LegKind, points: Vector) -> None:
        self.legs.append(Leg(kind, points))
        self.at = points[-1]
