"""A zero that the machine's probe finds on every part: a part of its cycle, and nobody's work."""

from __future__ import annotations

from machining.motion.cycle import times_each
from machining.plan.zero import AXES, From
from machining.quantities.computed import Computed, Given
from machining.world.capability import carrier_of

from .context import SetupFacts, StationFacts

BETWEEN = frozenset({"stock", "part", "hole"})  # whose middle is between two places


def touches(station: StationFacts) -> int:
    """How often it touches one part: two places for a middle, else one for each axis it finds."""
    zero = station.planned.zero
    found = [each for axis in AXES if (each := zero.axis(axis)).by == "probe"]
    return sum(2 if _between(each) else 1 for each in found) if zero.each_part else 0


def _between(each: From) -> bool:
    return each.of == "hole" or (each.of in BETWEEN and each.at == "middle")


def probing(station: StationFacts) -> Computed | None:
    """The figure probing of one part; None where nothing is probed in its cycle, or the machine has
    no probe.
    """
    each_s, count = _touch_s(station), touches(station)
    if not each_s or not count:
        return None
    machine = station.machine
    origin = Given(each_s, f"machine:{machine.name if machine else ''}")
    of = Given(float(count), "places touched on every part")
    return station.work_out(times_each, "probing", count=of, each=origin)


def found_by_hand(setup: SetupFacts) -> int:
    """Of how many stations somebody finds the zero on every part."""
    return sum(
        each.planned.zero.each_part and not (_touch_s(each) and _all_probed(each))
        for each in setup.stations
    )


def _all_probed(station: StationFacts) -> bool:
    zero = station.planned.zero
    return all(zero.axis(axis).by in ("probe", "known") for axis in AXES) and touches(station) > 0


def _touch_s(station: StationFacts) -> float:
    machine = station.machine
    carrier = carrier_of(machine) if machine is not None else None
    return carrier.probe_touch_s if carrier is not None else 0.0
