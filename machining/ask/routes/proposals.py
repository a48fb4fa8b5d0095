"""Propose a route: whole plans of different character for a part, each worked out."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import Any

from machining.memo import Memo
from machining.plan.apply import apply
from machining.plan.document import Plan
from machining.quantities.errors import MachiningError
from machining.quantities.said import Said, Shown
from machining.ways.first_setup import with_usual_stock
from machining.world.capability import turns_work
from machining.world.library import Library
from machining.world.machine import Machine

from ..costs import costs_of
from ..finishing import finishing
from ..trying import EDITS
from .better import in_one_load, loaded, ordered
from .characters import Found, characters
from .onwards import onwards
from .plain import tidy, told
from .route import Bench, Route, stops_of

MOST_SETUPS = 6
# plans that are evaluated for a route, and for one after a whole one is known
MOST_TRIED, MOST_AFTER = 60, 20
Tell = Callable[[float, Said, dict[str, Any]], None]


def propose(
    plan: Plan,
    library: Library,
    memo: Memo,
    machines: list[str] | None = None,
    tell: Tell = lambda share, doing, so_far: None,
) -> dict[str, Any]:
    """Two to four whole plans where there are as many, each begun on another machine (of all, or
    of those named), with reasons, figures, and what could not be planned. Setups that are there
    stay as they are. ``tell`` hears how far it is (share, words) and what is proposed so far.
    Raises OutOfRange for a part that nothing is known of.
    """
    begun = apply(plan, with_usual_stock(plan, library.settings))
    bench = Bench(library, memo, taken=_ids(begun))
    before = bench.evaluate(begun)
    start = Route(
        begun,
        stopped=frozenset(each.key for each in stops_of(before)),
        unknown=before.unknown,
    )
    bench.walk(begun)  # raises what it lacks
    able = [each for each in library.machines.values() if not machines or each.key in machines]
    able.sort(key=lambda each: _rank(each, begun, library))
    found, none = list[Found](), list[str]()
    for k, machine in enumerate(able):
        if turns_work(machine) != begun.stock.TURNED and any(each.whole for each in found):
            break  # a bar is turned, and a block milled, where that goes
        share, doing = k / (len(able) + 1), Said("On {machine}", {"machine": Shown(machine.name)})
        tell(share, doing, told(characters(found, library), none, plan, bench))
        most = MOST_AFTER if any(each.whole for each in found) else MOST_TRIED
        one = _routed(start, machine, able, most, bench)
        if one is None:
            none.append(machine.name)
        elif all(one.route.plan != each.route.plan for each in found):
            found.append(one)
    tell(
        len(able) / (len(able) + 1),
        Said("The order of their operations"),
        told(characters(found, library), none, plan, bench),
    )
    picked = [_better(each, bench) for each in characters(found, library)]
    return told(characters(picked, library), none, plan, bench)


def _better(found: Found, bench: Bench) -> Found:
    """With its sides in one load, more parts at a time and another order, where that takes less."""
    if not found.whole:
        return found
    plan, answer = in_one_load(found.route.plan, found.told, bench)
    plan, answer = loaded(plan, answer, bench)
    plan, _ = ordered(plan, answer, bench)
    after = _found(found.machine, replace(found.route, plan=plan), bench)
    return after if after.whole else found


def _rank(machine: Machine, plan: Plan, library: Library) -> tuple[float, ...]:
    """Bars to lathes first, blocks to mills; the shop's first machine before the others."""
    turns = turns_work(machine) == plan.stock.TURNED
    return (not turns, machine.key != library.settings.first_machine)


def _ids(plan: Plan) -> frozenset[str]:
    return frozenset(
        [each.id for each in plan.tools]
        + [op.id for setup in plan.setups for op in setup.operations]
    )


def _routed(
    start: Route, machine: Machine, able: list[Machine], most: int, bench: Bench
) -> Found | None:
    """A route that begins on a machine, and goes on on others where it does no more; None where
    nothing is cut on it.
    """
    route = start
    others, until = [each for each in able if each is not machine], bench.tried + most
    for _ in range(MOST_SETUPS):
        tried = onwards(route, [machine], bench)
        if tried is None and len(route.plan.setups) > len(start.plan.setups):
            tried = onwards(route, others, bench)
        if tried is None or bench.tried > until:
            break
        route = tried.route
        if not bench.evaluate(route.plan, to_its_end=True).left:
            break
    if len(route.plan.setups) == len(start.plan.setups):
        return None
    route = _finished(route, bench)
    return _found(machine.key, replace(route, plan=tidy(route.plan, start.plan)), bench)


def _found(machine: str, route: Route, bench: Bench) -> Found:
    answer = bench.evaluate(route.plan, to_its_end=True)
    return Found(machine, route, answer, costs_of(bench.walk(route.plan)))


def _finished(route: Route, bench: Bench) -> Route:
    """With what would cut what still stands, as far as it brings no stop."""
    now = bench.evaluate(route.plan, to_its_end=True)
    if not now.left or now.left_mm3 <= 0:
        return route
    for row in finishing(route.plan, bench.library, bench.memo):
        for offer in row["offers"][:1]:
            try:
                after = apply(route.plan, EDITS.validate_python(offer["edits"]))
            except MachiningError:
                continue
            then = bench.evaluate(after, to_its_end=True)
            if len(stops_of(then)) <= len(stops_of(now)) and then.left_mm3 < now.left_mm3:
                route, now = replace(route, plan=after), then
    return route
