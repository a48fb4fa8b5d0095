"""What is built before the first part: papers, what holds the part, zeros, and tools; what a setup
finds standing on its machine from the one before is not built again.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass

from . import holdings
from .context import PlanFacts, SetupFacts, StationFacts
from .standing import stands as stands_there


@dataclass(frozen=True, slots=True)
class Built:
    """Of one setup: seconds for papers, holdings, zeros and tools, how many of each, and how many
    holdings and tools stand there already.
    """

    papers_s: float = 0.0
    holding_s: float = 0.0
    zeros: int = 0
    zeros_s: float = 0.0
    tools: int = 0
    tools_s: float = 0.0
    standing: int = 0
    there: int = 0

    @property
    def seconds(self) -> float:
        return self.papers_s + self.holding_s + self.zeros_s + self.tools_s


def built(facts: PlanFacts) -> dict[str, Built]:
    """By setup; nothing where no work is planned yet."""
    stands = dict[str, Counter[str]]()
    tools = dict[str, set[str]]()
    return {
        each.id: _of(each, facts, stands, tools) if each.operations else Built()
        for each in facts.setups
    }


def _of(
    setup: SetupFacts,
    facts: PlanFacts,
    stands: dict[str, Counter[str]],
    tools: dict[str, set[str]],
) -> Built:
    settings, machine = facts.library.settings, setup.planned.machine
    mine = {op.loaded.id for op in setup.operations if op.loaded}
    known = tools.setdefault(machine, set())
    stand = {each.id for each in facts.plan.tools if stands_there(each, setup.machine)}
    fresh = mine - known - stand
    known |= mine
    seconds, standing, on = 0.0, 0, Counter[str]()
    before = stands.get(machine, Counter[str]())
    for station in setup.stations:
        key, many = _item(station), station.planned.positions
        there = max(min(before[key] - on[key], many), 0)
        on[key] += many
        standing += there
        seconds += sum(_efforts(station, facts, there))
    stands[machine] = on
    zeros = sum(_zeros(each) for each in setup.stations)
    return Built(
        settings.setup_s,
        seconds,
        zeros,
        zeros * settings.zero_s,
        len(fresh),
        len(fresh) * settings.tool_s,
        standing,
        len(mine) - len(fresh),
    )


def _item(station: StationFacts) -> str:
    """What is set up at it, so that the next setup may find it there."""
    held = station.planned.holding
    return "+".join((*held.items, station.planned.place)) if held is not None else ""


def _efforts(station: StationFacts, facts: PlanFacts, there: int) -> Iterator[float]:
    """Seconds; the first of a kind is indicated, those beside it are set to it."""
    held, item, settings = station.planned.holding, station.item, facts.library.settings
    if held is None or item is None:
        return
    many = station.planned.positions
    for effort in holdings.kind_of(held).set_up(held, item):
        each = float(getattr(settings, effort.setting))
        if effort.cut_for_it:
            yield many * effort.times * each
            continue
        fresh = (many - there) * effort.times
        first = min(fresh, 0.0 if there else 1.0)
        yield first * each + (fresh - first) * min(settings.set_more_s, each)


def _zeros(station: StationFacts) -> int:
    """How many zeros are found before the first part: one, or one for each offset; none where they
    are found on every part.
    """
    if station.planned.zero.each_part:
        return 0
    return station.planned.positions if station.planned.offset_each else 1
