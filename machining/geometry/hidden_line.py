"""Hidden-line drawing of meshes seen along an axis: crease edges, cut where something stands in
front of them.

A depth buffer says what is in front; edges are walked in steps of a buffer cell. Good to about one
cell.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from .frames import Vector
from .mesh import Mesh, crease_edges

CELLS = 700
BEHIND_CELLS = 1.5


@dataclass(frozen=True, slots=True)
class Lines:
    """Runs of an edge in the drawing plane: ends (n, 2, 2) in mm, seen and hidden."""

    seen: Vector
    hidden: Vector


@dataclass(frozen=True, slots=True)
class Eye:
    """Looks along ``-out`` with ``right`` to the right; ``up`` completes them. Unit vectors."""

    right: Vector
    up: Vector
    out: Vector

    def flat(self, points: Vector) -> Vector:
        """Drawing-plane coordinates and height towards the eye, shape (..., 3)."""
        return points @ np.column_stack([self.right, self.up, self.out])


FROM_ABOVE = Eye(np.array([1.0, 0, 0]), np.array([0, 1.0, 0]), np.array([0, 0, 1.0]))
FROM_THE_RIGHT = Eye(np.array([0, 1.0, 0]), np.array([0, 0, 1.0]), np.array([1.0, 0, 0]))
FROM_THE_FRONT = Eye(np.array([1.0, 0, 0]), np.array([0, 0, 1.0]), np.array([0, -1.0, 0]))


def draw(meshes: Sequence[Mesh], eye: Eye, crease_deg: float = 25.0) -> list[Lines]:
    """Lines of each mesh, hidden by itself and by all the others. Empty meshes are not allowed."""
    flat = [eye.flat(mesh.vertices) for mesh in meshes]
    every = np.concatenate([points[:, :2] for points in flat])
    low, size = every.min(axis=0), float(np.ptp(every, axis=0).max()) or 1.0
    cell = size / CELLS
    depth = _depth(flat, meshes, low, cell)
    return [_lines(eye.flat(_edges(mesh, eye, crease_deg)), depth, low, cell) for mesh in meshes]


def _edges(mesh: Mesh, eye: Eye, crease_deg: float) -> Vector:
    """Crease edges and the outline: edges between a triangle that looks at the eye and one that
    doesn't.
    """
    welded = mesh.welded(1e-4)
    return np.concatenate([crease_edges(welded, crease_deg), _outline(welded, eye)])


def _outline(mesh: Mesh, eye: Eye) -> Vector:
    corners = mesh.vertices[mesh.triangles]
    facing = np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0]) @ eye.out > 0
    tri = mesh.triangles
    edges = np.sort(np.concatenate([tri[:, [0, 1]], tri[:, [1, 2]], tri[:, [2, 0]]]), axis=1)
    owner = np.tile(facing, 3)
    order = np.lexsort((edges[:, 1], edges[:, 0]))
    edges, owner = edges[order], owner[order]
    turn = np.flatnonzero(np.all(edges[1:] == edges[:-1], axis=1) & (owner[1:] != owner[:-1]))
    return mesh.vertices[edges[turn]]


def _depth(
    flat: Sequence[Vector], meshes: Sequence[Mesh], low: Vector, cell: float
) -> NDArray[np.float64]:
    """Highest point over each cell's middle, minus infinity where nothing is."""
    grid = np.full((CELLS + 3, CELLS + 3), -np.inf)
    for points, mesh in zip(flat, meshes, strict=True):
        corners = points[mesh.triangles]
        spot = (corners[:, :, :2] - low) / cell
        first = np.floor(spot.min(axis=1)).astype(int)
        last = np.minimum(np.ceil(spot.max(axis=1)).astype(int), CELLS + 2)
        for k in range(len(corners)):
            _fill(grid, spot[k], corners[k, :, 2], first[k], last[k])
    return grid


def _fill(
    grid: NDArray[np.float64],
    spot: Vector,
    height: Vector,
    first: NDArray[np.int64],
    last: NDArray[np.int64],
) -> None:
    (ax, ay), (bx, by), (cx, cy) = spot
    area = (bx - ax) * (cy - ay) - (cx - ax) * (by - ay)
    if abs(area) < 1e-9:
        return
    x = np.arange(first[0], last[0] + 1)[:, None]
    y = np.arange(first[1], last[1] + 1)[None, :]
    u = ((x - ax) * (cy - ay) - (cx - ax) * (y - ay)) / area
    v = ((bx - ax) * (y - ay) - (x - ax) * (by - ay)) / area
    inside = (u >= -1e-9) & (v >= -1e-9) & (u + v <= 1 + 1e-9)
    z = height[0] + u * (height[1] - height[0]) + v * (height[2] - height[0])
    part = grid[first[0] : last[0] + 1, first[1] : last[1] + 1]
    np.maximum(part, np.where(inside, z, -np.inf), out=part)


def _lines(edges: Vector, depth: NDArray[np.float64], low: Vector, cell: float) -> Lines:
    seen: list[Vector] = []
    hidden: list[Vector] = []
    for start, end in edges:
        length = float(np.linalg.norm((end - start)[:2]))
        if length < 1e-6:
            continue
        count = max(int(length / cell), 1) + 1
        along = np.linspace(0.0, 1.0, count)
        points = start + (end - start) * along[:, None]
        near = np.rint((points[:, :2] - low) / cell).astype(int)
        # the least of the cells around: an edge is its own solid's rim and must not be hidden by
        # its neighbour
        around = np.min(
            [
                depth[near[:, 0] + i, near[:, 1] + j]
                for i, j in ((0, 0), (1, 0), (-1, 0), (0, 1), (0, -1))
            ],
            axis=0,
        )
        steep = abs(float((end - start)[2])) / length * cell
        clear = points[:, 2] >= around - BEHIND_CELLS * cell - steep
        for visible, i, j in _runs(clear):
            (seen if visible else hidden).append(np.array([points[i, :2], points[j, :2]]))
    empty = np.zeros((0, 2, 2))
    return Lines(np.array(seen) if seen else empty, np.array(hidden) if hidden else empty)


def _runs(clear: NDArray[np.bool_]) -> list[tuple[bool, int, int]]:
    """Stretches of equal visibility as (visible, first, last); each begins where the one before
    ends.
    """
    turns = np.flatnonzero(clear[1:] != clear[:-1]) + 1
    bounds = [0, *turns.tolist(), len(clear)]
    return [
        (bool(clear[a]), max(a - 1, 0) if a else 0, b - 1)
        for a, b in zip(bounds[:-1], bounds[1:], strict=True)
        if b > a
    ]
