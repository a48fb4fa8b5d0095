"""Flats and holes round an axis, each turned to the tool: cut as one, changed as one."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from machining.facts import index
from machining.facts.context import StationFacts
from machining.facts.evenly_round import EvenlyRound, evenly_round
from machining.facts.stand import Stand
from machining.plan.edit import AddOperation
from machining.world.feature import is_round

from .bench import Bench, Offer
from .slanted import in_hole, over_face

Done = set[tuple[str, str]]


def turned_sets(seen: StationFacts) -> Iterator[EvenlyRound]:
    """Those of which all come to the tool in this holding."""
    for found in evenly_round(seen.geometry):
        if all(index.looks_up(seen, aim) or index.way_to(seen, aim) for _, aim in found.each):
            yield found


def of_set(bench: Bench, found: EvenlyRound, done: Done) -> Iterator[tuple[Bench, Offer]]:
    """What could be cut of all of them, of which none is cut so yet: an offer for the first, with
    the bench it was made at.
    """
    seen, first, (_, aim) = bench.seen, found.first, found.each[0]
    kinds = {kind for kind, id in done if id in found.ids}
    up = index.looks_up(seen, aim)
    lying = seen if up else replace(seen, lie=index.turned_lie(seen, aim), stand=Stand())
    there = Bench(lying, bench.facts, bench.fresh, None if up else aim)
    round_it = f"round {found.axis.upper()}"
    if is_round(first):
        deep = "through" if first.through else f"{first.length_mm:.4g} deep"
        group = f"{len(found.each)} holes Ø{first.diameter_mm:.4g} {deep}, {round_it}"
        offers = in_hole(there, group, first, kinds)
    else:
        across = f", {2.0 * found.out_mm:.4g} across" if len(found.each) % 2 == 0 else ""
        offers = over_face(there, f"{len(found.each)} flats {round_it}{across}", first.id, kinds)
    for offer in offers:
        yield there, offer


def on_all(offer: Offer, found: EvenlyRound, bench: Bench) -> Offer:
    """An offer for the first of them as one for all, changed together."""
    added = offer.edits[-1]
    if not isinstance(added, AddOperation):
        return offer
    name, own = bench.fresh(), added.operation
    every = []
    for k, (id, aim) in enumerate(found.each):
        fields = {
            "id": bench.fresh() if k else own.id,
            "like": name,
            "aim": None if index.looks_up(bench.seen, aim) else aim,
            "on": own.on.model_copy(update={"ids": (id,)}),
        }
        every.append(added.model_copy(update={"operation": own.model_copy(update=fields)}))
    return replace(offer, edits=(*offer.edits[:-1], *every))
