"""reach.inner-radius: a tool wider than the corner it should leave."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready
from machining.quantities.said import length

from ..finding import Finding, of_operation
from ..tools import other_tools, tool_name


def inner_radius(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    if op.operation.kind not in ("finish_walls",) or op.work.corner_radius is None:
        return
    corner, radius = op.work.corner_radius, op.tool.diameter_mm / 2.0
    if radius <= corner + 1e-6:
        return
    yield of_operation(
        op,
        "reach.inner-radius",
        "stop",
        "The inner corners are {corner}; {tool} leaves {radius}.",
        {"corner": length(corner), "radius": length(radius), "tool": tool_name(op)},
        "",
        tuple(other_tools(op, facts, lambda tool: tool.diameter_mm / 2.0 <= corner, None)),
    )
