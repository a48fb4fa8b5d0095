"""reach.flute-short, reach.entry: a cut over the insert's edge, a bar that fits no bore."""

from __future__ import annotations

from collections.abc import Iterator
from math import floor

from machining.facts.context import PlanFacts, Ready
from machining.facts.kinds.turned import LEFT_MM
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.plan.turned import Profile, TurnFace, TurnFinish, TurnRough
from machining.quantities.said import length

from ..finding import Finding, of_operation
from ..tools import other_tools


def turned_too_deep(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    if op.work.turned is None or op.work.turned.is_empty:
        return
    yield from _bar_too_wide(op, facts)
    kind, tool, depth = op.operation, op.tool, op.seen.depth_mm
    if (
        not isinstance(kind, TurnFace | TurnRough | TurnFinish)
        or not isinstance(depth, float)
        or depth <= tool.cutting_depth_mm + LEFT_MM
    ):
        return
    most = floor(10.0 * tool.cutting_depth_mm) / 10.0
    fixes: tuple[Proposal, ...] = ()
    if isinstance(kind, TurnFace | TurnRough):
        fixes = (
            Proposal(
                "Cut {most} a side",
                (Change(on=f"operation:{kind.id}", fields={"depth_mm": most}),),
                {"most": length(most)},
            ),
        )
    yield of_operation(
        op,
        "reach.flute-short",
        "stop",
        "It meets {depth} of stock at once; this edge takes {most}.",
        {"depth": length(depth), "most": length(tool.cutting_depth_mm)},
        "cutting_force",
        (*fixes, *other_tools(op, facts, lambda other: other.cutting_depth_mm >= depth, None)),
    )


def _bar_too_wide(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    stands_open, least = 2.0 * float(op.work.turned.bounds[0]), op.tool.diameter_mm
    if (
        op.tool.kind != "boring_bar"
        or not isinstance(op.operation.on, Profile)
        or stands_open >= least - LEFT_MM
    ):
        return
    narrower = other_tools(op, facts, lambda other: other.diameter_mm <= stands_open, None)
    yield of_operation(
        op,
        "reach.entry",
        "stop",
        "The bore stands open {open} wide; this bar enters from {least} on.",
        {"open": length(stands_open), "least": length(least)},
        "",
        tuple(narrower),
    )
