"""Where a point goes when its table turns."""

from __future__ import annotations

from math import cos, radians, sin

from machining.quantities.checks import finite


def turned_about_y(centre: tuple[float, float], point: tuple[float, float], angle_deg: float) -> tuple[float, float]:
    """(x, z) of a point after a physical, right-handed turn about +Y round a centre: o = c + R(θ)(p − c).

    Raises OutOfRange for what is no number. Source: rotation in the plane; Z turns towards X.
    """
    turn = radians(finite("angle_deg", angle_deg))
    x, z = point[0] - centre[0], point[1] - centre[1]
    return centre[0] + x * cos(turn) + z * sin(turn), centre[1] - x * sin(turn) + z * cos(turn)
