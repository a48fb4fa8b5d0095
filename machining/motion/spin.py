"""How fast a spindle comes to another speed, and what a feed that is tied to it takes meanwhile."""

from __future__ import annotations

from dataclasses import dataclass
from math import ceil, pi, sqrt

from machining.cutting.turning import feed_time
from machining.quantities.checks import positive
from machining.world.spindle import Spindle

STEP = 0.01  # of its highest speed: what it should change by at most from step to step
MOST_STEPS, HALVES, SAME = 400, 3, 1e-9


@dataclass(frozen=True, slots=True)
class Spin:
    """A spindle's highest speed (rpm), the one it pulls up to with constant torque, and the seconds
    from rest to its highest. It slows down as it speeds up.

    Source: constant torque up to the base speed, constant power above.
    """

    max_rpm: float
    base_rpm: float
    start_s: float

    @staticmethod
    def of(spindle: Spindle) -> Spin:
        return Spin(spindle.max_rpm, spindle.base_rpm, spindle.start_s)

    def _g(self, rpm: float) -> float:
        share = rpm / self.base_rpm
        return share if share <= 1.0 else (1.0 + share * share) / 2.0

    def _rpm(self, g: float) -> float:
        return self.base_rpm * (g if g <= 1.0 else sqrt(2.0 * g - 1.0))

    @property
    def _rate(self) -> float:
        return self._g(self.max_rpm) / self.start_s

    def between(self, rpm: float, other: float) -> float:
        """Seconds from one speed to another."""
        return abs(self._g(other) - self._g(rpm)) / self._rate

    def after(self, rpm: float, towards: float, seconds: float) -> float:
        """The speed after so long on the way to another, which it does not pass."""
        g, to, by = self._g(rpm), self._g(towards), self._rate * seconds
        return towards if abs(to - g) <= by else self._rpm(g + by if to > g else g - by)

    def keeps_up(self, feed_per_rev: float, cutting_speed: float, rpm: float) -> bool:
        """Does it gain speed as fast as a cutting speed (m/min) kept towards the middle asks there:
        2·f·n³/(1000·vc/π) a minute?
        """
        asked = 2.0 * feed_per_rev * rpm**3 / (1000.0 * cutting_speed / pi) / 60.0
        steep = 1.0 / self.base_rpm if rpm <= self.base_rpm else rpm / self.base_rpm**2
        return asked * steep <= self._rate


@dataclass(frozen=True, slots=True)
class Kept:
    """A cutting speed (m/min) kept at the edge by a feed per turn (mm) up to a speed (rpm)."""

    cutting_speed: float
    feed_per_rev: float
    max_rpm: float

    def rpm(self, diameter: float) -> float:
        """What it asks at a diameter (mm)."""
        if diameter * pi * self.max_rpm <= 1000.0 * self.cutting_speed:
            return self.max_rpm
        return 1000.0 * self.cutting_speed / (pi * diameter)


def fed(
    length: float, start: float, end: float, kept: Kept, spin: Spin, now: float
) -> tuple[float, float]:
    """Seconds of a straight feed (mm) between two diameters (mm) by a spindle that turns at ``now``
    where it begins, and what it turns at in the end (rpm). Where it keeps up, the closed form.

    Raises OutOfRange for a feed or a speed not over 0.
    """
    feed = positive("feed_per_rev", kept.feed_per_rev)
    first, last = kept.rpm(start), kept.rpm(end)
    fastest = max(first, last)
    keeps_up = first == last or spin.keeps_up(feed, kept.cutting_speed, fastest)
    if keeps_up and abs(now - first) <= SAME * fastest:
        return feed_time(length, start, end, kept.cutting_speed, feed, kept.max_rpm), last
    off = abs(last - first) + abs(now - first)
    steps = min(max(ceil(off / (STEP * spin.max_rpm)), 1), MOST_STEPS)
    ds, seconds = length / steps, 0.0
    for k in range(1, steps + 1):
        asked, then = kept.rpm(start + (end - start) * k / steps), now
        for _ in range(HALVES):
            taken = 60.0 * ds / (feed * (now + then) / 2.0)
            then = spin.after(now, asked, taken)
        seconds, now = seconds + taken, then
    return seconds, now
