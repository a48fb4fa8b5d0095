"""reach.behind-shoulder: what a turning tool leaves behind a shoulder it can't follow down."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready
from machining.plan.turned import TurnFinish, TurnRough
from machining.quantities.said import Shown, length

from ..finding import Finding, keep, of_operation
from ..tools import other_tools


def behind_shoulder(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    kind, work, tool = op.operation, op.work, op.tool
    if (
        not isinstance(kind, TurnRough | TurnFinish)
        or work.left_behind <= 0
        or "rpm" not in op.figures
    ):
        return
    later = [
        other
        for other in op.setup.operations
        if other.number > op.number
        and other.operation.kind in ("turn_groove", "turn_rough", "turn_finish")
    ]
    if later:
        return
    steeper = (
        other_tools(
            op,
            facts,
            lambda other: other.max_ramp_deg > tool.max_ramp_deg,
            None,
            frozenset({"turning_rough", "turning_finish"}),
        )
        if kind.on.side == "outside"
        else []
    )
    stay = keep(
        op, "reach.behind-shoulder", "what stays behind the shoulder is cut in another setup"
    )
    yield of_operation(
        op,
        "reach.behind-shoulder",
        "look",
        "Behind a shoulder {left} of stock stays: this tool follows a contour down at {angle} at"
        " most, and nothing grooves it later.",
        {"left": length(work.left_behind), "angle": Shown(tool.max_ramp_deg, "angle")},
        "",
        (*steeper, stay),
    )
