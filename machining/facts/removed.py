"""What operations take away, as solids."""

from __future__ import annotations

from machining.geometry.regions import Region, grown
from machining.geometry.solids import Solid, bar, joined, prism

from .place import Work

BEYOND_MM = 2.0


def down_to_floor(work: Work, region: Region) -> Solid | None:
    """All of a region down to the work's floor; None where there is nothing over it."""
    if work.floor >= work.top:
        return None
    return prism(region, work.floor, work.top + BEYOND_MM)


def all_round(work: Work, stock_outline: Region) -> Solid | None:
    """The stock round what is kept, down to the work's floor."""
    return down_to_floor(work, grown(stock_outline, BEYOND_MM).difference(work.kept))


def round_holes(work: Work) -> Solid:
    """All holes of a work, with the cone of the drill's point."""
    return joined([_hole(hole, work) for hole in work.holes])


def _hole(hole: tuple[float, float, float, float], work: Work) -> Solid:
    x, y, mouth, bottom = hole
    radius = work.hole_diameter / 2.0
    tip = min(work.point_height, mouth - bottom)
    return bar(x, y, radius, bottom + tip, mouth + 0.01, tip)
