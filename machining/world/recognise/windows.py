"""Windows: what is open right through the part, with walls all round and no floor."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
from shapely import Point as Spot
from shapely import Polygon

from machining.geometry.frames import Direction
from machining.geometry.regions import grown, polygons_of
from machining.geometry.solids import prism, volume

from ..feature import Hole, Pocket, feature_id
from .body import NOTHING_MM3, Body, Upright
from .floors import CHORDS_MM, across_flats, corner_radius, loops_at

WAYS: tuple[Direction, ...] = ("+z", "+y", "+x")
SMALLEST_MM2 = 1.0
THINNEST_MM = 0.05
SKIN_MM = 0.05  # what chords of walls are off
HOLE_SHARE = 0.05


@dataclass
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


def _found(seen: Upright, holes: list[Hole]) -> list[Window]:
    open_now: list[Window] = []
    done: list[Window] = []
    for low, high in _layers(seen):
        here = [
            each for each in _openings(seen, 0.5 * (low + high)) if not _of_hole(each, seen, holes)
        ]
        for opening in here:
            known = next((w for w in open_now if _same(w.opening, opening)), None)
            if known is None:
                open_now.append(Window(opening, low, high))
            else:
                known.high = high
        done += [w for w in open_now if w.high < high]
        open_now = [w for w in open_now if w.high >= high]
    return [w for w in (*done, *open_now) if _right_through(seen, w.opening)]


def _layers(seen: Upright) -> Iterator[tuple[float, float]]:
    """Between the heights of edges; the corners of a round's mesh are many and thin."""
    levels = np.unique(np.round(seen.mesh.vertices[:, 2], 3))
    low = float(levels[0])
    for level in levels[1:]:
        if level - low > THINNEST_MM:
            yield low, float(level)
            low = float(level)


def _openings(seen: Upright, z: float) -> Iterator[Polygon]:
    for solid in polygons_of(seen.cut(z)):
        for ring in solid.interiors:
            opening = Polygon(ring).simplify(CHORDS_MM)
            if opening.area > SMALLEST_MM2:
                yield opening


def _same(one: Polygon, other: Polygon) -> bool:
    apart = one.symmetric_difference(other).area
    return bool(apart < SKIN_MM * min(one.length, other.length))


def _of_hole(opening: Polygon, seen: Upright, holes: list[Hole]) -> bool:
    """Is it a hole's, or the cone's at its mouth?"""
    for hole in holes:
        x, y, _ = seen.pose.apply(np.array(hole.point))
        widest = max((hole.diameter_mm, *(sink.diameter_mm for sink in hole.sinks)))
        disc = Spot(float(x), float(y)).buffer(0.5 * widest + SKIN_MM, 64)
        if not hole.open_deg and disc.covers(opening):
            return True
    return False


def _right_through(seen: Upright, opening: Polygon) -> bool:
    inside = grown(opening, -SKIN_MM)
    if inside.is_empty:
        return False
    column = prism(inside, seen.bottom - 1.0, seen.top + 1.0)
    return volume(seen.solid ^ column) < NOTHING_MM3


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
