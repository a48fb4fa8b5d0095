"""size.floor-pass: a floor with a tolerance that a roughing cut leaves as it is."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready
from machining.facts.size import floor_lift
from machining.plan.edit import AddOperation, Change
from machining.plan.operation import FinishFloor, RoughPocket
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown, length

from ..finding import Finding, of_operation
from ..sizes import places_of

FLOOR_LEFT_MM = 0.2


def floor_pass(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    kind, places = op.operation, places_of(op)
    if not isinstance(kind, RoughPocket) or not places or kind.leave_floor_mm > 0:
        return
    asked = [
        r
        for r in facts.plan.part.requirements
        if r.feature in places and "depth" in r.what.casefold() and r.band_mm > 0
    ]
    every = facts.operations()
    if not asked or any(
        other.operation.kind == "finish_floor" and places_of(other) & places
        for other in every[every.index(op) + 1 :]
    ):
        return
    each_way, lifted = min(r.band_mm for r in asked) / 2.0, floor_lift(op)
    if lifted is None or lifted <= facts.library.settings.push_off_share * each_way:
        return
    floor = FinishFloor(
        id=f"{kind.id[:40]}floor",
        tool=kind.tool,
        on=kind.on,
        depth_mm=FLOOR_LEFT_MM,
        step_over_mm=round(0.5 * op.tool.diameter_mm, 2),
    )
    at = [each.id for each in op.setup.planned.operations].index(kind.id) + 1
    edits = (
        Change(on=f"operation:{kind.id}", fields={"leave_floor_mm": FLOOR_LEFT_MM}),
        AddOperation(setup=op.setup.planned.id, operation=floor, index=at),
    )
    yield of_operation(
        op,
        "size.floor-pass",
        "look",
        "Heavy roughing pulls tool and spindle {lifted} along the axis; {what} asks {tolerance}"
        " each way.",
        {
            "lifted": Shown(lifted, "size"),
            "what": Shown(asked[0].what),
            "tolerance": Shown(each_way, "size"),
        },
        "side_force",
        (Proposal("Leave {left} and finish the floor", edits, {"left": length(FLOOR_LEFT_MM)}),),
    )
