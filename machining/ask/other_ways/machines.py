"""One machine or several: a plan's setups on others."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial

from machining.evaluation import Evaluation
from machining.plan.document import Plan, Setup
from machining.quantities.said import Said, Shown
from machining.world.capability import turns_work
from machining.world.machine import Machine

from ..carry_over import on_machine
from ..routes.route import Bench
from .way import Way

MOST_MACHINES, MOST_HELD = 6, 3  # that are tried


def on_machines(plan: Plan, before: Evaluation, bench: Bench) -> Iterator[Way]:
    """All on each machine of several; of one, its last setups on another at the same time."""
    working = [each for each in plan.setups if each.operations]
    used = sorted({each.machine for each in working})
    if len(used) > 1:
        for key in used:
            machine = bench.library.machines.get(key)
            if machine is not None and all(alike(machine, each, bench) for each in working):
                said = Said("All on {machine}", {"machine": Shown(machine.name)})
                yield _moved(said, plan, key, working, bench)
        return
    if len(working) < 2:
        return
    rest = working[_half(working, before) :]
    for machine in _others(plan, bench):
        if all(alike(machine, each, bench) for each in rest):
            numbers = ", ".join(f"{plan.setups.index(each) + 1}" for each in rest)
            values = {"machine": Shown(machine.name), "numbers": Shown(numbers)}
            said = Said("On two machines: setup {numbers} on {machine}", values)
            yield _moved(said, plan, machine.key, rest, bench)


def _half(working: list[Setup], before: Evaluation) -> int:
    """Where to part them so that neither machine works much longer than the other."""
    took = {each.id: each.cycle_s / max(each.parts, 1) for each in before.setups}
    each_s = [took[setup.id] for setup in working]
    return min(range(1, len(working)), key=lambda k: max(sum(each_s[:k]), sum(each_s[k:])))


def alike(machine: Machine, setup: Setup, bench: Bench) -> bool:
    """Does it turn the work where the setup's does, or neither?"""
    now = bench.library.machines.get(setup.machine)
    return now is not None and turns_work(now) == turns_work(machine)


def _others(plan: Plan, bench: Bench) -> list[Machine]:
    used = {each.machine for each in plan.setups}
    found = [each for each in bench.library.machines.values() if each.key not in used]
    return sorted(found, key=lambda each: each.hourly_cost)[:MOST_MACHINES]


def _moved(said: Said, plan: Plan, key: str, setups: list[Setup], bench: Bench) -> Way:
    return Way(
        said,
        partial(on_machine, plan, bench.library, bench.memo, key, [each.id for each in setups]),
    )
