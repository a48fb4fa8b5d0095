"""Upright prisms, seen again as upright ones after they were turned."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
from shapely import MultiPoint, Polygon, affinity, box, get_coordinates
from shapely.geometry.base import BaseGeometry

from .frames import Vector

FLAT, SIDE = 1e-9, 1e-7
MOST_STRIPS = 32
Prism = tuple[BaseGeometry, float, float]  # what it covers in plan, its bottom and its top, mm


def turned(prism: Prism, rotation: Vector) -> Iterator[Prism]:
    """What a prism covers after a rotation about the origin, as upright ones that lie in no less
    room. Upright or upside down, and on its side with outlines along the axes, they are it; what
    is round lies in strips, what stands askew in the hull of its corners.
    """
    region, bottom, top = prism
    up = rotation[:, 2]
    if region.is_empty:
        return
    if abs(abs(up[2]) - 1.0) < FLAT:
        (a, b), (c, d) = rotation[:2, :2]
        heights = (bottom, top) if up[2] > 0 else (-top, -bottom)
        yield affinity.affine_transform(region, [a, b, c, d, 0.0, 0.0]), *heights
    elif abs(up[2]) < FLAT:
        yield from _on_its_side(prism, rotation)
    else:
        yield _around(prism, rotation)


def _on_its_side(prism: Prism, rotation: Vector) -> Iterator[Prism]:
    region, bottom, top = prism
    along = rotation[:2, 2]
    across = np.array([-along[1], along[0]])
    (a, b), (c, d) = across @ rotation[:2, :2], rotation[2, :2]
    seen = affinity.affine_transform(region, [a, b, c, d, 0.0, 0.0])
    west, _, east, _ = seen.bounds
    at = np.unique(get_coordinates(seen)[:, 0].round(6))
    if len(at) > MOST_STRIPS:
        at = np.linspace(west, east, MOST_STRIPS + 1)
    for left, right in zip(at[:-1], at[1:], strict=True):
        # what only touches a strip at its side does not stand in it
        strip = seen.intersection(box(left + SIDE, seen.bounds[1], right - SIDE, seen.bounds[3]))
        if strip.area > FLAT:
            _, low, _, high = strip.bounds
            corners = [
                (across * x + along * y).tolist()
                for x, y in ((left, bottom), (right, bottom), (right, top), (left, top))
            ]
            yield Polygon(corners), low, high


def _around(prism: Prism, rotation: Vector) -> Prism:
    region, bottom, top = prism
    plan = get_coordinates(region.convex_hull)
    corners = np.vstack([np.column_stack([plan, np.full(len(plan), z)]) for z in (bottom, top)])
    seen = corners @ rotation.T
    hull = MultiPoint(seen[:, :2]).convex_hull
    return hull, float(seen[:, 2].min()), float(seen[:, 2].max())
