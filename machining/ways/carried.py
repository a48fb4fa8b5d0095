"""Ways to have a turned part carried further out than what grips it."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import Ready
from machining.facts.holdings import rests
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown
from machining.world.machine import SpindleNose

PRESS_N, SHARE = 1500.0, 0.5  # what a centre is pressed in with, and of the most it gives


def tailstock(op: Ready) -> Iterator[Proposal]:
    """With its centre in, where the machine has one, the end is free and has a hole for it."""
    held, nose = op.station.planned.rested, op.station.place
    if held is None or held.tailstock_n is not None or not isinstance(nose, SpindleNose):
        return
    if nose.tailstock_n is None or rests.at_its_end(op.operation):
        return
    if not rests.has_centre(op.before.half_section(), nose.centre_mm):
        return
    force = min(PRESS_N, SHARE * nose.tailstock_n)
    change = Change(on=op.station.on, fields={"holding.tailstock_n": force})
    yield Proposal("Put the tailstock in with {force}", (change,), {"force": Shown(force, "force")})
