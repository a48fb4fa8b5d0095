"""size.finish: the cusps of a ball over the roughness the drawing asks."""

from __future__ import annotations

from collections.abc import Iterator

from machining.cutting.finish import scallop_step
from machining.facts.context import PlanFacts, Ready
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown

from ..finding import Finding, of_operation
from ..sizes import places_of


def ball_finish(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    cusp, places = op.figures.get("scallop"), places_of(op)
    asked = min(
        (
            r.finish_um
            for r in facts.plan.part.requirements
            if r.finish_um is not None and (r.feature in places or not r.feature)
        ),
        default=None,
    )
    if cusp is None or asked is None or cusp.value * 1000.0 <= asked:
        return
    step = float(int(100 * scallop_step(op.tool.diameter_mm / 2.0, asked / 1000.0)) / 100) or 0.01
    yield of_operation(
        op,
        "size.finish",
        "look",
        "Passes {step} apart leave cusps of {cusp}; the drawing asks {asked}.",
        {
            "step": Shown(getattr(op.operation, "step_over_mm", 0.0), "size"),
            "cusp": Shown(cusp.value * 1000.0, "roughness"),
            "asked": Shown(asked, "roughness"),
        },
        "scallop",
        (
            Proposal(
                "Step over {step}",
                (Change(on=f"operation:{op.operation.id}", fields={"step_over_mm": step}),),
                {"step": Shown(step, "size")},
            ),
        ),
    )
