"""Turning: chip, force, power, and facing at a constant cutting speed. Boring shares the laws."""

from __future__ import annotations

from math import ceil, pi, radians, sin

from machining.quantities.checks import MOST_PASSES, not_negative, positive, within
from machining.quantities.computed import formula
from machining.quantities.errors import OutOfRange
from machining.quantities.units import (
    Degrees,
    MetresPerMinute,
    Millimetres,
    Newtons,
    NewtonsPerSquareMillimetre,
    Plain,
    Rpm,
)


@formula(unit="mm", quantity="feed_per_tooth")
def turning_chip(feed_per_rev: Millimetres, edge_angle: Degrees) -> float:
    """h = f·sin κ

    Chip of a straight edge. Raises OutOfRange for an edge angle outside (0, 180).
    Source: ISO 3002-1, undeformed chip thickness.
    """
    return positive("feed_per_rev", feed_per_rev) * sin(
        radians(within("edge_angle", edge_angle, 0.0, 180.0, low_open=True, high_open=True))
    )


@formula(unit="N")
def turning_force(
    kc: NewtonsPerSquareMillimetre, depth: Millimetres, feed_per_rev: Millimetres
) -> float:
    """Fc = kc·ap·f

    Cutting force of turning or boring. Raises OutOfRange for values not over 0.
    Source: Altintas, Manufacturing Automation, ch. 2.
    """
    return positive("kc", kc) * positive("depth", depth) * positive("feed_per_rev", feed_per_rev)


@formula(unit="kW")
def power_at_speed(force: Newtons, cutting_speed: MetresPerMinute) -> float:
    """Pc = Fc·vc/60 000

    Power of a force at a cutting speed. Raises OutOfRange for values not over 0.
    Source: mechanics.
    """
    return positive("force", force) * positive("cutting_speed", cutting_speed) / 60_000.0


@formula(unit="N·m")
def torque_at_diameter(force: Newtons, diameter: Millimetres) -> float:
    """M = Fc·D/2000

    Torque of a force at the rim of a diameter. Raises OutOfRange for values not over 0.
    Source: mechanics.
    """
    return positive("force", force) * positive("diameter", diameter) / 2000.0


@formula(unit="N")
def share_of_force(force: Newtons, ratio: Plain) -> float:
    """F = k·Fc

    Force along the feed or square to the finished surface, as a share of the cutting force. Raises
    OutOfRange for values not over 0.
    Source: machining/data/cutting.toml.
    """
    return positive("force", force) * positive("ratio", ratio)


@formula(unit="", quantity="count")
def plunges(width: Millimetres, insert: Millimetres, step: Millimetres) -> float:
    """N = 1 + ⌈(W − w)/s⌉

    Plunges side by side that make a groove wider than its tool. Raises OutOfRange for a groove
    narrower than the tool and a step over it.
    Source: geometry.
    """
    over = within("width", width, positive("insert", insert) - 1e-9, 1e6) - insert
    return 1.0 + ceil(max(over, 0.0) / within("step", step, 0.0, insert, low_open=True) - 1e-9)


@formula(unit="mm", quantity="size")
def clamp_diameter(cutting_speed: MetresPerMinute, max_rpm: Rpm) -> float:
    """Dc = 1000·vc/(π·n max)

    Diameter under which the spindle's limit holds the speed back. Raises OutOfRange for values not
    over 0.
    Source: ISO 3002-1, cutting speed.
    """
    return 1000.0 * positive("cutting_speed", cutting_speed) / (pi * positive("max_rpm", max_rpm))


@formula(unit="s")
def facing_time(
    outer: Millimetres,
    inner: Millimetres,
    cutting_speed: MetresPerMinute,
    feed_per_rev: Millimetres,
    max_rpm: Rpm,
) -> float:
    """t = 60·(π/(1000·vc·f)·(ro² − rc²) + (rc − ri)/(f·n max))

    Facing between two diameters at a constant cutting speed, and at the spindle's limit inside the
    clamp diameter.
    Raises OutOfRange for an inner diameter outside [0, outer).
    Source: integral of dr/(f·n).
    """
    inner = within("inner", inner, 0.0, positive("outer", outer), high_open=True)
    limit = min(max(clamp_diameter(cutting_speed, max_rpm), inner), outer)
    outside, middle, inside = outer / 2.0, limit / 2.0, inner / 2.0
    feed = positive("feed_per_rev", feed_per_rev)
    return 60.0 * (
        pi / (1000.0 * cutting_speed * feed) * (outside**2 - middle**2)
        + (middle - inside) / (feed * max_rpm)
    )


def feed_time(
    length: float,
    start: float,
    end: float,
    cutting_speed: float,
    feed_per_rev: float,
    max_rpm: float,
) -> float:
    """Seconds to feed a straight length (mm) between two diameters at a constant cutting speed held
    by a largest spindle speed.

    Along a cone the feed's path is longer than its way across, in proportion. Raises OutOfRange for
    values not over 0.
    Source: integral of ds/(f·n).
    """
    across = abs(end - start) / 2.0
    if across > 1e-9:
        return (
            length
            / across
            * facing_time(max(start, end), min(start, end), cutting_speed, feed_per_rev, max_rpm)
        )
    rpm = min(max_rpm, 1000.0 * cutting_speed / (pi * start)) if start > 0 else max_rpm
    return 60.0 * length / (positive("feed_per_rev", feed_per_rev) * rpm)


def rough_diameters(
    start: float, finish: float, max_depth: float, allowance: float
) -> tuple[float, list[float]]:
    """Depth of each of the equal roughing passes (mm per side) and the diameters they leave, the
    finish last.

    Raises OutOfRange for a finish outside (0, start) and for an allowance larger than the stock per
    side.
    """
    within("finish", finish, 0.0, positive("start", start), low_open=True, high_open=True)
    stock = (start - finish) / 2.0
    if not_negative("finish_allowance", allowance) > stock + 1e-12:
        raise OutOfRange(
            "finish_allowance", f"{allowance:g}", f"up to the stock per side, {stock:g}"
        )
    rough = max(stock - allowance, 0.0)
    passes = rough / positive("max_depth", max_depth)
    if passes > MOST_PASSES:
        raise OutOfRange(
            "max_depth",
            f"{max_depth:g}",
            f"at least {rough / MOST_PASSES:.3g}, for {MOST_PASSES} passes or fewer",
        )
    passes = ceil(passes - 1e-9)
    depth = rough / passes if passes else 0.0
    return depth, [start - 2.0 * depth * k for k in range(1, passes + 1)] + [finish]
