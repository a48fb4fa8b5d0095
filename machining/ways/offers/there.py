"""What could be cut anywhere on the part's way, where it suits."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import replace

from machining.facts.context import PlanFacts, StationFacts
from machining.memo import digest
from machining.plan.edit import AddOperation
from machining.plan.operation import Operation
from machining.quantities.said import Shown

from . import offers
from .bench import Offer
from .by_hand import BY_HAND

Suits = Callable[[Operation, StationFacts], bool]


def offers_there(facts: PlanFacts, suits: Suits) -> Iterator[Offer]:
    """Offers with a tool at hand, station by station; ids follow from where they are, so that the
    same question gets the same answer.
    """
    for station in facts.stations:
        count = iter(range(1000))

        def fresh(at: str = station.id, count: Iterator[int] = count) -> str:
            return f"o{digest(facts.key, at, next(count))[:10]}"

        for offer in offers(station, facts, fresh):
            added = offer.edits[-1]
            if offer.group == BY_HAND or not offer.tool or not isinstance(added, AddOperation):
                continue
            if suits(added.operation, station):
                yield replace(
                    offer,
                    label="{what} in setup {setup} with {tool}",
                    values={
                        "what": Shown(offer.label),
                        "setup": Shown(str(station.setup.number)),
                        "tool": Shown(offer.tool),
                    },
                )
