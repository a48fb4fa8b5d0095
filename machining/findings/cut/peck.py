"""cut.peck: material and depth want the chip broken."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready
from machining.plan.edit import Change
from machining.plan.operation import Drill
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown

from ..finding import Finding, of_operation

LIGHT_METAL = 1.75  # light metals let a drill go deeper before its chips want breaking


def peck(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    if (
        not isinstance(op.operation, Drill)
        or op.operation.peck_mm is not None
        or facts.material is None
    ):
        return
    times = op.work.hole_depth / op.tool.diameter_mm
    limit = facts.library.settings.peck_from * (
        LIGHT_METAL if facts.material.iso_group == "N" else 1.0
    )
    if times <= limit:
        return
    step = round(op.tool.diameter_mm, 1)
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
