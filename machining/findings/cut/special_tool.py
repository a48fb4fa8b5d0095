"""cut.special-tool: a tool that has to be made first."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import OperationFacts, PlanFacts
from machining.facts.kinds import kind_of
from machining.quantities.said import Shown

from ..finding import Finding, keep, of_operation
from ..tools import other_tools


def special_tool(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    kind, tool, work = op.operation, op.kit.tool if op.kit else None, op.work
    if tool is None or tool.order_days is None or (tool.on_hand or 0) > 0:
        return
    values = {
        "tool": Shown(tool.name),
        "days": Shown(float(tool.order_days), "count"),
        "cost": Shown(tool.cost or 0.0, "count"),
    }
    known = kind_of(kind)
    others = (
        []
        if not known.says_shape or work is None
        else other_tools(
            op,
            facts,
            lambda other: other.order_days is None and known.unsuited(kind, work, other) is None,
            None,
            known.tools,
        )
    )
    ordered = keep(op, "cut.special-tool", "special tool ordered")
    sentence = (
        "{tool} is made to order: {days} days and {cost}."
        if tool.cost is not None
        else "{tool} is made to order: {days} days."
    )
    yield of_operation(op, "cut.special-tool", "look", sentence, values, "", (*others, ordered))
