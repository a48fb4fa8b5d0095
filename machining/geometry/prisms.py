"""Upright prisms, seen again as upright ones after they were turned."""

from __future__ import annotations

from collections.abc import Iterator
from math import ceil

import numpy as np
from shapely import MultiPoint, Polygon, affinity, box, get_coordinates
from shapely.geometry.base import BaseGeometry

from .frames import Vector

FLAT, SIDE = 1e-9, 1e-7
MOST_STRIPS = 32
SLAB_MM = 4.0
Prism = tuple[BaseGeometry, float, float]  # what it covers in plan, its bottom and its top, mm


def turned(prism: Prism, rotation: Vector) -> Iterator[Prism]:
    """What a prism covers after a rotation about the origin, as upright ones that lie in no less
    room. Upright or upside down, and on its side with outlines along the axes, they are it; what
    is round lies in strips, what stands askew in slabs of the hull of its corners.
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
        yield from _askew(prism, rotation)


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


def _askew(prism: Prism, rotation: Vector) -> Iterator[Prism]:
    """The hull of a prism that leans, in slabs across the way it leans: each as high and as low as
    it is there.
    """
    region, bottom, top = prism
    plan = get_coordinates(region.convex_hull)[:-1]
    ends = [np.column_stack([plan, np.full(len(plan), z)]) @ rotation.T for z in (bottom, top)]
    rings = [np.stack([end, np.roll(end, -1, axis=0)], axis=1) for end in ends]
    edges = np.concatenate([*rings, np.stack(ends, axis=1)])
    leans = rotation[:2, 2] / np.hypot(*rotation[:2, 2])
    at = edges[:, :, :2] @ leans
    low, high = float(at.min()), float(at.max())
    cuts = np.linspace(low, high, min(MOST_STRIPS, max(1, ceil((high - low) / SLAB_MM))) + 1)
    crossed = [_crossed(edges, at, float(cut)) for cut in cuts]
    for k, (a, b) in enumerate(zip(cuts[:-1], cuts[1:], strict=True)):
        within = edges[(at >= a - FLAT) & (at <= b + FLAT)]
        points = np.concatenate([crossed[k], crossed[k + 1], within])
        heights = points[:, 2]
        yield MultiPoint(points[:, :2]).convex_hull, float(heights.min()), float(heights.max())


def _crossed(edges: Vector, at: Vector, cut: float) -> Vector:
    """Where edges (n, 2, 3), whose ends are ``at`` (n, 2) along a way, pass a place of it."""
    over = (at.min(axis=1) < cut) & (at.max(axis=1) > cut)
    (first, last), ends = at[over].T, edges[over]
    share = ((cut - first) / (last - first))[:, None]
    found: Vector = ends[:, 0] + share * (ends[:, 1] - ends[:, 0])
    return found
