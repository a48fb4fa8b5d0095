"""Where a solid is thin: walls, webs and bars, how far each stands from what carries it.

A solid is looked at along the three axes, in columns. An interval of material that is short against
what stands beside it is a cell of a wall; cells that hang together are a wall, and its edges that
adjoin thick material carry it.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
from numba import njit
from numpy.typing import NDArray

from .columns import Columns, Grid, columns_of
from .frames import Vector
from .mesh import Mesh

LIMITS_MM = (0.75, 1.5, 2.5, 4.0, 6.0, 9.0, 13.0, 20.0)  # what is no thicker may be a wall
ACROSS = 100  # cells along the longest side
LEAST_CELL_MM = 0.25
MOST_INTERVALS = 48
LEAST_CELLS = 4
LEAST_STEPS, TOO_SMALL = 1.5, -1.0  # so many cells from what carries it, or it is an edge
TOGETHER = 0.25  # two sides of a wall that leans go on by nearly the same
SOME_MM = 0.02  # thinner is a film that facets leave
WAYS = np.array([(-1, 0), (1, 0), (0, -1), (0, 1), (-1, -1), (1, 1), (-1, 1), (1, -1)])
FAR = 1e9

Ints = NDArray[np.int64]
Flags = NDArray[np.bool_]


@dataclass(frozen=True, slots=True, eq=False)
class Wall:
    """Cells of a solid that is thin along an ``axis`` (0, 1, 2); the next two axes span its
    ``grid``. Of each cell (n,): its place ``at`` (n, 2), where it begins and ends along the axis
    and how ``thick`` it is (mm), which cells lie ``beside`` it (n, 8), -1 for none, and over which
    of its four edges thick material ``carries`` it (n, 4), as in ``WAYS``.
    """

    axis: int
    grid: Grid
    at: Ints
    low: Vector
    high: Vector
    thick: Vector
    beside: Ints
    carries: Flags

    @property
    def mean_mm(self) -> float:
        return float(self.thick.mean())

    def far(self, held: Flags | None = None) -> Vector:
        """How far (mm) each cell's middle is from what carries it (n,): thick material, or a cell
        that is ``held``; ``FAR`` where nothing does.
        """
        steps = np.where(self.carries.any(axis=1), 0.5, FAR)
        if held is not None:
            steps[held] = 0.0
        _spread(steps, self.beside)
        return np.where(steps < FAR, steps * self.grid.cell, FAR)

    def ratio(self, held: Flags | None = None) -> float:
        """The farthest from what carries it over its thickness; 0 where nothing does."""
        most = float(self.far(held).max())
        return (most + self.grid.cell / 2.0) / self.mean_mm if most < FAR else 0.0

    def middles(self) -> Vector:
        """The middle of each cell (n, 3)."""
        return self._placed((self.low + self.high) / 2.0)

    def _placed(self, along: Vector) -> Vector:
        found = np.empty((len(self.at), 3))
        corner = np.array([self.grid.x, self.grid.y])
        across = corner + (self.at + 0.5) * self.grid.cell
        found[:, self.axis] = along
        found[:, (self.axis + 1) % 3] = across[:, 0]
        found[:, (self.axis + 2) % 3] = across[:, 1]
        return found

    def faces(self) -> tuple[Vector, Vector]:
        """The middle of each cell on its two sides, the lower one first (n, 3)."""
        return self._placed(self.low), self._placed(self.high)


def grids_over(low: Vector, high: Vector) -> tuple[Grid, Grid, Grid]:
    """Square cells across each axis, over a box (mm)."""
    cell = max(float((high - low).max()) / ACROSS, LEAST_CELL_MM)
    return tuple(  # type: ignore[return-value]
        Grid.over(
            np.array([low[(k + 1) % 3], low[(k + 2) % 3]]),
            np.array([high[(k + 1) % 3], high[(k + 2) % 3]]),
            cell,
        )
        for k in range(3)
    )


def along(mesh: Mesh, axis: int, grid: Grid) -> Columns:
    """A closed mesh in columns along an axis."""
    order = [(axis + 1) % 3, (axis + 2) % 3, axis]
    turned = Mesh(np.ascontiguousarray(mesh.vertices[:, order]), mesh.triangles, mesh.faces)
    return columns_of(turned, grid, even=True, most=MOST_INTERVALS)


def walls(mesh: Mesh, grids: tuple[Grid, Grid, Grid], slender: float) -> list[Wall]:
    """Those of a closed mesh whose ratio is at least ``slender``, the most slender first; of what
    is thin at several limits the one that is most slender. One that nothing thick carries, all of
    a thin part, comes last.
    """
    found = list[tuple[float, Wall]]()
    for axis, grid in enumerate(grids):
        found += _slender_walls(along(mesh, axis, grid), axis, slender)
    return [wall for _, wall in sorted(found, key=lambda each: -each[0])]


def _slender_walls(columns: Columns, axis: int, slender: float) -> Iterator[tuple[float, Wall]]:
    tops, lows = (np.ascontiguousarray(e, dtype=float) for e in (columns.tops, columns.lows))
    where = np.argwhere(tops - lows > SOME_MM)
    place = np.full(tops.shape, -1, dtype=np.int64)
    place[tuple(where.T)] = np.arange(len(where))
    tops, lows = tops[tuple(where.T)], lows[tuple(where.T)]
    beside = _beside(where, place, tops, lows)
    thick = _thickness(tops, lows, beside, columns.grid.cell)
    every = list[tuple[float, Ints, Vector]]()  # ratio, cells, the limit's labels
    ranked, seen = np.sort(thick), 0
    for limit in LIMITS_MM:
        upto = int(np.searchsorted(ranked, limit, side="right"))
        if upto == seen:
            continue  # nothing that the last limit has not seen
        seen = upto
        labels, ratios, sizes = _at_limit(thick, beside, limit, columns.grid.cell)
        for label in np.flatnonzero((sizes >= LEAST_CELLS) & ((ratios >= slender) | (ratios == 0))):
            every.append((float(ratios[label]), np.flatnonzero(labels == label), labels))
    taken = np.zeros(len(where), dtype=bool)
    for ratio, cells, labels in sorted(every, key=lambda each: (-each[0], -len(each[1]))):
        if 2 * int(taken[cells].sum()) > len(cells):
            continue
        taken[cells] = True
        yield ratio, _wall(axis, columns.grid, where, tops, lows, thick, beside, cells, labels)


def _wall(
    axis: int,
    grid: Grid,
    where: Ints,
    tops: Vector,
    lows: Vector,
    thick: Vector,
    beside: Ints,
    cells: Ints,
    labels: Vector,
) -> Wall:
    own = np.full(len(where), -1, dtype=np.int64)
    own[cells] = np.arange(len(cells))
    other = beside[cells]
    there = other >= 0
    carries = there[:, :4] & (labels[other[:, :4]] < 0)
    mine = np.where(there, own[other], -1)
    return Wall(axis, grid, where[cells, :2], lows[cells], tops[cells], thick[cells], mine, carries)


@njit(cache=True, nogil=True)  # type: ignore[untyped-decorator]
def _beside(where, place, tops, lows):  # type: ignore[no-untyped-def]
    """Of each interval the one in each column beside that shares most with it, -1 for none."""
    nx, ny, layers = place.shape
    found = np.full((len(where), 8), -1, dtype=np.int64)
    for m in range(len(where)):
        for way in range(8):
            i, j = where[m, 0] + WAYS[way, 0], where[m, 1] + WAYS[way, 1]
            if i < 0 or j < 0 or i >= nx or j >= ny:
                continue
            most = 0.0
            for k in range(layers):
                n = place[i, j, k]
                if n < 0:
                    continue
                shared = min(tops[m], tops[n]) - max(lows[m], lows[n])
                if shared > most:
                    most, found[m, way] = shared, n
    return found


@njit(cache=True, nogil=True)  # type: ignore[untyped-decorator]
def _thickness(tops, lows, beside, cell):  # type: ignore[no-untyped-def]
    """Of each interval, square to the way both its sides run on beside it (mm)."""
    found = tops - lows
    for m in range(len(tops)):
        long, steep = tops[m] - lows[m], 0.0
        for axis in range(2):
            slope, sides = 0.0, 0
            for way in range(2):
                n = beside[m, 2 * axis + way]
                if n < 0:
                    continue
                up, down = tops[n] - tops[m], lows[n] - lows[m]
                if abs(up - down) > TOGETHER * abs(up + down):
                    continue  # one side alone goes on elsewhere: a step, or a corner
                slope += (2 * way - 1) * (up + down) / 2.0 / cell
                sides += 1
            if sides:
                steep += (slope / sides) ** 2
        found[m] = long / np.sqrt(1.0 + steep)
    return found


@njit(cache=True, nogil=True)  # type: ignore[untyped-decorator]
def _at_limit(thick, beside, limit, cell):  # type: ignore[no-untyped-def]
    """Which intervals no thicker than a limit hang together (a number of each, -1 for others), and
    of each lot its ratio, 0 where nothing thick carries it, less where it is too small to be told,
    and its size.
    """
    labels = np.full(len(thick), -1, dtype=np.int64)
    stack = np.empty(len(thick), dtype=np.int64)
    count = 0
    for start in range(len(thick)):
        if labels[start] >= 0 or thick[start] > limit:
            continue
        labels[start], stack[0], depth = count, start, 1
        while depth:
            depth -= 1
            at = stack[depth]
            for way in range(4):
                n = beside[at, way]
                if n >= 0 and labels[n] < 0 and thick[n] <= limit:
                    labels[n], stack[depth] = count, n
                    depth += 1
        count += 1
    far = np.full(len(thick), FAR)
    for m in range(len(thick)):
        for way in range(4):
            if labels[m] >= 0 and beside[m, way] >= 0 and labels[beside[m, way]] < 0:
                far[m] = 0.5
    mine = np.where(labels >= 0, np.int64(1), np.int64(0))
    _spread(far, _within(beside, mine))
    most, total, sizes = np.zeros(count), np.zeros(count), np.zeros(count, dtype=np.int64)
    for m in range(len(thick)):
        k = labels[m]
        if k >= 0:
            most[k] = max(most[k], far[m])
            total[k] += thick[m]
            sizes[k] += 1
    ratios = np.zeros(count)
    for k in range(count):
        if most[k] < LEAST_STEPS:
            ratios[k] = TOO_SMALL
        elif most[k] < FAR:
            ratios[k] = (most[k] + 0.5) * cell * sizes[k] / total[k]
    return labels, ratios, sizes


@njit(cache=True, nogil=True)  # type: ignore[untyped-decorator]
def _within(beside, mine):  # type: ignore[no-untyped-def]
    """The same neighbours, none of those left out nor theirs."""
    found = np.full(beside.shape, -1, dtype=np.int64)
    for m in range(len(beside)):
        for way in range(8):
            n = beside[m, way]
            if n >= 0 and mine[m] and mine[n]:
                found[m, way] = n
    return found


@njit(cache=True, nogil=True)  # type: ignore[untyped-decorator]
def _spread(far, beside):  # type: ignore[no-untyped-def]
    """Steps of a cell on from where they start, in place."""
    line = np.empty(len(far) + 1, dtype=np.int64)  # a ring: each waits in it once at most
    waits = np.zeros(len(far), dtype=np.bool_)
    first, last = 0, 0
    for m in range(len(far)):
        if far[m] < FAR:
            line[last], waits[m] = m, True
            last += 1
    while first != last:
        at = line[first]
        first = (first + 1) % len(line)
        waits[at] = False
        for way in range(8):
            n = beside[at, way]
            if n < 0:
                continue
            reached = far[at] + (1.0 if way < 4 else 2.0**0.5)
            if reached < far[n] - 1e-9:
                far[n] = reached
                if not waits[n]:
                    line[last], waits[n] = n, True
                    last = (last + 1) % len(line)
