"""What is left of a blank on edges that the drawing breaks, and on slanted faces."""

from __future__ import annotations

from collections.abc import Iterator
from math import radians, sin

import numpy as np

from machining.geometry.frames import Vector
from machining.geometry.mesh import Mesh
from machining.geometry.solids import Solid, hull, joined
from machining.world.feature import Edge, Slanted
from machining.world.geometry import PartGeometry

SOME_MM3 = 0.05
SUNK_MM = 0.05  # under the face, so that no film stays
FULL, OVER = 1.05, 2.5  # of what an edge can have over it: all of that, and where more would stand
MORE = 1.3  # times as much over it, and it is of what stands there


def on_edges(left: Solid, part: PartGeometry) -> Iterator[tuple[Edge | Slanted, Solid]]:
    """Of each edge and slanted face what stands on it, where nothing else stands over that."""
    for feature in part.features:
        if isinstance(feature, Edge | Slanted) and feature.surfaces:
            high = _high(feature, part.mesh)
            own = left ^ _over(feature, part.mesh, FULL * high)
            much = float(own.volume())
            if much > SOME_MM3:
                around = float((left ^ _over(feature, part.mesh, OVER * high)).volume())
                if around < MORE * much:
                    yield feature, own


def _over(feature: Edge | Slanted, mesh: Mesh, high: float) -> Solid:
    """The space over its faces, so high (mm)."""
    return joined([hull(_raised(mesh, number, high)) for number in feature.surfaces])


def _raised(mesh: Mesh, number: int, high: float) -> Vector:
    """The corners of a face just under it, and over it."""
    corners = mesh.vertices[mesh.triangles[mesh.faces == number]]
    normals = np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0])
    normals = normals / np.maximum(np.linalg.norm(normals, axis=1, keepdims=True), 1e-12)
    each = np.repeat(normals, 3, axis=0)
    flat = corners.reshape(-1, 3)
    return np.concatenate([flat - SUNK_MM * each, flat + high * each])


def _high(feature: Edge | Slanted, mesh: Mesh) -> float:
    """How far (mm) the corner of what it is broken off stands over it, at the most."""
    if isinstance(feature, Edge):
        lean = radians(feature.angle_deg if feature.shape == "chamfer" else 45.0)
        return feature.size_mm * sin(lean)
    corners = mesh.vertices[mesh.triangles[np.isin(mesh.faces, feature.surfaces)]].reshape(-1, 3)
    return float((np.ptp(corners, axis=0) * np.abs(np.array(feature.along))).max())
