"""reach.stick-out-short, reach.stick-out-long: the holder against stock, part and jaws."""

from __future__ import annotations

from collections.abc import Iterator
from math import ceil

from machining.facts.context import OperationFacts, PlanFacts, Ready
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown, length
from machining.world.tool import BUILT_TO_LENGTH

from ..finding import Finding, of_operation
from ..tools import other_tools, tool_name

TOUCHES = "{tool} stands out {has} and needs {needed}: its holder would touch, {short} too low."
TOUCHES_THERE = (
    "{tool} stands out {has} and needs {needed}: its holder would touch {what} at X {x}, Y {y},"
    " {short} too low."
)


def stick_out(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    spare, needed = op.figures.get("stick_out_spare"), op.figures.get("stick_out_needed")
    if spare is None or needed is None:
        return
    values = {
        "tool": tool_name(op),
        "has": length(op.loaded.stick_out_mm),
        "needed": length(needed.value),
    }
    if spare.value < -1e-6:
        yield of_operation(
            op,
            "reach.stick-out-short",
            "stop",
            TOUCHES if op.seen.in_way is None else TOUCHES_THERE,
            {**values, "short": length(-spare.value), **_there(op)},
            "stick_out_needed",
            tuple(longer(op, facts, float(ceil(needed.value)))),
        )
    elif op.tool.kind not in BUILT_TO_LENGTH:
        yield from _too_long(op, facts, values)


def _there(op: Ready) -> dict[str, Shown]:
    """What its holder would touch, and where."""
    met = op.seen.in_way
    if met is None:
        return {}
    x, y, _ = met.at
    what = met.name or "stock"
    return {
        "what": Shown(what if what[-1].isdigit() else f"the {what}"),
        "x": length(round(x, 1)),
        "y": length(round(y, 1)),
    }


def longer(op: Ready, facts: PlanFacts, out: float) -> Iterator[Proposal]:
    """Set it out to what is needed (mm), or take a tool that can be."""
    longest = op.value("stick_out_longest")
    if longest is None or out <= longest:
        edits = (Change(on=f"tool:{op.loaded.id}", fields={"stick_out_mm": out}),)
        yield Proposal("Set stick-out to {longer}", edits, {"longer": length(out)})
    corner = op.work.corner_radius if op.operation.kind == "finish_walls" else None
    yield from other_tools(
        op,
        facts,
        lambda tool: (
            tool.overall_length_mm - op.holder.grip_depth_mm >= out
            and (corner is None or tool.diameter_mm / 2.0 <= corner)
        ),
        out,
    )


def _too_long(op: Ready, facts: PlanFacts, values: dict[str, Shown]) -> Iterator[Finding]:
    """Told once of a tool, where it needs most."""
    loaded, tool = op.loaded, op.tool
    least = max(tool.flute_length_mm, tool.overall_length_mm - op.holder.deepest_mm)
    longest = loaded.stick_out_mm - facts.library.settings.stick_out_spare_mm
    if longest <= ceil(least):
        return
    everywhere = [o for o in facts.operations() if o.loaded and o.loaded.id == loaded.id]
    needed = [v for o in everywhere if (v := o.value("stick_out_needed")) is not None]
    most = max(needed, default=0.0)
    could = float(ceil(max(most, least)))
    if longest <= could:
        return
    if op is not _first_of(everywhere, most):
        return
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
