"""How far points are from the surface of a mesh."""

from __future__ import annotations

import numpy as np
from numba import njit

from .frames import Vector
from .mesh import Mesh


def distances(points: Vector, mesh: Mesh) -> Vector:
    """How far points (n, 3) are from the nearest place of a mesh's surface (n,), on either
    side of it; endless where it has none.
    """
    corners = np.ascontiguousarray(mesh.vertices[mesh.triangles], dtype=np.float64)
    found = np.empty(len(points))
    lows, highs = corners.min(axis=1), corners.max(axis=1)
    _nearest(np.ascontiguousarray(points, dtype=np.float64), corners, lows, highs, found)
    return found


@njit(cache=True, nogil=True)  # type: ignore[untyped-decorator]
def _nearest(points, corners, lows, highs, found):  # type: ignore[no-untyped-def]
    """The least to any triangle, of those whose box is nearer than the least so far."""
    for n in range(len(points)):
        least = np.inf
        for t in range(len(corners)):
            beside = 0.0
            for k in range(3):
                away = max(lows[t, k] - points[n, k], points[n, k] - highs[t, k], 0.0)
                beside += away * away
            if beside < least:
                least = min(least, _to_triangle(points[n], corners[t]))
        found[n] = np.sqrt(least)


@njit(cache=True, nogil=True)  # type: ignore[untyped-decorator]
def _to_triangle(point, corners):  # type: ignore[no-untyped-def]
    """The square of the distance to its edges, or to its plane where the point lies over it."""
    least, over = np.inf, True
    ax, ay, az = corners[1] - corners[0]
    bx, by, bz = corners[2] - corners[0]
    nx, ny, nz = ay * bz - az * by, az * bx - ax * bz, ax * by - ay * bx
    area = nx * nx + ny * ny + nz * nz
    for k in range(3):
        sx, sy, sz = corners[k]
        ex, ey, ez = corners[(k + 1) % 3] - corners[k]
        px, py, pz = point[0] - sx, point[1] - sy, point[2] - sz
        square = max(ex * ex + ey * ey + ez * ez, 1e-30)
        along = min(max((px * ex + py * ey + pz * ez) / square, 0.0), 1.0)
        gx, gy, gz = px - along * ex, py - along * ey, pz - along * ez
        least = min(least, gx * gx + gy * gy + gz * gz)
        # inwards of the edge: its normal across its way
        cx, cy, cz = ny * ez - nz * ey, nz * ex - nx * ez, nx * ey - ny * ex
        over = over and px * cx + py * cy + pz * cz >= 0.0
    if over and area > 0.0:
        px, py, pz = point - corners[0]
        above = px * nx + py * ny + pz * nz
        least = min(least, above * above / area)
    return least
