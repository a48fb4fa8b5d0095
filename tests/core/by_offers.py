"""A part planned by taking the offers as they come, on both sides: what nobody looked at twice."""

from __future__ import annotations

from dataclasses import replace
from itertools import count

from machining.facts.route import walk
from machining.geometry.kernel import Examined
from machining.geometry.laid import laid
from machining.memo import Memo
from machining.plan.apply import apply
from machining.plan.document import Plan
from machining.plan.edit import Change
from machining.ways.first_setup import first_setup, turned_over
from machining.ways.offers import offers
from machining.ways.offers.bench import Offer
from machining.ways.offers.by_hand import BY_HAND
from machining.world.geometry import from_examined
from machining.world.library import Library
from machining.world.part import Part

from .build import LIBRARY

MOST = 40
NOT_DRAWN = {BY_HAND, "Edges"}


def planned(examined: Examined, key: str, memo: Memo) -> tuple[Plan, Library, list[str]]:
    """The plan, the library with its solid, and the offers taken in their order."""
    plan, library = begun(examined, key, memo)
    taken = list[str]()
    for place in (0, 1):
        if place:
            plan = _over(plan, library, memo)
        plan, more = all_taken(plan, library, memo, place)
        taken += more
    return plan, library, taken


def begun(
    examined: Examined, key: str, memo: Memo, material: str = "en-aw-6082"
) -> tuple[Plan, Library]:
    """A plan with its first setup, and the library with its solid."""
    geometry = from_examined(key, laid(examined))
    library = replace(LIBRARY, geometries={key: geometry})
    plan = Plan(material=material, quantity=5, part=Part(geometry=key))
    return apply(plan, [*first_setup(walk(plan, library, memo), "s1", "st1")]), library


def all_taken(plan: Plan, library: Library, memo: Memo, place: int) -> tuple[Plan, list[str]]:
    """The plan with what is offered at a place, and what that was."""
    fresh, taken = (f"o{place}n{k}" for k in count()).__next__, list[str]()
    for _ in range(MOST):
        facts = walk(plan, library, memo)
        found = [each for each in offers(facts.stations[place], facts, fresh) if _wanted(each)]
        if not found:
            break
        taken.append(f"{found[0].group}: {found[0].label}")
        plan = apply(plan, list(found[0].edits))
    return plan, taken


def _wanted(offer: Offer) -> bool:
    return bool(offer.tool) and not offer.rare and offer.group not in NOT_DRAWN


def _over(plan: Plan, library: Library, memo: Memo) -> Plan:
    """Turned over about X, held as it was."""
    held = plan.setups[0].stations[0].holding
    assert held is not None
    plan = apply(plan, [turned_over(walk(plan, library, memo), plan.setups[0], ("s2", "st2"), "x")])
    same = {"holding": held.model_dump(mode="json")}
    return apply(plan, [Change(on="station:st2", fields=same)])
