"""route.pocket-taken, route.tool-stands: what stays in the machine's magazine, against the plan."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, SetupFacts
from machining.facts.standing import alike, in_pocket_of, stands
from machining.plan.document import LoadedTool
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown
from machining.world.capability import carrier_of
from machining.world.machine import Machine
from machining.world.standing import StandingTool

from ..finding import Finding


def stands_there(setup: SetupFacts, facts: PlanFacts) -> Iterator[Finding]:
    """Said of a machine's first setup, for every tool that its operations use."""
    machine = setup.machine
    if machine is None or not machine.standing or not facts.first_on_its_machine(setup):
        return
    used = {op.operation.tool for op in facts.operations()}
    mine = [each for each in facts.plan.tools if each.machine == machine.key and each.id in used]
    for tool in mine:
        if stands(tool, machine):
            continue
        same, other = next(alike(tool, machine), None), in_pocket_of(tool, machine)
        free = same is not None and not _number_taken(same.number, tool, facts)
        if same is not None and free:
            yield _there(setup, tool, same, machine)
        elif other is not None:
            yield _taken(setup, tool, other, machine, facts)


def _there(setup: SetupFacts, tool: LoadedTool, same: StandingTool, machine: Machine) -> Finding:
    values = {
        "tool": Shown(f"T{tool.number}"),
        "there": Shown(f"T{same.number}"),
        "pocket": Shown(str(same.pocket)),
        "machine": Shown(machine.name),
    }
    fields = {"number": same.number, "pocket": same.pocket, "h": same.number, "d": same.number}
    return Finding(
        "route.tool-stands",
        "note",
        setup.id,
        "",
        "{tool} stands in pocket {pocket} of {machine} already, measured as {there}.",
        values,
        "",
        (Proposal("Use it as {there}", (Change(on=f"tool:{tool.id}", fields=fields),), values),),
        about=tool.id,
    )


def _taken(
    setup: SetupFacts, tool: LoadedTool, other: StandingTool, machine: Machine, facts: PlanFacts
) -> Finding:
    keeps = f" for {other.of}" if other.of else ""
    values = {
        "tool": Shown(f"T{tool.number}"),
        "other": Shown(f"T{other.number}"),
        "pocket": Shown(str(tool.pocket)),
        "machine": Shown(machine.name),
    }
    free = next(_free_pockets(tool, machine, facts), None)
    fixes: tuple[Proposal, ...] = ()
    if free is not None:
        move = Change(on=f"tool:{tool.id}", fields={"pocket": free})
        words = {"tool": values["tool"], "free": Shown(str(free))}
        fixes = (Proposal("Put {tool} into pocket {free}", (move,), words),)
    full = "" if free is not None else "; no pocket is free, one that stays has to come out"
    return Finding(
        "route.pocket-taken",
        "look",
        setup.id,
        "",
        f"{{tool}} is to stand in pocket {{pocket}} of {{machine}}, where {{other}}"
        f" stays{keeps}{full}.",
        values,
        "",
        fixes,
        about=tool.id,
    )


def _number_taken(number: int, tool: LoadedTool, facts: PlanFacts) -> bool:
    return any(
        each.number == number and each.machine == tool.machine and each is not tool
        for each in facts.plan.tools
    )


def _free_pockets(tool: LoadedTool, machine: Machine, facts: PlanFacts) -> Iterator[int]:
    carrier = carrier_of(machine, tool.carrier)
    if carrier is None:
        return
    mine = [each for each in facts.plan.tools if each.machine == machine.key]
    places = [(each.carrier, each.pocket) for each in mine]
    places += [(each.carrier, each.pocket) for each in machine.standing]
    taken = {pocket for of, pocket in places if carrier_of(machine, of) is carrier}
    yield from (place for place in range(1, carrier.pockets + 1) if place not in taken)
