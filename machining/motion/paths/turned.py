"""Paths of turning tools, as points (radius, 0, z) of the tip; z away from the chuck."""

from __future__ import annotations

from collections.abc import Sequence
from math import radians, tan

import numpy as np
from shapely import LineString

from machining.geometry.contours import spans_at
from machining.geometry.frames import Vector
from machining.geometry.regions import Region
from machining.motion.path import Leg, LegKind, Path

LIFT_MM = 0.5  # off the surface before the way back
TOGETHER_MM = 1e-6
SEEN_MM = 1e-3


class Tip:
    """Draws the way of a tip; every leg begins where the last one ended."""

    def __init__(self, radius: float, z: float) -> None:
        self.at = np.array([radius, 0.0, z])
        self.legs: list[Leg] = []

    def rapid(self, *spots: tuple[float, float]) -> None:
        self._go("rapid", spots)

    def cut(self, *spots: tuple[float, float]) -> None:
        self._go("cut", spots)

    def _go(self, kind: LegKind, spots: Sequence[tuple[float, float]]) -> None:
        points: Vector = np.array([self.at, *([r, 0.0, z] for r, z in spots)])
        self.legs.append(Leg(kind, points))
        self.at = points[-1]

    def path(self, home_radius: float, home_z: float) -> Path:
        """Back along the spindle, then out: the way a bar leaves its bore."""
        self.rapid((float(self.at[0]), home_z), (home_radius, home_z))
        return Path(tuple(self.legs))


def faced(
    outer: float, inner: float, levels: Sequence[float], near: float, home: tuple[float, float]
) -> Path:
    """Across the end at each level, from outside the stock in to a radius."""
    tip = Tip(*home)
    for z in levels:
        tip.rapid((outer + near, z + near), (outer + near, z))
        tip.cut((inner, z))
        tip.rapid((max(inner, 0.0) + LIFT_MM, z + near))
    return tip.path(*home)


def along(
    region: Region,
    kept: Region,
    radii: Sequence[float],
    outside: bool,
    down_deg: float,
    near: float,
    home: tuple[float, float],
    square_to: float | None = None,
) -> Path:
    """Passes along the spindle through a region, one a radius, each lifted off the surface and
    taken back at rapid. Where something that is ``kept`` stands before a pass it goes down behind
    it at feed, as steeply as its tool may. The last one is left square at feed as far as a radius,
    if one is given: over what a leaning edge leaves at the end of each pass.
    """
    tip = Tip(*home)
    away = 1.0 if outside else -1.0
    clear = float(region.bounds[2]) + near if outside else max(float(region.bounds[0]) - near, 0.0)
    last = clear
    for radius in radii:
        off = max(radius + away * LIFT_MM, 0.0)
        for high, low in spans_at(region, radius):
            behind = _stands_before(kept, radius, high, near)
            if behind and down_deg <= 0:
                continue  # nothing that goes straight along gets there
            if behind:
                rise = abs(last - radius) + LIFT_MM
                above, start = radius + away * rise, high + rise / tan(radians(down_deg))
                tip.rapid((clear, float(tip.at[2])), (clear, start), (above, start))
                tip.cut((radius, high), (radius, low), (off, low + LIFT_MM))
                tip.rapid((clear, low + LIFT_MM))
                continue
            if abs(high + near - float(tip.at[2])) > TOGETHER_MM:
                tip.rapid(
                    (clear, float(tip.at[2])) if tip.legs else (float(tip.at[0]), high + near),
                    (clear, high + near),
                )
            tip.rapid((radius, high + near))
            if square_to is not None and radius == radii[-1]:
                out = max(square_to + away * LIFT_MM, 0.0)
                tip.cut((radius, low), (out, low))
                tip.rapid((out, high + near))
                continue
            tip.cut((radius, low), (off, low + LIFT_MM))
            tip.rapid((off, high + near))
        last = radius
    tip.rapid((clear, float(tip.at[2])), (clear, float(region.bounds[3]) + near))
    return tip.path(*home)


def _stands_before(kept: Region, radius: float, high: float, near: float) -> bool:
    """Does something that is kept stand in the way to the beginning of a pass?"""
    way = LineString([(radius, high + SEEN_MM), (radius, high + near)])
    return bool(kept.intersection(way).length > SEEN_MM)


def contoured(
    corners: Sequence[tuple[float, float]],
    rounds: int,
    outside: bool,
    stands_to: float,
    near: float,
    home: tuple[float, float],
) -> Path:
    """Along a contour of (radius, z) corners, begun before its free end and left square to it, at
    feed as far as something stands (radius, mm).
    """
    tip = Tip(*home)
    (first_r, first_z), (last_r, last_z) = corners[0], corners[-1]
    away = near if outside else -near
    for _ in range(rounds):
        tip.rapid((first_r, first_z + near))
        tip.cut(*corners)
        if away * (stands_to - last_r) > 0:
            tip.cut((stands_to, last_z))
            last_r = stands_to
        off = last_r + away
        tip.rapid((off, last_z))
        clear = (
            max([off, *(r + away for r, _ in corners)])
            if outside
            else min([off, *(r + away for r, _ in corners)])
        )
        tip.rapid((clear, last_z), (clear, first_z + near))
    return tip.path(*home)


def grooved(
    places: Sequence[tuple[float, float]], bottom: float, near: float, home: tuple[float, float]
) -> Path:
    """Plunges to a radius at each place (z and the radius of what stands there), then once along
    the bottom where there are several.
    """
    tip = Tip(*home)
    clear = max(top for _, top in places) + near
    for z, top in places:
        tip.rapid((clear, z), (top + near, z))
        tip.cut((bottom, z))
        tip.rapid((clear, z))
    if len(places) > 1:
        first, last = places[0][0], places[-1][0]
        tip.rapid((clear, first), (bottom + near, first))
        tip.cut((bottom, first), (bottom, last))
        tip.rapid((clear, last))
    return tip.path(*home)


def grooved_in_face(
    top: float, bottom: float, radii: Sequence[float], near: float, home: tuple[float, float]
) -> Path:
    """Plunges along the spindle at each radius, then once across the bottom where there are
    several.
    """
    tip = Tip(*home)
    for radius in radii:
        tip.rapid((radius, top + near))
        tip.cut((radius, bottom))
        tip.rapid((radius, top + near))
    if len(radii) > 1:
        tip.rapid((radii[0], top + near))
        tip.cut((radii[0], bottom), (radii[-1], bottom))
        tip.rapid((radii[-1], top + near))
    return tip.path(*home)


def threaded(
    crest: float,
    infeeds: Sequence[float],
    start: float,
    end: float,
    pulled: float,
    near: float,
    home: tuple[float, float],
) -> Path:
    """One run a pass, from ``start`` to ``end`` along the spindle at each infeed, drawn out over
    the last ``pulled`` of it; back clear of the crest.
    """
    tip = Tip(*home)
    clear, back = crest + near, pulled if start > end else -pulled
    tip.rapid((clear, start))
    for infeed in infeeds:
        tip.rapid((crest - infeed, start))
        if pulled > 0:
            tip.cut((crest - infeed, end + back), (crest, end))
        else:
            tip.cut((crest - infeed, end))
        tip.rapid((clear, end), (clear, start))
    return tip.path(*home)
