"""reach.slender-tool: a stick-out of many diameters."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial
from math import ceil

from machining.facts.context import PlanFacts, Ready
from machining.plan.edit import Change
from machining.plan.proposal import Later, Proposal
from machining.quantities.said import Shown, length
from machining.world.tool import BUILT_TO_LENGTH, TURNS_ON_AXIS

from ..finding import Finding, keep, of_operation
from ..tools import corner_fits, other_tools, tool_name


def slender_tool(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    ratio, limit = op.value("slenderness"), facts.library.settings.slender_limit
    if (
        ratio is None
        or op.tool.kind in TURNS_ON_AXIS
        or op.tool.kind in BUILT_TO_LENGTH
        or ratio <= limit
    ):
        return
    yield of_operation(
        op,
        "reach.slender-tool",
        "look",
        "{tool} stands out {times} its diameter: it bends and sings.",
        {"tool": tool_name(op), "times": Shown(ratio, "factor")},
        "slenderness",
        Later(partial(_fixes, op, limit, facts)),
    )


def _fixes(op: Ready, limit: float, facts: PlanFacts) -> Iterator[Proposal]:
    needed, loaded = op.value("stick_out_needed") or 0.0, op.loaded
    shorter = float(ceil(max(needed, op.tool.flute_length_mm, limit * op.tool.diameter_mm)))
    if shorter < loaded.stick_out_mm - 0.5:
        yield Proposal(
            "Set stick-out to {shorter}",
            (Change(on=f"tool:{loaded.id}", fields={"stick_out_mm": shorter}),),
            {"shorter": length(shorter)},
        )
    yield from other_tools(
        op,
        facts,
        lambda tool: loaded.stick_out_mm / tool.diameter_mm <= limit and corner_fits(op, tool),
        loaded.stick_out_mm,
    )
    yield keep(op, "reach.slender-tool", "long tool: light cuts, watch for chatter")
