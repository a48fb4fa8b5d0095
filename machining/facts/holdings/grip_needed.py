"""How much of the stock must lie in a grip, whatever grips it."""

from __future__ import annotations

from machining.holding import grip
from machining.quantities.computed import Given

from ..context import PlanFacts, StationFacts


def grip_needed(station: StationFacts, facts: PlanFacts) -> None:
    """The figure grip_needed; how far the stock stands out decides it."""
    above = float(station.lie.stock_high[2]) - (station.stand.top or 0.0)
    station.work_out(
        grip.least_grip,
        "grip_needed",
        height_above_jaws=Given(max(above, 0.0), "stock and grip"),
        share=facts.shop("grip_share"),
        least=facts.shop("grip_least_mm"),
    )
