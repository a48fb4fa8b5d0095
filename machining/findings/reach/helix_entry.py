"""reach.entry, cut.plunge: a helix steeper than the tool ramps."""

from __future__ import annotations

from collections.abc import Iterator

from machining.cutting.entry import helix_pitch
from machining.facts.context import PlanFacts, Ready
from machining.plan.edit import Change
from machining.plan.operation import Counterbore, MillHole, SpotFace
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown

from ..finding import Finding, of_operation
from ..tools import other_tools, suits, tool_name


def helix_entry(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    angle, tool = op.value("helix_angle"), op.tool
    if angle is None or not isinstance(op.operation, MillHole | Counterbore | SpotFace):
        return
    most = tool.max_ramp_deg or (90.0 if tool.centre_cutting else 0.0)
    if angle <= most:
        return
    fixes: list[Proposal] = []
    if most > 0:
        step = (
            float(int(100 * helix_pitch(op.work.hole_diameter, tool.diameter_mm, min(most, 89.0))))
            / 100
        )
        if step > 0:
            fixes.append(
                Proposal(
                    "{step} a turn",
                    (Change(on=f"operation:{op.operation.id}", fields={"step_down_mm": step}),),
                    {"step": Shown(step, "size")},
                )
            )
    fixes += other_tools(
        op,
        facts,
        lambda other: (
            (other.max_ramp_deg >= angle or (other.centre_cutting and not other.max_ramp_deg))
            and suits(op, other)
        ),
        None,
    )
    yield of_operation(
        op,
        "cut.plunge" if tool.centre_cutting else "reach.entry",
        "look" if tool.centre_cutting else "stop",
        "Its helix goes down at {angle}; {tool} ramps at {most} at most.",
        {"angle": Shown(angle, "angle"), "most": Shown(most, "angle"), "tool": tool_name(op)},
        "helix_angle",
        tuple(fixes),
    )
