"""A solid that is looked at: each way up, cut at heights, and how its faces meet."""

from __future__ import annotations

from collections import defaultdict
from functools import cached_property

import numpy as np

from machining.geometry.frames import Direction, Pose, Vector, axis, named, opposite, orientation
from machining.geometry.kernel import Examined
from machining.geometry.kernel.faces import Face
from machining.geometry.kernel.joints import Joint
from machining.geometry.mesh import Mesh
from machining.geometry.regions import Region
from machining.geometry.solids import Solid, bounds, from_mesh, outline, posed, section

from ..record import Point

NOTHING_MM3 = 1e-6
FULL_TURN_DEG = 355.0  # of a wall that goes all the way round


class Upright:
    """The solid with one of the six directions up; heights are along it."""

    def __init__(self, body: Body, up: Direction) -> None:
        self.up = up
        self.pose = Pose(orientation(up, 0), np.zeros(3))
        self.solid: Solid = posed(body.solid, self.pose)
        self.mesh: Mesh = body.mesh.posed(self.pose)
        self.bottom, self.top = (float(end[2]) for end in bounds(self.solid))
        self._cuts: dict[float, Region] = {}

    @cached_property
    def outline(self) -> Region:
        return outline(self.solid)

    def cut(self, z: float) -> Region:
        """What is solid at a height."""
        key = round(z, 5)
        if key not in self._cuts:
            self._cuts[key] = section(self.solid, z)
        return self._cuts[key]

    def back(self, points: Vector) -> tuple[Point, ...]:
        """Points as it lies here, in part coordinates."""
        return tuple(as_point(each) for each in self.pose.inverse().apply(points))


class Body:
    """``joints[n]`` are the edges of face n."""

    def __init__(self, examined: Examined) -> None:
        self.faces, self.mesh = examined.faces, examined.mesh
        self.solid = from_mesh(examined.mesh)
        self.joints: dict[int, list[Joint]] = defaultdict(list)
        for joint in examined.joints:
            self.joints[joint.one].append(joint)
            self.joints[joint.other].append(joint)
        self._ways: dict[Direction, Upright] = {}

    def upright(self, up: Direction) -> Upright:
        if up not in self._ways:
            self._ways[up] = Upright(self, up)
        return self._ways[up]

    def beside(self, number: int) -> list[tuple[Joint, int, Face]]:
        """The faces a face meets, with the edge between."""
        found = ((joint, joint.beyond(number)) for joint in self.joints[number])
        return [(joint, other, self.faces[other]) for joint, other in found if other is not None]

    def corners(self, number: int) -> Vector:
        """The corners of a face's mesh."""
        triangles = self.mesh.triangles[self.mesh.faces == number]
        return self.mesh.vertices[np.unique(triangles)]


def as_point(vector: Vector) -> Point:
    return tuple(round(float(v), 6) + 0.0 for v in vector)  # type: ignore[return-value]


def lies_along(face: Face) -> Direction | None:
    """The + direction a face's axis lies along, whichever way it is drawn; None for an oblique
    one.
    """
    if face.kind == "other":
        return None
    direction = named(np.array(face.axis))
    return direction if direction is None or direction[0] == "+" else opposite(direction)


def ends_along(face: Face, unit: Vector) -> tuple[float, float]:
    """Where a cylinder or cone ends along a direction it lies along (mm), the low end first."""
    along, origin = np.array(face.axis), np.array(face.origin)
    ends = [float((origin + v * along) @ unit) for v in (face.low, face.high)]
    return min(ends), max(ends)


def radius_at(face: Face, unit: Vector, height: float) -> float:
    """Of a cylinder or cone that lies along ``unit``, at a height along it (mm)."""
    sense = float(np.array(face.axis) @ unit)
    return face.radius_at((height - float(np.array(face.origin) @ unit)) * sense)


def across(face: Face, along: Direction) -> Vector:
    """Where a face's axis stands, seen along it."""
    return np.array(face.origin) * (1.0 - np.abs(axis(along)))


def on_one_axis(face: Face, other: Face, along: Direction) -> bool:
    return lies_along(other) == along and bool(
        np.linalg.norm(across(face, along) - across(other, along)) < 1e-3
    )
