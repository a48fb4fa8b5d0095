"""How much of one solid stands over places on the surface of another."""

from __future__ import annotations

import numpy as np
from numba import njit
from numpy.typing import NDArray

from .frames import Vector
from .mesh import Mesh

INSIDE_MM = 0.1  # from where under a surface it is looked outwards
LEAST_SPOTS, MOST_SPOTS, SPOT_MM2 = 4, 24, 60.0
SHARE_A, SHARE_B = 0.7548776662466927, 0.5698402909980532  # spread points evenly over a triangle
FIRST_A, FIRST_B = 0.37, 0.23  # the first lies on no edge of its triangle
FLAT = 1e-12
NEARLY = 1.001  # of a ball: what rounding may take of it


def spots_on(mesh: Mesh) -> tuple[Vector, Vector, NDArray[np.int32]]:
    """Places spread evenly over each face of a mesh (n, 3), where outwards is there (n, 3), and
    their faces (n,): more of them on larger faces.
    """
    corners = mesh.vertices[mesh.triangles]
    across = np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0])
    areas = mesh.areas()
    places, normals, faces = [], [], []
    for face in np.unique(mesh.faces):
        own = np.flatnonzero((mesh.faces == face) & (areas > FLAT))
        if not len(own):
            continue
        up_to = np.cumsum(areas[own])
        count = int(np.clip(up_to[-1] / SPOT_MM2, LEAST_SPOTS, MOST_SPOTS))
        k = np.arange(count)
        chosen = own[np.searchsorted(up_to, (k + 0.5) / count * up_to[-1])]
        a, b = np.mod(FIRST_A + SHARE_A * k, 1.0), np.mod(FIRST_B + SHARE_B * k, 1.0)
        beyond = a + b > 1.0
        a, b = np.where(beyond, 1.0 - a, a), np.where(beyond, 1.0 - b, b)
        base = corners[chosen, 0]
        ab, ac = (corners[chosen, n] - base for n in (1, 2))
        places.append(base + a[:, None] * ab + b[:, None] * ac)
        normals.append(across[chosen] / (2.0 * areas[chosen])[:, None])
        faces.append(np.full(count, face, dtype=np.int32))
    if not places:
        return np.zeros((0, 3)), np.zeros((0, 3)), np.zeros(0, dtype=np.int32)
    return np.concatenate(places), np.concatenate(normals), np.concatenate(faces)


def standing_over(places: Vector, outwards: Vector, mesh: Mesh) -> Vector:
    """How far (mm) a closed mesh goes on outwards over each place (n,); 0 where nothing of it
    stands there, or not even the surface does.
    """
    corners = np.ascontiguousarray(mesh.vertices[mesh.triangles], dtype=np.float64)
    found = np.zeros(len(places))
    starts = np.ascontiguousarray(places - INSIDE_MM * outwards)
    middles = corners.mean(axis=1)
    beside = ((corners - middles[:, None]) ** 2).sum(axis=2).max(axis=1) * NEARLY + FLAT
    _standing(starts, np.ascontiguousarray(outwards), corners, middles, beside, found)
    return np.maximum(found - INSIDE_MM, 0.0)


@njit(cache=True, nogil=True)  # type: ignore[untyped-decorator]
def _standing(starts, ways, corners, middles, beside, found):  # type: ignore[no-untyped-def]
    """The nearest triangle along each way, if the mesh is left there (Möller and Trumbore), of
    those whose ball round their middle the way meets.
    """
    for n in range(len(starts)):
        x, y, z = starts[n]
        u, v, w = ways[n]
        nearest, leaves = np.inf, False
        for t in range(len(corners)):
            mx, my, mz = middles[t, 0] - x, middles[t, 1] - y, middles[t, 2] - z
            along = mx * u + my * v + mz * w
            if mx * mx + my * my + mz * mz - along * along > beside[t]:
                continue
            ax, ay, az = corners[t, 0]
            ex, ey, ez = corners[t, 1, 0] - ax, corners[t, 1, 1] - ay, corners[t, 1, 2] - az
            fx, fy, fz = corners[t, 2, 0] - ax, corners[t, 2, 1] - ay, corners[t, 2, 2] - az
            px, py, pz = v * fz - w * fy, w * fx - u * fz, u * fy - v * fx
            det = ex * px + ey * py + ez * pz
            if abs(det) < 1e-12:
                continue
            sx, sy, sz = x - ax, y - ay, z - az
            a = (sx * px + sy * py + sz * pz) / det
            if a < 0.0 or a > 1.0:
                continue
            qx, qy, qz = sy * ez - sz * ey, sz * ex - sx * ez, sx * ey - sy * ex
            b = (u * qx + v * qy + w * qz) / det
            if b < 0.0 or a + b > 1.0:
                continue
            far = (fx * qx + fy * qy + fz * qz) / det
            if 0.0 < far < nearest:
                nearest, leaves = far, det < 0.0
        if leaves:
            found[n] = nearest
