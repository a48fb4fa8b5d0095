"""A part held at an angle: what a sine bar stands on, and how closely an angle is set."""

from __future__ import annotations

from math import radians, sin, tan

from machining.quantities.checks import positive, within
from machining.quantities.computed import formula
from machining.quantities.units import Degrees, Millimetres

OVER_MM = 100.0


@formula(unit="mm")
def gauge_stack(bar: Millimetres, angle: Degrees) -> float:
    """h = L·sin θ

    Gauge blocks under one roll of a sine bar, L between the middles of its rolls, for an angle to
    what it stands on. Raises OutOfRange for a bar not over 0 or an angle outside (0, 90).
    Source: the right triangle under the bar.
    """
    steep = within("angle", angle, 0.0, 90.0, low_open=True, high_open=True)
    return positive("bar", bar) * sin(radians(steep))


@formula(unit="mm")
def off_over_100(angle_within: Degrees) -> float:
    """d = 100·tan δ

    By how much a face may be off over 100 mm, cut at an angle that is set within δ. Raises
    OutOfRange outside [0, 10].
    Source: the right triangle over the face.
    """
    return OVER_MM * tan(radians(within("angle_within", angle_within, 0.0, 10.0)))
