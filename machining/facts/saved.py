"""What a holding of many sides saves against a setup for each."""

from __future__ import annotations

from machining.motion import cycle
from machining.quantities.computed import Given

from . import index, put_in
from .context import PlanFacts, StationFacts


def saved(station: StationFacts, facts: PlanFacts) -> None:
    """The figures sides_hand (by hand, of one part) and sides_build, where it turns other sides to
    the tool.
    """
    more = len(index.sides(station))
    if not more:
        return
    count = Given(float(more), "sides more in this holding, a setup for each")
    put_in.of_station(station, facts)
    each = station.figures.get("put_in", Given(0.0, "the machine hands it over"))
    station.work_out(cycle.times_each, "sides_hand", count=count, each=each)
    station.work_out(cycle.times_each, "sides_build", count=count, each=facts.shop("setup_s"))
