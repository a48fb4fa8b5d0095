"""reach.entry, cut.plunge: a mill that goes straight down where nothing stands open under it."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.bored import narrowest
from machining.facts.context import PlanFacts, Ready
from machining.facts.kinds import goes_down_as_mill
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown, length
from machining.world.tool import DRILLS

from ..finding import Finding, keep, of_operation
from ..tools import other_tools, tool_name
from .pocket_entry import HARDLY_CUTS, ON_ITS_MIDDLE, SHALLOW

MIDDLE = 0.5  # of its diameter, that must stand open under a mill whose middle does not cut


def straight_down(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    tool = op.tool
    if not goes_down_as_mill(op.operation, tool):
        return
    stands_open = narrowest(op) or 0.0
    if stands_open >= MIDDLE * tool.diameter_mm:
        return
    drills = _of_its_size(op, facts)
    if tool.centre_cutting:
        stay = keep(op, "cut.plunge", SHALLOW)
        yield of_operation(
            op,
            "cut.plunge",
            "look",
            HARDLY_CUTS,
            {"tool": tool_name(op)},
            "thrust",
            (*drills, stay),
        )
        return
    yield of_operation(
        op,
        "reach.entry",
        "stop",
        ON_ITS_MIDDLE
        + (", where {open} stands open of the {least} it needs." if stands_open else "."),
        {
            "tool": tool_name(op),
            "open": Shown(stands_open, "size"),
            "least": length(MIDDLE * tool.diameter_mm),
        },
        "",
        (*drills, *_that_cut_over_their_centre(op, facts)),
    )


def _of_its_size(op: Ready, facts: PlanFacts) -> list[Proposal]:
    wide = op.tool.diameter_mm
    return other_tools(op, facts, lambda other: other.diameter_mm == wide, None, DRILLS)


def _that_cut_over_their_centre(op: Ready, facts: PlanFacts) -> list[Proposal]:
    wide = op.tool.diameter_mm
    return other_tools(
        op, facts, lambda other: other.centre_cutting and other.diameter_mm == wide, None
    )
