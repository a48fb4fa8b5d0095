"""size.blend: walls finished from two sides that meet without going over each other."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import takewhile

from machining.facts.context import OperationFacts, PlanFacts, Ready
from machining.geometry.frames import opposite
from machining.plan.edit import Change
from machining.plan.operation import FinishWalls
from machining.plan.places import Outside
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown, length

from ..finding import Finding, keep, of_operation

MEET_MM, OVER_MM = 0.2, 0.5  # less than that over each other shows; what a finish goes over


def blend(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    on, up = op.operation.on, op.station.planned.orientation.up
    if not _finishes_outside(op) or not isinstance(on, Outside):
        return
    high = float(op.lie.part_high[2] - op.lie.part_low[2])
    for other in takewhile(lambda each: each is not op, facts.operations()):
        from_below = other.station.planned.orientation.up == opposite(up)
        if not from_below or not _finishes_outside(other):
            continue
        theirs = other.operation.on
        assert isinstance(theirs, Outside)
        over = on.depth_mm + theirs.depth_mm - high
        if not 0.0 <= round(over, 3) < MEET_MM:
            continue
        deeper = Change(
            on=op.on, fields={"on.depth_mm": round(high - theirs.depth_mm + OVER_MM, 2)}
        )
        yield of_operation(
            op,
            "size.blend",
            "look",
            "Its walls go {over} over those that setup {setup} finished from the other side: where"
            " they meet, what both setups are off stands as a step.",
            {"over": Shown(over, "size"), "setup": Shown(str(other.setup.number))},
            "",
            (
                Proposal("Go {over} over them", (deeper,), {"over": length(OVER_MM)}),
                keep(op, "size.blend", "a step may show there"),
            ),
        )
        return


def _finishes_outside(op: OperationFacts) -> bool:
    kind = op.operation
    return isinstance(kind, FinishWalls) and isinstance(kind.on, Outside) and kind.aim is None
