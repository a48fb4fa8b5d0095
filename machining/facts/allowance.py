"""Z from a blank's top: what must stand over the part so that the smallest blank cleans up."""

from __future__ import annotations

from machining.placing.allowance import least_allowance
from machining.quantities.computed import Computed, Given
from machining.world.stock.base import SIDE_WORDS

from .context import PlanFacts, StationFacts
from .zero import within_mm

RAW = frozenset({"sawn", "rolled"})
NOTHING_MM = 1e-3  # stands over a side that is the part's own


def of_station(station: StationFacts, facts: PlanFacts) -> Computed | None:
    """The figure least_allowance, where Z is taken from a raw top of the blank; else None."""
    zero, side = station.planned.zero, station.blank_sides.get("+z")
    if zero.z.of != "stock" or zero.z.at != "high" or side is None:
        return None
    if facts.plan.stock.skin(side) not in RAW or over(station) < NOTHING_MM:
        return None
    settings = facts.library.settings
    differ, why = 0.0, "picked up on every part"
    if not zero.each_part:
        raw = [each for way in ("+z", "-z") if (each := station.blank_sides.get(way))]
        differ = sum(facts.plan.stock.tolerance_at(each) for each in raw)
        why = "blanks differ on " + " and ".join(SIDE_WORDS[each] for each in raw)
    return station.work_out(
        least_allowance,
        "least_allowance",
        clean_up=facts.shop("clean_up_mm"),
        within=Given(within_mm(2, zero.z, settings), "how it is picked up"),
        differ=Given(differ, why),
    )


def over(station: StationFacts) -> float:
    """How much of the stock stands over the part (mm) as it is put in."""
    return float(station.lie.stock_high[2] - station.lie.part_high[2])
