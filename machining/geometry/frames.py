"""Poses between right-handed frames, the 24 axis-aligned orientations and the flips a
person makes.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from math import cos, radians, sin
from typing import Literal, get_args

import numpy as np
from numpy.typing import NDArray

from machining.quantities.errors import OutOfRange

Vector = NDArray[np.float64]
Direction = Literal["+x", "-x", "+y", "-y", "+z", "-z"]
Turn = Literal[0, 90, 180, 270]
Sideways = Literal["+x", "-x", "+y", "-y"]
LEVEL = 1.0 - 6e-8  # cosine: what lies or stands off by less than a fiftieth of a degree
DIRECTIONS: tuple[Direction, ...] = get_args(Direction)


@dataclass(frozen=True, slots=True)
class Pose:
    """Maps part coordinates to another frame: ``rotation @ p + origin`` (3x3, 3; mm)."""

    rotation: Vector
    origin: Vector

    def apply(self, points: Vector) -> Vector:
        """Map points of shape (..., 3)."""
        return points @ self.rotation.T + self.origin

    def inverse(self) -> Pose:
        return Pose(self.rotation.T, -self.rotation.T @ self.origin)

    def then(self, after: Pose) -> Pose:
        return Pose(after.rotation @ self.rotation, after.rotation @ self.origin + after.origin)

    def moved(self, shift: Vector) -> Pose:
        return Pose(self.rotation, self.origin + shift)


def axis(direction: Direction) -> Vector:
    """Unit vector of a named direction."""
    vector = np.zeros(3)
    vector["xyz".index(direction[1])] = 1.0 if direction[0] == "+" else -1.0
    return vector


def named(vector: Vector, tolerance: float = 1e-6) -> Direction | None:
    """The direction a unit vector points along, or None where it is oblique."""
    along = max(range(3), key=lambda k: abs(vector[k]))
    nearest = DIRECTIONS[2 * along + int(vector[along] < 0)]
    return nearest if np.linalg.norm(vector - axis(nearest)) < tolerance else None


def opposite(direction: Direction) -> Direction:
    return ("-" if direction[0] == "+" else "+") + direction[1]  # type: ignore[return-value]


# With turn 0, this part direction points to the machine's +X, so a part lies as it is drawn.
_RIGHT_AT_TURN_0: dict[Direction, Direction] = {
    "+z": "+x",
    "-z": "+x",
    "+x": "+y",
    "-x": "-y",
    "+y": "-x",
    "-y": "+x",
}


def orientation(up: Direction, turn: int) -> Vector:
    """Rotation that points ``up`` to the spindle, then turns the part by ``turn`` degrees about it.

    Columns of the inverse are the machine's axes in part coordinates. The determinant is always +1.
    Raises OutOfRange for a turn that is no quarter turn.
    """
    if turn not in get_args(Turn):
        raise OutOfRange("turn", turn, "0, 90, 180 or 270")
    return _oriented(up, turn)


@cache
def _oriented(up: Direction, turn: int) -> Vector:
    z = axis(up)
    x = axis(_RIGHT_AT_TURN_0[up])
    lying = np.array([x, np.cross(z, x), z])
    found: Vector = np.rint(about_z(turn)) @ lying
    found.flags.writeable = False  # all who ask have the same
    return found


def raising(side: Sideways, degrees: float) -> Vector:
    """Rotation that raises what lies on a side of the machine, about the horizontal axis across.

    Source: rotations; raised by 90 degrees, that side is up.
    """
    c, s = cos(radians(degrees)), sin(radians(degrees))
    out, up = axis(side), axis("+z")
    across = np.cross(out, up)
    return (
        np.outer(across, across)
        + c * (np.outer(out, out) + np.outer(up, up))
        + s * (np.outer(up, out) - np.outer(out, up))
    )


def standing(along: Vector) -> Vector:
    """A rotation that points a unit vector to the spindle."""
    across = np.eye(3)[int(np.abs(along).argmin())]
    x = np.cross(across, along)
    x = x / np.linalg.norm(x)
    return np.array([x, np.cross(along, x), along])


def is_square(rotation: Vector) -> bool:
    """Is it by quarter turns, so that a part lies along the machine's axes after it?"""
    return bool(np.allclose(rotation, np.rint(rotation), atol=1e-9))


def about_z(degrees: float) -> Vector:
    c, s = cos(radians(degrees)), sin(radians(degrees))
    return np.array([[c, -s, 0.0], [s, c, 0.0], [0.0, 0.0, 1.0]])


FLIPS: dict[str, Vector] = {
    "x": np.diag([1.0, -1.0, -1.0]),
    "y": np.diag([-1.0, 1.0, -1.0]),
    "z": np.diag([-1.0, -1.0, 1.0]),
}


def name_of(rotation: Vector) -> tuple[Direction, int]:
    """The (up, turn) of an axis-aligned rotation. Raises OutOfRange for a mirrored or
    tilted one.
    """
    if np.linalg.det(rotation) < 0:
        raise OutOfRange(
            "orientation", "mirrored", "right-handed: a part can be turned but not mirrored"
        )
    for up in DIRECTIONS:
        for turn in get_args(Turn):
            if np.allclose(orientation(up, turn), rotation, atol=1e-6):
                return up, turn
    raise OutOfRange("orientation", "tilted", "along the machine's axes")


def flipped(up: Direction, turn: int, about: str) -> tuple[Direction, int]:
    """Orientation after turning the part over by 180 degrees about the machine's X, Y or Z."""
    if about not in FLIPS:
        raise OutOfRange("about", about, "x, y or z")
    return name_of(FLIPS[about] @ orientation(up, turn))


def flip_between(first: tuple[Direction, int], second: tuple[Direction, int]) -> Vector:
    """Rotation in the machine's frame that takes the part from one orientation to the other."""
    return orientation(*second) @ orientation(*first).T


LEFT_LYING = "Leave it as it lies"


def flip_in_words(rotation: Vector, in_chuck: bool = False) -> str:
    """How a person does it: which edge stays where, or which end, in a chuck. Falls back on the
    rotation's quarter turns.
    """
    if in_chuck and abs(abs(rotation[2, 2]) - 1.0) < 1e-6:
        return "Turn end for end" if rotation[2, 2] < 0 else "Same end out"
    for letter, matrix in FLIPS.items():
        if np.allclose(rotation, matrix, atol=1e-6):
            return {
                "x": "Turn over away from you, left end stays left",
                "y": "Turn over sideways, the edge towards you stays",
                "z": "Turn half round on the table",
            }[letter]
    if np.allclose(rotation, np.eye(3), atol=1e-6):
        return LEFT_LYING
    if abs(rotation[2, 2] - 1.0) < 1e-6:
        return (
            "Turn a quarter "
            + ("counter-clockwise" if rotation[1, 0] > 0 else "clockwise")
            + " on the table"
        )
    up_before = named(np.asarray(rotation.T[:, 2]))
    faces = {"+x": "right", "-x": "left", "+y": "back", "-y": "front", "-z": "bottom", "+z": "top"}
    return f"The {faces[up_before]} side comes up" if up_before else "Set at an angle"
