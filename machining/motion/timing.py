"""How long moves take on an axis drive that accelerates, and how corners slow a path.

Source of the laws: kinematics; the corner speed follows from a circle that leaves the corner by the
tolerance.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import cos, inf, sqrt

import numpy as np

from machining.geometry.frames import Vector
from machining.quantities.checks import not_negative, positive
from machining.world.capability import Rig
from machining.world.carrier import Axes

NO_WAY = 1e-9
NO_AXIS = 1.0  # speed and acceleration of an axis that is not there, and not to be moved


Each = tuple[float, float, float]


@dataclass(frozen=True, slots=True)
class Drive:
    """What a path meets on a machine: limits per axis (mm/min, mm/s²), seconds to full acceleration
    of each, corner tolerance (mm) or, where there is one, the step of speed each axis takes at a
    corner (mm/min), and how many blocks ahead it sees.
    """

    rapid: Each
    acceleration: Each
    jerk_time_s: Each
    corner_tolerance_mm: float
    block_time_s: float
    each_axis: bool = False
    corner_step: Each | None = None
    look_ahead: int | None = None

    @staticmethod
    def of(rig: Rig) -> Drive:
        machine, carrier, jerk, step = (
            rig.machine,
            rig.carrier,
            rig.carrier.jerk_s,
            rig.carrier.corner_step,
        )
        alike = machine.jerk_time_s
        return Drive(
            _there(carrier.rapid),
            _there(carrier.acceleration),
            (alike, alike, alike) if jerk is None else (jerk.x, jerk.y, jerk.z),
            machine.corner_tolerance_mm,
            machine.block_time_s,
            machine.rapid_moves == "each-axis",
            None if step is None else _there(step),
            machine.look_ahead,
        )

    def along(self, way: Vector) -> tuple[float, float, float]:
        """The most of rapid (mm/min) and acceleration (mm/s²) along a unit direction (3,), and the
        seconds to that acceleration: the axis that is least able counts.
        """
        speed = most = jerk = inf
        for k, share in enumerate(way.tolist()):
            if (by := abs(share)) > NO_WAY:
                speed = min(speed, self.rapid[k] / by)
                most = min(most, self.acceleration[k] / by)
                if self.jerk_time_s[k] > 0.0:  # a jerk that no axis has to exceed
                    jerk = min(jerk, self.acceleration[k] / self.jerk_time_s[k] / by)
        return speed, most, most / jerk


def _there(axes: Axes) -> Each:
    return axes.x, axes.y or NO_AXIS, axes.z


def move_time(
    distance_mm: float,
    speed_mm_min: float,
    acceleration_mm_s2: float,
    jerk_mm_s3: float | None = None,
) -> tuple[float, float]:
    """Time (s) of a move from rest to rest and the speed reached (mm/min).

    Without jerk a trapezoid; with jerk j and τ = a/j an S-shaped one. Raises OutOfRange for values
    not over 0.
    """
    d, v, a = (
        not_negative("distance_mm", distance_mm),
        positive("speed_mm_min", speed_mm_min) / 60.0,
        positive("acceleration_mm_s2", acceleration_mm_s2),
    )
    if d == 0:
        return 0.0, 0.0
    tau = a / positive("jerk_mm_s3", jerk_mm_s3) if jerk_mm_s3 else 0.0
    if v < a * tau:
        # the speed is reached before the full acceleration
        a, tau = sqrt(v * a / tau), sqrt(v * tau / a)
    if v * (v / a + tau) <= d:
        return d / v + v / a + tau, 60.0 * v
    peak = a / 2.0 * (sqrt(tau * tau + 4.0 * d / a) - tau)
    if peak >= a * tau:
        return 2.0 * (peak / a + tau), 60.0 * peak
    jerk = a / tau
    third = (d / 2.0 / jerk) ** (1.0 / 3.0)
    return 4.0 * third, 60.0 * jerk * third**2


def corner_speed(turn_rad: float, acceleration_mm_s2: float, tolerance_mm: float) -> float:
    """Speed (mm/min) a corner allows: v = √(a·δ·c/(1 − c)), c = cos(β/2), β the change of
    direction.
    """
    c = cos(turn_rad / 2.0)
    if 1.0 - c < 1e-12:
        return inf
    return 60.0 * sqrt(acceleration_mm_s2 * tolerance_mm * max(c, 0.0) / (1.0 - c))


def rapid_time(start: Vector, end: Vector, drive: Drive) -> float:
    """Time of a rapid from rest to rest, linear or each axis alone."""
    delta = np.abs(np.asarray(end, dtype=float) - np.asarray(start, dtype=float))
    length = float(np.linalg.norm(delta))
    if length < 1e-9:
        return 0.0
    if drive.each_axis:
        return max(_from_rest(float(d), *drive.along(np.eye(3)[i])) for i, d in enumerate(delta))
    return _from_rest(length, *drive.along(delta / length))


def _from_rest(length: float, speed: float, acceleration: float, jerk_time: float) -> float:
    return move_time(length, speed, acceleration, acceleration / jerk_time if jerk_time else None)[
        0
    ]


def path_time(points: Vector, feed_mm_min: float, drive: Drive) -> float:
    """Time (s) to feed along a polyline (n, 3) from rest to rest, with look-ahead over all its
    blocks.
    """
    feed = positive("feed_mm_min", feed_mm_min)
    return float(block_times(points, np.full(max(len(points) - 1, 0), feed), drive).sum())


def block_times(points: Vector, feeds_mm_min: Vector, drive: Drive) -> Vector:
    """Time (s) of each block of a polyline (n, 3) from rest to rest, each at a feed of its own
    (n − 1), with look-ahead over all of them.

    Each block's speed is held to the feed, to its length over the block time, and to what its
    corners allow; speeds then rise and fall no faster than the acceleration, and are such that it
    could stop in the blocks it sees. The jerk time is added once for start and stop, to the first
    block.
    """
    steps = np.diff(np.asarray(points, dtype=float), axis=0)
    lengths = np.linalg.norm(steps, axis=1)
    kept = lengths > 1e-6
    taken = np.zeros(len(lengths))
    steps, lengths, feeds = steps[kept], lengths[kept], np.asarray(feeds_mm_min)[kept]
    if not len(lengths):
        return taken
    unit = steps / lengths[:, None]
    limits = np.array(drive.acceleration)
    with np.errstate(divide="ignore"):
        acceleration = np.min(limits / np.maximum(np.abs(unit), 1e-9), axis=1)
    speed = np.minimum(
        feeds / 60.0,
        lengths / drive.block_time_s if drive.block_time_s > 0 else inf,
    )
    joints = np.zeros(len(lengths) + 1)
    if len(lengths) > 1:
        corner = _corners(unit, acceleration, drive)
        joints[1:-1] = np.minimum(corner, np.minimum(speed[:-1], speed[1:]))
    reach = 2.0 * acceleration * lengths
    squares = joints**2
    if drive.look_ahead is not None:
        squares = np.minimum(squares, _stops_within(reach, drive.look_ahead))
    ends, reaches = squares.tolist(), reach.tolist()
    for i in range(len(reaches)):
        ends[i + 1] = min(ends[i + 1], ends[i] + reaches[i])
    for i in range(len(reaches) - 1, -1, -1):
        ends[i] = min(ends[i], ends[i + 1] + reaches[i])
    v = np.sqrt(np.array(ends))
    v0, v1 = v[:-1], v[1:]
    top = np.minimum(speed, np.sqrt((v0**2 + v1**2 + reach) / 2.0))
    ramp_up, ramp_down = (
        (top**2 - v0**2) / (2.0 * acceleration),
        (top**2 - v1**2) / (2.0 * acceleration),
    )
    cruise = np.maximum(lengths - ramp_up - ramp_down, 0.0)
    taken[kept] = (top - v0) / acceleration + (top - v1) / acceleration + cruise / top
    taken[np.argmax(kept)] += drive.along(unit[0])[2]
    return taken


def _corners(unit: Vector, acceleration: Vector, drive: Drive) -> Vector:
    """The speed (mm/s) each corner between unit directions (n, 3) allows (n − 1)."""
    if drive.corner_step is not None:
        change = np.abs(np.diff(unit, axis=0))
        with np.errstate(divide="ignore"):
            allowed = np.array(drive.corner_step) / 60.0 / change
        return allowed.min(axis=1)  # type: ignore[no-any-return]
    half = np.sqrt(np.clip((1.0 + np.einsum("ij,ij->i", unit[:-1], unit[1:])) / 2.0, 0.0, 1.0))
    slowest = np.minimum(acceleration[:-1], acceleration[1:])
    with np.errstate(divide="ignore"):
        rounded = slowest * drive.corner_tolerance_mm * half / np.maximum(1.0 - half, 1e-15)
    return np.sqrt(rounded)  # type: ignore[no-any-return]


def _stops_within(reach: Vector, blocks: int) -> Vector:
    """Squares of the speeds (n + 1) from which it can stop in so many blocks on from each joint."""
    way = np.concatenate([[0.0], np.cumsum(reach)])
    last = np.minimum(np.arange(len(way)) + blocks, len(way) - 1)
    return way[last] - way  # type: ignore[no-any-return]


def spindle_time(rpm: float, max_rpm: float, base_rpm: float, time_to_max_s: float) -> float:
    """Seconds from rest to a speed: constant torque up to the base speed, constant power above.

    t(n) = T·g(n)/g(nmax), g = n/nb up to nb, (1 + (n/nb)²)/2 above. Raises OutOfRange for values
    not over 0.
    """
    base = positive("base_rpm", base_rpm)

    def g(n: float) -> float:
        return n / base if n <= base else (1.0 + (n / base) ** 2) / 2.0

    return (
        positive("time_to_max_s", time_to_max_s)
        * g(not_negative("rpm", rpm))
        / g(positive("max_rpm", max_rpm))
    )
