"""A slope upright, or tilted with the rotary axes locked or live."""

from __future__ import annotations

from machining.facts.at_hand import at_hand
from machining.facts.context import PlanFacts, Ready
from machining.facts.kinds import KINDS
from machining.plan.base import FEED_TYPED, SPEED_TYPED
from machining.plan.edit import Change, Edit
from machining.plan.operation import (
    Slope,
)
from machining.quantities.said import Said
from machining.world.capability import tilting
from machining.world.tool import Tool

from .choice import Choice, Question

QUESTIONS = {
    "slope": Question(
        "upright in steps, tilted with the axes locked or live, where the table tilts", "schools"
    ),
}


def slope_choices(op: Ready, facts: PlanFacts) -> list[Choice]:
    """A slope upright in steps, tilted with the axes locked, and with them live; on a table that
    tilts.
    """
    kind = op.operation
    if not isinstance(kind, Slope) or tilting(op.rig) is None:
        return []
    found = []
    for words, axes in (
        ("upright, in steps", "upright"),
        ("tilted, axes locked", "locked"),
        ("tilted, axes live", "live"),
    ):
        if axes == kind.axes:
            continue
        kit = _slope_kit(kind.model_copy(update={"axes": axes}), op, facts)
        if kit is None:
            found.append(Choice(words, because=Said("No tool of the library does it so.")))
            continue
        loads, carries, name = kit
        fields: dict[str, object] = {"axes": axes, "tool": carries}
        if carries != op.loaded.id:
            fields |= dict.fromkeys((*SPEED_TYPED, *FEED_TYPED))
        found.append(
            Choice(words, (*loads, Change(on=f"operation:{kind.id}", fields=fields)), tool=name)
        )
    return found


def _slope_kit(
    wanted: Slope, op: Ready, facts: PlanFacts
) -> tuple[tuple[Edit, ...], str, str] | None:
    """The tool in use where it suits, else the one at hand: the edits that load it, its id and its
    name.
    """
    kind, work = KINDS["slope"], op.work

    def suits(tool: Tool) -> bool:
        return tool.kind in kind.tools and kind.unsuited(wanted, work, tool) is None

    if suits(op.tool):
        return (), op.loaded.id, f"T{op.loaded.number} {op.tool.name}"
    found = at_hand(facts, op.setup.planned.machine, suits)
    return (found.loads, found.loaded.id, found.name) if found else None
