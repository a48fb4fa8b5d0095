"""The closed surfaces of a mesh that hang together, each with its volume and area."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from .connected import connected
from .frames import Vector
from .mesh import Mesh


@dataclass(frozen=True, slots=True)
class Shells:
    """Of each shell (n,): mm³, mm², its lowest and highest corner and its centre of mass (n, 3),
    mm.
    """

    volume: Vector
    area: Vector
    low: Vector
    high: Vector
    centre: Vector


def shells(mesh: Mesh) -> Shells:
    """None of an empty mesh. A hollow counts as a shell of its own, of negative volume."""
    of_vertex = connected(mesh.triangles, len(mesh.vertices))
    _, shell = np.unique(of_vertex[mesh.triangles[:, 0]], return_inverse=True)
    count = int(shell.max()) + 1 if len(shell) else 0
    a, b, c = (mesh.vertices[mesh.triangles[:, k]] for k in range(3))
    across = np.cross(b - a, c - a)
    wedge = np.einsum("ij,ij->i", a, np.cross(b, c)) / 6.0
    volume = np.bincount(shell, wedge, count).astype(np.float64)
    area = np.bincount(shell, np.linalg.norm(across, axis=1) / 2.0, count).astype(np.float64)
    low, high = np.full((count, 3), np.inf), np.full((count, 3), -np.inf)
    for corner in (a, b, c):
        np.minimum.at(low, shell, corner)
        np.maximum.at(high, shell, corner)
    moment = [np.bincount(shell, wedge * (a + b + c)[:, k] / 4.0, count) for k in range(3)]
    with np.errstate(divide="ignore", invalid="ignore"):
        centre = np.stack(moment, axis=1) / volume[:, None]
    return Shells(volume, area, low, high, centre)
