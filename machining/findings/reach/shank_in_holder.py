"""reach.shank-in-holder: less of the shank inside than the holder asks for."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import length

from ..finding import Finding, of_operation
from ..tools import tool_name


def shank_in_holder(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    longest, loaded = op.figures.get("stick_out_longest"), op.loaded
    if longest is None or loaded.stick_out_mm <= longest.value + 1e-9:
        return
    shorter = float(int(longest.value))
    yield of_operation(
        op,
        "reach.shank-in-holder",
        "stop",
        "{tool} stands out {has}, which leaves less than {grip} of its shank in the holder.",
        {
            "tool": tool_name(op),
            "has": length(loaded.stick_out_mm),
            "grip": length(op.holder.grip_depth_mm),
        },
        "stick_out_longest",
        (
            Proposal(
                "Set stick-out to {shorter}",
                (Change(on=f"tool:{loaded.id}", fields={"stick_out_mm": shorter}),),
                {"shorter": length(shorter)},
            ),
        ),
    )
