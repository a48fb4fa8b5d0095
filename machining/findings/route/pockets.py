"""route.tools-over, route.pocket-twice: tools that the machine has no pocket for."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from machining.facts.context import PlanFacts, SetupFacts
from machining.plan.document import LoadedTool
from machining.plan.edit import Change, UnloadTool
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown
from machining.ways.fewer_tools import merges
from machining.world.capability import carrier_of
from machining.world.carrier import Carrier
from machining.world.machine import Machine

from ..finding import Finding


def pockets(setup: SetupFacts, facts: PlanFacts) -> Iterator[Finding]:
    """Said of a machine's first setup."""
    machine = setup.machine
    if machine is None or not facts.first_on_its_machine(setup):
        return
    for carrier in machine.carriers:
        yield from _of_carrier(carrier, setup, machine, facts)


def _of_carrier(
    carrier: Carrier, setup: SetupFacts, machine: Machine, facts: PlanFacts
) -> Iterator[Finding]:
    loaded = [
        each
        for each in facts.plan.tools
        if each.machine == machine.key and carrier_of(machine, each.carrier) is carrier
    ]
    taken = [each.pocket for each in loaded]
    free = [place for place in range(1, carrier.pockets + 1) if place not in taken]
    several = len(machine.carriers) > 1
    told = {
        "machine": Shown(f"the {carrier.id} of {machine.name}" if several else machine.name),
        "most": Shown(str(carrier.pockets)),
    }
    if len(loaded) > carrier.pockets:
        yield Finding(
            "route.tools-over",
            "stop",
            setup.id,
            "",
            "The plan loads {count} tools on {machine}, which has {most} pockets.",
            {**told, "count": Shown(str(len(loaded)))},
            "",
            (*_unused(loaded, facts), *_shared(loaded, carrier, facts)),
        )
        return
    for tool in loaded:
        first = next(each for each in loaded if each.pocket == tool.pocket)
        if first is not tool or tool.pocket > carrier.pockets:
            yield _misplaced(setup, tool, first, free, told)


def _shared(loaded: list[LoadedTool], carrier: Carrier, facts: PlanFacts) -> Iterator[Proposal]:
    """One tool for the work of others, where that frees enough pockets."""
    used = {op.tool for setup in facts.plan.setups for op in setup.operations}
    over = len(loaded) - carrier.pockets
    if not all(each.id in used for each in loaded):
        return
    for merge in merges(loaded, facts, over):
        kept, said = [each for each in loaded if each not in merge.gone], merge.said
        yield replace(said, edits=(*said.edits, *_into_pockets(kept, carrier)))


def _into_pockets(tools: list[LoadedTool], carrier: Carrier) -> Iterator[Change]:
    """Those that stand where the magazine has no pocket into what is free."""
    taken = {each.pocket for each in tools}
    free = [place for place in range(1, carrier.pockets + 1) if place not in taken]
    for tool in (each for each in tools if each.pocket > carrier.pockets):
        yield Change(on=f"tool:{tool.id}", fields={"pocket": free.pop(0)})


def _misplaced(
    setup: SetupFacts,
    tool: LoadedTool,
    first: LoadedTool,
    free: list[int],
    told: dict[str, Shown],
) -> Finding:
    values = {
        **told,
        "tool": Shown(f"T{tool.number}"),
        "other": Shown(f"T{first.number}"),
        "pocket": Shown(str(tool.pocket)),
    }
    twice = first is not tool
    move = Change(on=f"tool:{tool.id}", fields={"pocket": free[0]}) if free else None
    words = {"tool": values["tool"], "free": Shown(str(free[0]))} if free else {}
    return Finding(
        "route.pocket-twice" if twice else "route.tools-over",
        "stop",
        setup.id,
        "",
        "{tool} stands in pocket {pocket}, where {other} is."
        if twice
        else "{tool} stands in pocket {pocket}; {machine} has {most}.",
        values,
        "",
        (Proposal("Put {tool} into pocket {free}", (move,), words),) if move else (),
        about=tool.id,
    )


def _unused(loaded: list[LoadedTool], facts: PlanFacts) -> Iterator[Proposal]:
    """What no operation uses can be taken out."""
    used = {op.tool for setup in facts.plan.setups for op in setup.operations}
    idle = [each for each in loaded if each.id not in used]
    if idle:
        yield Proposal(
            "Take out the {count} that nothing uses",
            tuple(UnloadTool(tool=each.id) for each in idle),
            {"count": Shown(str(len(idle)))},
        )
