"""reach.slot-width, size.pulled-slot: a slot of its tool's own width that nothing finishes."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from machining.facts import size
from machining.facts.context import OperationFacts, PlanFacts
from machining.facts.suits import suits_way
from machining.plan.edit import Change
from machining.plan.operation import Slot
from machining.plan.places import OnFeatures, Rectangle
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown, length
from machining.world.tool import Tool

from ..finding import Finding, keep, of_operation
from ..tools import corner_fits, other_tools, tool_name

MAY_STAND_OFF = "the slot may stand off by that"
PULLED = (
    "{tool} cuts the slot of {slot} at its own width: it is pulled towards one wall. Rough it"
    " smaller, then finish both walls."
)
PULLED_BY = PULLED.replace("pulled", "pulled {pull}")


def slot_width(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    if isinstance(op.operation, Slot):
        yield from _pulled(op, facts)
        return
    if (
        op.operation.kind not in ("rough_pocket", "finish_walls")
        or op.kit is None
        or not isinstance(op.operation.on, OnFeatures | Rectangle)
    ):
        return
    narrow = size.narrow_mm(op, facts)
    if (
        narrow is None
        or op.kit.tool.diameter_mm < size.SLOT_SHARE * narrow
        or op.kit.tool.diameter_mm > narrow + 1e-6
    ):
        return
    places = _features(op)
    later = [
        other
        for other in facts.operations()
        if other.number > op.number
        and other.operation.kind == "finish_walls"
        and places & _features(other)
    ]

    fits = lambda tool: tool.diameter_mm <= 0.8 * narrow and corner_fits(op, tool)  # noqa: E731
    fixes = tuple(other_tools(op, facts, fits, None))
    values = {"tool": tool_name(op), "slot": length(narrow)}
    if later:
        yield of_operation(
            op,
            "reach.slot-width",
            "look",
            "{tool} is as wide as the slot, {slot}: nothing is left to finish its walls with.",
            values,
            "",
            fixes,
        )
        return
    pull = op.value("slot_pull")
    yield of_operation(
        op,
        "size.pulled-slot",
        "look",
        PULLED if pull is None else PULLED_BY,
        values if pull is None else {**values, "pull": Shown(pull, "size")},
        "slot_pull",
        fixes,
    )


def _pulled(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """A slot that is meant to be as wide as its tool, where it is pulled by more than is asked."""
    pull, (asked, _) = op.value("slot_pull"), size.tolerance_each_way(op, facts)
    if pull is not None and pull > asked:
        yield of_operation(
            op,
            "size.pulled-slot",
            "look",
            "{tool} is pulled {pull} towards one wall of the slot; {asked} each way is asked for.",
            {"tool": tool_name(op), "pull": Shown(pull, "size"), "asked": Shown(asked, "size")},
            "slot_pull",
            (*_beside_its_middle(op, facts), keep(op, "size.pulled-slot", MAY_STAND_OFF)),
        )


def _beside_its_middle(op: OperationFacts, facts: PlanFacts) -> Iterator[Proposal]:
    """A smaller tool that cuts both walls after the middle."""
    way = op.operation.model_copy(update={"cuts": "walls"})
    deep = op.work.wall_height if op.work is not None else 0.0

    def fits(tool: Tool) -> bool:
        return tool.usable_length_mm >= deep and suits_way(op, way, tool)

    for other in other_tools(op, facts, fits, None):
        beside = Change(on=f"operation:{op.operation.id}", fields={"cuts": "walls"})
        yield replace(
            other, label=f"{other.label}: its middle, then both walls", edits=(*other.edits, beside)
        )


def _features(op: OperationFacts) -> frozenset[str]:
    return (
        frozenset(op.operation.on.ids) if isinstance(op.operation.on, OnFeatures) else frozenset()
    )
