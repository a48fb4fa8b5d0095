"""Where a point goes when its table turns."""

from __future__ import annotations

from math import cos, radians, sin

import numpy as np

from machining.geometry.frames import Pose, Vector, about_z
from machining.quantities.checks import finite, not_negative, positive
from machining.quantities.computed import formula
from machining.quantities.units import Degrees, Plain, Seconds


def turned_about_y(
    centre: tuple[float, float], point: tuple[float, float], angle_deg: float
) -> tuple[float, float]:
    """(x, z) of a point after a physical, right-handed turn about +Y round a centre: o = c + R(θ)(p
    − c).

    Raises OutOfRange for what is no number. Source: rotation in the plane; Z turns towards X.
    """
    turn = radians(finite("angle_deg", angle_deg))
    x, z = point[0] - centre[0], point[1] - centre[1]
    return centre[0] + x * cos(turn) + z * sin(turn), centre[1] - x * sin(turn) + z * cos(turn)


@formula(unit="s")
def index_time(turned: Degrees, speed: Plain, positions: Plain, clamp: Seconds) -> float:
    """t = Σθ/ω + N·tc

    Going to N positions and clamping in each; Σθ is the longer of both axes' ways, added up. Raises
    OutOfRange for a speed not over 0.
    Source: kinematics, without the axes' acceleration.
    """
    return not_negative("turned", turned) / positive("speed", speed) + not_negative(
        "positions", positions
    ) * not_negative("clamp", clamp)


@formula(unit="s")
def waiting_time(turned: Degrees, speed: Plain) -> float:
    """t = θ/ω

    What a feed waits where the table must turn faster than it can: at corners, and on short arcs.
    Raises OutOfRange for a speed not over 0.
    Source: kinematics.
    """
    return not_negative("turned", turned) / positive("speed", speed)


def tilted_pose(
    along: tuple[float, float], lean_deg: float, centre: Vector, axis_above: float
) -> Pose:
    """Where a table puts its work for an edge: turned so that the edge runs along X with its
    outside towards −Y, then tilted about X.

    ``along`` is the edge's direction with the outside on its right; ``centre`` the point on the
    table's top (mm) in the middle of its turning. Coordinates come out from that point, the tilting
    axis ``axis_above`` it. Source: rotations; a table's positive tilt turns the work's outside up.
    """
    turn = about_z(-np.degrees(np.arctan2(along[1], along[0])))
    t = radians(lean_deg)
    tilt = np.array([[1.0, 0.0, 0.0], [0.0, cos(t), sin(t)], [0.0, -sin(t), cos(t)]])
    pivot = np.array([0.0, 0.0, axis_above])
    return Pose(tilt @ turn, tilt @ (-turn @ centre - pivot) + pivot)
