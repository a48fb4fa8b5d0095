"""A solid as columns of material along Z: what a tool that comes from above meets.

Each cell of a grid has one column, and in it the intervals that are solid. The column stands at a
place of its own inside its cell: a row's columns are shifted against the next row's by an
irrational share, so that a straight wall along the grid is met evenly and areas come out right on
average, not a cell too large or too small.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import ceil, sqrt

import numpy as np
from numba import njit
from numpy.typing import NDArray

from .frames import Vector
from .mesh import Mesh

MOST_CELLS = 2_000_000
MOST_LAYERS = 8  # solid intervals of a column, from above; what lies deeper is left out
MEETS_AT_FIRST = 4  # times a column meets the mesh: of most solids it is no more
MEETS_OF_MANY = 2  # where there are so many columns that there had better be less room
MANY_COLUMNS = 1_000_000
NOTHING = np.float32(-1e6)  # both ends of an interval that is not there
SHIFT_X, SHIFT_Y = 0.7548776662466927, 0.5698402909980532  # shares of a cell, from row to row
IN_CELL = 0.5137  # where in its cell a column of an even grid stands: on no edge that is round
BLOCK = 8  # cells of a grid, one way, that are asked for together
FLAT = 1e-12  # mm², twice the area in plan of a triangle that stands upright

Heights = NDArray[np.float32]


@dataclass(frozen=True, slots=True)
class Grid:
    """Square cells from a corner on, mm; ``wanted`` is the cell that was asked for, smaller where
    there would have been too many.
    """

    x: float
    y: float
    cell: float
    nx: int
    ny: int
    wanted: float

    @staticmethod
    def over(low: Vector, high: Vector, cell: float, most: int = MOST_CELLS) -> Grid:
        """Cells of a size (mm) over a rectangle, larger ones where that would be too many."""
        across = np.maximum(np.asarray(high, dtype=float)[:2] - low[:2], cell)
        size = max(cell, sqrt(float(across[0] * across[1]) / most))
        while (ceil(across[0] / size) + 1) * (ceil(across[1] / size) + 1) > most:
            size *= 1.01
        nx, ny = (ceil(float(each) / size) for each in across)
        return Grid(float(low[0]), float(low[1]), size, nx, ny, cell)

    def places(self) -> tuple[Vector, Vector]:
        """Where the columns stand: x and y (nx, ny), mm."""
        i, j = np.arange(self.nx), np.arange(self.ny)
        x = self.x + self.cell * (i[:, None] + shifts(self.ny, SHIFT_X)[None, :])
        y = self.y + self.cell * (j[None, :] + shifts(self.nx, SHIFT_Y)[:, None])
        return x, y


def shifts(count: int, share: float) -> Vector:
    return np.mod(0.5 + share * np.arange(count), 1.0)


@dataclass(frozen=True, slots=True)
class Columns:
    """``tops`` and ``lows`` (nx, ny, k) are the ends of each column's solid intervals, highest
    first; where there is none both are ``NOTHING``.
    """

    grid: Grid
    tops: Heights
    lows: Heights

    def volume(self) -> float:
        """Of what stands, mm³."""
        heights = (self.tops - self.lows).sum(dtype=np.float64)
        return float(heights) * self.grid.cell**2

    @property
    def top(self) -> float:
        """The highest that stands (mm), ``NOTHING`` where nothing does."""
        return float(self.tops.max(initial=NOTHING))

    def copy(self, spare: int = 0) -> Columns:
        """Another one to cut; ``spare`` is how many more intervals its columns may get."""
        size = (*self.tops.shape[:2], spare)
        more = np.full(size, NOTHING)
        return Columns(
            self.grid,
            np.concatenate([self.tops, more], axis=2),
            np.concatenate([self.lows, more], axis=2),
        )


def columns_of(
    mesh: Mesh,
    grid: Grid,
    near: NDArray[np.bool_] | None = None,
    even: bool = False,
    most: int = MOST_LAYERS,
) -> Columns:
    """The columns of a closed mesh; ``near`` says of blocks of ``BLOCK`` by ``BLOCK`` cells whether
    they are asked for: nothing stands in the others. Those of an ``even`` grid all stand at the
    same place in their cells. ``most`` is how many intervals a column keeps.
    """
    corners = np.ascontiguousarray(mesh.vertices[mesh.triangles], dtype=np.float64)
    if even:
        u, v = np.full(grid.ny, IN_CELL), np.full(grid.nx, IN_CELL)
    else:
        u, v = shifts(grid.ny, SHIFT_X), shifts(grid.nx, SHIFT_Y)
    place = (grid.x, grid.y, grid.cell, grid.nx, grid.ny)
    if near is None:
        near = np.ones((-(-grid.nx // BLOCK), -(-grid.ny // BLOCK)), dtype=np.bool_)
    columns = grid.nx * grid.ny
    room = MEETS_AT_FIRST if columns < MANY_COLUMNS else MEETS_OF_MANY
    while True:
        counts = np.zeros(columns, dtype=np.int32)
        heights = np.empty((columns, room), dtype=np.float32)
        looks = np.empty((columns, room), dtype=np.int8)
        _meet(corners, *place, near, u, v, counts, heights, looks)
        needed = int(counts.max(initial=0))
        if needed <= room:
            break
        room = needed
    layers = min(max(_most_layers(counts, heights, looks), 1), most)
    tops = np.full((columns, layers), NOTHING)
    lows = np.full((columns, layers), NOTHING)
    _pair(counts, heights, looks, tops, lows)
    shape = (grid.nx, grid.ny, layers)
    return Columns(grid, tops.reshape(shape), lows.reshape(shape))


def common(a: Columns, b: Columns) -> Columns:
    """What stands in both, on the same grid."""
    layers = min(a.tops.shape[2] + b.tops.shape[2] - 1, MOST_LAYERS)
    size = (a.grid.nx * a.grid.ny, layers)
    tops = np.full(size, NOTHING)
    lows = np.full(size, NOTHING)
    flat = [each.reshape(size[0], -1) for each in (a.tops, a.lows, b.tops, b.lows)]
    _common(*flat, tops, lows)
    shape = (a.grid.nx, a.grid.ny, layers)
    return Columns(a.grid, tops.reshape(shape), lows.reshape(shape))


@njit(cache=True, nogil=True)  # type: ignore[untyped-decorator]
def _left_of(ax, ay, bx, by, px, py):  # type: ignore[no-untyped-def]
    """Is a point left of an edge? Asked from both its sides the answers differ, on it too."""
    if ax < bx or (ax == bx and ay < by):
        return (bx - ax) * (py - ay) - (by - ay) * (px - ax) >= 0.0
    return not ((ax - bx) * (py - by) - (ay - by) * (px - bx) >= 0.0)


@njit(cache=True, nogil=True)  # type: ignore[untyped-decorator]
def _meet(corners, x0, y0, cell, nx, ny, near, u, v, counts, heights, looks):  # type: ignore[no-untyped-def]
    """Keeps where each column meets the mesh and from which side, if there is room for it."""
    for t in range(corners.shape[0]):
        ax, ay, az = corners[t, 0]
        bx, by, bz = corners[t, 1]
        cx, cy, cz = corners[t, 2]
        twice = (bx - ax) * (cy - ay) - (by - ay) * (cx - ax)
        if abs(twice) < FLAT:
            continue
        up = twice > 0.0
        slope_x = ((bz - az) * (cy - ay) - (cz - az) * (by - ay)) / twice
        slope_y = ((cz - az) * (bx - ax) - (bz - az) * (cx - ax)) / twice
        first = max(int(np.floor((min(ay, by, cy) - y0) / cell)), 0)
        last = min(int(np.floor((max(ay, by, cy) - y0) / cell)), ny - 1)
        for j in range(first, last + 1):
            low, high = y0 + j * cell, y0 + (j + 1) * cell
            west, east = _span(corners[t], low, high)
            if west > east:
                continue
            from_i = max(int(np.floor((west - x0) / cell - u[j])), 0)
            to_i = min(int(np.floor((east - x0) / cell - u[j])) + 1, nx - 1)
            for i in range(from_i, to_i + 1):
                if not near[i // BLOCK, j // BLOCK]:
                    continue
                px, py = x0 + (i + u[j]) * cell, y0 + (j + v[i]) * cell
                if (
                    _left_of(ax, ay, bx, by, px, py) != up
                    or _left_of(bx, by, cx, cy, px, py) != up
                    or _left_of(cx, cy, ax, ay, px, py) != up
                ):
                    continue
                k = i * ny + j
                if counts[k] < heights.shape[1]:
                    heights[k, counts[k]] = az + slope_x * (px - ax) + slope_y * (py - ay)
                    looks[k, counts[k]] = 1 if up else -1
                counts[k] += 1


@njit(cache=True, nogil=True)  # type: ignore[untyped-decorator]
def _span(triangle, low, high):  # type: ignore[no-untyped-def]
    """The least and largest x of a triangle between two y."""
    west, east = np.inf, -np.inf
    for k in range(3):
        px, py = triangle[k, 0], triangle[k, 1]
        qx, qy = triangle[(k + 1) % 3, 0], triangle[(k + 1) % 3, 1]
        if low <= py <= high:
            west, east = min(west, px), max(east, px)
        for y in (low, high):
            if (py < y < qy) or (qy < y < py):
                x = px + (qx - px) * (y - py) / (qy - py)
                west, east = min(west, x), max(east, x)
    return west, east


@njit(cache=True, nogil=True)  # type: ignore[untyped-decorator]
def _sorted(count, heights, looks):  # type: ignore[no-untyped-def]
    """A column's meetings with the mesh, highest first; at one height solid goes on."""
    for a in range(1, count):
        b = a
        while b > 0 and (
            heights[b - 1] < heights[b]
            or (heights[b - 1] == heights[b] and looks[b - 1] < looks[b])
        ):
            heights[b - 1], heights[b] = heights[b], heights[b - 1]
            looks[b - 1], looks[b] = looks[b], looks[b - 1]
            b -= 1


