"""Orders that practice keeps where the plan has them."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import combinations

from machining.facts.context import PlanFacts, StationFacts
from machining.facts.kinds import kind_of
from machining.findings.sizes import places_of
from machining.quantities.said import Said, Shown

from .reason import Reason, because

MUCH = 0.1  # of what a station takes away: less moves no part


def rough_first(station: StationFacts, facts: PlanFacts) -> Iterator[Reason]:
    """What takes much off lets the part move: nothing is to size before it."""
    taken = station.arrives.volume() - station.leaves.volume()
    for first, then in combinations(station.operations, 2):
        a, b = kind_of(first.operation), kind_of(then.operation)
        share = (first.before.volume() - first.after.volume()) / taken if taken > 0 else 0.0
        if share > MUCH and b.finishes and not a.finishes:
            values = {"first": Shown(f"{first.number}"), "share": Shown(share, "percent")}
            text = "Operation {first} takes {share} of the metal off: the part may move with it."
            yield Reason(first.id, then.id, "practice", Said(text, values))


def datum_first(station: StationFacts, facts: PlanFacts) -> Iterator[Reason]:
    """What is measured from a place is cut once that is there."""
    measured = {
        (each.datum, each.feature)
        for each in facts.plan.part.requirements
        if each.datum and each.feature
    }
    for first, then in combinations(station.operations, 2):
        if any(
            datum in places_of(first) and feature in places_of(then) for datum, feature in measured
        ):
            yield because(
                first, then, "practice", "It is measured from what operation {first} cuts."
            )
