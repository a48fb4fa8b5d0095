"""What a holding of many sides saves against a setup for each."""

from __future__ import annotations

from machining.motion import cycle
from machining.quantities.computed import Given

from . import index
from .context import PlanFacts, StationFacts


def saved(station: StationFacts, facts: PlanFacts) -> None:
    """The figures sides_hand (by hand, of one part) and sides_build, where it turns other sides to
    the tool.
    """
    more = len(index.sides(station))
    if not more:
        return
    count = Given(float(more), "sides more in this holding, a setup for each")
    station.work_out(cycle.times_each, "sides_hand", count=count, each=facts.shop("load_unload_s"))
    station.work_out(cycle.times_each, "sides_build", count=count, each=facts.shop("setup_s"))
