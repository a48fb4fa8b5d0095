"""cut.range-change: belts or gears changed by hand inside a setup, and the order that
needs fewer.
"""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import OperationFacts, PlanFacts, SetupFacts
from machining.facts.times import cycles
from machining.plan.edit import Change, Edit, Keep, MoveOperation
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown
from machining.ways.one_range import one_range
from machining.world.spindle import Spindle

from ..finding import Finding

CHANGE = "Change the belt."
STAYS = "Cut all of it in the {range}"


def range_change(seen: SetupFacts, facts: PlanFacts) -> Iterator[Finding]:
    by_hand = next((each for each in _spindles(seen) if each.range_change_s > 0), None)
    if by_hand is None:
        return
    used = [
        (op, op.seen.spindle_range)
        for op in seen.operations
        if op.rig is not None
        and op.rig.spindle.id == by_hand.id
        and op.seen.spindle_range is not None
    ]
    changes = sum(a[1] != b[1] for a, b in zip(used, used[1:], strict=False))
    fewest = len({name for _, name in used}) - 1
    if changes and cycles(seen.planned, facts.plan.quantity) > 1:
        changes += used[-1][1] != used[0][1]  # back for the next part
        fewest += 1
    if changes == 0:
        return
    values = {
        "changes": Shown(float(changes), "count"),
        "seconds": Shown(changes * by_hand.range_change_s, "time"),
        "fewest": Shown(float(fewest), "count"),
    }
    moved = _together(used) if changes > fewest else None
    if moved is not None:
        edit: Edit = MoveOperation(
            operation=moved[0].operation.id, setup=seen.planned.id, index=moved[1]
        )
        fix = Proposal(
            "Move operation {number} beside what turns alike",
            (edit,),
            {"number": Shown(str(moved[0].number))},
        )
    else:
        last = next(a for a, b in zip(used, used[1:], strict=False) if a[1] != b[1])[0]
        written = (
            Change(on=f"operation:{last.operation.id}", fields={"stop_after": CHANGE}),
            Keep(on=f"setup:{seen.planned.id}", finding="cut.range-change", words=CHANGE),
        )
        fix = Proposal("Write the stop for the change", written, {})
    stays = [
        Proposal(STAYS, way.edits, {"range": Shown(way.stays.name)})
        for way in one_range(seen, facts)
    ]
    times = "{changes} times" if changes > 1 else "once"
    sentence = f"The range is changed by hand {times}, {{seconds}} of attendance" + (
        "; {fewest} would do." if changes > fewest else "."
    )
    fixes = (*stays, fix)
    yield Finding("cut.range-change", "look", seen.planned.id, "", sentence, values, "", fixes)


def _spindles(seen: SetupFacts) -> tuple[Spindle, ...]:
    return seen.machine.spindles if seen.machine is not None else ()


def _together(used: list[tuple[OperationFacts, str]]) -> tuple[OperationFacts, int] | None:
    """The first operation that stands alone between two of another range, and the place beside its
    like.
    """
    for k in range(1, len(used) - 1):
        op, name = used[k]
        if used[k - 1][1] != name and used[k + 1][1] != name:
            like = next((j for j in range(k + 1, len(used)) if used[j][1] == name), None)
            if like is not None:
                return op, like - 1
            before = next((j for j in range(k - 2, -1, -1) if used[j][1] == name), None)
            return op, before + 1 if before is not None else 0
    return None
