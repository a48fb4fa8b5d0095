"""More parts at a time: what they share, against what more of them ask for."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import replace

from machining.facts import put_in
from machining.facts.context import PlanFacts, SetupFacts
from machining.facts.set_up import built
from machining.facts.times import parts
from machining.plan.at import Row
from machining.plan.document import Plan, Station

MORE = (2, 4)  # times as many parts at a time
ANY_PITCH_MM = 1.0  # where they stand is not asked


def more_loads(setup: SetupFacts, plan: Plan) -> Iterator[dict[str, int]]:
    """How many parts at a time by stations' ids, of those that take more of the batch."""
    for times_as_many in MORE:
        many = {each.id: times_as_many * each.positions for each in setup.planned.stations}
        loads = {id: each for id, each in many.items() if each <= plan.quantity}
        if loads:
            yield loads


def spared_s(
    loads: Mapping[str, int], setup: SetupFacts, facts: PlanFacts, change_s: float
) -> float:
    """What so many parts at a time may save of one part (s), about; less where it is negative. They
    share the changes of tools, ``change_s`` of one part now, and what is done once with the door
    open; and more has to be built.
    """
    then = _loaded(facts, loads)
    before, after = (sum(each.seconds for each in built(of).values()) for of in (facts, then))
    by_hand, shared = 0.0, 0.0
    for was, now in zip(facts.setups, then.setups, strict=True):
        by_hand += put_in.of_setup(was, facts) - put_in.of_setup(now, then)
        if was.id == setup.id:
            shared = change_s * (1.0 - parts(was.planned) / parts(now.planned))
    return shared + by_hand - (after - before) / facts.plan.quantity


def _loaded(facts: PlanFacts, loads: Mapping[str, int]) -> PlanFacts:
    """As if so many parts stood at its stations, wherever there is room for them."""
    then = replace(facts, setups=[])
    for was in facts.setups:
        stations = [_row_at(each, loads) for each in was.planned.stations]
        planned = was.planned.model_copy(update={"stations": stations})
        setup = replace(was, planned=planned, stations=[])
        known = {each.id: each for each in stations}
        setup.stations = [
            replace(each, setup=setup, planned=known[each.id], figures={}) for each in was.stations
        ]
        then.setups.append(setup)
    return then


def _row_at(station: Station, loads: Mapping[str, int]) -> Station:
    if station.id not in loads:
        return station
    row = Row(count=loads[station.id], pitch_mm=ANY_PITCH_MM)
    return station.model_copy(update={"at": row})
