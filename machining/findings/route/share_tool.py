"""route.share-tool: the same tool in two pockets."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, SetupFacts
from machining.facts.kinds import kind_of
from machining.plan.document import LoadedTool
from machining.plan.edit import Change, Edit, UnloadTool
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown

from ..finding import Finding


def share_tool(setup: SetupFacts, facts: PlanFacts) -> Iterator[Finding]:
    """Said of a machine's first setup. One that only finishes is kept sharp, and no such case."""
    if not facts.first_on_its_machine(setup):
        return
    seen = dict[tuple[object, ...], LoadedTool]()
    for tool in facts.plan.tools:
        if tool.machine != setup.planned.machine or not _uses(tool, facts):
            continue
        same = (tool.assembly, tool.stick_out_mm, tool.carrier, _only_finishes(tool, facts))
        first = seen.setdefault(same, tool)
        if first is tool:
            continue
        values = {"first": Shown(f"T{first.number}"), "second": Shown(f"T{tool.number}")}
        instead: tuple[Edit, ...] = (
            *(Change(on=f"operation:{id}", fields={"tool": first.id}) for id in _uses(tool, facts)),
            UnloadTool(tool=tool.id),
        )
        yield Finding(
            "route.share-tool",
            "note",
            setup.id,
            "",
            "{second} is the same tool as {first}, with as much stick-out: one would do.",
            values,
            "",
            (Proposal("Use {first} for both", instead, values),),
            about=tool.id,
        )


def _uses(tool: LoadedTool, facts: PlanFacts) -> list[str]:
    return [op.id for op in facts.operations() if op.operation.tool == tool.id]


def _only_finishes(tool: LoadedTool, facts: PlanFacts) -> bool:
    using = [op for op in facts.operations() if op.operation.tool == tool.id]
    return all(kind_of(op.operation).finishes for op in using)
