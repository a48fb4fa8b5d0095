"""Thin skins that a cut leaves at the bottom of the stock: what hangs by them is snapped off at the
bench.
"""

from __future__ import annotations

from dataclasses import dataclass

from machining.geometry.regions import grown, polygons_of
from machining.geometry.solids import posed, prism, section
from machining.memo import digest
from machining.world.geometry import PartGeometry

from .context import Ready, StationFacts
from .loose import apart, of_the_part
from .state import State

SNAP_MM = 0.6  # no thicker, and a hand or pliers take it off
FILM_MM, FLAP_MM2 = 0.02, 4.0  # thinner or smaller is what facets and chords are off
PART_MM, SLIT_MM = 0.05, 0.01


@dataclass(frozen=True, slots=True, eq=False)
class Flap:
    """A skin ``thin`` (mm) that the operation ``by`` leaves, where it is widest in the setup's
    frame, and how many ``pieces`` hang by it beside the part's. ``parted`` is the stock without it.
    """

    by: str
    thin: float
    at: tuple[float, float]
    pieces: int
    parted: State


def flap_of(station: StationFacts, geometry: PartGeometry) -> Flap | None:
    """The skin at the bottom of what leaves a station, None without any."""
    low = float(station.lie.stock_low[2])
    left = [
        (op.work.floor - low, op)
        for op in station.operations
        if isinstance(op, Ready) and op.aimed is None and not op.turns
    ]
    thin = [(over, op) for over, op in left if FILM_MM < over <= SNAP_MM]
    if not thin:
        return None
    over, by = max(thin, key=lambda each: each[0])
    key = digest("flap", station.leaves.key, station.lie.key, geometry.key, over)
    return station.leaves.memo.get((key, by.id), lambda: _flap(station, geometry, by.id, over, key))


def _flap(
    station: StationFacts, geometry: PartGeometry, by: str, over: float, key: str
) -> Flap | None:
    stock, low = station.leaves.seen_in(station.lie), float(station.lie.stock_low[2])
    part = posed(geometry.solid, station.lie.pose)
    there, thick = section(stock.solid, low + FILM_MM), section(stock.solid, low + over + FILM_MM)
    skin = there.difference(thick).difference(grown(section(part, low + FILM_MM), PART_MM))
    wide = [
        each
        for each in polygons_of(skin)
        if each.area > FLAP_MM2 and _is_wide(each.area, each.length)
    ]
    if not wide:
        return None
    largest = max(wide, key=lambda each: each.area)
    spot = largest.representative_point()
    gone = prism(grown(skin, SLIT_MM), low - SNAP_MM, low + over + FILM_MM)
    parted = State(lambda: stock.solid - gone, key, stock.memo, station.lie)
    pieces = len(apart(parted)) - len(apart(stock))
    return Flap(by, over, (float(spot.x), float(spot.y)), max(pieces, 0), parted)


def _is_wide(area: float, around: float) -> bool:
    return 2.0 * area / around > SNAP_MM


def without_flaps(station: StationFacts, geometry: PartGeometry) -> State:
    """The stock as it leaves a station, skins and what hangs by them snapped off."""
    found = flap_of(station, geometry)
    return station.leaves if found is None else of_the_part(found.parted, geometry)
