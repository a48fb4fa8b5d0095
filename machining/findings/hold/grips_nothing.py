"""hold.grips-nothing: a jaw that touches nothing of the part when an operation is done."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready
from machining.facts.held import untouched
from machining.plan.clamped import Clamped
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown

from ..finding import Finding, of_operation
from .firmer import deeper


def grips_nothing(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    jaws = untouched(op)
    if not jaws:
        return
    text = "With its cut done {jaw} touches nothing of the part: nothing holds it."
    if isinstance(op.station.planned.holding, Clamped):
        text = "With its cut done {jaw} presses on nothing: what it held down is gone."
    elif len(jaws) > 1:
        text = "With its cut done no jaw touches the part: nothing holds it."
    what = jaws[0] if jaws[0].startswith("clamp") else f"the {jaws[0]}"
    values = {"jaw": Shown(what)}
    yield of_operation(op, "hold.grips-nothing", "stop", text, values, "", tuple(_fixes(op)))


def _fixes(op: Ready) -> Iterator[Proposal]:
    station, held = op.station, op.station.planned.holding
    if held is None:
        return
    if getattr(held, "shift_mm", 0.0):
        middle = Change(on=station.on, fields={"holding.shift_mm": 0.0})
        yield Proposal("Put it in the middle of the jaws", (middle,))
    yield from deeper(op)
