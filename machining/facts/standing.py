"""What stays in a machine's magazine, against the tools of a plan."""

from __future__ import annotations

from collections.abc import Iterator

from machining.plan.document import LoadedTool
from machining.plan.loading import ALIKE_MM
from machining.world.capability import carrier_of
from machining.world.machine import Machine
from machining.world.standing import StandingTool

from .context import PlanFacts


def stands(tool: LoadedTool, machine: Machine | None) -> bool:
    """Is it there already, measured under its number?"""
    return machine is not None and any(is_it(tool, each, machine) for each in machine.standing)


def is_it(tool: LoadedTool, kept: StandingTool, machine: Machine) -> bool:
    """Is it what stays there, measured under its number?"""
    same_place = kept.number == tool.number and kept.pocket == tool.pocket
    return same_place and any(each is kept for each in alike(tool, machine))


def alike(tool: LoadedTool, machine: Machine | None) -> Iterator[StandingTool]:
    """What stays in its carrier and is the same assembly with as much stick-out."""
    for each in _beside(tool, machine):
        if each.assembly == tool.assembly and abs(each.stick_out_mm - tool.stick_out_mm) < ALIKE_MM:
            yield each


def in_pocket_of(tool: LoadedTool, machine: Machine | None) -> StandingTool | None:
    """What else stays in its pocket, None where nothing does, or it itself."""
    found = next((each for each in _beside(tool, machine) if each.pocket == tool.pocket), None)
    return None if found is None or found in [*alike(tool, machine)] else found


def elsewhere(tool: str, facts: PlanFacts) -> list[tuple[Machine, StandingTool]]:
    """Where the shop's machines keep a tool by its key, but for what the plan uses as it stands."""
    library, used = facts.library, facts.plan.tools
    return [
        (machine, each)
        for machine in library.machines.values()
        for each in machine.standing
        if (known := library.assemblies.get(each.assembly)) is not None
        and known.tool == tool
        and not any(t.machine == machine.key and is_it(t, each, machine) for t in used)
    ]


def _beside(tool: LoadedTool, machine: Machine | None) -> Iterator[StandingTool]:
    if machine is None:
        return
    mine = carrier_of(machine, tool.carrier)
    for each in machine.standing:
        if carrier_of(machine, each.carrier) is mine:
            yield each
