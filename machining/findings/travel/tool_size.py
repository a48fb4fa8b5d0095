"""travel.tool-size: a tool that, as it is set out, its magazine or turret can't take."""

from __future__ import annotations

from collections.abc import Iterator
from math import floor

from machining.facts.context import PlanFacts, Ready
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown, length
from machining.world.capability import too_wide
from machining.world.tool import STANDS_STILL, Tool

from ..finding import Finding, of_operation
from ..tools import other_tools, tool_name


def tool_size(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    """Told wherever it is used: none of its operations can be run so."""
    carrier = op.rig.carrier
    widest, longest = carrier.max_tool_diameter_mm, carrier.max_tool_length_mm
    across, long = op.tool.diameter_mm, op.loaded.stick_out_mm + op.holder.length_mm
    wide = too_wide(op.tool, carrier)
    if op.tool.kind in STANDS_STILL or not (wide or long > longest):
        return
    if wide:
        fixes = other_tools(op, facts, lambda tool: tool.diameter_mm <= widest, None)
        yield _told(
            op, "{tool} is Ø {has}; the {carrier} takes up to Ø {most}.", across, widest, fixes
        )
    else:
        sentence = "{tool} is {has} long from its gauge line; the {carrier} takes up to {most}."
        fixes = list(_shorter(op, facts, longest - op.holder.length_mm))
        yield _told(op, sentence, long, longest, fixes)


def _told(op: Ready, sentence: str, has: float, most: float, fixes: list[Proposal]) -> Finding:
    values = {
        "tool": tool_name(op),
        "carrier": Shown(op.rig.carrier.kind),
        "has": length(has),
        "most": length(most),
    }
    return of_operation(op, "travel.tool-size", "stop", sentence, values, "", tuple(fixes))


def _shorter(op: Ready, facts: PlanFacts, most: float) -> Iterator[Proposal]:
    """Set it out less, where it still reaches (mm)."""
    least = max(
        op.tool.overall_length_mm - op.holder.deepest_mm, op.value("stick_out_needed") or 0.0
    )
    less = float(floor(most))
    if least <= less:
        edits = (Change(on=f"tool:{op.loaded.id}", fields={"stick_out_mm": less}),)
        yield Proposal("Set stick-out to {less}", edits, {"less": length(less)})

    def short(tool: Tool) -> bool:
        return tool.overall_length_mm - op.holder.deepest_mm <= most

    yield from other_tools(op, facts, short, less)
