"""reach.flute-short: a cut deeper than the edges are long."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready
from machining.facts.kinds import kind_of
from machining.facts.reach import cutting_length_needed
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import length
from machining.world.tool import DRILLS, TURNS_ON_AXIS

from ..finding import Finding, of_operation
from ..tools import other_tools, tool_name


def flute_short(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    kind = kind_of(op.operation)
    if kind.in_mouth or kind.turned:
        return
    needed = cutting_length_needed(op)
    step = min(getattr(op.operation, "step_down_mm", needed), needed)
    if (op.tool.kind in TURNS_ON_AXIS and op.tool.kind not in DRILLS) or op.tool.kind in (
        "thread_mill",
        "undercut_mill",
    ):
        step = 0.0  # it cuts at its tip; only its neck must follow
    if needed <= op.tool.usable_length_mm + 1e-6 and step <= op.tool.cutting_depth_mm + 1e-6:
        return
    has = (
        op.tool.usable_length_mm if needed > op.tool.usable_length_mm else op.tool.cutting_depth_mm
    )
    asked = needed if needed > op.tool.usable_length_mm else step
    fixes = other_tools(
        op,
        facts,
        lambda tool: tool.usable_length_mm >= needed and tool.cutting_depth_mm >= step,
        None,
    )
    if (
        hasattr(op.operation, "step_down_mm")
        and step > op.tool.cutting_depth_mm
        and needed <= op.tool.usable_length_mm
    ):
        lower = float(int(op.tool.cutting_depth_mm * 10)) / 10
        fixes.insert(
            0,
            Proposal(
                "Step down {step}",
                (Change(on=f"operation:{op.operation.id}", fields={"step_down_mm": lower}),),
                {"step": length(lower)},
            ),
        )
    yield of_operation(
        op,
        "reach.flute-short",
        "stop",
        "{tool} can cut {has} deep; {asked} is wanted, so its shank would rub.",
        {"tool": tool_name(op), "has": length(has), "asked": length(asked)},
        "",
        tuple(fixes),
    )
