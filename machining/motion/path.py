"""A nominal path: legs of rapid and feed in the setup frame, and what they add up to."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Literal

import numpy as np

from machining.geometry.frames import Vector

from .timing import Drive, path_time, rapid_time

LegKind = Literal["rapid", "cut", "plunge"]


@dataclass(frozen=True, slots=True)
class Leg:
    """Points (n, 3) followed without stopping. ``repeat`` counts equal legs at other heights."""

    kind: LegKind
    points: Vector
    repeat: int = 1

    @property
    def length(self) -> float:
        return float(np.linalg.norm(np.diff(self.points, axis=0), axis=1).sum()) * self.repeat


@dataclass(frozen=True, slots=True)
class Path:
    legs: tuple[Leg, ...] = ()
    dwell_s: float = 0.0

    @property
    def cutting_mm(self) -> float:
        return sum(leg.length for leg in self.legs if leg.kind != "rapid")

    @property
    def rapid_mm(self) -> float:
        return sum(leg.length for leg in self.legs if leg.kind == "rapid")

    @property
    def start(self) -> Vector | None:
        return self.legs[0].points[0] if self.legs else None

    @property
    def end(self) -> Vector | None:
        return self.legs[-1].points[-1] if self.legs else None

    def bounds(self) -> tuple[Vector, Vector]:
        """Lowest and highest tool-tip position. The path must not be empty."""
        every = np.concatenate([leg.points for leg in self.legs])
        return every.min(axis=0), every.max(axis=0)


@dataclass(frozen=True, slots=True)
class PathTime:
    cutting_s: float
    rapid_s: float
    dwell_s: float

    @property
    def total_s(self) -> float:
        return self.cutting_s + self.rapid_s + self.dwell_s


def time_of(path: Path, feed_mm_min: float, plunge_mm_min: float, drive: Drive) -> PathTime:
    """Seconds in cut and in rapid, with acceleration and corners."""
    cutting = rapid = 0.0
    for leg in path.legs:
        if leg.kind == "rapid":
            rapid += leg.repeat * sum(rapid_time(a, b, drive) for a, b in zip(leg.points[:-1], leg.points[1:], strict=True))
        else:
            cutting += leg.repeat * path_time(leg.points, feed_mm_min if leg.kind == "cut" else plunge_mm_min, drive)
    return PathTime(cutting, rapid, path.dwell_s)


@dataclass
class Pen:
    """Draws a path: lifts to the retract height between cuts, comes down at feed from just above the work."""

    retract_z: float
    near_z: float
    legs: list[Leg] = field(default_factory=list)
    at: Vector | None = None

    def go_to(self, x: float, y: float, z: float | None = None) -> None:
        """Rapid across at the retract height, then down to z (default: just above the work)."""
        down = self.near_z if z is None else z
        above = np.array([x, y, self.retract_z])
        points = [above, np.array([x, y, down])]
        if self.at is not None:
            lifted = np.array([self.at[0], self.at[1], self.retract_z])
            points = [self.at, lifted, *points]
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

    def lift(self) -> None:
        self.rapid_z(self.retract_z)

    def path(self, dwell_s: float = 0.0) -> Path:
        if self.at is not None and self.at[2] < self.retract_z:
            self.lift()
        return Path(tuple(self.legs), dwell_s)

    def _add(self, kind: LegKind, points: Vector) -> None:
        self.legs.append(Leg(kind, points))
        self.at = points[-1]
