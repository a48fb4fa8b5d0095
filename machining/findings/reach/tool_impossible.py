"""reach.tool-impossible: a kind of tool that can't do this kind of operation, or one whose size or
angle does not suit it.
"""

from __future__ import annotations

from collections.abc import Iterator
from math import inf

from machining.facts.context import OperationFacts, PlanFacts
from machining.facts.kinds import KINDS, kind_of
from machining.facts.suits import can_do, suits_way, unsuited
from machining.plan.edit import Change
from machining.plan.operation import Slope, Slot
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown
from machining.world.capability import tilting
from machining.world.tool import Tool

from ..finding import Finding, of_operation
from ..tools import other_tools, suits, tool_name


def tool_impossible(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    if op.kit is None:
        return
    kind, tool, work = op.operation, op.kit.tool, op.work
    known = kind_of(kind)
    if not can_do(kind.kind, tool):
        largest = work.hole_diameter + 1e-6 if work and work.holes and not known.says_shape else inf
        fixes = other_tools(
            op,
            facts,
            lambda other: other.diameter_mm <= largest and suits(op, other),
            None,
            known.tools,
        )
        yield of_operation(
            op,
            "reach.tool-impossible",
            "stop",
            "{tool} is a {kind}: it can't do this.",
            {"tool": tool_name(op), "kind": Shown(tool.kind.replace("_", " "))},
            "",
            tuple(fixes),
        )
    elif (why := unsuited(op, tool)) is not None:
        sentence, values = why
        fixes = [
            *_tilted_instead(op, tool),
            *_beside_its_middle(op, tool),
            *other_tools(op, facts, lambda other: suits(op, other), None, known.tools),
        ]
        yield of_operation(
            op,
            "reach.tool-impossible",
            "stop",
            "{tool} can't do this. " + sentence,
            {
                "tool": tool_name(op),
                **{name: Shown(value, "size") for name, value in values.items()},
            },
            "",
            tuple(fixes),
        )


def _beside_its_middle(op: OperationFacts, tool: Tool) -> list[Proposal]:
    """A slot wider than its tool."""
    kind = op.operation
    if not isinstance(kind, Slot):
        return []
    return [
        Proposal(words, (Change(on=f"operation:{kind.id}", fields={"cuts": cuts}),), {})
        for cuts, words in (
            ("walls", "Its middle, then both walls"),
            ("loops", "In loops from wall to wall"),
        )
        if cuts != kind.cuts and suits_way(op, kind.model_copy(update={"cuts": cuts}), tool)
    ]


def _tilted_instead(op: OperationFacts, tool: Tool) -> list[Proposal]:
    """A slope whose tool would do it leaning, on a table that tilts."""
    kind = op.operation
    if (
        not isinstance(kind, Slope)
        or kind.axes != "upright"
        or op.rig is None
        or tilting(op.rig) is None
        or op.work is None
    ):
        return []
    leaning = kind.model_copy(update={"axes": "locked"})
    if KINDS["slope"].unsuited(leaning, op.work, tool) is not None:
        return []
    return [
        Proposal(
            "Tilt it, the axes locked for each edge",
            (Change(on=f"operation:{kind.id}", fields={"axes": "locked"}),),
            {},
        )
    ]
