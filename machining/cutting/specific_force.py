"""Kienzle's specific cutting force and what a milling cut asks of the spindle."""

from __future__ import annotations

from math import pi

from machining.quantities.checks import positive, within
from machining.quantities.computed import formula
from machining.quantities.units import (
    Kilowatts,
    Millimetres,
    MillimetresPerMinute,
    NewtonsPerSquareMillimetre,
    Plain,
    Rpm,
)


@formula(unit="N/mm²")
def specific_force(kc11: NewtonsPerSquareMillimetre, mc: Plain, chip: Millimetres) -> float:
    """kc = kc1.1·h^(−mc)

    Force per chip section, growing as the chip thins. Raises OutOfRange for mc outside [0, 1).
    Source: Kienzle, Die Bestimmung von Kräften und Leistungen an spanenden Werkzeugen, VDI-Z 94
    (1952).
    """
    return positive("kc11", kc11) * positive("chip", chip) ** -within(
        "mc", mc, 0.0, 1.0, high_open=True
    )


@formula(unit="cm³/min")
def milling_removal(depth: Millimetres, width: Millimetres, feed: MillimetresPerMinute) -> float:
    """Q = ap·ae·vf/1000

    Volume cut in a minute. Raises OutOfRange for values not over 0.
    Source: ISO 3002-3, material removal rate.
    """
    return positive("depth", depth) * positive("width", width) * positive("feed", feed) / 1000.0


@formula(unit="kW")
def milling_power(
    depth: Millimetres,
    width: Millimetres,
    feed: MillimetresPerMinute,
    kc: NewtonsPerSquareMillimetre,
) -> float:
    """Pc = ap·ae·vf·kc/(60·10⁶)

    Power at the cutting edge. Raises OutOfRange for values not over 0.
    Source: Altintas, Manufacturing Automation, ch. 2.
    """
    return (
        positive("depth", depth)
        * positive("width", width)
        * positive("feed", feed)
        * positive("kc", kc)
        / 60e6
    )


@formula(unit="kW")
def motor_power(power: Kilowatts, efficiency: Plain) -> float:
    """Pm = Pc/η

    Power the motor must give for a power at the edge. Raises OutOfRange for an efficiency outside
    (0, 1].
    Source: ISO 3002-4, power.
    """
    return positive("power", power) / within("efficiency", efficiency, 0.0, 1.0, low_open=True)


@formula(unit="N·m")
def torque(power: Kilowatts, rpm: Rpm) -> float:
    """M = 60 000·P/(2π·n)

    Torque of a power at a speed. Raises OutOfRange for values not over 0.
    Source: mechanics.
    """
    return 60_000.0 * positive("power", power) / (2.0 * pi * positive("rpm", rpm))
