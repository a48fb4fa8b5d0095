"""Finds holes, pockets, windows, broken edges, flat and slanted faces in a solid read by the
kernel.
"""

from __future__ import annotations

from machining.geometry.kernel import Examined

from ..feature import Feature
from .body import Body
from .edges import edges_of
from .floors import floors_of
from .holes import holes_of
from .slants import slants_of
from .windows import windows_of


def recognise(examined: Examined) -> tuple[Feature, ...]:
    """Features in a stable order: flats, pockets, holes, each from big to small; then what leans
    and what is broken off edges.
    """
    body = Body(examined)
    holes = holes_of(body)
    flats, pockets = floors_of(body, holes)
    pockets += windows_of(body, holes)
    edges = edges_of(body, holes, pockets)
    return (
        *sorted(flats, key=lambda f: (-f.area_mm2, f.id)),
        *sorted(pockets, key=lambda p: (-p.depth_mm, p.id)),
        *sorted(holes, key=lambda h: (-h.diameter_mm, h.point)),
        *sorted(slants_of(body, edges, pockets), key=lambda s: (-s.area_mm2, s.id)),
        *sorted(edges, key=lambda e: (-e.length_mm, e.id)),
    )
