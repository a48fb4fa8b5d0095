"""travel.arms: a table that tilts between arms of which nobody has said where they stand."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, SetupFacts
from machining.quantities.said import Shown
from machining.world.machine import Table

from ..finding import Finding


def arms_unsaid(setup: SetupFacts, facts: PlanFacts) -> Iterator[Finding]:
    """What turns and tilts hangs between something; tool and head are held against what is said."""
    machine = setup.machine
    used = {id(each.place) for each in setup.stations if each.work}
    for table in machine.places if machine is not None else ():
        if machine is None or not isinstance(table, Table) or id(table) not in used:
            continue
        turns = any(each.about == "z" for each in table.rotaries)
        for each in table.rotaries:
            if turns and each.about != "z" and each.arms_apart_mm <= 0.0:
                yield Finding(
                    "travel.arms",
                    "look",
                    setup.id,
                    "",
                    "Nobody has said where the arms of {machine} stand that its table tilts between"
                    " about {axis}: tool and head are not held against them.",
                    {"machine": Shown(machine.name), "axis": Shown(each.name)},
                )
