"""What could be cut next in a setup, each offer as ready edits with a fitting tool and starting
values.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import replace

from machining.facts import index
from machining.facts.context import PlanFacts, StationFacts
from machining.facts.roughed import same_place
from machining.facts.stand import Stand
from machining.plan.edit import AddOperation, Change
from machining.plan.operation import FinishFloor, FinishWalls, RoughOutside, RoughPocket
from machining.plan.places import OnFeatures
from machining.plan.turned import PartOff

from .bench import Bench, Offer
from .by_hand import BY_HAND, by_hand, edges
from .drawn_edges import drawn_edges
from .evenly_round import of_set, on_all, turned_sets
from .gentle import gentle
from .holes import holes
from .sides import outside, pockets, top
from .slanted import slanted
from .turned import turn_offers

FINISH_LEFT_MM = 0.3
Done = set[tuple[str, str]]  # kinds of operations, and features they are done on


def offers(seen: StationFacts, facts: PlanFacts, fresh: Callable[[], str]) -> list[Offer]:
    """Top, outside, pockets and holes that can be reached from this setup's spindle and are not
    planned yet; what is turned, and what driven tools cut from beside.
    """
    return list(each_offer(seen, facts, fresh, lambda _: True))


def each_offer(
    seen: StationFacts,
    facts: PlanFacts,
    fresh: Callable[[], str],
    wanted: Callable[[Offer], bool],
) -> Iterator[Offer]:
    """Of the `offers` those that are ``wanted``, one by one: what it asks of spindle and holding is
    only worked out for these.
    """
    bench = Bench(seen, facts, fresh)
    done: Done = {
        (op.kind, id)
        for setup in facts.plan.setups
        for op in setup.operations
        if isinstance(op.on, OnFeatures)
        for id in op.on.ids
    }
    if seen.turns:
        yield from (each for each in _before_a_spindle(bench, done, wanted) if wanted(each))
        return
    here: set[str] = {op.kind for op in seen.work if not isinstance(op.on, OnFeatures)}
    # what lies at an angle has no top or outside that is the part's
    level = seen.lie.up is not None
    found = [
        *(top(bench, here) if level else ()),
        *(outside(bench, here) if level else ()),
        *pockets(bench, done),
        *holes(bench, done),
        *slanted(bench, done),
        *(drawn_edges(bench, done, here) if level else ()),
        *(edges(bench, here) if level else ()),
        *by_hand(bench),
    ]
    left = (_leaves_something(offer, facts) for offer in found)
    from_above = [offer for offer in left if offer is not None]
    typed = [offer for offer in from_above if offer.group == BY_HAND]
    for offer in from_above[: len(from_above) - len(typed)]:
        if wanted(offer):
            yield gentle(offer, seen, facts)
    yield from _from_sides(bench, from_above, done, wanted)
    for offer in typed:
        if wanted(offer):
            yield gentle(offer, seen, facts)


def _before_a_spindle(bench: Bench, done: Done, wanted: Callable[[Offer], bool]) -> Iterator[Offer]:
    """What is turned, and what driven tools cut from beside before it is parted off."""
    turned = list(turn_offers(bench))
    last = [each for each in turned if each.group == BY_HAND or _parts_off(each)]
    yield from (each for each in turned if each not in last)
    yield from _from_sides(bench, [], done, wanted)
    yield from last


def _parts_off(offer: Offer) -> bool:
    added = offer.edits[-1]
    return isinstance(added, AddOperation) and isinstance(added.operation, PartOff)


def _from_sides(
    bench: Bench, found: list[Offer], done: Done, wanted: Callable[[Offer], bool]
) -> Iterator[Offer]:
    """Pockets and holes that the machine's axes turn to the tool in the same holding, each from the
    first side it is reached from.
    """
    seen, facts = bench.seen, bench.facts
    known = {each for offer in found for each in _of_features(offer)}
    for round_it in turned_sets(seen):
        for there, offer in of_set(bench, round_it, done):
            left = _leaves_something(offer, facts)
            if left is not None and wanted(left):
                yield on_all(gentle(left, there.seen, facts), round_it, bench)
        known |= {*round_it.ids}
    for side, turned in index.could_turn(seen):
        at = index.words(index.angles_of(seen, 0, turned) or {})
        lying = replace(seen, lie=index.turned_lie(seen, side), stand=Stand())
        called = f"{index.aim_words(seen, side).capitalize()}, {at}"
        there = Bench(lying, facts, bench.fresh, side, called)
        every = (*pockets(there, done), *holes(there, done), *slanted(there, done))
        fresh = [each for each in every if _of_features(each)]
        fresh = [e for e in fresh if known.isdisjoint(_of_features(e))]
        known |= {each for offer in fresh for each in _of_features(offer)}
        for offer in fresh:
            left = _leaves_something(offer, facts)
            if left is not None and wanted(left):
                yield gentle(left, lying, facts)


def _of_features(offer: Offer) -> set[str]:
    """The features of the part that an offer cuts."""
    added = offer.edits[-1]
    on = added.operation.on if isinstance(added, AddOperation) else None
    return set(on.ids) if isinstance(on, OnFeatures) else set()


def _leaves_something(offer: Offer, facts: PlanFacts) -> Offer | None:
    """A finish needs something left for it: not before the roughing, and after one that leaves
    nothing only with an allowance for it.
    """
    added = offer.edits[-1]
    if not isinstance(added, AddOperation) or not isinstance(
        added.operation, FinishWalls | FinishFloor
    ):
        return offer
    finish, field = (
        added.operation,
        "leave_mm" if isinstance(added.operation, FinishWalls) else "leave_floor_mm",
    )
    roughs = [
        op
        for setup in facts.plan.setups
        for op in setup.operations
        if isinstance(op, RoughOutside | RoughPocket) and same_place(op.on, finish.on)
    ]
    if not roughs:
        return None
    bare = [op for op in roughs if getattr(op, field, 0.0) <= 0]
    if len(bare) < len(roughs):
        return offer
    allowances = tuple(
        Change(on=f"operation:{op.id}", fields={field: FINISH_LEFT_MM})
        for op in bare
        if field in type(op).model_fields
    )
    return (
        replace(
            offer,
            label=f"{offer.label}, {FINISH_LEFT_MM:g} left for it",
            edits=(*allowances, *offer.edits),
        )
        if allowances
        else None
    )
