"""How much a thin wall gives where a cut pushes it: bending of a plate of equal cells.

Source: Kirchhoff's plate in rectangular elements of 12 degrees of freedom (Adini, Clough, Melosh);
Zienkiewicz, The Finite Element Method, ch. on plates. With cells as wide as here its give comes out
within a seventh of closed forms.
"""

from __future__ import annotations

from functools import lru_cache

import numpy as np
from numba import njit
from numpy.typing import NDArray

from machining.geometry.frames import Vector
from machining.geometry.thickness import Flags, Ints, Wall

MOST_ACROSS = 20  # cells of a plate one way: of a wall that has more, some are put together
POISSON = 0.3
GIVES_NOTHING = 1e-12
# corners of a cell, of the edges in order of ``WAYS``: west, east, south, north
CORNERS = np.array([(0, 0), (1, 0), (1, 1), (0, 1)], dtype=float)
OF_EDGE = ((0, 3), (1, 2), (0, 1), (3, 2))
SAME = ((0, 1, 3, 2), (1, 0, 2, 3), (0, 3, 1, 2), (3, 0, 2, 1))  # mine, its; mine, its


def gives(wall: Wall, modulus_gpa: float, at: Ints, held: Flags | None = None) -> Vector:
    """How far (mm) each of some cells moves along the wall's axis for 1 N that pushes there (k,);
    infinite where nothing carries the wall. ``held`` cells can't move.
    """
    small, which = _coarse(wall, held if held is not None else np.zeros(len(wall.at), dtype=bool))
    shares = _shares(wall, small, which, at)
    return _solved(small, modulus_gpa, which[at], shares)


class _Cells:
    """Cells of a plate: thickness, size, what lies beside, which edges are clamped, which are
    held.
    """

    def __init__(
        self, at: Ints, thick: Vector, sides: Vector, beside: Ints, clamped: Flags, held: Flags
    ) -> None:
        self.at, self.thick, self.sides = at, thick, sides
        self.beside, self.clamped, self.held = beside, clamped, held


def _coarse(wall: Wall, held: Flags) -> tuple[_Cells, Ints]:
    """Its cells, so many put together that they are few, and which of those each is in."""
    low, by = _by(wall)
    within = np.floor((wall.at - low + 0.5) / by).astype(np.int64)
    names, which = np.unique(within, axis=0, return_inverse=True)
    which = which.reshape(-1)
    n = len(names)
    share = np.bincount(which, minlength=n)
    thick = np.cbrt(np.bincount(which, wall.thick**3, n) / share)
    place = {(int(i), int(j)): k for k, (i, j) in enumerate(names)}
    beside, clamped = np.full((n, 4), -1, dtype=np.int64), np.zeros((n, 4), dtype=bool)
    for way, (i, j) in enumerate(((-1, 0), (1, 0), (0, -1), (0, 1))):
        joined = np.bincount(which, wall.carries[:, way].astype(float), n)
        clamped[:, way] = joined > 0
        for k, (a, b) in enumerate(names):
            other = place.get((int(a) + i, int(b) + j), -1)
            beside[k, way] = other if not clamped[k, way] else -1
    stuck = np.bincount(which, held.astype(float), n) > 0
    return _Cells(names, thick, by * wall.grid.cell, beside, clamped, stuck), which


def _by(wall: Wall) -> tuple[Ints, Vector]:
    """Its low corner, and how many of its cells go into one of the plate, either way."""
    low = wall.at.min(axis=0)
    span = wall.at.max(axis=0) - low + 1
    by: Vector = span / np.minimum(span, MOST_ACROSS)
    return low, by


def _shares(wall: Wall, cells: _Cells, which: Ints, at: Ints) -> Vector:
    """What each corner of its large cell carries of a load in the middle of a cell (k, 4)."""
    low, by = _by(wall)
    inside = (wall.at[at] - low + 0.5) / by - cells.at[which[at]]
    x, y = inside[:, :1], inside[:, 1:]
    i, j = CORNERS[:, 0], CORNERS[:, 1]
    found: Vector = np.abs(1.0 - i - x) * np.abs(1.0 - j - y)
    return found


def _solved(cells: _Cells, modulus_gpa: float, asked: Ints, shares: Vector) -> Vector:
    nodes, count = _nodes(cells)
    fixed = np.zeros(3 * count, dtype=bool)
    for way, (a, b) in enumerate(OF_EDGE):
        clamped = nodes[cells.clamped[:, way]][:, [a, b]].ravel()
        fixed[(3 * clamped[:, None] + np.arange(3)).ravel()] = True
    fixed[3 * nodes[cells.held].ravel()] = True
    if fixed.sum() < 3:
        return np.full(len(asked), np.inf)
    free = np.cumsum(~fixed) - 1
    free[fixed] = -1
    size = int((~fixed).sum())
    dofs = free[(3 * nodes[:, :, None] + np.arange(3)).reshape(len(nodes), 12)]
    stiff = modulus_gpa * 1e3 * cells.thick**3 / (12.0 * (1.0 - POISSON**2))
    wide_mm, high_mm = (float(each) for each in cells.sides)
    spread = np.where(dofs < 0, 0, dofs)
    least = np.where(dofs < 0, size, dofs).min(axis=1)
    wide = int((spread.max(axis=1) - least).max(initial=0)) + 1
    band = np.zeros((size, wide))
    _assemble(band, dofs, stiff / (wide_mm * high_mm), _element(round(high_mm / wide_mm, 6)))
    if not _factor(band):
        return np.full(len(asked), np.inf)
    return np.array([_give(band, dofs[k, ::3], s) for k, s in zip(asked, shares, strict=True)])


