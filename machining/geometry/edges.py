"""A section drawn along an edge: what a chamfer, a round or a slope takes off it."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from .frames import Vector
from .mesh import Mesh

SHORT_MM = 1e-4
SHARPEST = 0.2  # cosine of half a turn: beyond it a mitre would run away


def drawn_along(line: Vector, section: Sequence[tuple[float, float]], z: float) -> Mesh | None:
    """The closed mesh of a section that goes along a line in plan (n, 2), mm, mitred in its
    corners; a line whose last point is its first goes round.

    The section's corners are (how far to the right of the line, height over ``z``), turning left
    round it as seen along the line; from its last one all of it is seen. None where the line bends
    more sharply than the section is wide, or has no length.
    """
    closed = len(line) > 2 and bool(np.linalg.norm(line[0] - line[-1]) <= SHORT_MM)
    points = _apart(np.asarray(line, dtype=float), closed)
    if len(points) < (3 if closed else 2):
        return None
    mitres = _mitres(points, closed)
    if mitres is None:
        return None
    across, up = np.asarray(section, dtype=float).T
    rings = points[:, None, :] + across[None, :, None] * mitres[:, None, :]
    if _folds(rings, points, closed):
        return None
    corners = np.concatenate(
        [rings, np.broadcast_to(z + up, rings.shape[:2])[:, :, None]], axis=2
    ).reshape(-1, 3)
    triangles = _sides(len(points), len(up), closed)
    if not closed:
        triangles = np.concatenate([triangles, *_ends(len(points), len(up))])
    return Mesh(corners, triangles.astype(np.int32), np.zeros(len(triangles), dtype=np.int32))


def _apart(points: Vector, closed: bool) -> Vector:
    """Without points on each other; of a closed line the last is not the first again."""
    kept = np.concatenate(
        [np.array([True]), np.linalg.norm(np.diff(points, axis=0), axis=1) > SHORT_MM]
    )
    points = points[kept]
    if closed and len(points) > 1 and np.linalg.norm(points[0] - points[-1]) <= SHORT_MM:
        points = points[:-1]
    return points


def _mitres(points: Vector, closed: bool) -> Vector | None:
    """How far each corner goes for a millimetre to the right of the line."""
    ahead = np.roll(points, -1, axis=0) - points
    ahead /= np.maximum(np.linalg.norm(ahead, axis=1), SHORT_MM)[:, None]
    behind = np.roll(ahead, 1, axis=0)
    if not closed:
        ahead[-1], behind[0] = behind[-1], ahead[0]
    middle = ahead + behind
    length = np.linalg.norm(middle, axis=1)
    if (length / 2.0 < SHARPEST).any():
        return None
    right = np.column_stack([middle[:, 1], -middle[:, 0]]) / length[:, None]
    return right / (length / 2.0)[:, None]


def _folds(rings: Vector, points: Vector, closed: bool) -> bool:
    """Does any line of the section run backwards somewhere?"""
    count = len(points) if closed else len(points) - 1
    ahead = (np.roll(points, -1, axis=0) - points)[:count]
    moved = (np.roll(rings, -1, axis=0) - rings)[:count]
    return bool((np.einsum("ij,ikj->ik", ahead, moved) <= 0).any())


def _sides(count: int, width: int, closed: bool) -> NDArray[np.int64]:
    at = np.arange(count if closed else count - 1)[:, None]
    k = np.arange(width)[None, :]
    here, there = at * width, (at + 1) % count * width
    a, b, c, d = here + k, here + (k + 1) % width, there + k, there + (k + 1) % width
    return np.concatenate(
        [np.stack(each, axis=-1).reshape(-1, 3) for each in ((a, c, b), (b, c, d))]
    )


def _ends(count: int, width: int) -> tuple[NDArray[np.int64], NDArray[np.int64]]:
    k = np.arange(width - 2)
    fan = np.column_stack([np.full(width - 2, width - 1), k, k + 1])
    return fan, fan[:, ::-1] + (count - 1) * width
