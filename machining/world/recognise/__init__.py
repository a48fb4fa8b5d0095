"""Finds holes, pockets, windows, broken edges, flat and slanted faces in a solid read by the
kernel.
"""

from __future__ import annotations

import numpy as np
from shapely import Polygon

from machining.geometry.kernel import Examined

from ..extent import holds
from ..feature import Feature, Pocket
from .body import Body
from .bosses import bosses_of
from .edges import edges_of
from .floors import floors_of
from .holes import holes_of
from .slants import slants_of
from .windows import windows_of


def recognise(examined: Examined) -> tuple[Feature, ...]:
    """Features in a stable order: flats, pockets, holes, each from big to small; then what leans,
    what is broken off edges, and bosses.
    """
    body = Body(examined)
    holes = holes_of(body)
    flats, pockets = floors_of(body, holes)
    pockets = _ways_into([*pockets, *windows_of(body, holes)])
    edges = edges_of(body, holes, pockets)
    bosses = bosses_of(body)
    return (
        *sorted(flats, key=lambda f: (-f.area_mm2, f.id)),
        *sorted(pockets, key=lambda p: (-p.depth_mm, p.id)),
        *sorted(holes, key=lambda h: (-h.diameter_mm, h.point)),
        *sorted(slants_of(body, edges, pockets), key=lambda s: (-s.area_mm2, s.id)),
        *sorted(edges, key=lambda e: (-e.length_mm, e.id)),
        *sorted(bosses, key=lambda b: (-b.diameter_mm, b.point)),
    )


def _ways_into(pockets: list[Pocket]) -> list[Pocket]:
    """A step is open from its side too: of two pockets that are the same space, the narrower one
    names the wider one.
    """
    wide = sorted(pockets, key=lambda each: -plan_area(each))
    told = {each.id: _wider(each, wide) for each in pockets}
    return [each.model_copy(update={"way_into": told[each.id]}) for each in pockets]


def _wider(pocket: Pocket, wide: list[Pocket]) -> str:
    if pocket.closed:
        return ""
    floor = np.array(pocket.loops[0])
    for other in wide:
        if plan_area(other) <= plan_area(pocket) * (1.0 + 1e-6):
            break
        if other.opens != pocket.opens and bool(holds(other, floor).all()):
            return other.id
    return ""


def plan_area(pocket: Pocket) -> float:
    """Of its outline, islands and all (mm²)."""
    across = [k for k in range(3) if k != "xyz".index(pocket.opens[1])]
    return float(Polygon(np.array(pocket.loops[0])[:, across]).area)
