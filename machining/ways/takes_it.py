"""What of the shop could hold the part at a station."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, StationFacts
from machining.facts.holdings import KINDS
from machining.plan.proposal import Proposal


def takes_it(seen: StationFacts, facts: PlanFacts) -> Iterator[Proposal]:
    """All that could hold the part at a station."""
    if seen.machine is None or seen.place is None:
        return
    for kind in KINDS.values():
        if kind.fits(seen.machine, seen.place) is None:
            yield from kind.offers(seen, facts)
