"""hold.grip-shallow: a tall part levers itself out of a shallow grip."""

from __future__ import annotations

from collections.abc import Iterator
from math import ceil

from machining.facts.context import PlanFacts, StationFacts
from machining.facts.holdings import kind_of
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import length

from ..finding import Finding, Severity

MIN_TIPPING_SHARE = 0.5


def grip_shallow(station: StationFacts, facts: PlanFacts) -> Iterator[Finding]:
    holding, needed = station.planned.holding, station.figures.get("grip_needed")
    if holding is None or needed is None:
        return
    kind = kind_of(holding)
    has = kind.gripped_mm(holding)
    if has >= needed.value - 1e-9:
        return
    deeper = ceil(needed.value * 2.0) / 2.0
    deeper = kind.deeper(station.item, deeper)
    severity: Severity = "stop" if has < MIN_TIPPING_SHARE * needed.value else "look"
    yield Finding(
        "hold.grip-shallow",
        severity,
        station.setup.id,
        "",
        kind.grips + " {grip}; a part this tall asks for {needed}.",
        {"grip": length(has), "needed": length(needed.value)},
        needed.id,
        (
            Proposal(
                "Grip {deeper} deep",
                (Change(on=station.on, fields={f"holding.{kind.depth}": deeper}),),
                {"deeper": length(deeper)},
            ),
        ),
    )
