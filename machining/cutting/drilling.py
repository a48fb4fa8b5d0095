"""Drilling: chip, torque, power and thrust. Boring and reaming use the same chip section law."""

from __future__ import annotations

from math import ceil, pi, radians, sin, tan

from machining.quantities.checks import not_negative, positive, within
from machining.quantities.computed import formula
from machining.quantities.units import (
    Degrees,
    Millimetres,
    NewtonMetres,
    NewtonsPerSquareMillimetre,
    Plain,
    Rpm,
)


@formula(unit="mm", quantity="feed_per_tooth")
def drill_chip(feed_per_rev: Millimetres, point_angle: Degrees) -> float:
    """h = f/2·sin(σ/2)

    Chip of each of a drill's two lips. Raises OutOfRange for a point angle outside (0, 180].
    Source: Altintas, Manufacturing Automation, ch. 2.
    """
    return (
        positive("feed_per_rev", feed_per_rev)
        / 2.0
        * sin(radians(within("point_angle", point_angle, 0.0, 180.0, low_open=True)) / 2.0)
    )


@formula(unit="N·m")
def drill_torque(
    kc: NewtonsPerSquareMillimetre, feed_per_rev: Millimetres, diameter: Millimetres
) -> float:
    """M = kc·f·D²/8000

    Torque of a drill in full material. Raises OutOfRange for values not over 0.
    Source: Altintas, Manufacturing Automation, ch. 2.
    """
    return (
        positive("kc", kc)
        * positive("feed_per_rev", feed_per_rev)
        * positive("diameter", diameter) ** 2
        / 8000.0
    )


@formula(unit="kW")
def power_of_torque(torque: NewtonMetres, rpm: Rpm) -> float:
    """Pc = 2π·n·M/60 000

    Power of a torque at a speed. Raises OutOfRange for values not over 0.
    Source: mechanics.
    """
    return 2.0 * pi * positive("rpm", rpm) * positive("torque", torque) / 60_000.0


@formula(unit="N")
def drill_thrust(
    kc: NewtonsPerSquareMillimetre,
    feed_per_rev: Millimetres,
    diameter: Millimetres,
    point_angle: Degrees,
) -> float:
    """Ff = 0.5·kc·D/2·f·sin(σ/2)

    Thrust of the lips, without the chisel edge. Raises OutOfRange for values not over 0.
    Source: Altintas, Manufacturing Automation, ch. 2.
    """
    return (
        0.25
        * positive("kc", kc)
        * positive("diameter", diameter)
        * positive("feed_per_rev", feed_per_rev)
        * sin(radians(point_angle) / 2.0)
    )


@formula(unit="N")
def thrust_with_chisel(lips: float, chisel_factor: Plain) -> float:
    """F = c·Ff

    Thrust of the whole drill; the chisel edge adds its share. Raises OutOfRange for values not over
    0.
    Source: machining/data/cutting.toml, chisel.
    """
    return positive("lips", lips) * positive("chisel_factor", chisel_factor)


@formula(unit="mm")
def point_height(diameter: Millimetres, point_angle: Degrees) -> float:
    """t = D/(2·tan(σ/2))

    Height of a drill's point. Raises OutOfRange for a point angle outside (0, 180].
    Source: geometry.
    """
    return (
        positive("diameter", diameter)
        / 2.0
        / tan(radians(within("point_angle", point_angle, 0.0, 180.0, low_open=True)) / 2.0)
        if point_angle < 180
        else 0.0
    )


@formula(unit="mm", quantity="feed_per_tooth")
def chip_of_each_edge(feed_per_rev: Millimetres, edges: Plain) -> float:
    """h = f/z

    Chip of each edge of a reamer or boring head. Raises OutOfRange for values not over 0.
    Source: ISO 3002-3, feed per tooth.
    """
    return positive("feed_per_rev", feed_per_rev) / positive("edges", edges)


@formula(unit="", quantity="count")
def pecks(depth: Millimetres, peck: Millimetres) -> float:
    """N = ⌈L/q⌉

    Times a drill comes back for its chips, the last included. Raises OutOfRange for values not over
    0.
    Source: shop practice.
    """
    return float(ceil(positive("depth", depth) / positive("peck", peck) - 1e-9))


@formula(unit="N·m")
def annulus_torque(
    kc: NewtonsPerSquareMillimetre,
    width: Millimetres,
    feed_per_rev: Millimetres,
    diameter: Millimetres,
) -> float:
    """M = kc·ap·f·(D − ap)/2000

    Torque of a boring or reaming cut of a width per side. Raises OutOfRange for a width not under
    half the diameter.
    Source: Altintas, Manufacturing Automation, ch. 2.
    """
    within("width", width, 0.0, positive("diameter", diameter) / 2.0, low_open=True)
    return (
        positive("kc", kc)
        * width
        * positive("feed_per_rev", feed_per_rev)
        * (diameter - width)
        / 2000.0
    )


@formula(unit="mm")
def tip_below_hole(point: Millimetres, past: Millimetres) -> float:
    """z = t + a

    How far the tip of a drill goes below a through hole: its point and the run past the bottom.
    Raises OutOfRange for negative values.
    Source: shop practice.
    """
    return not_negative("point", point) + not_negative("past", past)
