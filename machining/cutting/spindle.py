"""What a spindle gives at a speed, read off its curve."""

from __future__ import annotations

from collections.abc import Sequence
from math import pi

from machining.quantities.checks import not_negative
from machining.quantities.computed import formula
from machining.quantities.units import Kilowatts, NewtonMetres, Rpm
from machining.world.spindle import CurvePoint, Spindle, SpindleRange


def neighbours(curve: Sequence[CurvePoint], rpm: float) -> tuple[CurvePoint, CurvePoint]:
    """The two points of a curve a speed lies between; the end points beyond its ends."""
    for low, high in zip(curve, curve[1:], strict=False):
        if rpm <= high.rpm:
            return low, high
    return curve[-1], curve[-1]


def range_for(spindle: Spindle, rpm: float) -> SpindleRange | None:
    """The range that turns at this speed with the most power, None when none does."""
    turning = [r for r in spindle.ranges if r.min_rpm <= rpm <= r.max_rpm + 1e-6]
    return max(
        turning,
        key=lambda r: _between(rpm, *[(p.rpm, p.power_kw) for p in neighbours(r.continuous, rpm)]),
        default=None,
    )


def _between(rpm: float, low: tuple[float, float], high: tuple[float, float]) -> float:
    if high[0] <= low[0]:
        return high[1]
    share = min(max((rpm - low[0]) / (high[0] - low[0]), 0.0), 1.0)
    return low[1] + share * (high[1] - low[1])


@formula(unit="kW")
def available_power(
    rpm: Rpm, rpm_below: Rpm, power_below: Kilowatts, rpm_above: Rpm, power_above: Kilowatts
) -> float:
    """P(n) between the curve's two nearest points

    Continuous power of the active range at a speed. Raises OutOfRange for a negative speed.
    Source: machine's spindle curve.
    """
    return _between(not_negative("rpm", rpm), (rpm_below, power_below), (rpm_above, power_above))


@formula(unit="N·m")
def available_torque(
    rpm: Rpm,
    rpm_below: Rpm,
    torque_below: NewtonMetres,
    rpm_above: Rpm,
    torque_above: NewtonMetres,
    power: Kilowatts,
) -> float:
    """M(n) between the curve's two nearest points, and no more than P/(2·π·n)

    Continuous torque of the active range at a speed at which it gives a power: where that is level
    the torque falls along a hyperbola, under the line from point to point. Raises OutOfRange for a
    negative speed.
    Source: machine's spindle curve.
    """
    turns = not_negative("rpm", rpm)
    on_line = _between(turns, (rpm_below, torque_below), (rpm_above, torque_above))
    return on_line if turns <= 0 else min(on_line, 60_000.0 * power / (2.0 * pi * turns))
