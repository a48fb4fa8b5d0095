"""Other ways to a slot: a tool of its width, a smaller one beside its middle, or in loops."""

from __future__ import annotations

from typing import Literal

from machining.facts.at_hand import at_hand
from machining.facts.context import PlanFacts, Ready
from machining.facts.kinds import KINDS
from machining.facts.suits import suits_way
from machining.plan.base import FEED_TYPED, SPEED_TYPED
from machining.plan.edit import Change, Edit
from machining.plan.operation import Slot
from machining.quantities.said import Said
from machining.world.tool import Tool

from .choice import Choice, Question

Cuts = Literal["width", "walls", "loops"]
WAYS: tuple[tuple[Cuts, str], ...] = (
    ("width", "at the tool's own width"),
    ("walls", "its middle, then both walls"),
    ("loops", "in loops from wall to wall"),
)
DEEP_SHARE = 0.5  # of its tool a slot is cut deep at once
QUESTIONS = {
    "slot": Question(
        "a tool of its own width, a smaller one down its middle and along both walls, or in loops:"
        " what each asks of spindle and tool",
        "cuts",
    ),
}


def slot_choices(op: Ready, facts: PlanFacts) -> list[Choice]:
    """Each way with the tool in use, where that suits, else with the largest that does."""
    kind = op.operation
    if not isinstance(kind, Slot) or facts.material is None:
        return []
    return [_choice(op, kind, facts, cuts, words) for cuts, words in WAYS if cuts != kind.cuts]


def _choice(op: Ready, kind: Slot, facts: PlanFacts, cuts: Cuts, words: str) -> Choice:
    way, deep = kind.model_copy(update={"cuts": cuts}), op.work.top - op.work.floor

    def fits(tool: Tool) -> bool:
        return (
            tool.kind in KINDS["slot"].tools
            and tool.corner_radius_mm <= op.tool.corner_radius_mm
            and tool.usable_length_mm >= deep
            and suits_way(op, way, tool)
        )

    loads: tuple[Edit, ...] = ()
    loaded, tool = op.loaded, op.tool
    if not fits(tool):
        found = at_hand(facts, op.loaded.machine, fits, lambda each: each.diameter_mm)
        if found is None:
            return Choice(words, because=Said("No tool of the library does it that way."))
        loads, loaded, tool = found.loads, found.loaded, found.tool
    step = tool.flute_length_mm if cuts == "loops" else DEEP_SHARE * tool.diameter_mm
    fields: dict[str, object] = {
        "cuts": cuts,
        "tool": loaded.id,
        "step_down_mm": round(min(deep, step), 2),
        "ramp_deg": min(way.ramp_deg, tool.max_ramp_deg or way.ramp_deg),
        **dict.fromkeys((*SPEED_TYPED, *FEED_TYPED)),
    }
    return Choice(
        words,
        (*loads, Change(on=f"operation:{way.id}", fields=fields)),
        tool=f"T{loaded.number} {tool.name}{', loaded for it' if loads else ''}",
    )
