"""travel.aim: a side that the machine's axes can't turn to the tool."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready
from machining.facts.index import angle, can_turn
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown
from machining.world.stock.base import SIDE_WORDS

from ..finding import Finding, of_operation


def aim(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    side, table = op.operation.aim, op.machine.rotary
    if op.aimed is None or side is None or can_turn(op):
        return
    why = (
        "{machine} turns its work to no other side; the part's {side} does not come to the tool."
        if table is None
        else "The part's {side} asks for a tilt of {tilt}; {machine} tilts from {low} to {high}."
    )
    values = {
        "machine": Shown(op.machine.name),
        "side": Shown(SIDE_WORDS[side]),
        "tilt": Shown(angle(op), "angle"),
    }
    if table is not None:
        values["low"] = Shown(table.tilt_low_deg, "angle")
        values["high"] = Shown(table.tilt_high_deg, "angle")
    upright = Proposal("Cut it from the side that is up", (Change(on=op.on, fields={"aim": None}),))
    yield of_operation(op, "travel.aim", "stop", why, values, "", (upright,))
