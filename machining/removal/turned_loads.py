"""What a turned cut asks along its way, over as much of it as a spindle can tell apart."""

from __future__ import annotations

from dataclasses import dataclass
from math import pi

import numpy as np
from numpy.typing import NDArray

from machining.geometry.frames import Vector

from .loads import WINDOW_S, sums_over
from .turned import STRIP_MM, Swept


@dataclass(frozen=True, slots=True)
class Turning:
    """At what a path is turned: a speed kept at the tip (m/min) up to so many turns a minute, or
    where there is none that many all along; and the feed of each turn, mm.
    """

    cutting_speed: float | None
    most_rpm: float
    per_turn: float

    def rpm_at(self, radius: Vector) -> Vector:
        """At a distance (mm) of the tip from the axis."""
        if self.cutting_speed is None:
            return np.full(len(radius), self.most_rpm)
        at = np.maximum(radius, 1e-9)
        asked: Vector = np.minimum(1000.0 * self.cutting_speed / (2.0 * pi * at), self.most_rpm)
        return asked


@dataclass(frozen=True, slots=True)
class TurnedLoads:
    """Of each strip that is fed (n,): where the tip ends (n, 2), its way, mm, the depth of cut
    square to it, mm, the speed of the edge there, m/min, and what is removed, cm³/min, both over a
    window that ends there.
    """

    at: Vector
    length: Vector
    depth: Vector
    speed: Vector
    removal: Vector


@dataclass(frozen=True, slots=True)
class FoundTurned:
    """What a turned path meets: the share of its time that it is in contact, and its loads where
    its cut is one that turns the section away; ``hardest`` is the strip of the deepest cut. What it
    takes at rapid (mm³), and where most of it.
    """

    share_in_cut: float
    loads: TurnedLoads | None = None
    hardest: int | None = None
    at_rapid: float = 0.0
    rapid_at: tuple[float, float] | None = None

    @property
    def depth(self) -> float | None:
        """At its hardest, mm."""
        if self.loads is None or self.hardest is None:
            return None
        return float(self.loads.depth[self.hardest])

    @property
    def removal(self) -> float | None:
        """The most, cm³/min."""
        return None if self.loads is None else float(self.loads.removal.max(initial=0.0))


def found_turned(swept: Swept, fed: NDArray[np.bool_], turning: Turning) -> FoundTurned:
    """``fed`` are the strips (n,) that are not gone through at rapid."""
    start, end, length = swept.start[fed], swept.end[fed], swept.length[fed]
    rapid = np.where(fed, 0.0, swept.volume)
    most = int(rapid.argmax()) if rapid.any() else None
    place = None if most is None else (float(swept.end[most, 0]), float(swept.end[most, 1]))
    if not len(length):
        return FoundTurned(0.0, at_rapid=float(rapid.sum()), rapid_at=place)
    middle = np.maximum((start[:, 0] + end[:, 0]) / 2.0, 0.0)
    rpm = turning.rpm_at(middle)
    seconds = 60.0 * length / (turning.per_turn * rpm)
    cut = swept.in_cut[fed]
    share = float(seconds[cut].sum() / seconds.sum())
    run = np.concatenate([[0], np.cumsum(np.diff(swept.leg[fed]) > 0)])
    first = np.searchsorted(run, run)
    since = _window(seconds, length, first)
    long = sums_over(length, since)
    depth = sums_over(swept.area[fed], since) / long
    removal = sums_over(swept.volume[fed], since) / sums_over(seconds, since) * 60.0 / 1000.0
    loads = TurnedLoads(
        end, length, depth, 2.0 * pi * np.maximum(end[:, 0], 0.0) * rpm / 1000.0, removal
    )
    hardest = int(np.argmax(depth)) if cut.any() else None
    return FoundTurned(share, loads, hardest, float(rapid.sum()), place)


def _window(seconds: Vector, length: Vector, first: NDArray[np.intp]) -> NDArray[np.intp]:
    """Where the window begins that ends with each strip: a tenth of a second and no shorter than a
    strip, within its leg.
    """
    in_time = np.concatenate([[0.0], np.cumsum(seconds)])
    in_way = np.concatenate([[0.0], np.cumsum(length)])
    slack = 1e-9
    by_time = np.searchsorted(in_time, in_time[1:] - WINDOW_S + slack, side="right") - 1
    by_way = np.searchsorted(in_way, in_way[1:] - STRIP_MM + slack, side="right") - 1
    since: NDArray[np.intp] = np.maximum(np.minimum(by_time, by_way), first)
    return since
