"""travel.aim: a side that the machine's axes can't turn to the tool."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts import index
from machining.facts.context import PlanFacts, Ready
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown
from machining.world.rotary_axis import RotaryAxis

from ..finding import Finding, of_operation


def aim(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    side = op.operation.aim
    if op.aimed is None or side is None:
        return
    place, looks = op.rig.place, index.side_of(op)
    if index.way(place, looks) is not None:
        return
    beyond = [
        (axis, to)
        for way in index.ways(place, looks)
        for axis, to in way.to
        if not _reaches(axis, to)
    ]
    if beyond:
        why = "The part's {side} asks for a tilt of {tilt}; {machine} tilts from {low} to {high}."
    elif op.rig.turns_to_sides and not place.turning:
        why = "{machine} tilts its head with {axes}; to the part's {side} its tool does not come."
    elif op.rig.turns_to_sides:
        why = "{machine} turns its work with {axes}; the part's {side} does not come to the tool."
    else:
        why = (
            "{machine} turns its work to no other side; the part's {side} does not come to the"
            " tool."
        )
    values = {
        "machine": Shown(op.machine.name),
        "side": Shown(index.aim_words(op.station, side)),
        "tilt": Shown(index.angle(op), "angle"),
        "axes": Shown(" and ".join(each.name for each in op.rig.place.rotaries)),
    }
    if beyond:
        values["low"] = Shown(beyond[0][0].low_deg, "angle")
        values["high"] = Shown(beyond[0][0].high_deg, "angle")
    upright = Proposal("Cut it from the side that is up", (Change(on=op.on, fields={"aim": None}),))
    yield of_operation(op, "travel.aim", "stop", why, values, "", (upright,))


def _reaches(axis: RotaryAxis, to: float) -> bool:
    return axis.low_deg <= to <= axis.high_deg
