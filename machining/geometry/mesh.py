"""Triangle meshes as plain arrays."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from .connected import connected
from .frames import Pose, Vector

Indices = NDArray[np.int32]


@dataclass(frozen=True, slots=True)
class Mesh:
    """Vertices (n, 3) in mm, triangles (m, 3), and the face of the solid each triangle lies on
    (m,).
    """

    vertices: Vector
    triangles: Indices
    faces: Indices

    def bounds(self) -> tuple[Vector, Vector]:
        """Its lowest and highest corners; of an empty one both are its origin."""
        if not len(self.vertices):
            return np.zeros(3), np.zeros(3)
        return self.vertices.min(axis=0), self.vertices.max(axis=0)

    def posed(self, pose: Pose) -> Mesh:
        return Mesh(pose.apply(self.vertices), self.triangles, self.faces)

    def volume(self) -> float:
        """Enclosed volume in mm³ by the divergence theorem; needs a closed, outward mesh."""
        a, b, c = (self.vertices[self.triangles[:, i]] for i in range(3))
        return float(np.einsum("ij,ij->", a, np.cross(b, c)) / 6.0)

    def areas(self) -> Vector:
        """Of each triangle, mm² (m,)."""
        a, b, c = (self.vertices[self.triangles[:, i]] for i in range(3))
        return np.asarray(np.linalg.norm(np.cross(b - a, c - a), axis=1) / 2.0)

    def welded(self, tolerance: float = 1e-5) -> Mesh:
        """The same mesh with vertices nearer than the tolerance made one and degenerate triangles
        left out.
        """
        keys = np.round(self.vertices / tolerance).astype(np.int64)
        _, first, where = np.unique(keys, axis=0, return_index=True, return_inverse=True)
        triangles = where.reshape(-1)[self.triangles].astype(np.int32)
        sound = (
            (triangles[:, 0] != triangles[:, 1])
            & (triangles[:, 1] != triangles[:, 2])
            & (triangles[:, 2] != triangles[:, 0])
        )
        return Mesh(self.vertices[first], triangles[sound], self.faces[sound])


CREASE_DEG = 25.0
FLAT_MM = 1e-6


def crease_edges(mesh: Mesh, angle_deg: float = CREASE_DEG) -> NDArray[np.float64]:
    """Ends (k, 2, 3) of edges whose two triangles meet at more than the angle, or that only one
    triangle has.
    """
    edges, _, first, sharp = _pairs(mesh, angle_deg)
    paired = np.zeros(len(edges), dtype=bool)
    paired[first] = paired[first + 1] = True
    kept = np.concatenate([edges[first[sharp]], edges[~paired]])
    return mesh.vertices[kept]


def convex_edges(mesh: Mesh, angle_deg: float) -> tuple[NDArray[np.float64], Vector]:
    """Ends (k, 2, 3) of edges a hand can feel: whose two triangles meet at more than the angle,
    outwards; and the way out of the corner in the middle of both (k, 3).
    """
    edges, owner, first, sharp = _pairs(mesh, angle_deg)
    first = first[sharp]
    normals = normals_of(mesh)
    here, there = owner[first], owner[first + 1]
    starts = mesh.vertices[edges[first, 0]]
    corners = mesh.vertices[mesh.triangles[there]] - starts[:, None]
    farthest = np.einsum("kij,kj->ki", corners, normals[here])
    outwards = normals[here] + normals[there]
    lengths = np.linalg.norm(outwards, axis=1)
    kept = (farthest.min(axis=1) < -FLAT_MM) & (lengths > FLAT_MM)
    return mesh.vertices[edges[first[kept]]], outwards[kept] / lengths[kept, None]


def by_creases(mesh: Mesh, angle_deg: float = CREASE_DEG) -> Mesh:
    """The same mesh, its faces what creases part: for a solid whose faces nobody has numbered."""
    _, owner, first, sharp = _pairs(mesh, angle_deg)
    smooth, count = first[~sharp], len(mesh.triangles)
    faces = connected(np.column_stack([owner[smooth], owner[smooth + 1]]), count)
    return Mesh(mesh.vertices, mesh.triangles, faces.astype(np.int32))


def _pairs(
    mesh: Mesh, angle_deg: float
) -> tuple[NDArray[np.int32], NDArray[np.int64], NDArray[np.int64], NDArray[np.bool_]]:
    """Edges in order with the triangles they are of, where two of them are the same edge, and
    whether their triangles meet there at more than an angle.
    """
    tri, normals = mesh.triangles, normals_of(mesh)
    edges = np.sort(np.concatenate([tri[:, [0, 1]], tri[:, [1, 2]], tri[:, [2, 0]]]), axis=1)
    owner = np.tile(np.arange(len(tri)), 3)
    order = np.lexsort((edges[:, 1], edges[:, 0]))
    edges, owner = edges[order], owner[order]
    same = np.all(edges[1:] == edges[:-1], axis=1)
    first = np.flatnonzero(same)
    meet = np.einsum("ij,ij->i", normals[owner[first]], normals[owner[first + 1]])
    return edges, owner, first, meet < np.cos(np.radians(angle_deg))


def normals_of(mesh: Mesh) -> Vector:
    """Of each triangle, outwards, length 1 (m, 3); none of one without an area."""
    a, b, c = (mesh.vertices[mesh.triangles[:, i]] for i in range(3))
    normals = np.cross(b - a, c - a)
    lengths = np.linalg.norm(normals, axis=1, keepdims=True)
    unit: Vector = normals / np.where(lengths > 0, lengths, 1.0)
    return unit
