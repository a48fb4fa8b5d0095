"""The magazine of a machine against a plan: which pockets it needs, and what stays in them."""

from __future__ import annotations

from typing import Any

from machining.facts.standing import is_it, stands
from machining.memo import Memo
from machining.plan.document import LoadedTool, Plan
from machining.world.capability import carrier_of
from machining.world.carrier import Carrier
from machining.world.library import Library
from machining.world.machine import Machine
from machining.world.standing import StandingTool


def magazine(plan: Plan, library: Library, memo: Memo, machine: str) -> list[dict[str, Any]]:
    """Of each carrier its pockets with what the plan puts there (``tool``), and what stays there
    (``stays``); how many of the plan's are ``there`` already and how many are to be put in, how
    many pockets stay ``free`` and how many tools that stay have to come out. Raises Missing for a
    machine that is not there.
    """
    known = library.get("machines", machine)
    assert isinstance(known, Machine)
    mine = _used(plan, machine)
    return [_of(carrier, known, mine, library) for carrier in known.carriers]


def _used(plan: Plan, machine: str) -> list[LoadedTool]:
    """Its tools on a machine that an operation uses."""
    used = {op.tool for setup in plan.setups for op in setup.operations}
    return [each for each in plan.tools if each.machine == machine and each.id in used]


def staying(plan: Plan, machine: Machine, job: str, stay: bool) -> Machine:
    """A machine's record with the tools a job uses on it left in for it, instead of what stood in
    their pockets; or with what stays for the job taken out of the record.
    """
    others = tuple(each for each in machine.standing if each.of != job)
    if not stay:
        return machine.model_copy(update={"standing": others})
    mine = _used(plan, machine.key)
    there = {_place(e, machine) for e in mine if any(is_it(e, each, machine) for each in others)}
    needed = {_place(each, machine) for each in mine} - there
    kept = [each for each in others if _place(each, machine) not in needed]
    new = [
        StandingTool(
            number=each.number,
            pocket=each.pocket,
            assembly=each.assembly,
            stick_out_mm=each.stick_out_mm,
            carrier=each.carrier,
            of=job,
        )
        for each in mine
        if _place(each, machine) in needed
    ]
    return machine.model_copy(update={"standing": (*kept, *new)})


def _place(of: LoadedTool | StandingTool, machine: Machine) -> tuple[str, int]:
    carrier = carrier_of(machine, of.carrier)
    return (carrier.id if carrier is not None else of.carrier, of.pocket)


def _of(
    carrier: Carrier, machine: Machine, mine: list[LoadedTool], library: Library
) -> dict[str, Any]:
    loaded = {e.pocket: e for e in mine if carrier_of(machine, e.carrier) is carrier}
    standing = {e.pocket: e for e in machine.standing if carrier_of(machine, e.carrier) is carrier}
    there = {pocket for pocket, each in loaded.items() if stands(each, machine)}
    rows = [
        {
            "pocket": pocket,
            "tool": _plain(loaded.get(pocket), library),
            "stays": _plain(standing.get(pocket), library),
            "there": pocket in there,
        }
        for pocket in range(1, carrier.pockets + 1)
    ]
    return {
        "carrier": carrier.id,
        "pockets": rows,
        "there": len(there),
        "put_in": len(loaded) - len(there),
        "free": sum(row["tool"] is None and row["stays"] is None for row in rows),
        "come_out": len((loaded.keys() & standing.keys()) - there),
    }


def _plain(of: LoadedTool | StandingTool | None, library: Library) -> dict[str, Any] | None:
    if of is None:
        return None
    assembly = library.assemblies.get(of.assembly)
    return {
        "number": of.number,
        "name": assembly.name if assembly is not None else of.assembly,
        "of": of.of if isinstance(of, StandingTool) else "",
    }
