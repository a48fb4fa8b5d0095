"""Ways to hold a part more firmly: a deeper grip, a stop."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import Ready
from machining.facts.holdings import kind_of
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import length
from machining.ways.zeros import with_a_stop

MORE_MM = (1.0, 2.0, 4.0, 8.0)


def deeper(op: Ready) -> Iterator[Proposal]:
    """Of the grips there are a few, the least first."""
    station, held = op.station, op.station.planned.holding
    if held is None or station.item is None:
        return
    kind, seen = kind_of(held), set[float]()
    has, most = kind.gripped_mm(held), kind.longest_mm(station.item)
    for more in MORE_MM:
        grip = min(kind.deeper(station.item, has + more), most)
        if grip > has and grip not in seen:
            seen.add(grip)
            yield Proposal(
                "Grip {deeper} deep",
                (Change(on=station.on, fields={f"holding.{kind.depth}": grip}),),
                {"deeper": length(grip)},
            )


def stopped(op: Ready) -> Iterator[Proposal]:
    """At an end that the cut pushes to where it is weakest."""
    found, held = op.seen.held, op.station.planned.in_vise
    if found is None or found.towards is None or held is None:
        return
    along = 1 - "xy".index(held.fixed[1])
    for end, fix in zip(("low", "high"), with_a_stop(op.station), strict=False):
        if (found.towards[along] > 0.0) == (end == "high"):
            yield fix
