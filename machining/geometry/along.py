"""How far edges reach along an axis, at heights across it."""

from __future__ import annotations

import numpy as np
from numba import njit

from .frames import Vector


def farthest_along(edges: Vector, at: Vector, highest: bool, level: float) -> Vector:
    """The highest, or lowest, first coordinate of edges (n, 2, 2) that cross each second one ``at``
    (m,), sorted, mm; NaN where none does. One that is no higher than ``level`` is taken at its
    ends.
    """
    found = np.full(len(at), np.nan)
    edges, at = (np.ascontiguousarray(each, dtype=np.float64) for each in (edges, at))
    _farthest_along(edges, at, highest, level, found)
    return found


@njit(cache=True, nogil=True)  # type: ignore[untyped-decorator]
def _farthest_along(edges, at, highest, level, found):  # type: ignore[no-untyped-def]
    for k in range(len(edges)):
        x0, y0, x1, y1 = edges[k, 0, 0], edges[k, 0, 1], edges[k, 1, 0], edges[k, 1, 1]
        low, high = min(y0, y1), max(y0, y1)
        end = max(x0, x1) if highest else min(x0, x1)
        for i in range(np.searchsorted(at, low), len(at)):
            if at[i] > high:
                break
            x = end if high - low <= level else x0 + (at[i] - y0) / (y1 - y0) * (x1 - x0)
            if np.isnan(found[i]) or (x > found[i] if highest else x < found[i]):
                found[i] = x
