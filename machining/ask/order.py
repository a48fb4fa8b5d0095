"""Why a setup's operations come in the order they do, and which order takes less."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from math import inf
from typing import Any

from machining.evaluation import plain_said
from machining.facts.route import walk
from machining.memo import Memo
from machining.ordering.reason import Reason, direct
from machining.ordering.rules import reasons_of
from machining.ordering.solve import EFFORT
from machining.plan.document import Plan
from machining.quantities.errors import Missing
from machining.quantities.said import Said, Shown
from machining.world.library import Library

from .order_search import Room, Search
from .schools import others, school
from .telling import Tell

FURTHER = Room(40, 240, 2.0, EFFORT)  # where nobody waits
# operations up to which each order is held against the best there is, and that are worked out whole
# while somebody waits
FEW, WHOLE = 15, 36
TRYING = Said("The shortest order is looked for")


def order(plan: Plan, library: Library, memo: Memo, setup: str) -> dict[str, Any]:
    """The reasons for the order of a setup; the order that takes least between its operations and
    neither stops what is not stopped now nor brings anything to look at, as edits; and what pins
    and habits cost. A ``ring`` of reasons, or pins that are ``stuck`` among them, let no order be.
    ``further`` is how much there is that ``order_further`` would still work out. Raises Missing.
    """
    search = _searched(plan, library, memo, setup)
    found = _soon(search)
    open_still = found is not None and (found["gave_up"] or not found["proven"])
    more = len(others(search.facts, search.setup, search.before)) + open_still
    return {**_told(search, found, search), "further": more}


def order_further(
    plan: Plan,
    library: Library,
    memo: Memo,
    setup: str,
    tell: Tell = lambda share, doing, so_far: None,
) -> dict[str, Any]:
    """The same, searched on for longer than anybody waits where the shortest is not found soon; and
    the other sides of what the trade disagrees about, each a plan of its own. ``tell`` hears how
    far it is (share, words) and what was found so far. Raises Missing.
    """
    search = first = _searched(plan, library, memo, setup)
    tell(0.0, TRYING, {})
    found = _soon(search)
    other = others(search.facts, search.setup, search.before)
    if found is not None and (found["gave_up"] or not found["proven"]):
        known, rounds, many = found, FURTHER.orders, len(search.ids) > FEW
        room = FURTHER._replace(others=0.0) if many else FURTHER
        on = replace(search, ran_into=(), tried=0, none=False, ways=[], known={}, room=room)

        def hear(now: dict[str, Any]) -> None:
            share = on.tried / rounds / (1.0 + len(other))
            said = {"tried": Shown(f"{on.tried}"), "all": Shown(f"{rounds}")}
            doing = Said("{tried} of {all} orders worked out whole", said)
            tell(share, doing, _told(on, now | {"better": known["better"]}, first))

        if many and known["better"] is None:
            known = on.careful(hear)
        better = known["better"]
        search, found = on, on.best(hear, better["seconds"] if better else inf)
        found["better"] = _shorter(found["better"], better)
    schools = list[dict[str, Any]]()
    for k, each in enumerate(other):
        tell((k + 1.0) / (len(other) + 1.0), each[1], _told(search, found, first, schools))
        one = school(each, plan, library, memo, search.before)
        schools += [one] if one is not None else []
    return _told(search, found, first, schools)


def _shorter(one: dict[str, Any] | None, other: dict[str, Any] | None) -> dict[str, Any] | None:
    found = [each for each in (one, other) if each is not None]
    return max(found, key=lambda each: each["one_part_s"], default=None)


def _searched(plan: Plan, library: Library, memo: Memo, setup: str) -> Search:
    facts = walk(plan, library, memo)
    seen = next((each for each in facts.setups if each.id == setup), None)
    if seen is None:
        raise Missing("Setup", setup)
    return Search(
        plan, library, memo, facts, seen, reasons_of(seen, facts), _room(len(seen.operations))
    )


def _soon(search: Search) -> dict[str, Any] | None:
    """Found while somebody waits; None where no order can be."""
    if not search.may_be_ordered:
        return None
    return search.best() if len(search.ids) <= FEW else search.careful()


def _room(many: int) -> Room:
    """For an answer that is waited for: of many operations each order takes long to evaluate, and
    its proof long to find.
    """
    orders = min(WHOLE // max(many, 1), 8)
    return Room(orders, 60, EFFORT, EFFORT) if many <= FEW else Room(orders, 60, EFFORT / 10, 0.0)


def _told(
    search: Search,
    found: dict[str, Any] | None,
    first: Search,
    schools: Sequence[dict[str, Any]] = (),
) -> dict[str, Any]:
    """What a search found, with the prices that were worked out ``first``."""
    ring, reasons = search.ring, [*search.reasons, *search.ran_into]
    said = direct(reasons) if not ring else {(each.first, each.then) for each in reasons}
    return {
        "reasons": [
            {**_plain(each), "direct": (each.first, each.then) in said} for each in reasons
        ],
        "ring": [_plain(each) for each in ring],
        "none": search.none,
        "stuck": search.stuck,
        "tried": search.tried,
        "found": found,
        "prices": first.prices if found is not None else [],
        "schools": list(schools),
        "further": 0,
    }


def _plain(each: Reason) -> dict[str, Any]:
    return {
        "first": each.first,
        "then": each.then,
        "kind": each.kind,
        "said": plain_said(each.said),
    }
