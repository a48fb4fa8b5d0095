"""How a tool gets down into full material."""

from __future__ import annotations

from dataclasses import dataclass
from math import pi, radians, tan
from typing import Literal

import numpy as np
from shapely import Polygon
from shapely.ops import polylabel

from machining.geometry.frames import Vector
from machining.motion.path import Pen
from machining.quantities.errors import OutOfRange

from .rounds import helix

HELIX_SHARE, LEAST_HELIX_MM = 0.9, 0.5  # of the tool's radius, so that no post is left


@dataclass(frozen=True, slots=True)
class Entry:
    """How a tool gets down into full material; ``at`` is where an open hole stands, None in the
    middle of what it can reach.
    """

    by: Literal["ramp", "helix", "plunge", "hole"] = "ramp"
    ramp_deg: float = 3.0
    at: tuple[float, float] | None = None


def down_ring(
    pen: Pen,
    ring: Vector,
    top: float,
    floor: float,
    ramp_deg: float,
    near: float,
    over: float | None = None,
) -> None:
    """Round a ring down to the floor; at feed from just over the metal's top on (mm)."""
    pen.go_to(float(ring[0][0]), float(ring[0][1]), top + near, over)
    pen.ramp(along(ring, max(top - floor, 0.0) / tan(radians(ramp_deg)), top, floor))


def down_at(
    pen: Pen,
    polygon: Polygon,
    radius: float,
    top: float,
    floor: float,
    entry: Entry,
    near: float,
    over: float | None = None,
) -> None:
    """Straight down, or round a helix, in the middle of what the tool's middle can reach."""
    x, y, room = middle_of(polygon)
    if entry.by == "hole":
        x, y = entry.at or (x, y)
        pen.go_to(x, y, floor + near, over)
        pen.plunge(floor)
        return
    if entry.by == "plunge":
        pen.go_to(x, y, top + near, over)
        pen.plunge(floor)
        return
    round_ = helix_round(room, radius)
    pitch = 2.0 * pi * round_ * tan(radians(entry.ramp_deg))
    pen.go_to(x + round_, y, top + near, over)
    pen.ramp(helix(x, y, lambda height: np.full_like(height, round_), top + near, floor, pitch))


def helix_round(room: float, radius: float) -> float:
    """How far from its axis (mm) a tool's middle goes down a helix. Raises OutOfRange where it has
    no room to.
    """
    round_ = min(HELIX_SHARE * radius, room)
    if round_ < LEAST_HELIX_MM:
        raise OutOfRange(
            "helix",
            f"{room:.2f} mm of room round the tool",
            f"{LEAST_HELIX_MM} mm or more; ramp along the pocket instead",
        )
    return round_


def middle_of(polygon: Polygon) -> tuple[float, float, float]:
    """The place farthest from a region's edge, and how far that is, mm."""
    spot = polylabel(polygon, 0.1) if polygon.area > 1e-6 else polygon.representative_point()
    return float(spot.x), float(spot.y), float(polygon.exterior.distance(spot))


def along(ring: Vector, length: float, z_from: float, z_to: float) -> Vector:
    """The corners passed when going round the ring for a length while falling evenly, and where
    that ends.
    """
    steps = np.linalg.norm(np.diff(ring, axis=0), axis=1)
    around = float(steps.sum())
    if around < 1e-6 or length <= 0:
        return np.array([[*ring[0], z_to]])
    corners = np.concatenate([[0.0], np.cumsum(steps)])
    turns = int(length // around)
    at = np.concatenate([k * around + corners[:-1] for k in range(turns + 1)])
    at = np.append(at[at < length - 1e-9], length)
    inside = np.mod(at, around)
    spots = np.column_stack(
        [np.interp(inside, corners, ring[:, 0]), np.interp(inside, corners, ring[:, 1])]
    )
    return np.column_stack([spots, z_from + (z_to - z_from) * at / length])
