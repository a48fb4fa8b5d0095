"""The list of tools an operation can be given: those that suit first, of the others why
they don't.
"""

from __future__ import annotations

from dataclasses import dataclass

from machining.facts.context import OperationFacts, PlanFacts
from machining.facts.kinds.base import Unsuited
from machining.facts.suits import why_not
from machining.plan.edit import Change, Edit, LoadTool
from machining.plan.loading import loaded as load
from machining.world.tool import Tool


@dataclass(frozen=True, slots=True)
class Listed:
    """``number`` is that of a tool in the machine, None where ``edits`` load it first. ``why`` says
    what is against it, None where it suits.
    """

    assembly: str
    name: str
    number: int | None
    why: Unsuited | None
    edits: tuple[Edit, ...]


def tools_for(op: OperationFacts, facts: PlanFacts) -> list[Listed]:
    """Every tool of the machine and every assembly of the library, as edits that give it to the
    operation.
    """
    machine, library, on = op.setup.planned.machine, facts.library, f"operation:{op.operation.id}"
    here = sorted((t for t in facts.plan.tools if t.machine == machine), key=lambda t: t.number)
    found = []
    for each in here:
        assembly = library.assemblies.get(each.assembly)
        name = assembly.name if assembly else each.assembly
        found.append(
            Listed(
                each.assembly,
                name,
                each.number,
                _why(op, facts, library.tools.get(assembly.tool) if assembly else None),
                (Change(on=on, fields={"tool": each.id}),),
            )
        )
    for assembly in library.assemblies.values():
        if all(each.assembly != assembly.key for each in here):
            new = load(facts.plan, machine, assembly, standing=library.standing(machine))
            found.append(
                Listed(
                    assembly.key,
                    assembly.name,
                    None,
                    _why(op, facts, library.tools.get(assembly.tool)),
                    (LoadTool(tool=new), Change(on=on, fields={"tool": new.id})),
                )
            )
    return sorted(found, key=lambda each: (each.why is not None, each.number is None))


def _why(op: OperationFacts, facts: PlanFacts, tool: Tool | None) -> Unsuited | None:
    return why_not(op, facts, tool) if tool is not None else ("The library doesn't have it.", {})
