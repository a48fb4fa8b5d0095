"""What a cut does to a held part: its forces and where they act."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from shapely import MultiPoint

from machining.geometry.frames import Vector

from .contacts import wrenches
from .cut import TURNS, Cut, Pushes, pushes

MOST_PLACES = 8


@dataclass(frozen=True, slots=True, eq=False)
class Load:
    """Places (k, 3) of a tool along ``axis`` (from its tip), the force (N) square to it in any
    direction, the force along it and the torque about it (N·m) that come with that. Without a force
    square to it only those.
    """

    places: Vector
    axis: Vector
    force_n: float
    axial_n: float
    torque_nm: float

    def pushes(self, length_mm: float) -> tuple[Pushes, Vector]:
        """All it can do, and at which place each (m, 3)."""
        found = pushes(self._cut(), length_mm, self.places)
        each = len(found.wrenches) // len(self.places)
        return found, np.repeat(self.places, each, axis=0)

    def _cut(self) -> Cut:
        at, axis = _plain(self.places[0]), _plain(self.axis)
        if self.force_n > 0.0:
            return Cut(at, axis, self.force_n, self.axial_n, self.torque_nm)
        way = _plain(self.axis if self.axial_n >= 0.0 else -self.axis)
        return Cut(at, axis, abs(self.axial_n), 0.0, self.torque_nm, [way])


@dataclass(frozen=True, slots=True, eq=False)
class TurnedLoad:
    """An edge that stands while the part turns: at radii and heights (k, 2), its force along the
    surface it cuts, outwards from the axis and along it (N).
    """

    places: Vector
    cutting_n: float
    outwards_n: float
    along_n: float

    def pushes(self, length_mm: float) -> tuple[Pushes, Vector]:
        """At all angles the part can stand at, and at which place each (m, 3)."""
        turns = 2.0 * np.pi * np.arange(TURNS) / TURNS
        out = np.column_stack([np.cos(turns), np.sin(turns), np.zeros(TURNS)])
        across = np.column_stack([np.sin(turns), -np.cos(turns), np.zeros(TURNS)])
        force = self.cutting_n * across + self.outwards_n * out + [0.0, 0.0, self.along_n]
        at = np.vstack([radius * out + [0.0, 0.0, z] for radius, z in self.places])
        forces = np.tile(force, (len(self.places), 1))
        long = np.linalg.norm(forces, axis=1, keepdims=True)
        towards = forces / np.where(long > 0.0, long, 1.0)
        return Pushes(towards, wrenches(at, forces, length_mm)), at


AnyLoad = Load | TurnedLoad


def outermost(points: Vector) -> Vector:
    """Corners (k, 2) round points (n, 2), few of them, that all lie between: what is held at the
    corners is held inside.

    Source: the wrenches that a holding stands form a convex set, and moments go with the place.
    """
    hull = MultiPoint(points[:, :2]).convex_hull
    if hull.geom_type != "Polygon":
        return np.unique(np.array(hull.coords), axis=0)
    corners = np.array(hull.exterior.coords)[:-1]
    return corners if len(corners) <= MOST_PLACES else _around(corners)


def _around(corners: Vector) -> Vector:
    """Eight lines that touch them all from outside, and where those meet."""
    turns = 2.0 * np.pi * np.arange(MOST_PLACES) / MOST_PLACES
    ways = np.column_stack([np.cos(turns), np.sin(turns)])
    far = (corners @ ways.T).max(axis=0)
    pairs = zip(range(MOST_PLACES), (*range(1, MOST_PLACES), 0), strict=True)
    return np.array([np.linalg.solve(ways[[a, b]], far[[a, b]]) for a, b in pairs])


def _plain(at: Sequence[float] | Vector) -> tuple[float, float, float]:
    x, y, z = (float(each) for each in at)
    return x, y, z
