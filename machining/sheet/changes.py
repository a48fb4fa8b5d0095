"""Changes of clamps between operations, as a setter does them at the machine."""

from __future__ import annotations

from typing import Any

from machining.drawing.clamps import change_drawing
from machining.facts.clamp_change import change_after, said
from machining.facts.context import PlanFacts, SetupFacts

from .written import Written

STOPPED = {
    "stop": (
        "Stop",
        "M0",
        "The machine stands till start is pressed; no switch leaves this stop out.",
    ),
    "prompt": (
        "Tool by hand",
        "T0",
        "The control asks for an empty spindle; go on only when every step is done.",
    ),
}


def changes(seen: SetupFacts, facts: PlanFacts, w: Written) -> dict[str, dict[str, Any]]:
    """By the operation after which they are made: how it is stopped, the steps, a picture."""
    found = {}
    for op in seen.operations:
        change = change_after(op)
        if change is None or not change.many:
            continue
        tag, code, words = STOPPED[facts.library.settings.clamp_stop]
        found[op.id] = {
            "tag": tag,
            "code": code,
            "words": words,
            "steps": [w.said_both(each) for each in said(change, op.station)],
            "picture": change_drawing(op, change, w.system),
        }
    return found
