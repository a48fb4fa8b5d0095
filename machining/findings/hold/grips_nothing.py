"""hold.grips-nothing: a jaw that touches nothing of the part when an operation is done."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready
from machining.facts.held import untouched
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown

from ..finding import Finding, of_operation
from .firmer import deeper


def grips_nothing(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    jaws = untouched(op)
    if not jaws:
        return
    text = "With its cut done the {jaw} touches nothing of the part: nothing holds it."
    if len(jaws) > 1:
        text = "With its cut done no jaw touches the part: nothing holds it."
    values = {"jaw": Shown(jaws[0])}
    yield of_operation(op, "hold.grips-nothing", "stop", text, values, "", tuple(_fixes(op)))


def _fixes(op: Ready) -> Iterator[Proposal]:
    station, held = op.station, op.station.planned.holding
    if held is None:
        return
    if getattr(held, "shift_mm", 0.0):
        middle = Change(on=station.on, fields={"holding.shift_mm": 0.0})
        yield Proposal("Put it in the middle of the jaws", (middle,))
    yield from deeper(op)
