"""cut.peck: material and depth want the chip broken."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready
from machining.facts.pecks import peck_wanted, times_deep
from machining.plan.edit import Change
from machining.plan.operation import Drill
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown

from ..finding import Finding, of_operation


def peck(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    step = peck_wanted(op, facts)
    if step is None or not isinstance(op.operation, Drill) or op.operation.peck_mm is not None:
        return
    assert facts.material is not None
    times = times_deep(op)
    yield of_operation(
        op,
        "cut.peck",
        "look",
        "{times} deep in {material} without a peck: chips pack in the flutes.",
        {"times": Shown(times, "factor"), "material": Shown(facts.material.name)},
        "",
        (
            Proposal(
                "Peck every {step}",
                (Change(on=f"operation:{op.operation.id}", fields={"peck_mm": step}),),
                {"step": Shown(step, "length")},
            ),
        ),
    )
