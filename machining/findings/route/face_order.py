"""route.face-late, route.face-first: facing last or first, and what the other way takes."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, SetupFacts
from machining.facts.facing import Facing, facings
from machining.plan.edit import MoveOperation
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown

from ..finding import Finding

FIRST = (
    "Operation {number} faces first. Faced last, {takes}, and the face stays free of burrs and"
    " marks; but holes then start on what is not faced yet."
)
LATE = (
    "Operation {number} faces after {before} others. Faced first, {takes}, and what is measured and"
    " drilled from the face is true; but the burrs of the others stay on it."
)
LEAST_S = 1.0  # of a cycle, from which the other end is worth a word


def face_order(setup: SetupFacts, facts: PlanFacts) -> Iterator[Finding]:
    """A late face is told with what it costs to come first; one that comes first only where a
    range or a tool is changed once more for it.
    """
    if any(op.waits for op in setup.operations):
        return
    for facing in facings(setup):
        spared = facing.spared_s(setup, facts)
        if facing.first and spared < LEAST_S:
            continue
        more = "more" if spared < 0 else "less"
        values = {
            "number": Shown(str(facing.op.number)),
            "seconds": Shown(abs(spared), "time"),
            "before": Shown(float(_before(facing)), "count"),
        }
        much = f"{{seconds}} {more}" if abs(spared) >= LEAST_S else "as long"
        sentence = FIRST if facing.first else LATE
        yield Finding(
            "route.face-first" if facing.first else "route.face-late",
            "note",
            setup.id,
            facing.op.id,
            sentence.replace("{takes}", f"a cycle takes {much}"),
            values,
            "",
            (_moved(setup, facing),),
        )


def _before(facing: Facing) -> int:
    """How many of its station come before it."""
    return facing.op.station.operations.index(facing.op)


def _moved(setup: SetupFacts, facing: Facing) -> Proposal:
    move = MoveOperation(
        operation=facing.op.id, setup=setup.id, index=facing.order.index(facing.op.id)
    )
    words = "Face last" if facing.first else "Face first"
    return Proposal(words, (move,), {})
