"""hold.slips: friction of both jaws against the largest force of a worn edge."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready
from machining.facts.holdings import kind_of
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown, length

from ..finding import Finding, of_operation


def slips(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    factor, held, item = op.figures.get("holding"), op.station.planned.holding, op.station.item
    asked = facts.library.settings.holding_factor
    if factor is None or held is None or item is None or factor.value >= asked:
        return
    if "jaw_at_speed" in op.figures:
        return  # speed takes a share of it: a rule of its own
    kind = kind_of(held)
    fixes = list(kind.tighten(op, held, item, asked))
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
        kind.stands + " {factor} the cutting force of a worn edge; {asked} is asked for.",
        {"factor": Shown(factor.value, "factor"), "asked": Shown(asked, "factor")},
        "holding",
        tuple(fixes),
    )