def _nodes(cells: _Cells) -> tuple[Ints, int]:
    """The corners of each cell by number (n, 4), those that cells share once; along the longer way
    first, so that what shares an element is near in number.
    """
    n = len(cells.at)
    parent = np.arange(4 * n)

    def root(k: int) -> int:
        while parent[k] != k:
            parent[k] = parent[parent[k]]
            k = int(parent[k])
        return k

    for way, (a, its_a, b, its_b) in enumerate(SAME):
        for k in np.flatnonzero(cells.beside[:, way] >= 0):
            other = int(cells.beside[k, way])
            for mine, its in ((a, its_a), (b, its_b)):
                one, two = root(4 * int(k) + mine), root(4 * other + its)
                parent[max(one, two)] = min(one, two)
    roots = np.array([root(k) for k in range(4 * n)])
    every = np.unique(roots)
    spots = cells.at[every // 4] + CORNERS[every % 4]
    long = int(np.argmax(spots.max(axis=0) - spots.min(axis=0)))
    order = np.lexsort((spots[:, 1 - long], spots[:, long]))
    number = np.empty(4 * n, dtype=np.int64)
    number[every[order]] = np.arange(len(every))
    return number[roots].reshape(n, 4), len(every)


@lru_cache(maxsize=256)
def _element(high: float) -> NDArray[np.float64]:
    """The stiffness (12, 12) of a rectangle so many times as high as wide, by its bending stiffness
    over its area: of each corner how far it moves, and its slopes by the sides.
    """
    powers = [(0, 0), (1, 0), (0, 1), (2, 0), (1, 1), (0, 2)]
    powers += [(3, 0), (2, 1), (1, 2), (0, 3), (3, 1), (1, 3)]

    def row(x: float, y: float, dx: int, dy: int) -> list[float]:
        def part(p: int, d: int, at: float) -> float:
            if d > p:
                return 0.0
            by = float(np.prod([p - k for k in range(d)])) if d else 1.0
            return by * at ** (p - d)

        return [part(p, dx, x) * part(q, dy, y) for p, q in powers]

    corners = [row(x, y, *d) for x, y in CORNERS for d in ((0, 0), (1, 0), (0, 1))]
    shape = np.linalg.inv(np.array(corners))
    bend = np.array([[1, POISSON, 0], [POISSON, 1, 0], [0, 0, (1 - POISSON) / 2]])
    spots, weights = np.polynomial.legendre.leggauss(4)
    found = np.zeros((12, 12))
    for x, wx in zip((spots + 1) / 2, weights / 2, strict=True):
        for y, wy in zip((spots + 1) / 2, weights / 2, strict=True):
            curve = np.array(
                [row(x, y, 2, 0), row(x, y, 0, 2), [2 * each for each in row(x, y, 1, 1)]]
            )
            b = np.diag([high, 1.0 / high, 1.0]) @ curve @ shape
            found += wx * wy * b.T @ bend @ b
    return found


@njit(cache=True, nogil=True)  # type: ignore[untyped-decorator]
def _assemble(band, dofs, stiff, element):  # type: ignore[no-untyped-def]
    """``band[i, k]`` is row i, column i - k of the whole."""
    for e in range(len(dofs)):
        for a in range(12):
            i = dofs[e, a]
            if i < 0:
                continue
            for b in range(12):
                j = dofs[e, b]
                if 0 <= j <= i:
                    band[i, i - j] += stiff[e] * element[a, b]


@njit(cache=True, nogil=True)  # type: ignore[untyped-decorator]
def _factor(band):  # type: ignore[no-untyped-def]
    """Cholesky's factor in place; whether there is one."""
    n, wide = band.shape
    for i in range(n):
        for k in range(min(i, wide - 1), -1, -1):
            j = i - k
            total = band[i, k]
            for m in range(max(0, i - wide + 1, j - wide + 1), j):
                total -= band[i, i - m] * band[j, j - m]
            if k == 0:
                if total <= GIVES_NOTHING:
                    return False
                band[i, 0] = np.sqrt(total)
            else:
                band[i, k] = total / band[j, 0]
    return True


@njit(cache=True, nogil=True)  # type: ignore[untyped-decorator]
def _give(band, corners, shares):  # type: ignore[no-untyped-def]
    """What a place of a cell moves for 1 N there, that its corners share."""
    n, wide = band.shape
    first, pushed = n, np.zeros(n)
    for k in range(4):
        if corners[k] >= 0:
            pushed[corners[k]] += shares[k]
            first = min(first, corners[k])
    total = 0.0
    for i in range(first, n):
        value = pushed[i]
        for m in range(max(first, i - wide + 1), i):
            value -= band[i, i - m] * pushed[m]
        pushed[i] = value / band[i, 0]
        total += pushed[i] ** 2
    return total
