"""How thick a mesh is along an axis under places on it."""

from __future__ import annotations

import numpy as np
from numba import njit

from .frames import Vector
from .mesh import Mesh

SMALL = 1e-9


def thick_along(points: Vector, mesh: Mesh, axis: int, least: float) -> Vector:
    """How far (mm) it is from each point (n, 3) along an axis, either way, to where the surface is
    met next, at least so far (n,); endless where it is met nowhere.
    """
    corners = np.ascontiguousarray(mesh.vertices[mesh.triangles], dtype=np.float64)
    found = np.empty(len(points))
    _thick_along(np.ascontiguousarray(points, dtype=np.float64), corners, axis, least, found)
    return found


@njit(cache=True, nogil=True)  # type: ignore[untyped-decorator]
def _thick_along(points, corners, axis, least, found):  # type: ignore[no-untyped-def]
    """Where the line through a point meets a triangle, by its shares of two of its sides."""
    a, b = (axis + 1) % 3, (axis + 2) % 3
    for n in range(len(points)):
        x, y, z = points[n, a], points[n, b], points[n, axis]
        found[n] = np.inf
        for t in range(len(corners)):
            px, py = corners[t, 0, a], corners[t, 0, b]
            qx, qy = corners[t, 1, a], corners[t, 1, b]
            rx, ry = corners[t, 2, a], corners[t, 2, b]
            if x < min(px, qx, rx) or x > max(px, qx, rx):
                continue
            if y < min(py, qy, ry) or y > max(py, qy, ry):
                continue
            whole = (qx - px) * (ry - py) - (rx - px) * (qy - py)
            if abs(whole) <= SMALL:
                continue
            u = ((x - px) * (ry - py) - (rx - px) * (y - py)) / whole
            v = ((qx - px) * (y - py) - (x - px) * (qy - py)) / whole
            if u < -SMALL or v < -SMALL or u + v > 1.0 + SMALL:
                continue
            low = corners[t, 0, axis]
            met = low + u * (corners[t, 1, axis] - low) + v * (corners[t, 2, axis] - low)
            off = abs(met - z)
            if off > least and off < found[n]:
                found[n] = off
