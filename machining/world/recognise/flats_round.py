"""Flats that lie evenly round an axis: a hexagon on a round part, or three flats of a hub."""

from __future__ import annotations

from collections import defaultdict

import numpy as np

from machining.geometry.evenly import angle_about, are_even
from machining.geometry.frames import Direction, Vector, axis

from .body import Body

ALONG: tuple[Direction, ...] = ("+z", "+y", "+x")
SAME_MM = 0.02  # how differently far out and long they may be


def flats_round(body: Body) -> frozenset[int]:
    """Numbers of their faces: at least three, equally far from the axis through the middle of the
    part, equally long, at equal angles. None where the part is no wider elsewhere: that is its
    outline, or the bar's.
    """
    return frozenset(number for along in ALONG for group in _sets(body, along) for number in group)


def _sets(body: Body, along: Direction) -> list[list[int]]:
    groups = defaultdict[tuple[int, ...], list[tuple[float, int]]](list)
    unit = axis(along)
    vertices = body.mesh.vertices
    middle = (vertices.min(axis=0) + vertices.max(axis=0)) / 2.0
    for number, face in enumerate(body.faces):
        normal = np.array(face.axis)
        if face.kind != "plane" or abs(float(normal @ unit)) > 1e-6:
            continue
        corners = body.corners(number) - middle
        out, ends = float((corners @ normal).mean()), corners @ unit
        if out <= 0.0 or _stands_over(vertices - middle, normal, out, unit, ends):
            continue
        key = (out, float(ends.min()), float(ends.max()))
        groups[tuple(round(each / SAME_MM) for each in key)].append(
            (angle_about(normal, "xyz".index(along[1])), number)
        )
    return [
        [n for _, n in sorted(group)]
        for (out, _, _), group in groups.items()
        if are_even(at for at, _ in group)
        and _is_wider(body, vertices - middle, group, out * SAME_MM)
    ]


def _is_wider(body: Body, vertices: Vector, group: list[tuple[float, int]], out: float) -> bool:
    normals = np.array([body.faces[number].axis for _, number in group])
    return bool((vertices @ normals.T).max() > out + 2.0 * SAME_MM)


def _stands_over(vertices: Vector, normal: Vector, out: float, unit: Vector, ends: Vector) -> bool:
    """Does the part go on further out, as far as the flat is long?"""
    heights = vertices @ unit
    beside = (heights > ends.min() + SAME_MM) & (heights < ends.max() - SAME_MM)
    return bool((vertices[beside] @ normal > out + SAME_MM).any())
