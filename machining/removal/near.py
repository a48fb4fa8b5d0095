"""Which columns of a stock a path comes near: the others are never looked at."""

from __future__ import annotations

import numpy as np
from numba import njit
from numpy.typing import NDArray

from machining.geometry.columns import BLOCK, Grid
from machining.motion.path import Path

from .carry import reach_under, steps_of
from .shape import Shape


def near(path: Path, shape: Shape, grid: Grid, ceiling: float) -> NDArray[np.bool_]:
    """Of blocks of ``BLOCK`` by ``BLOCK`` cells: could the tool of a path meet anything there that
    does not stand over a ceiling (mm)?
    """
    step = BLOCK * grid.cell / 2.0
    steps = steps_of(path, step, ceiling)
    blocks = np.zeros((-(-grid.nx // BLOCK), -(-grid.ny // BLOCK)), dtype=np.bool_)
    lower = np.full_like(shape.lower, shape.lower.min()) if shape.undercuts else shape.lower
    at = np.ascontiguousarray(steps.at)
    _mark(at, ceiling, (shape.radius, lower, step), (grid.x, grid.y, BLOCK * grid.cell), blocks)
    return blocks


@njit(cache=True, nogil=True)  # type: ignore[untyped-decorator]
def _mark(at, ceiling, tool, place, blocks):  # type: ignore[no-untyped-def]
    (radius, lower, step), (x0, y0, size) = tool, place
    nx, ny = blocks.shape
    for k in range(at.shape[0]):
        px, py, pz = at[k]
        if pz >= ceiling:
            continue
        # a step further: between two of them the tool is somewhere on its way
        reach = reach_under(ceiling - pz, radius, lower) + 2.0 * step
        first = max(int(np.floor((px - reach - x0) / size)), 0)
        last = min(int(np.floor((px + reach - x0) / size)), nx - 1)
        low = max(int(np.floor((py - reach - y0) / size)), 0)
        high = min(int(np.floor((py + reach - y0) / size)), ny - 1)
        for i in range(first, last + 1):
            for j in range(low, high + 1):
                blocks[i, j] = True
