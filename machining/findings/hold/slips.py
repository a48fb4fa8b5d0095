"""hold.slips: friction of both jaws against the largest force of a worn edge."""

from __future__ import annotations

from collections.abc import Iterator
from math import ceil

from machining.facts.context import PlanFacts, Ready
from machining.facts.holdings.vise import held_in
from machining.holding.grip import torque_for_factor
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown, length

from ..finding import Finding, of_operation


def slips(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    factor, held = op.figures.get("holding"), held_in(op.setup)
    asked = facts.library.settings.holding_factor
    if factor is None or held is None or factor.value >= asked:
        return
    vise = held[1]
    fixes = []
    torque = ceil(
        torque_for_factor(
            op.figures["worn_force"].value, asked, vise.friction, vise.force_per_torque
        )
    )
    if torque <= vise.max_torque_nm:
        edit = Change(
            on=f"setup:{op.setup.planned.id}", fields={"holding.torque_nm": float(torque)}
        )
        fixes.append(
            Proposal("Tighten to {torque}", (edit,), {"torque": Shown(float(torque), "torque")})
        )
    step = getattr(op.operation, "step_down_mm", None)
    if step is not None:
        lower = max(0.1, int(10 * step * factor.value / asked) / 10)
        fixes.append(
            Proposal(
                "Step down {step}",
                (Change(on=f"operation:{op.operation.id}", fields={"step_down_mm": lower}),),
                {"step": length(lower)},
            )
        )
    yield of_operation(
        op,
        "hold.slips",
        "stop",
        "The jaws stand {factor} the cutting force of a worn edge; {asked} is asked for.",
        {"factor": Shown(factor.value, "factor"), "asked": Shown(asked, "factor")},
        "holding",
        tuple(fixes),
    )
