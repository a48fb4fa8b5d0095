"""What it takes to put one part in and take it out, of its elements; or as somebody timed it."""

from __future__ import annotations

from machining.motion.by_hand import bar_share, put_in_time
from machining.motion.cycle import times_each
from machining.quantities.computed import Computed, Given
from machining.world.machine import Table

from . import holdings
from .bars import fed
from .context import PlanFacts, SetupFacts, StationFacts
from .holdings.efforts import Effort
from .stations import is_handed_over


def of_setup(setup: SetupFacts, facts: PlanFacts) -> float:
    """Of one part at all its stations (s)."""
    return sum(of_station(each, facts) for each in setup.stations)


def of_station(station: StationFacts, facts: PlanFacts) -> float:
    """Figure put_in (s), and closing where something closes; 0 where the machine hands the part
    over.
    """
    if is_handed_over(station.planned, station.setup):
        return 0.0
    known = station.figures.get("put_in")
    return (known or _worked_out(station, facts)).value


def _worked_out(station: StationFacts, facts: PlanFacts) -> Computed:
    settings = facts.library.settings
    once = Given(1.0, "a part at this station")
    if station.planned.load_s is not None:
        each = Given(station.planned.load_s, "by the watch, here")
        return station.work_out(times_each, "put_in", count=once, each=each)
    bar = fed(station, facts)
    if bar is not None:
        parts = Given(float(bar), "parts of a bar")
        return station.work_out(bar_share, "put_in", bar=facts.shop("bar_s"), parts=parts)
    if settings.load_unload_s is not None:
        each = facts.shop("load_unload_s")
        return station.work_out(times_each, "put_in", count=once, each=each)
    mass = station.put_in_kg(facts)
    heavy = mass is not None and mass > settings.lift_kg
    return station.work_out(
        put_in_time,
        "put_in",
        door=facts.shop("door_s"),
        parts=Given(float(_by_hand(station, facts)), "places filled with the door open"),
        handle=facts.shop("hoist_s" if heavy else "handle_s"),
        seat=facts.shop("seat_s"),
        close=_closing(station, facts) or Given(0.0, "nothing is chosen that holds it"),
    )


def _closing(station: StationFacts, facts: PlanFacts) -> Computed | None:
    """As timed for what holds it, or the shop's for its kind."""
    effort = closed(station)
    if effort is None:
        return None
    own = getattr(station.item, "close_s", None)
    if own is not None:
        once = Given(1.0, "a part")
        each = Given(own, f"holding:{getattr(station.item, 'name', '')}")
        return station.work_out(times_each, "closing", count=once, each=each)
    count = Given(effort.times, effort.of)
    return station.work_out(times_each, "closing", count=count, each=facts.shop(effort.setting))


def closed(station: StationFacts) -> Effort | None:
    """What hands do to close what holds the part, None where nothing is chosen."""
    held, item = station.planned.holding, station.item
    if held is None or item is None:
        return None
    return holdings.kind_of(held).closed(station, held, item)


def _by_hand(station: StationFacts, facts: PlanFacts) -> int:
    """How many places hands fill while the door is open: all of a load on a table, one before a
    spindle.
    """
    setup = station.setup
    if not isinstance(station.place, Table):
        return 1
    return sum(
        each.planned.positions
        for each in setup.stations
        if isinstance(each.place, Table)
        and not is_handed_over(each.planned, setup)
        and fed(each, facts) is None
    )
