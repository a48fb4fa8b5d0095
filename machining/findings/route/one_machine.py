"""route.one-machine: a setup on a machine that is in doubt, and which others could run it."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, SetupFacts
from machining.quantities.said import Shown
from machining.world.capability import turns_work

from ..elsewhere import on_machine
from ..finding import Finding

MOST = 3  # machines that are offered


def one_machine(setup: SetupFacts, facts: PlanFacts) -> Iterator[Finding]:
    """Others are offered that work alike and are not in doubt themselves."""
    machine = setup.machine
    if machine is None or not machine.in_doubt or not setup.operations:
        return
    others = [
        each
        for each in facts.library.machines.values()
        if each.key != machine.key and not each.in_doubt and turns_work(each) == turns_work(machine)
    ]
    values = {"machine": Shown(machine.name), "why": Shown(machine.in_doubt)}
    stands = "; no other machine of the shop works like it." if not others else "."
    yield Finding(
        "route.one-machine",
        "note",
        setup.id,
        "",
        f"It depends on {{machine}}, which is in doubt: {{why}}{stands}",
        values,
        "",
        tuple(on_machine(setup, each) for each in others[:MOST]),
    )
