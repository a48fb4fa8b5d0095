"""Where a flat or a strip that touches a part bears: a few points that stand for all of it."""

from __future__ import annotations

from dataclasses import dataclass
from math import cos, pi, sin

import numpy as np
from shapely import MultiPoint, Polygon
from shapely.geometry.base import BaseGeometry

from machining.geometry.frames import Vector
from machining.geometry.regions import Region

from .contacts import Contact

INWARDS = 2.0 / 3.0  # a rectangle's corners come in by a sixth of its sides
MOST_CORNERS = 8
SOME_MM2 = 0.05
PLAIN = 1e-12
SEEN_MM = 0.005  # a corner stands out so far, or it is none
PLACES = 4  # decimals of a mm: less is how a solid was made, not how it touches


@dataclass(frozen=True, slots=True)
class Patch:
    """A region (mm) in a plane that ``origin`` and two unit directions (3,) span; ``normal`` looks
    into the part.
    """

    region: Region
    origin: Vector
    first: Vector
    second: Vector
    normal: Vector

    def contacts(self, friction: float, body: str, group: str | None = None) -> list[Contact]:
        at = [self.origin + u * self.first + v * self.second for u, v in bearing(self.region)]
        normal = tuple(float(each) for each in self.normal)
        return [
            Contact(tuple(point.round(PLACES).tolist()), normal, friction, body, group)  # type: ignore[arg-type]
            for point in at
        ]


def bearing(region: Region) -> Vector:
    """The corners of what a region spans, moved in so that they carry as it does (n, 2): of a
    rectangle four, a sixth of its sides in; none where it has no area.

    Source: pressure that falls to nothing at an edge carries a third from the other one.
    """
    if region.is_empty or region.area < SOME_MM2:
        return np.zeros((0, 2))
    spots = np.array(region.convex_hull.exterior.coords)  # type: ignore[attr-defined]
    corners = _plain(MultiPoint(spots.round(PLACES)).convex_hull)
    if len(corners) < 3:
        return np.zeros((0, 2))
    if len(corners) > MOST_CORNERS:
        turns = [2.0 * pi * k / MOST_CORNERS for k in range(MOST_CORNERS)]
        ways = np.array([(cos(a), sin(a)) for a in turns])
        corners = corners[sorted(set(np.argmax(corners @ ways.T, axis=0).tolist()))]
    middle = np.array(Polygon(corners).centroid.coords[0])
    found: Vector = (middle + INWARDS * (corners - middle)).round(PLACES)
    return found


def _plain(hull: BaseGeometry) -> Vector:
    """Its corners (n, 2) without those that stand out by nothing, from the lowest on: the same
    however the solid was made.
    """
    if hull.geom_type != "Polygon":
        return np.zeros((0, 2))
    corners = np.array(hull.exterior.coords)[:-1]  # type: ignore[attr-defined]
    while len(corners) > 3:
        before, after = np.roll(corners, 1, axis=0), np.roll(corners, -1, axis=0)
        along = after - before
        off = corners - before
        across = np.abs(along[:, 0] * off[:, 1] - along[:, 1] * off[:, 0])
        out = across / np.maximum(np.linalg.norm(along, axis=1), PLAIN)
        least = int(np.argmin(out))
        if out[least] >= SEEN_MM:
            break
        corners = np.delete(corners, least, axis=0)
    first = int(np.lexsort((corners[:, 1], corners[:, 0]))[0])
    return np.roll(corners, -first, axis=0)
