"""Where a point goes when its table turns."""

from __future__ import annotations

from math import acos, atan2, cos, degrees, hypot, radians, sin

import numpy as np

from machining.geometry.frames import Pose, Vector
from machining.quantities.checks import finite, not_negative, positive
from machining.quantities.computed import formula
from machining.quantities.units import Degrees, Plain, Seconds

# how what a spindle turns is seen by a tool across it: the spindle's Z as X, what is out as Z
ACROSS = np.array([[0.0, 0.0, 1.0], [0.0, -1.0, 0.0], [1.0, 0.0, 0.0]])


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
    turn = turn_about("z", -degrees(atan2(along[1], along[0])))
    tilt = turn_about("x", lean_deg)
    pivot = np.array([0.0, 0.0, axis_above])
    return Pose(tilt @ turn, tilt @ (-turn @ centre - pivot) + pivot)


def to_side(direction: Vector, about: str) -> float | None:
    """The angle (degrees) of one axis that brings a direction of the station to the tool, which
    comes along +Z; None where that axis alone does not. A positive tilt about X raises −Y, about Y
    +X; about Z the tool comes along +X, across the spindle, and the angle is that of the direction.
    A head that tilts to a direction goes as far as a table that raises it.
    """
    x, y, z = (float(each) for each in direction)
    level, tilt = {"x": (x, atan2(-y, z)), "y": (y, atan2(x, z)), "z": (z, atan2(y, x))}[about]
    return degrees(tilt) if abs(level) < 1e-9 else None


def turned_then_tilted(direction: Vector, about: str = "x") -> list[tuple[float, float]]:
    """Turn about Z and tilt about X or Y (degrees) that bring a direction and the tool together: by
    a positive tilt about X what the turn has brought to −Y, about Y to +X; by a negative one what
    is on the other side.
    """
    x, y, z = (float(each) for each in direction)
    tilt, at = degrees(acos(max(-1.0, min(1.0, z)))), degrees(atan2(y, x))
    if hypot(x, y) < 1e-9:
        return [(0.0, tilt), (0.0, -tilt)]
    meets = -90.0 if about == "x" else 0.0
    return [(half_turn(meets - at), tilt), (half_turn(meets + 180.0 - at), -tilt)]


def turn_about(axis: str, angle_deg: float) -> Vector:
    """The rotation of what a table's axis turns: a positive tilt about X raises −Y, about Y it
    raises +X; a turn about Z is right-handed. Source: rotations.
    """
    t = radians(angle_deg)
    c, s = cos(t), sin(t)
    if axis == "x":
        return np.array([[1.0, 0.0, 0.0], [0.0, c, s], [0.0, -s, c]])
    if axis == "y":
        return np.array([[c, 0.0, -s], [0.0, 1.0, 0.0], [s, 0.0, c]])
    return np.array([[c, -s, 0.0], [s, c, 0.0], [0.0, 0.0, 1.0]])


def carried_round(points: Vector, turn: Vector, centre: Vector) -> Vector:
    """Where points (..., 3) go when what they are on turns about a centre: c + R(p − c), mm.

    Source: rotations; axes of a chain that meet in one point turn about that.
    """
    moved: Vector = centre + (points - centre) @ turn.T
    return moved


def within_reach(angle: float, low: float, high: float) -> float | None:
    """The same direction as an angle (degrees) between an axis's ends, the one nearest to 0 and of
    two the positive one; None where it comes to none.
    """
    able = same_within(angle, low, high)
    return min(able, key=lambda each: (round(abs(each), 6), each < 0.0), default=None)


def same_within(angle: float, low: float, high: float) -> list[float]:
    """Every angle (degrees) between an axis's ends that is the same direction."""
    least = half_turn(angle)
    same = (least, least - 360.0, least + 360.0)
    return [each for each in same if low - 1e-9 <= each <= high + 1e-9]


def half_turn(angle: float) -> float:
    """The same direction as an angle over −180 up to 180 degrees."""
    return 180.0 - (180.0 - angle) % 360.0
