"""Where the trade disagrees about an order: each side worked out, with its numbers."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import Any

from machining.evaluate import evaluate
from machining.evaluation import Evaluation, plain_said
from machining.facts.context import PlanFacts, SetupFacts
from machining.facts.facing import facings
from machining.facts.sharp import left_sharp_mm, treatment
from machining.findings.size.edges import broken_by
from machining.memo import Memo
from machining.ordering.in_setup import edits_to
from machining.plan.apply import EditRefused, apply
from machining.plan.document import Plan
from machining.plan.edit import Edit, RemoveOperation, SetPart
from machining.plan.operation import Chamfer
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
BY_HAND = (
    "Break edges by hand, not in operations {numbers}: about {hand} a part at the bench, beside the"
    " machine"
)
BY_MACHINE = (
    "Break the edges on the machine, in {count} operations more: about {hand} a part less at the"
    " bench"
)
MM_IN_M = 1000.0
SOME_MM3 = 0.5  # of what is left over
# edits, what it is, and whether it is told only where nothing stops it
Other = tuple[Sequence[Edit], Said, bool]


def others(facts: PlanFacts, setup: SetupFacts, before: Evaluation) -> list[Other]:
    """Facing first or last, edges broken by hand or on the machine: the one that is not planned."""
    return [*_faces(setup), *_edges(setup, facts, before)]


def school(
    other: Other, plan: Plan, library: Library, memo: Memo, before: Evaluation
) -> dict[str, Any] | None:
    """It as a plan of its own; None where it can't be done, or what the drawing asks for would be
    missing. ``stops`` are how many more there are then, ``looks`` what is new to look at.
    """
    edits, said, sound = other
    try:
        after = evaluate(apply(plan, edits), library, memo)
    except EditRefused:
        return None
    if after.left_mm3 > before.left_mm3 + SOME_MM3:
        return None
    known = {f.key for f in before.open}
    fresh = [f for f in after.open if f.key not in known]
    if sound and any(f.severity == "stop" for f in fresh):
        return None
    return {
        "said": plain_said(said),
        "one_part_s": after.one_part_s - before.one_part_s,
        "batch_s": after.batch_s - before.batch_s,
        "stops": sum(f.severity == "stop" for f in fresh),
        "looks": [plain_said(Said(f.message, f.values)) for f in fresh if f.severity != "note"],
        "edits": [each.model_dump(mode="json") for each in edits],
    }


def _edges(setup: SetupFacts, facts: PlanFacts, before: Evaluation) -> Iterator[Other]:
    """A setup's own broken edges by hand; after the last one, those by hand on the machine."""
    cuts = [op for op in setup.operations if isinstance(op.operation, Chamfer)]
    a_metre = facts.library.settings.deburr_s
    if cuts:
        long_mm = sum(op.path.way("cut") for op in cuts)
        numbers = ", ".join(str(op.number) for op in cuts)
        hand = Shown(long_mm / MM_IN_M * a_metre, "time")
        part = facts.plan.part.model_copy(update={"edges": "hand"})
        gone = [RemoveOperation(operation=op.id) for op in cuts]
        said = Said(BY_HAND, {"numbers": Shown(numbers), "hand": hand})
        yield [*gone, SetPart(part=part)], said, True
    worked = [each for each in facts.setups if each.operations]
    if not before.left and treatment(facts) == "hand" and worked and worked[-1] is setup:
        sharp = left_sharp_mm(facts, by_machine=False)
        for offer in broken_by(facts):
            hand = Shown(sharp / MM_IN_M * a_metre, "time")
            yield list(offer.edits), Said(BY_MACHINE, {**offer.values, "hand": hand}), True


def _faces(setup: SetupFacts) -> Iterator[Other]:
    """A face that comes first or last, at the other end of its station."""
    for each in facings(setup):
        if each.first or each.last:
            said = Said(LAST if each.first else FIRST, {"number": Shown(f"{each.op.number}")})
            yield edits_to(setup, each.order), said, False
