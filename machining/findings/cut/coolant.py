"""cut.coolant: a coolant that the machine does not bring."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown

from ..finding import Finding, of_operation

WORDS = {"through": "coolant through the tool", "none": "dry cutting"}


def coolant(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    asked, has = op.operation.coolant, op.machine.coolant
    if asked in has or asked == "none":
        return
    fixes = tuple(
        Proposal(
            "Cut it with {other}",
            (Change(on=op.on, fields={"coolant": other}),),
            {"other": Shown(WORDS.get(other, other))},
        )
        for other in has
    )
    values = {
        "asked": Shown(WORDS.get(asked, asked)),
        "machine": Shown(op.machine.name),
        "has": Shown(", ".join(WORDS.get(each, each) for each in has)),
    }
    yield of_operation(
        op, "cut.coolant", "stop", "It asks for {asked}; {machine} has {has}.", values, "", fixes
    )
