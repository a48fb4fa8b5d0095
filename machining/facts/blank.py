"""The blank before the first cut: what of the part it lacks, and what it already has."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from machining.geometry.frames import DIRECTIONS, Direction, Vector, axis
from machining.geometry.nearest import distances
from machining.geometry.solids import as_blank, pieces, to_mesh
from machining.memo import Memo, digest
from machining.plan.document import Plan
from machining.world.feature import Hole, Pocket
from machining.world.geometry import PartGeometry, taken_by
from machining.world.library import Library
from machining.world.stock import Blank
from machining.world.stock.base import Corners, Shapes

from .state import State

SAME_MM, FREE_SHARE = 1e-3, 0.01  # what a facet may pretend; a feature this empty is there


@dataclass(frozen=True, slots=True)
class Lacking:
    """Where the part stands out of its blank most: by how much (mm), and on which side."""

    by_mm: float
    side: Direction


@dataclass(frozen=True)
class BlankFacts:
    """``state`` is in part coordinates, ``low`` and ``high`` the box it fills as ordered."""

    stock: Blank
    geometry: PartGeometry
    state: State
    low: Vector
    high: Vector
    shapes: Shapes

    @property
    def volume_mm3(self) -> float:
        return self.stock.volume_mm3(self.geometry.bounds, self.shapes)

    def sides_left(self, now: Corners) -> list[Direction]:
        """The sides, of the part, on which the blank's own surface still bounds the stock."""
        ends = (self.low, self.high)
        return [
            side
            for side in DIRECTIONS
            if abs(now[side[0] == "+"][_place(side)] - ends[side[0] == "+"][_place(side)]) < SAME_MM
        ]

    @cached_property
    def lacking(self) -> Lacking | None:
        """What of the part can't come out of it, None where all can."""
        key = ("lacking", self.state.key)
        found: Lacking | None = self.state.memo.get(key, self._lacking)
        return found

    @cached_property
    def has_already(self) -> frozenset[str]:
        """Features of the part that are open in the blank before anything is cut."""
        key = ("has-already", self.state.key, self.geometry.key)
        found: frozenset[str] = self.state.memo.get(key, self._has_already)
        return found

    def _lacking(self) -> Lacking | None:
        outside = pieces(self.geometry.solid - self.state.solid)
        spots = [to_mesh(each).vertices for each in outside]
        if not spots:
            return None
        points, mesh = np.concatenate(spots), to_mesh(self.state.solid)
        away = distances(points, mesh)
        at = int(away.argmax())
        if away[at] < self._facets():
            return None
        back = [points[at] - away[at] / 2.0 * axis(side) for side in DIRECTIONS]
        side = DIRECTIONS[int(distances(np.array(back), mesh).argmin())]
        return Lacking(float(away[at]), side)

    def _facets(self) -> float:
        """How much a meshed round measures less than it is (mm)."""
        return max(0.01, 0.002 * float((self.high - self.low).max()))

    def _has_already(self) -> frozenset[str]:
        found = set()
        for feature in self.geometry.features:
            if not isinstance(feature, Hole | Pocket):
                continue
            takes = taken_by(feature)
            whole = float(takes.volume())
            if whole > 0 and float((takes ^ self.state.solid).volume()) < FREE_SHARE * whole:
                found.add(feature.id)
        return frozenset(found)


def blank_of(plan: Plan, geometry: PartGeometry, library: Library, memo: Memo) -> BlankFacts:
    """Raises Missing or OutOfRange where there is no blank at all."""
    stock, shapes = plan.stock, library.geometries
    low, high = stock.corners(geometry.bounds, shapes)
    key = digest("blank", geometry.key, stock.model_dump_json())
    state = State(lambda: as_blank(stock.solid(geometry.bounds, shapes)), key, memo)
    state.solid  # noqa: B018  what can't be made is told now
    return BlankFacts(stock, geometry, state, low, high, shapes)


def _place(side: Direction) -> int:
    return "xyz".index(side[1])
