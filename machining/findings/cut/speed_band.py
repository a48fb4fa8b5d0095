"""cut.speed-band: a cutting speed outside the band of the material's data."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready
from machining.plan.base import SPEED_TYPED
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown

from ..finding import Finding, of_operation


def speed_band(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    speed, data = op.value("cutting_speed"), op.data
    if speed is None or data is None or data.speed_low * 0.999 <= speed <= data.speed_high * 1.001:
        return
    typed = [name for name in SPEED_TYPED if getattr(op.operation, name, None) is not None]
    if not typed:  # a limit of machine or tool, not the planner's choice
        return
    edit = Change(on=f"operation:{op.operation.id}", fields=dict.fromkeys(typed))
    yield of_operation(
        op,
        "cut.speed-band",
        "look",
        "{speed} lies outside {low} to {high} for this material; say why, or follow the data.",
        {
            "speed": Shown(speed, "cutting_speed"),
            "low": Shown(data.speed_low, "cutting_speed"),
            "high": Shown(data.speed_high, "cutting_speed"),
        },
        "cutting_speed",
        (Proposal("Follow the material's data", (edit,)),),
    )
