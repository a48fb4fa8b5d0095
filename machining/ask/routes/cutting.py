"""A setup cut with what is offered there, as far as there are tools."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Sequence
from dataclasses import replace
from itertools import chain

from machining.facts.context import PlanFacts, SetupFacts
from machining.findings.reach.gouges import gouges
from machining.findings.travel.tool_size import tool_size
from machining.plan.apply import apply
from machining.plan.edit import AddOperation, Edit
from machining.plan.operation import Drill, MillHole
from machining.quantities.errors import MachiningError
from machining.quantities.said import Said
from machining.ways.offers import each_offer
from machining.ways.offers.bench import Offer
from machining.ways.offers.by_hand import BY_HAND, EDGES

from .mending import gives_up, named
from .route import Bench, Missed, Offered, Route

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
        added = _added(edits, offered)
        try:
            after = apply(route.plan, edits)
            missed = next(_hopeless(bench.walk(after), {*added}), None)
        except MachiningError:
            route = replace(route, refused=route.refused | {offered})
            continue
        if missed is None:
            route = replace(route, plan=after, of={**route.of, **added})
        else:
            gone = route.refused | {offered}
            route = replace(route, refused=gone, missed=(*route.missed, missed))
    return route


def _hopeless(facts: PlanFacts, added: Collection[str]) -> Iterator[Missed]:
    """What of operations just added cuts into the finished part, or with a tool that the machine
    does not take, and nothing helps.
    """
    for op in facts.ready():
        if op.id not in added:
            continue
        for found in chain(gouges(op, facts), tool_size(op, facts)):
            if found.severity == "stop" and all(gives_up(each) for each in found.fixes):
                why = Said(found.message, found.values)
                yield Missed(named(op, facts), why, getattr(op.operation.on, "ids", ()))


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
