"""What operations take away, as solids."""

from __future__ import annotations

from collections.abc import Sequence

from machining.geometry.regions import Region, grown
from machining.geometry.solids import AS_ROUND, ROUND_STEPS, Solid, bar, joined, prism, swept

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


def round_holes(work: Work, turns: bool) -> Solid:
    """All holes of a work, with the cone of the drill's point. Their facets take as much as the
    round does; before a spindle that turns the part, whose sections are looked at by their corners,
    these lie on it.
    """
    radius = work.hole_diameter / 2.0 * (1.0 if turns else AS_ROUND)
    return joined([_hole(hole, radius, work) for hole in work.holes])


def _hole(hole: tuple[float, float, float, float], radius: float, work: Work) -> Solid:
    x, y, mouth, bottom = hole
    tip = min(work.point_height, mouth - bottom)
    return bar(x, y, radius, bottom + tip, mouth + 0.01, tip)


def stood_at(
    profile: Sequence[tuple[float, float]], spots: Sequence[tuple[float, float, float]]
) -> Solid:
    """What a tool of a convex profile, (height, radius), takes at each of some spots; its facets as
    much as the round does.
    """
    round_of = [(height, radius * AS_ROUND) for height, radius in profile]
    return joined([swept(round_of, [spot], ROUND_STEPS) for spot in spots])
