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

NO_AXIS = 1.0  # speed and acceleration of an axis that is not there, and not to be moved


@dataclass(frozen=True, slots=True)
class Drive:
    """What a path meets on a machine: limits per axis (mm/min, mm/s²), jerk time (s), corner
    tolerance (mm).
    """

    rapid: tuple[float, float, float]
    acceleration: tuple[float, float, float]
    jerk_time_s: float
    corner_tolerance_mm: float
    block_time_s: float
    each_axis: bool = False

    @staticmethod
    def of(rig: Rig) -> Drive:
        machine, rapid, most = rig.machine, rig.carrier.rapid, rig.carrier.acceleration
        return Drive(
            (rapid.x, rapid.y or NO_AXIS, rapid.z),
            (most.x, most.y or NO_AXIS, most.z),
            machine.jerk_time_s,
            machine.corner_tolerance_mm,
            machine.block_time_s,
            machine.rapid_moves == "each-axis",
        )


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
        return max(
            move_time(
                float(d), drive.rapid[i], drive.acceleration[i], _jerk(drive.acceleration[i], drive)
            )[0]
            for i, d in enumerate(delta)
        )
    unit = delta / length
    speed = min(drive.rapid[i] / u for i, u in enumerate(unit) if u > 1e-9)
    acceleration = min(drive.acceleration[i] / u for i, u in enumerate(unit) if u > 1e-9)
    return move_time(length, float(speed), float(acceleration), _jerk(float(acceleration), drive))[
        0
    ]


def _jerk(acceleration: float, drive: Drive) -> float | None:
    return acceleration / drive.jerk_time_s if drive.jerk_time_s > 0 else None


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
    corners allow; speeds then rise and fall no faster than the acceleration. The jerk time is added
    once for start and stop, to the first block.
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
        half = np.sqrt(np.clip((1.0 + np.einsum("ij,ij->i", unit[:-1], unit[1:])) / 2.0, 0.0, 1.0))
        slowest = np.minimum(acceleration[:-1], acceleration[1:])
        with np.errstate(divide="ignore"):
            corner = np.sqrt(
                slowest * drive.corner_tolerance_mm * half / np.maximum(1.0 - half, 1e-15)
            )
        joints[1:-1] = np.minimum(corner, np.minimum(speed[:-1], speed[1:]))
    reach = 2.0 * acceleration * lengths
    ends, reaches = (joints**2).tolist(), reach.tolist()
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
    taken[np.argmax(kept)] += drive.jerk_time_s
    return taken


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
