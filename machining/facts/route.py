"""Walks a plan from blank to finished part."""

from __future__ import annotations

from machining.memo import Memo, digest
from machining.plan.document import BLANK, Plan
from machining.plan.numbering import operation_numbers
from machining.world.geometry import PartGeometry, of_block
from machining.world.library import Library

from . import allowance, beside
from .blank import blank_of
from .context import PlanFacts, SetupFacts, StationFacts
from .operations import operation_facts
from .pace import Pace, remember
from .saved import saved
from .stations import station_facts
from .tabs import hands_on
from .taken import tilts


def geometry_of(plan: Plan, library: Library, memo: Memo) -> PartGeometry:
    """The part's solid: read from a file, or its block. Raises Missing for a file that
    isn't there.
    """
    if plan.part.geometry:
        return library.get("geometries", plan.part.geometry)  # type: ignore[return-value]
    return memo.get(("block", plan.part.size_mm, plan.part.typed), lambda: of_block(plan.part))


def walk(plan: Plan, library: Library, memo: Memo, pace: Pace | None = None) -> PlanFacts:
    """All facts of a plan, or those there are at a pace. Raises Missing or OutOfRange where there
    is no part or no blank at all.
    """
    geometry = geometry_of(plan, library, memo)
    blank = blank_of(plan, geometry, library, memo)
    facts = PlanFacts(plan, library, geometry, blank, library.materials.get(plan.material))
    requirements = [each.model_dump_json() for each in plan.part.requirements]
    facts.key = digest(
        library.key, geometry.key, plan.material, plan.units, requirements, tilts(plan)
    )
    numbers = operation_numbers(plan)
    facts.setups = [
        SetupFacts(setup, place, library.machines.get(setup.machine))
        for place, setup in enumerate(plan.setups, 1)
    ]
    on_its_way, seen = {BLANK: blank.state}, dict[str, StationFacts]()
    setups = {station.id: setup for setup in facts.setups for station in setup.planned.stations}
    for station in plan.route:
        setup, stock = setups[station.id], on_its_way[station.takes]
        found = seen[station.id] = station_facts(station, setup, facts, stock, memo)
        for operation in setup.planned.operations:
            if setup.planned.station_of(operation) is station:
                operation_facts(operation, numbers[operation.id], found, facts, memo, pace)
        taken = any(each.takes == station.id for each in plan.stations)
        on_its_way[station.id] = (
            hands_on(found, geometry).in_part() if found.operations and taken else stock
        )
    for setup in facts.setups:
        setup.stations = [seen[each.id] for each in setup.planned.stations]
        ops = {op.id: op for each in setup.stations for op in each.operations}
        setup.operations = [ops[each.id] for each in setup.planned.operations]
        beside.look(setup, facts, memo)
        for each in setup.stations:
            saved(each, facts)
            allowance.of_station(each, facts)
    facts.every = facts.operations()
    remember(facts, memo)
    return facts
