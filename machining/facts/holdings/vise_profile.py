"""Soft jaws of a vise that the part's outline is cut into: what is left of them, where they touch
the part as it is now, and what lies on their floor.
"""

from __future__ import annotations

from collections.abc import Iterator
from itertools import pairwise
from math import hypot

import numpy as np
from shapely import LineString, box, unary_union

from machining.geometry.frames import Vector
from machining.geometry.regions import Region, polygons_of
from machining.geometry.solids import Solid, above, below, outline, section
from machining.holding.contacts import Contact
from machining.holding.patch import PLACES
from machining.memo import Memo
from machining.plan.in_vise import Holding
from machining.quantities.errors import OutOfRange
from machining.world.workholding import Vise

from ..context import StationFacts
from ..stand import Body

NEAR_MM, PLAIN_MM = 0.05, 0.1  # of the cut jaw; what a chord may be off a round
LEAST_MM = 0.5  # of a stretch of outline that bears
AT_ENDS = (1.0 / 6.0, 5.0 / 6.0)
PRESSES = 0.87  # cosine: within 30° of the way a jaw closes, a part is pressed against it
ASIDE = 0.1  # the same: square to that a moving jaw stands firm, else it only gives its force
WALL_SHARE = 0.6  # of a jaw's thickness that may be cut away


def cut_for(station: StationFacts, holding: Holding, vise: Vise, memo: Memo) -> Region | None:
    """The outline that is cut into the jaws (from above, mm); None where they are plain. Raises
    OutOfRange for jaws that are hard, or would be cut through.
    """
    if not holding.profile_mm:
        return None
    if vise.jaws != "soft":
        raise OutOfRange("profile_mm", holding.profile_mm, f"0: the jaws of {vise.name} are hard")
    most = WALL_SHARE * vise.jaw_thickness_mm
    if holding.profile_mm > most:
        raise OutOfRange(
            "profile_mm",
            holding.profile_mm,
            f"up to {most:g}, so that a wall of the jaws stays, {vise.jaw_thickness_mm:g} thick",
        )
    key = ("jaws cut for", station.arrives.key, holding.grip_depth_mm)
    bottom = float(station.lie.stock_low[2])
    return memo.get(
        key, lambda: outline(below(station.arrives.solid, bottom + holding.grip_depth_mm))
    )


def cut(jaws: tuple[Body, ...], out: Region) -> Iterator[Body]:
    """The same jaws without what is cut for the part; what stays below it is their floor."""
    for jaw in jaws:
        yield Body(
            jaw.role, jaw.name, jaw.region.difference(out), jaw.bottom, jaw.top, jaw.moves, jaw.of
        )


def floors(jaws: tuple[Body, ...], out: Region, bottom: float) -> tuple[Body, ...]:
    """What of each jaw stands under the part."""
    return tuple(
        Body("step", "", jaw.region.intersection(out), jaw.bottom, bottom, jaw.moves, jaw.name)
        for jaw in jaws
    )


def floor(jaws: tuple[Body, ...], out: Region) -> Region:
    """What of the jaws lies under the part."""
    return unary_union([whole(jaw) for jaw in jaws]).intersection(out)


def whole(jaw: Body) -> Region:
    return box(*jaw.region.bounds)


def contacts(
    jaw: Body, closes: Vector, out: Region, solid: Solid, bottom: float, friction: float
) -> Iterator[Contact]:
    """Where the outline that was cut for it is touched by what is left of the part, at two heights.
    What the jaw closes against shares its force; what stands beside that only bears.
    """
    high = jaw.top
    here = above(below(solid, high), bottom)
    if here.is_empty():
        return
    for share in AT_ENDS:
        z = bottom + share * (high - bottom)
        rim = section(here, z).boundary.buffer(NEAR_MM)
        for (ax, ay), (bx, by), normal in _stretches(out, jaw):
            line = LineString([(ax, ay), (bx, by)])
            met = line.intersection(rim)
            for piece in getattr(met, "geoms", [met]):
                if piece.length < LEAST_MM or piece.geom_type != "LineString":
                    continue
                yield from _ends(piece, z, normal, jaw, closes, friction)


def _ends(
    piece: LineString, z: float, normal: Vector, jaw: Body, closes: Vector, friction: float
) -> Iterator[Contact]:
    along = float(normal @ closes)
    group = jaw.name if jaw.moves and along >= ASIDE else None
    if group is None and along < PRESSES:
        friction = 0.0  # with the room it goes in by, it only stops there
    for share in AT_ENDS:
        spot = piece.interpolate(share, normalized=True)
        at = (round(spot.x, PLACES), round(spot.y, PLACES), round(z, PLACES))
        yield Contact(at, (*normal.round(9).tolist(), 0.0), friction, jaw.name, group)


def _stretches(
    out: Region, jaw: Body
) -> Iterator[tuple[tuple[float, float], tuple[float, float], Vector]]:
    """Straight stretches of the outline in a jaw, with the direction into the part."""
    inside = whole(jaw).buffer(NEAR_MM)
    for piece in polygons_of(out.simplify(PLAIN_MM)):
        ring = piece.exterior
        corners = list(ring.coords)
        turn = 1.0 if ring.is_ccw else -1.0
        for a, b in pairwise(corners):
            met = LineString([a, b]).intersection(inside)
            if met.length < LEAST_MM or met.geom_type != "LineString":
                continue
            (ax, ay), (bx, by) = met.coords[0], met.coords[-1]
            long = hypot(bx - ax, by - ay)
            yield (ax, ay), (bx, by), turn * np.array([-(by - ay) / long, (bx - ax) / long])
