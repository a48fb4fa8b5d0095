"""Where the trade disagrees about an order: each side worked out, with its numbers."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from machining.evaluate import evaluate
from machining.evaluation import Evaluation, plain_said
from machining.facts.context import SetupFacts
from machining.facts.facing import facings
from machining.memo import Memo
from machining.ordering.in_setup import edits_to
from machining.plan.apply import apply
from machining.plan.document import Plan
from machining.quantities.said import Said, Shown
from machining.world.library import Library

FIRST = (
    "Face first, operation {number}: what is measured and drilled from it is true, and every hole"
    " starts on a flat face"
)
LAST = (
    "Face last, operation {number}: the face is clean of burrs and marks, and a range that only it"
    " turns in is changed once"
)


def schools(
    plan: Plan, library: Library, memo: Memo, setup: SetupFacts, before: Evaluation
) -> list[dict[str, Any]]:
    """Facing first or last: the one that is not planned, as a plan of its own. ``stops`` and
    ``looks`` are how many more there are then, ``looks_said`` the new ones.
    """
    found = []
    for new, said in _faces(setup):
        edits = edits_to(setup, new)
        after = evaluate(apply(plan, edits), library, memo)
        known = {f.key for f in before.open}
        fresh = [f for f in after.open if f.key not in known]
        found.append(
            {
                "said": plain_said(said),
                "one_part_s": after.one_part_s - before.one_part_s,
                "batch_s": after.batch_s - before.batch_s,
                "stops": sum(f.severity == "stop" for f in fresh),
                "looks": [
                    plain_said(Said(f.message, f.values)) for f in fresh if f.severity != "note"
                ],
                "edits": [each.model_dump(mode="json") for each in edits],
            }
        )
    return found


def _faces(setup: SetupFacts) -> Iterator[tuple[list[str], Said]]:
    """A face that comes first or last, at the other end of its station."""
    for each in facings(setup):
        if each.first or each.last:
            said = LAST if each.first else FIRST
            yield each.order, Said(said, {"number": Shown(f"{each.op.number}")})
