"""Where a held part is touched: points with their normals, friction and clamp forces, and the
forces they can carry.

Wrenches are (fx, fy, fz, mx, my, mz) on the part about the setup's zero, N and N; moments are
divided by half the part's diagonal.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from math import cos, pi, sin

import numpy as np

from machining.geometry.frames import Vector
from machining.quantities.checks import finite, not_negative, positive, within
from machining.quantities.errors import Missing, OutOfRange

CORNERS = 16  # of the cone that stands for the round one, inside it
STEEP = 0.9
GRAVITY = 9.80665
MOST_FRICTION = 2.0


@dataclass(frozen=True, slots=True)
class Contact:
    """A point (mm) where a body touches the part, with the unit normal into the part and the
    friction of the pair. One without a ``group`` only bears; those of a group share its force.
    """

    at: tuple[float, float, float]
    normal: tuple[float, float, float]
    friction: float
    body: str = ""
    group: str | None = None


@dataclass(frozen=True, slots=True)
class Weight:
    """A mass (kg) and its centre (mm)."""

    kg: float
    at: tuple[float, float, float]


@dataclass(frozen=True, eq=False)
class Contacts:
    """All that touches a part: ``groups`` have their total normal force (N), ``length_mm`` is what
    moments are divided by. Raises OutOfRange and Missing for what can't be.
    """

    every: Sequence[Contact]
    groups: Mapping[str, float]
    length_mm: float
    weight: Weight | None = None

    def __post_init__(self) -> None:
        positive("frame_length_mm", self.length_mm)
        for k, each in enumerate(self.every):
            _checked(f"contact {k + 1}", each)
            if each.group is not None and each.group not in self.groups:
                raise Missing(f"group of contact {k + 1}", each.group)
        used = {each.group for each in self.every}
        for name, force in self.groups.items():
            not_negative(f"force of group {name}", force)
            if name not in used:
                raise OutOfRange(f"contacts of group {name}", 0, "at least one")
        if self.weight is not None:
            not_negative("kg", self.weight.kg)
            for value in self.weight.at:
                finite("at of the weight", value)

    def without_group(self, name: str) -> Contacts:
        """The same without what closes by that name."""
        if name not in self.groups:
            return self
        every = [each for each in self.every if each.group != name]
        groups = {each: force for each, force in self.groups.items() if each != name}
        return Contacts(every, groups, self.length_mm, self.weight)

    @cached_property
    def at(self) -> Vector:
        return np.array([each.at for each in self.every], dtype=float).reshape(-1, 3)

    @cached_property
    def normals(self) -> Vector:
        """(n, 3), of length 1."""
        found = np.array([each.normal for each in self.every], dtype=float).reshape(-1, 3)
        return found / np.linalg.norm(found, axis=1, keepdims=True)

    @cached_property
    def friction(self) -> Vector:
        return np.array([each.friction for each in self.every], dtype=float)

    @cached_property
    def bears(self) -> Vector:
        """Which of them only bear (n,)."""
        return np.array([each.group is None for each in self.every], dtype=bool)

    @cached_property
    def forces(self) -> Vector:
        """Of the groups (g,), N."""
        return np.array([*self.groups.values()], dtype=float)

    @cached_property
    def in_group(self) -> Vector:
        """Which contact is in which group (g, n), as 1.0."""
        return np.array(
            [[each.group == name for each in self.every] for name in self.groups], dtype=float
        ).reshape(len(self.groups), len(self.every))

    @cached_property
    def constant(self) -> Vector:
        """The wrench of the weight (6,)."""
        if self.weight is None or not self.weight.kg:
            return np.zeros(6)
        down = np.array([0.0, 0.0, -self.weight.kg * GRAVITY])
        return wrenches(np.array(self.weight.at, dtype=float), down, self.length_mm)

    @cached_property
    def along_normals(self) -> Vector:
        """The wrench of 1 N along each normal (n, 6)."""
        return wrenches(self.at, self.normals, self.length_mm)

    @cached_property
    def in_cones(self) -> Vector:
        """The wrenches of the corners of each cone, with 1 N along the normal (n, 16, 6)."""
        corners = cones(self.normals, self.friction)
        return wrenches(self.at[:, None, :], corners, self.length_mm)

    def with_share(self, share: float) -> Contacts:
        """The same with so much of the force of all its groups."""
        return replace(self, groups={name: share * force for name, force in self.groups.items()})

    def scaled(self, force: float, friction: float) -> Contacts:
        """The same with so much of the force of its groups and of the friction everywhere."""
        every = [replace(each, friction=friction * each.friction) for each in self.every]
        groups = {name: force * each for name, each in self.groups.items()}
        return replace(self, every=every, groups=groups)

    def without_friction(self, which: Vector) -> Contacts:
        """The same with no friction at some of them (n,)."""
        every = [
            replace(each, friction=0.0) if smooth else each
            for each, smooth in zip(self.every, which, strict=True)
        ]
        return replace(self, every=every)


def wrenches(at: Vector, forces: Vector, length_mm: float) -> Vector:
    """Forces (..., 3) at points (..., 3) as wrenches (..., 6)."""
    at, forces = np.broadcast_arrays(at, forces)
    return np.concatenate([forces, np.cross(at, forces) / length_mm], axis=-1)


def cones(normals: Vector, friction: Vector) -> Vector:
    """The corners n + μ·(cos·t1 + sin·t2) of each contact's cone (n, 16, 3), inside the true one:
    the first lies along the setup's X as the contact sees it, along Y where that is square to it.
    """
    first = np.where(np.abs(normals[:, :1]) > STEEP, [[0.0, 1.0, 0.0]], [[1.0, 0.0, 0.0]])
    first = first - normals * (normals * first).sum(axis=1, keepdims=True)
    first /= np.linalg.norm(first, axis=1, keepdims=True)
    second = np.cross(normals, first)
    turns = [2.0 * pi * k / CORNERS for k in range(CORNERS)]
    round_ = np.stack([cos(a) * first + sin(a) * second for a in turns], axis=1)
    found: Vector = normals[:, None, :] + friction[:, None, None] * round_
    return found


def _checked(name: str, contact: Contact) -> None:
    for value in contact.at:
        finite(f"at of {name}", value)
    for value in contact.normal:
        finite(f"normal of {name}", value)
    within(f"friction of {name}", contact.friction, 0.0, MOST_FRICTION)
    if not any(contact.normal):
        raise OutOfRange(f"normal of {name}", list(contact.normal), "a direction")
