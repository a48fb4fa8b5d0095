"""The wrenches with which a cut pushes a held part, in all the directions it can."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import cos, pi, radians, sin
from typing import Literal

import numpy as np

from machining.geometry.frames import Vector
from machining.quantities.checks import finite, not_negative
from machining.quantities.errors import OutOfRange

from .contacts import STEEP, wrenches

TURNS = 24  # directions all round
BETWEEN = 1.0 / cos(pi / TURNS)  # so that what lies between two of them is held too
Directions = Literal["plane"] | Sequence[Sequence[float]]


@dataclass(frozen=True, slots=True)
class Cut:
    """A cut at a point (mm) of a tool along ``axis``: a force (N) in any direction square to it, or
    in those given, with an axial force along it and a torque about it (N·mm from N·m).
    """

    at: tuple[float, float, float]
    axis: tuple[float, float, float]
    force_n: float
    axial_n: float = 0.0
    torque_nm: float = 0.0
    directions: Directions = "plane"

    def __post_init__(self) -> None:
        not_negative("force_n", self.force_n)
        for name in ("axial_n", "torque_nm"):
            finite(name, getattr(self, name))
        for value in (*self.at, *self.axis):
            finite("at or axis of the cut", value)
        if not any(self.axis):
            raise OutOfRange("axis", list(self.axis), "a direction")
        for each in self.directions if self.directions != "plane" else ():
            if len(each) != 3 or not any(each):
                raise OutOfRange("directions", list(each), "three numbers that are no nought")


@dataclass(frozen=True, slots=True, eq=False)
class Pushes:
    """Directions of the force (k, 3) and the wrenches of the whole cut (k, 6)."""

    towards: Vector
    wrenches: Vector

    @property
    def any(self) -> bool:
        """Does it push at all?"""
        return bool(np.abs(self.wrenches).max(initial=0.0) > 0.0)


def pushes(cut: Cut, length_mm: float, places: Vector | None = None) -> Pushes:
    """In the plane square to the tool every 15 degrees from X, a little more than said so that all
    between them is covered, and the axial force alone both ways; or as given. At the cut's own
    place, or at each of some (k, 3) one after the other.

    Source: what holds two wrenches holds all between them.
    """
    along = np.array(cut.axis, dtype=float)
    along /= np.linalg.norm(along)
    if cut.directions == "plane":
        towards, force = in_plane(along), cut.force_n * BETWEEN
    else:
        towards = np.array(cut.directions, dtype=float).reshape(-1, 3)
        towards /= np.linalg.norm(towards, axis=1, keepdims=True)
        force = cut.force_n
    with_it = towards * force + along * cut.axial_n
    both = cut.directions == "plane" and cut.axial_n != 0.0
    alone = np.array([along, -along]) if both else np.zeros((0, 3))
    forces = np.vstack([with_it, alone * abs(cut.axial_n)])
    at = np.array([cut.at], dtype=float) if places is None else places
    found = wrenches(at[:, None, :], forces[None, :, :], length_mm)
    found[:, : len(with_it), 3:] += along * cut.torque_nm * 1000.0 / length_mm
    return Pushes(np.tile(np.vstack([towards, alone]), (len(at), 1)), found.reshape(-1, 6))


def in_plane(along: Vector) -> Vector:
    """Unit vectors square to a direction (24, 3), the first nearest to X; to Y where that is along
    X.
    """
    first = np.array([0.0, 1.0, 0.0]) if abs(along[0]) > STEEP else np.array([1.0, 0.0, 0.0])
    first = first - along * (along @ first)
    first /= np.linalg.norm(first)
    second = np.cross(along, first)
    turns = [radians(360.0 * k / TURNS) for k in range(TURNS)]
    return np.array([cos(a) * first + sin(a) * second for a in turns])
