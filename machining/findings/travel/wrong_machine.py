"""travel.wrong-machine: turning on a mill, milling on a lathe."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import OperationFacts, PlanFacts
from machining.facts.kinds import kind_of
from machining.quantities.said import Shown
from machining.world.capability import turns_work

from ..elsewhere import on_machine
from ..finding import Finding, of_operation


def wrong_machine(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    machine = op.setup.machine
    if machine is None or op.kit is None or op.station.turns:
        return  # what a lathe can't do is unknown, and its answers say so
    if not kind_of(op.operation).turned:
        return
    fixes = []
    for other in facts.library.machines.values():
        if turns_work(other):
            fixes.append(on_machine(op.setup, other))
            break
    yield of_operation(
        op,
        "travel.wrong-machine",
        "stop",
        "{machine} turns the tool, not the part; a lathe does this.",
        {"machine": Shown(machine.name)},
        "",
        tuple(fixes),
    )
