"""cut.special-tool: a tool that has to be made first."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import OperationFacts, PlanFacts
from machining.quantities.said import Shown

from ..finding import Finding, keep, of_operation
from ..tools import instead


def special_tool(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    tool = op.kit.tool if op.kit else None
    if tool is None or tool.order_days is None or not tool.is_made_first:
        return
    values = {
        "tool": Shown(tool.name),
        "days": Shown(float(tool.order_days), "count"),
        "cost": Shown(tool.cost or 0.0, "count"),
    }
    others = instead(op, facts, lambda other: other.order_days is None)
    ordered = keep(op, "cut.special-tool", "special tool ordered")
    sentence = (
        "{tool} is made to order: {days} days and {cost}."
        if tool.cost is not None
        else "{tool} is made to order: {days} days."
    )
    yield of_operation(op, "cut.special-tool", "look", sentence, values, "", (*others, ordered))
