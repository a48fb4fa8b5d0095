"""How else an operation could be cut: each other way as ready edits."""

from __future__ import annotations

from machining.facts.context import OperationFacts, PlanFacts, Ready

from . import finish, holes, rough, slopes, slots, turned
from .choice import Choice, Question
from .finish import finish_choices
from .holes import hole_choices
from .rough import rough_choices
from .slopes import slope_choices
from .slots import slot_choices
from .turned import turn_choices

__all__ = [
    "QUESTIONS",
    "Choice",
    "choices",
    "finish_choices",
    "hole_choices",
    "rough_choices",
    "slope_choices",
    "slot_choices",
    "turn_choices",
]

# of each kind of operation that has other ways
QUESTIONS: dict[str, Question] = {
    **rough.QUESTIONS,
    **finish.QUESTIONS,
    **holes.QUESTIONS,
    **turned.QUESTIONS,
    **slopes.QUESTIONS,
    **slots.QUESTIONS,
}
KINDS_OF_CHOICE = (
    rough_choices,
    finish_choices,
    hole_choices,
    turn_choices,
    slope_choices,
    slot_choices,
)


def choices(op: OperationFacts, facts: PlanFacts) -> list[Choice]:
    """What the operation's kind has to offer; empty where nothing."""
    if not isinstance(op, Ready):
        return []
    return next((found for kind in KINDS_OF_CHOICE if (found := kind(op, facts))), [])
