"""size.run-out: a tool that makes a size by its own width turns out of true in its holder."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready
from machining.facts.hole_size import drawn_hole
from machining.facts.size import tolerance_each_way
from machining.plan.edit import Change, LoadTool
from machining.plan.loading import loaded
from machining.plan.operation import Drill, Ream, Slot
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown

from ..finding import Finding, of_operation

BY_ITS_WIDTH = (Drill, Ream, Slot)
AS_WIDE_MM = 0.05  # what is drilled to be reamed or bored is narrower


def run_out(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    """What the indicator reads in one turn is what the hole or slot comes out wider."""
    if op.turns or not isinstance(op.operation, BY_ITS_WIDTH) or _wider(op.operation):
        return
    each_way, source = tolerance_each_way(op, facts)
    wider, band = op.holder.run_out_mm, 2.0 * each_way
    if wider <= facts.library.settings.push_off_share * band or not _makes_the_size(op, facts):
        return
    yield of_operation(
        op,
        "size.run-out",
        "stop" if wider > band else "look",
        "In {holder} the tool runs out by {run_out} and cuts so much wider; the tolerance is {band}"
        " wide ({source}).",
        {
            "holder": Shown(op.holder.name),
            "run_out": Shown(wider, "size"),
            "band": Shown(band, "size"),
            "source": Shown(source),
        },
        "",
        tuple(_truer(op, facts, facts.library.settings.push_off_share * band)),
    )


def _wider(operation: object) -> bool:
    return isinstance(operation, Slot) and operation.cuts != "width"


def _makes_the_size(op: Ready, facts: PlanFacts) -> bool:
    """Is it as wide as the drawing wants it, and no hole for another tool to come?"""
    drawn = drawn_hole(op, facts)
    return drawn is None or op.tool.diameter_mm > drawn - AS_WIDE_MM


def _truer(op: Ready, facts: PlanFacts, most: float) -> Iterator[Proposal]:
    """The same tool in a holder that runs true enough."""
    library = facts.library
    for assembly in library.assemblies.values():
        holder = library.holders.get(assembly.holder)
        if assembly.tool == op.tool.key and holder is not None and holder.run_out_mm <= most:
            new = loaded(facts.plan, op.machine.key, assembly, standing=op.machine.standing)
            use = Change(on=op.on, fields={"tool": new.id})
            words = {"name": Shown(assembly.name), "number": Shown(str(new.number))}
            yield Proposal("Load {name} as T{number}", (LoadTool(tool=new), use), words)
