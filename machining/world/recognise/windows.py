"""Windows: what is open right through the part, with walls all round and no floor."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from shapely import Point as Spot
from shapely import Polygon

from machining.geometry.frames import Direction
from machining.geometry.regions import grown, polygons_of

from ..feature import Hole, Pocket, feature_id
from .body import Body, Upright
from .floors import (
    CHORDS_MM,
    RING_MM,
    across_flats,
    corner_radius,
    levels_near,
    loops_at,
    walled,
)

WAYS: tuple[Direction, ...] = ("+z", "+y", "+x")
SMALLEST_MM2 = 1.0
THINNEST_MM = 0.05
SKIN_MM = 0.05  # what chords of walls are off
WALLED_SHARE = 0.5


@dataclass(frozen=True, slots=True)
class Window:
    """What is open between two heights."""

    opening: Polygon
    low: float
    high: float


def windows_of(body: Body, holes: list[Hole]) -> list[Pocket]:
    return [
        _pocket(body, body.upright(up), window)
        for up in WAYS
        for window in _found(body.upright(up), [each for each in holes if each.axis[1] == up[1]])
    ]


def _found(seen: Upright, holes: list[Hole]) -> Iterator[Window]:
    """What light falls through, and is no hole."""
    for shadow in polygons_of(seen.outline):
        for ring in shadow.interiors:
            opening = Polygon(ring).simplify(CHORDS_MM)
            if opening.area > SMALLEST_MM2 and not _of_hole(opening, seen, holes):
                ends = _ends(seen, opening)
                if ends is not None:
                    yield Window(opening, *ends)


def _ends(seen: Upright, opening: Polygon) -> tuple[float, float] | None:
    """From where to where its walls stand; a slit in one of them is of no account."""
    near = grown(opening, RING_MM).bounds
    levels = levels_near(seen.mesh, near, seen.bottom - 1.0)
    walls = [
        (low, high)
        for low, high in pairwise(levels)
        if high - low > THINNEST_MM and walled(seen, opening, 0.5 * (low + high)) > WALLED_SHARE
    ]
    return (walls[0][0], walls[-1][1]) if walls else None


def _of_hole(opening: Polygon, seen: Upright, holes: list[Hole]) -> bool:
    """Is it a hole's, or the cone's at its mouth?"""
    for hole in holes:
        x, y, _ = seen.pose.apply(np.array(hole.point))
        widest = max((hole.diameter_mm, *(sink.diameter_mm for sink in hole.sinks)))
        disc = Spot(float(x), float(y)).buffer(0.5 * widest + SKIN_MM, 64)
        if not hole.open_deg and disc.covers(opening):
            return True
    return False


def _pocket(body: Body, seen: Upright, window: Window) -> Pocket:
    region, z = window.opening, window.low
    centre = region.centroid
    middle = seen.back(np.array([[centre.x, centre.y, z]]))[0]
    return Pocket(
        id=feature_id("pocket", f"{seen.up} through", middle, round(region.area, 1)),
        loops=loops_at(seen, region, z),
        opens=seen.up,
        depth_mm=round(window.high - z, 6),
        corner_radius_mm=corner_radius(body, seen, region, 0.5 * (z + window.high)),
        closed=True,
        through=True,
        across_flats_mm=across_flats(region),
    )
