"""What lies in a nest of pins that stand for one diameter."""

from __future__ import annotations

from shapely import affinity

from machining.geometry.solids import above, below, outline
from machining.plan.clamped import Clamped
from machining.quantities.errors import OutOfRange

from ..context import StationFacts
from .round_grip import is_round

SAME_MM = 0.02  # shims come in steps


def across(station: StationFacts, held: Clamped) -> float:
    """The diameter (mm) that lies in a nest. Raises OutOfRange for what is not round there, or is
    larger than what the nest was made for, or lies above its pins.
    """
    nest = held.nest_mm or 0.0
    low = float(station.lie.stock_low[2])
    pins = max((each.high_mm for each in held.dowels), default=1.0)
    if held.raised_mm >= pins:
        raise OutOfRange(
            "raised in the nest", held.raised_mm, f"less than its pins are high, {pins:g}"
        )
    high = pins - held.raised_mm
    region = outline(above(below(station.arrives.solid, low + high), low))
    west, south, east, north = region.bounds
    middle = affinity.translate(region, -(west + east) / 2.0, -(south + north) / 2.0)
    if not is_round(middle):
        raise OutOfRange("part in the nest", "not round", f"round, up to Ø{nest:g}")
    found = round(east - west, 3)
    if found > nest + SAME_MM:
        raise OutOfRange(
            "diameter in the nest", found, f"up to {nest:g}, what the nest is made for"
        )
    return found
