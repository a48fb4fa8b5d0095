"""reach.stick-out-short, reach.stick-out-long: the holder against stock, part and jaws."""

from __future__ import annotations

from collections.abc import Iterator
from math import ceil

from machining.facts.context import OperationFacts, PlanFacts, Ready
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import length
from machining.world.tool import BUILT_TO_LENGTH

from ..finding import Finding, of_operation
from ..tools import other_tools, tool_name


def stick_out(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    spare, needed, loaded = (
        op.figures.get("stick_out_spare"),
        op.figures.get("stick_out_needed"),
        op.loaded,
    )
    if spare is None or needed is None or loaded is None:
        return
    values = {
        "tool": tool_name(op),
        "has": length(loaded.stick_out_mm),
        "needed": length(needed.value),
    }
    if spare.value < -1e-6:
        longer = float(ceil(needed.value))
        longest = op.value("stick_out_longest")
        edits = (Change(on=f"tool:{loaded.id}", fields={"stick_out_mm": longer}),)
        fixes = (
            [Proposal("Set stick-out to {longer}", edits, {"longer": length(longer)})]
            if longest is None or longer <= longest
            else []
        )
        corner = op.work.corner_radius if op.operation.kind == "finish_walls" else None
        fixes += other_tools(
            op,
            facts,
            lambda tool: (
                tool.overall_length_mm - op.holder.grip_depth_mm >= longer
                and (corner is None or tool.diameter_mm / 2.0 <= corner)
            ),
            longer,
        )
        yield of_operation(
            op,
            "reach.stick-out-short",
            "stop",
            "{tool} stands out {has} and needs {needed}: its holder would touch, {short} too low.",
            {**values, "short": length(-spare.value)},
            "stick_out_needed",
            tuple(fixes),
        )
        return
    if op.tool.kind in BUILT_TO_LENGTH:
        return
    everywhere = [o for o in facts.operations() if o.loaded and o.loaded.id == loaded.id]
    most = max(
        (v for other in everywhere if (v := other.value("stick_out_needed")) is not None),
        default=0.0,
    )
    could = float(
        ceil(max(most, op.tool.flute_length_mm, op.tool.overall_length_mm - op.holder.deepest_mm))
    )
    if loaded.stick_out_mm - could > facts.library.settings.stick_out_spare_mm and op is _first_of(
        everywhere, most
    ):
        edits = (Change(on=f"tool:{loaded.id}", fields={"stick_out_mm": could}),)
        yield of_operation(
            op,
            "reach.stick-out-long",
            "look",
            "{tool} stands out {has}; {could} is enough, and a shorter tool is stiffer.",
            {**values, "could": length(could)},
            "stick_out_needed",
            (Proposal("Set stick-out to {could}", edits, {"could": length(could)}),),
        )


def _first_of(everywhere: list[OperationFacts], most: float) -> OperationFacts | None:
    return next(
        (
            o
            for o in everywhere
            if (v := o.value("stick_out_needed")) is not None and v >= most - 1e-9
        ),
        None,
    )
