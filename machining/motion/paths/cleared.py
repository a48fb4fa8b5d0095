"""A region cleared level by level, each from what is open there."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from shapely import Point, Polygon

from machining.geometry.frames import Vector
from machining.geometry.regions import Region, polygons_of
from machining.motion.path import Path, Pen

from .areas import bearable, counted
from .clearing import CHORD_MM, Front, fronts, off
from .entries import LEAST_HELIX_MM, Entry, down_at, down_ring, helix_round, middle_of
from .picks import Clearing
from .rounds import turn

MOST_CUTS = 20_000  # at all levels together
MOST_STEPS = 400  # from what is open to the last wall
LEAST_ROOM_MM = 0.1  # round the middle of a tool that comes down where it is open
RAMP_REACH = 1.5  # of the radius: how far from the middle a ramp goes
LINE_MM = 0.01  # a way as wide as the tool is a line, drawn as wide as this


@dataclass(frozen=True, slots=True)
class Level:
    """``metal`` is what of a region is to go between a level's ``top`` and its floor ``z``;
    ``beside`` where a tool stands free of all stock round its open sides. No pass goes there, but
    fronts come in from there as from a wide open room.
    """

    z: float
    top: float
    metal: Region
    beside: Region = Polygon()


def cleared(
    reach: Region,
    levels: Sequence[Level],
    radius: float,
    width: float,
    entry: Entry,
    near: float,
    retract: float,
    over: float,
    stock: Region,
) -> Path:
    """From what is open at each level outwards, no wider than asked if it can be helped; where
    nothing is open the tool gets down by the entry. Between passes it is lifted ``over`` what
    stands, where its way is not free; beside the outline of the stock it comes down at rapid.
    Raises OutOfRange where a helix finds no room, and for more cuts than anybody would wait for.
    """
    pen, known = Pen(retract, near), dict[bytes, Planned]()
    for level in levels:
        for area in polygons_of(reach):
            metal = level.metal.intersection(off(area, radius + CHORD_MM))
            if metal.area < CHORD_MM * metal.length:
                continue
            key = metal.wkb + level.beside.wkb
            if key not in known:
                known[key] = _planned(area, metal, level.beside, radius, width, entry, stock)
                bearable(len(known[key].clearing.fronts), [each.z for each in levels], MOST_CUTS)
            _cut(pen, known[key], level, entry, radius, near, over)
    return pen.path()


@dataclass(frozen=True, slots=True)
class Planned:
    """A clearing, and how the tool gets down to begin it; None where it finds open room."""

    clearing: Clearing
    entered: Down | None


@dataclass(frozen=True, slots=True)
class Down:
    """``ring`` is gone round on the way down and once at the floor; a tool that goes straight down
    does so at its first place.
    """

    ring: Vector
    area: Polygon


def _planned(
    area: Polygon,
    metal: Region,
    beside: Region,
    radius: float,
    width: float,
    entry: Entry,
    stock: Region,
) -> Planned:
    free, down = area.difference(off(metal, radius - CHORD_MM)), None
    if off(free, -LEAST_ROOM_MM).is_empty:
        down = _entered(area, radius, entry)
        free = Polygon(down.ring) if len(down.ring) > 2 else Point(down.ring[0]).buffer(LINE_MM)
        metal = metal.difference(off(free, radius))
    thick = 2.0 * metal.area / max(metal.length, CHORD_MM)  # on average, from edge to edge
    counted("step_over_mm", width, thick / width, MOST_STEPS)
    reach, now = (area, free) if beside.is_empty else (area.union(beside), free.union(beside))
    found, before = list[Front](), [free]
    for each, after in fronts(reach, now, metal, radius, width):
        found += each
        before.append(after if reach is area else after.intersection(area))
    return Planned(Clearing(found, before, metal, radius, off(stock, radius)), down)


def _entered(area: Polygon, radius: float, entry: Entry) -> Down:
    """Where the tool goes down into full metal."""
    x, y, room = middle_of(area)
    if entry.by == "helix" or (entry.by == "ramp" and room >= LEAST_HELIX_MM):
        return Down(turn(x, y, helix_round(room, radius), 0.0)[:, :2], area)
    if entry.by == "ramp":
        near = Point(x, y).buffer(RAMP_REACH * radius)  # farther off it would only be a slot
        inner = off(area, -room / 2.0).intersection(near)
        inner = max(polygons_of(inner), key=lambda each: float(each.area))
        return Down(np.asarray(inner.simplify(CHORD_MM).exterior.coords)[:, :2], area)
    return Down(np.array([entry.at if entry.by == "hole" and entry.at else (x, y)]), area)


def _cut(
    pen: Pen, planned: Planned, level: Level, entry: Entry, radius: float, near: float, over: float
) -> None:
    down = planned.entered
    if down is not None:
        if entry.by == "ramp":
            down_ring(pen, down.ring, level.top, level.z, entry.ramp_deg, near, over)
        else:
            down_at(pen, down.area, radius, level.top, level.z, entry, near, over)
        if len(down.ring) > 2:
            pen.ramp(np.column_stack([down.ring, np.full(len(down.ring), level.z)]))
    planned.clearing.cut(pen, level.z, over, near)
