"""size.fixed-size: a drill or a reamer makes a hole of its own size, and that is not the one asked
for.
"""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready
from machining.facts.hole_size import asked_size, is_widened
from machining.plan.edit import Change
from machining.plan.operation import Drill, Ream
from machining.plan.places import TypedHoles
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown
from machining.world.tool import DRILLS, Tool

from ..finding import Finding, Severity, of_operation
from ..tools import other_tools


def fixed_size(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    kind, has = op.operation, op.tool.diameter_mm
    if not isinstance(kind, Drill | Ream):
        return
    asked = asked_size(op, facts)
    if asked is None:
        return
    low, high, of = asked
    if low <= has <= high or (has < low and is_widened(op, facts)):
        return
    wide: Severity = "stop" if of or has > high else "look"
    words = "{tool} makes the hole {has}; {what} asks for {low} to {high}."
    if not of:
        words = "{tool} makes the hole {has}; it is to be {wanted}."
    yield of_operation(
        op,
        "size.fixed-size",
        wide,
        words,
        {
            "tool": Shown(f"T{op.loaded.number}"),
            "has": Shown(has, "size"),
            "what": Shown(of),
            "low": Shown(low, "size"),
            "high": Shown(high, "size"),
            "wanted": Shown((low + high) / 2.0, "size"),
        },
        "",
        (*_other(op, facts, low, high), *_as_it_is(op, has)),
    )


def _other(op: Ready, facts: PlanFacts, low: float, high: float) -> list[Proposal]:
    def suits(tool: Tool) -> bool:
        return low <= tool.diameter_mm <= high

    kinds = DRILLS if isinstance(op.operation, Drill) else frozenset({"reamer"})
    return other_tools(op, facts, suits, None, kinds)


def _as_it_is(op: Ready, has: float) -> Iterator[Proposal]:
    """Typed holes take the size their tool makes."""
    if isinstance(op.operation.on, TypedHoles):
        yield Proposal(
            "The hole is {has}",
            (Change(on=op.on, fields={"on.diameter_mm": has}),),
            {"has": Shown(has, "size")},
        )
