"""The stock at one moment of its way through the setups, and how it is looked at."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from machining.geometry.content import content_of
from machining.geometry.frames import Pose, Vector
from machining.geometry.mesh import Mesh
from machining.geometry.regions import Region
from machining.geometry.solids import (
    Solid,
    TopSurface,
    bounds,
    half_section,
    outline,
    posed,
    section,
    skins,
    to_mesh,
    top_surface,
    volume,
)
from machining.memo import Memo, digest
from machining.placing.zero import Lie
from machining.world.stock.base import Corners


@dataclass(frozen=True, eq=False)
class State:
    """``key`` names what is there and how it lies; ``lie`` is None in part coordinates. ``swept``
    is its half section where it is known better than its facets tell it. Its solid is made when it
    is first asked for: of what turns, the section mostly does. ``taken`` is what the stock before
    had and this has not, where that is known without comparing them.
    """

    make: Callable[[], Solid]
    key: str
    memo: Memo
    lie: Lie | None = None
    swept: Region | None = None
    taken: Callable[[], Solid] | None = None

    @cached_property
    def solid(self) -> Solid:
        return self.memo.get(("stock", self.key), self.make)

    def lying(self, lie: Lie) -> State:
        """The same in a setup; only for what is in part coordinates."""
        key = digest(self.key, lie.key)
        return State(lambda: posed(self.solid, lie.pose), key, self.memo, lie)

    def in_part(self) -> State:
        """The same in part coordinates."""
        lie, key = self.lie, digest(self.key, "part")
        if lie is None:
            return self
        return State(lambda: posed(self.solid, lie.pose.inverse()), key, self.memo)

    def seen_in(self, lie: Lie) -> State:
        """The same, however it lies now, as it lies in another way."""
        if self.lie is not None and self.lie.key == lie.key:
            return self
        return self.in_part().lying(lie)

    def by_content(self, tilted: bool) -> State:
        """The same, named by what is there: what comes after it is then the same, however it came
        to be; by its triangles where a plan looks at it ``tilted``. For what has no section of its
        own.
        """
        of = ("content", self.key, tilted)
        content = self.memo.get(of, lambda: content_of(self.solid, by_triangles=tilted))
        lie = self.lie.key if self.lie is not None else ""
        return replace(self, make=lambda: self.solid, key=digest(content, lie))

    def bounds(self) -> Corners:
        return bounds(self.solid)

    def bounds_turned(self, rotation: Vector) -> Corners:
        """The same after a rotation about the origin of its coordinates."""
        return bounds(posed(self.solid, Pose(rotation, np.zeros(3))))

    def volume(self) -> float:
        return volume(self.solid)

    def mesh(self) -> Mesh:
        return self.memo.get(("mesh", self.key), lambda: to_mesh(self.solid))

    def top(self) -> TopSurface:
        """What looks up, as seen from above."""
        return self.memo.get(("surface", self.key), lambda: top_surface(self.mesh()))

    def outline(self) -> Region:
        """Its shadow from above."""
        return self.memo.get(("outline", self.key), lambda: outline(self.solid))

    def section(self, z: float) -> Region:
        """Cut at a height."""
        return self.memo.get(("section", self.key, z), lambda: section(self.solid, z))

    def half_section(self) -> Region:
        """What it sweeps when it turns about Z, as a region of (radius, z)."""
        if self.swept is not None:
            return self.swept
        return self.memo.get(("half-section", self.key), lambda: half_section(self.solid))

    def skins(self) -> Mesh:
        """Its mesh, whose triangles know their skin: face 0 as the blank came, 1 as cut."""
        return skins(self.solid)
