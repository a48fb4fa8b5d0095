"""How wide the holes are that an operation finds in its stock."""

from __future__ import annotations

from math import cos, pi

from shapely import Point, box

from machining.geometry.contours import FAR_MM
from machining.geometry.solids import AS_ROUND, ROUND_STEPS, section

from .context import Ready

DEPTHS = 0.3, 0.7  # of what is worked on, where it is looked at
LEAST_MM = 0.05


def found_diameters(op: Ready) -> tuple[float, ...]:
    """The width (mm) of each of its holes in the stock before it, where that is narrowest; 0 where
    there is none yet.
    """
    return op.before.memo.get(
        ("bored", op.before.key, op.work.holes, op.turns), lambda: tuple(_each(op))
    )


def narrowest(op: Ready) -> float | None:
    """The narrowest of them, None where one is still full."""
    found = found_diameters(op)
    least = min(found, default=0.0)
    return least if least > LEAST_MM else None


def _each(op: Ready) -> list[float]:
    if op.turns:
        return [_about_axis(op, *hole[2:]) for hole in op.work.holes]
    heights = {
        hole: [hole[2] - share * (hole[2] - hole[3]) for share in DEPTHS] for hole in op.work.holes
    }
    cuts = {z: section(op.before.solid, z) for z in {z for each in heights.values() for z in each}}
    # a round hole has facets: its sides lie a little inside
    facets = AS_ROUND * cos(pi / ROUND_STEPS)
    return [
        min(2.0 * float(cuts[z].distance(Point(hole[0], hole[1]))) for z in heights[hole]) / facets
        for hole in op.work.holes
    ]


def _about_axis(op: Ready, mouth: float, bottom: float) -> float:
    band = op.before.half_section().intersection(
        box(0.0, mouth - DEPTHS[1] * (mouth - bottom), FAR_MM, mouth - DEPTHS[0] * (mouth - bottom))
    )
    return 0.0 if band.is_empty else 2.0 * float(band.bounds[0])
