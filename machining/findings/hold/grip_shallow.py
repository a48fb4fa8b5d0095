"""hold.grip-shallow: a tall part levers itself out of a shallow grip."""

from __future__ import annotations

from collections.abc import Iterator
from math import ceil

from machining.facts import parallels
from machining.facts.context import PlanFacts, SetupFacts
from machining.plan.document import Holding
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import length

from ..finding import Finding, Severity

MIN_TIPPING_SHARE = 0.5


def grip_shallow(setup: SetupFacts, facts: PlanFacts) -> Iterator[Finding]:
    holding, needed = setup.planned.holding, setup.figures.get("grip_needed")
    if holding is None or needed is None:
        return
    has, field = (
        (holding.grip_depth_mm, "grip_depth_mm")
        if isinstance(holding, Holding)
        else (holding.grip_mm, "grip_mm")
    )
    if has >= needed.value - 1e-9:
        return
    deeper = ceil(needed.value * 2.0) / 2.0
    if setup.vise is not None:
        deeper = parallels.grip_at_least(setup.vise, deeper)
    severity: Severity = "stop" if has < MIN_TIPPING_SHARE * needed.value else "look"
    yield Finding(
        "hold.grip-shallow",
        severity,
        setup.planned.id,
        "",
        "The jaws grip {grip}; a part this tall asks for {needed}.",
        {"grip": length(has), "needed": length(needed.value)},
        needed.id,
        (
            Proposal(
                "Grip {deeper} deep",
                (Change(on=f"setup:{setup.planned.id}", fields={f"holding.{field}": deeper}),),
                {"deeper": length(deeper)},
            ),
        ),
    )
