"""A setup cut with what is offered there, as far as there are tools."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace

from machining.facts.context import PlanFacts, SetupFacts
from machining.plan.apply import apply
from machining.plan.edit import AddOperation, Edit
from machining.plan.operation import Drill, MillHole
from machining.quantities.errors import MachiningError
from machining.ways.offers import each_offer
from machining.ways.offers.bench import Offer
from machining.ways.offers.by_hand import BY_HAND, EDGES

from .route import Bench, Offered, Route

MOST = 80  # operations of a setup


def cut(route: Route, bench: Bench) -> Route:
    """The last setup with every operation that is offered at its stations and not refused, in the
    order of the offers.
    """
    setup = route.plan.setups[-1].id
    for _ in range(MOST):
        facts = bench.walk(route.plan)
        seen = next(each for each in facts.setups if each.id == setup)
        found = next(_wanted(seen, facts, route, bench), None)
        if found is None:
            return route
        offered, edits = found
        try:
            after = apply(route.plan, edits)
            bench.walk(after)
        except MachiningError:
            route = replace(route, refused=route.refused | {offered})
        else:
            route = replace(route, plan=after, of={**route.of, **_added(edits, offered)})
    return route


def _wanted(
    seen: SetupFacts, facts: PlanFacts, route: Route, bench: Bench
) -> Iterator[tuple[Offered, Sequence[Edit]]]:
    """Something the part needs, with a tool, that was not tried in vain. Holes are milled that no
    drill could do.
    """
    undrilled = {(e.station, e.group) for e in route.refused if e.label.startswith(Drill.VERB)}
    for station in seen.stations:

        def wanted(offer: Offer, at: str = station.id) -> bool:
            return (
                bool(offer.tool)
                and (not offer.rare or ((at, offer.group) in undrilled and _mills(offer)))
                and offer.group not in (BY_HAND, EDGES)
                and Offered(at, offer.group, offer.label) not in route.refused
            )

        for offer in each_offer(station, facts, bench.fresh, wanted):
            yield Offered(station.id, offer.group, offer.label), offer.edits


def _mills(offer: Offer) -> bool:
    added = offer.edits[-1]
    return isinstance(added, AddOperation) and isinstance(added.operation, MillHole)


def _added(edits: Sequence[Edit], offered: Offered) -> dict[str, Offered]:
    return {each.operation.id: offered for each in edits if isinstance(each, AddOperation)}
