"""Whether the jaws of a chuck open and close far enough for another end of a part."""

from __future__ import annotations

from machining.geometry.solids import below, half_section, outline

from ..context import StationFacts
from ..state import State
from .chuck import held_in
from .vise import held_in as in_vise

OTHER_MM2 = 1.0  # of a part that would have to lie in the jaws


def _goes_into_profile(station: StationFacts, state: State) -> bool:
    """Does it lie clear of what is left of jaws that are cut to an outline?"""
    vise = in_vise(station)
    if vise is None or not vise[0].profile_mm:
        return True
    low = float(station.lie.stock_low[2])
    there = outline(below(state.solid, low + vise[0].grip_depth_mm))
    jaws = station.stand.of("jaw")
    return all(float(each.region.intersection(there).area) <= OTHER_MM2 for each in jaws)


def refuses(station: StationFacts, state: State) -> str:
    """Why a part as it lies in its station does not go into the jaws, empty where it does or where
    a key moves them. Where nobody says where in their travel they close it can be anywhere.
    """
    if not _goes_into_profile(station, state):
        return "it does not go into the outline that is cut into the jaws"
    held = held_in(station)
    travel = held[1].jaw_travel_mm if held is not None else None
    if held is None or travel is None or not station.turns:
        return ""
    holding, _ = held
    close, opens = station.figures.get("jaws_close"), station.figures.get("jaws_open")
    low = float(station.lie.stock_low[2])
    west, _, east, _ = half_section(below(state.solid, low + holding.grip_mm)).bounds
    inside = holding.grips == "inside"
    more = float(west if inside else east) - station.stand.grips_at / 2.0
    closes = close.value if close is not None else travel
    opened = opens.value if opens is not None else travel
    if inside:
        more = -more
    if more > opened:
        return f"too {'narrow' if inside else 'thick'} for the opened jaws"
    if -more > closes:
        return f"too {'wide' if inside else 'thin'}: the jaws don't close on it"
    return ""
