"""A setup on another machine, as a way out."""

from __future__ import annotations

from machining.facts.context import SetupFacts
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown
from machining.ways.trade import use_machine
from machining.world.machine import Machine


def on_machine(setup: SetupFacts, machine: Machine) -> Proposal:
    """The whole setup; tools stay in the machine it leaves."""
    return Proposal(
        "Run setup {setup} on {machine}; its tools must be loaded there",
        use_machine(setup.planned, machine),
        {"setup": Shown(str(setup.number)), "machine": Shown(machine.name)},
    )