@njit(cache=True, nogil=True)  # type: ignore[untyped-decorator]
def _most_layers(counts, heights, looks):  # type: ignore[no-untyped-def]
    most = 0
    for k in range(len(counts)):
        _sorted(counts[k], heights[k], looks[k])
        deep, layers = 0, 0
        for n in range(counts[k]):
            layers += deep == 0 and looks[k, n] > 0
            deep = max(deep + looks[k, n], 0)
        most = max(most, layers)
    return most


@njit(cache=True, nogil=True)  # type: ignore[untyped-decorator]
def _pair(counts, heights, looks, tops, lows):  # type: ignore[no-untyped-def]
    """Solid from where a column enters the mesh to where it leaves it."""
    for k in range(len(counts)):
        deep, layer, top = 0, 0, 0.0
        for n in range(counts[k]):
            if deep == 0 and looks[k, n] > 0:
                top = heights[k, n]
            was = deep
            deep = max(deep + looks[k, n], 0)
            if was > 0 and deep == 0 and layer < tops.shape[1] and heights[k, n] < top:
                tops[k, layer], lows[k, layer] = top, heights[k, n]
                layer += 1


@njit(cache=True, nogil=True)  # type: ignore[untyped-decorator]
def _common(a_tops, a_lows, b_tops, b_lows, tops, lows):  # type: ignore[no-untyped-def]
    for k in range(a_tops.shape[0]):
        layer = 0
        for a in range(a_tops.shape[1]):
            for b in range(b_tops.shape[1]):
                top, low = min(a_tops[k, a], b_tops[k, b]), max(a_lows[k, a], b_lows[k, b])
                if top > low and layer < tops.shape[1]:
                    tops[k, layer], lows[k, layer] = top, low
                    layer += 1
