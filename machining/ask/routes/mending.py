"""Stops of a route mended by fixes that keep their word; what can't be mended goes, and is told."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from machining.evaluate import evaluate
from machining.evaluation import Evaluation
from machining.facts.context import OperationFacts, PlanFacts
from machining.facts.kinds import kind_of
from machining.facts.observed import NOTHING_MM3
from machining.facts.titles import title
from machining.findings.finding import Finding
from machining.plan.apply import EditRefused, apply
from machining.plan.document import Plan
from machining.plan.edit import Keep, RemoveOperation, RemoveSetup
from machining.plan.proposal import Proposal
from machining.plan.turned import TurnThread
from machining.quantities.said import Said, Shown, length

from ..schools import SOME_MM3
from ..trying import is_worse, keeps_its_word
from .route import Bench, Missed, Route, Step, stops_of

LESS = "Hold it in the {item}: so there is less to be looked at about how it is held."
OF_A_STATION = ("hold.", "travel.table-size", "size.datum-sawn")
MOST_LOOKS = 6  # that are tried to be mended
MOST_TRIED, OF_ONE = 12, 3  # fixes of a setup, and of one of its stops


def mended(route: Route, told: Evaluation, bench: Bench) -> tuple[Route, Evaluation]:
    """With the first fix of each stop that keeps its word, as far as there is one, and the answer
    it has then.
    """
    hopeless, until = set(route.stopped), bench.tried + MOST_TRIED
    while bench.tried < until:
        stop = next((each for each in stops_of(told) if each.key not in hopeless), None)
        if stop is None:
            break
        found = _fixed(stop, route.plan, told, bench)
        if found is None:
            hopeless.add(stop.key)
        else:
            fix, told = found
            route = replace(route, plan=apply(route.plan, fix.edits))
    return route, told


def with_less_to_look_at(route: Route, told: Evaluation, bench: Bench) -> tuple[Route, Evaluation]:
    """With fixes of what is to be looked at about how the part is held and found, where the plan
    then has less to be looked at; what such a fix stops is mended first.
    """
    for look in [each for each in told.open if _is_of_station(each)][:MOST_LOOKS]:
        if look.key not in {each.key for each in told.open}:
            continue
        for fix in [each for each in look.fixes if not gives_up(each)][:OF_ONE]:
            found = None if bench.spent else _with_fix(route, fix, look, told, bench)
            if found is not None and found[1].count("look") < told.count("look"):
                route, told = _with_reason(found[0], route.plan, bench), found[1]
                break
    return route, told


def _with_reason(route: Route, before: Plan, bench: Bench) -> Route:
    """With why what holds a part is another now than before."""
    was = {each.id: getattr(each.holding, "item", "") for each in before.stations}
    now = {each.id: getattr(each.holding, "item", "") for each in route.plan.stations}
    items = {f"s{id.removeprefix('st')}": now[id] for id in now if now[id] != was.get(id)}
    steps = list[Step]()
    for each in route.steps:
        item = bench.library.holdings.get(items.get(each.setup, ""))
        if item is not None:
            why = Said(LESS, {"item": Shown(item.name)})
            each = replace(each, item=item.key, because=(*each.because[:-1], why))
        steps.append(each)
    return replace(route, steps=tuple(steps))


def _with_fix(
    route: Route, fix: Proposal, look: Finding, before: Evaluation, bench: Bench
) -> tuple[Route, Evaluation] | None:
    """With a fix, and with fixes of what it stops; None where the look stays, something is stopped
    or unknown that was not, or more is left over the part: what it stops may have been taken out.
    """
    if not _leaves_others(fix, route.plan, bench):
        return None
    plan = apply(route.plan, fix.edits)
    after, told = mended(replace(route, plan=plan), bench.evaluate(plan), bench)
    stays = look.key in {each.key for each in told.open}
    if (
        stays
        or is_worse(told, before)
        or _left_mm3(after, bench) > _left_mm3(route, bench) + SOME_MM3
    ):
        return None
    return after, told


def _left_mm3(route: Route, bench: Bench) -> float:
    return evaluate(route.plan, bench.library, bench.memo, to_its_end=True).left_mm3


def _is_of_station(finding: Finding) -> bool:
    """Is it to be looked at, about how a part is held, where that stands, or what its zero is
    found by?
    """
    return finding.severity == "look" and finding.id.startswith(OF_A_STATION)


def _fixed(
    stop: Finding, plan: Plan, before: Evaluation, bench: Bench
) -> tuple[Proposal, Evaluation] | None:
    for fix in [each for each in stop.fixes if not gives_up(each)][:OF_ONE]:
        if not _leaves_others(fix, plan, bench):
            continue
        after = keeps_its_word(fix, stop, plan, before, bench.evaluate)
        if after is not None:
            return fix, after
    return None


def _leaves_others(fix: Proposal, plan: Plan, bench: Bench) -> bool:
    """Does it change nothing of setups that were there before?"""
    try:
        return bench.keeps(apply(plan, fix.edits))
    except EditRefused:
        return False


def gives_up(fix: Proposal) -> bool:
    """Does it take out what stops, or leave it and say so?"""
    return any(isinstance(edit, RemoveOperation | RemoveSetup | Keep) for edit in fix.edits)


def without_stops(route: Route, stops: Sequence[Finding], bench: Bench) -> Route | None:
    """Without the operations of its last setup that are still stopped, and what is done after
    them at their places; None where there are none. What is offered instead is taken next.
    """
    setup, facts = route.plan.setups[-1], bench.walk(route.plan)
    stopped = {each.operation: each for each in reversed(stops) if each.setup == setup.id}
    wrong = [op for op in facts.operations() if op.id in stopped]
    if not wrong:
        return None
    refused = {route.of[op.id] for op in wrong if op.id in route.of}
    gone, places = {op.id for op in wrong}, set[tuple[str, str]]()
    for each in setup.operations:
        offered = route.of.get(each.id)
        if offered is not None and each.id in gone:
            places.add(offered[:2])
        elif offered is not None and offered[:2] in places:
            gone.add(each.id)
    missed = [
        Missed(
            named(op, facts),
            Said(stopped[op.id].message, stopped[op.id].values),
            getattr(op.operation.on, "ids", ()),
        )
        for op in wrong
    ]
    return replace(
        route,
        plan=apply(route.plan, [RemoveOperation(operation=id) for id in sorted(gone)]),
        missed=(*route.missed, *missed),
        refused=route.refused | refused,
    )


def without_air(route: Route, bench: Bench) -> Route:
    """Without the operations of its last setup that meet no metal; threads leave none, and may
    stay.
    """
    setup, facts = route.plan.setups[-1], bench.walk(route.plan)
    air = [
        op.id
        for op in facts.operations()
        if op.setup.id == setup.id and _takes_nothing(op) and not _is_thread(op)
    ]
    if not air:
        return route
    return replace(
        route,
        plan=apply(route.plan, [RemoveOperation(operation=id) for id in air]),
        refused=route.refused | {route.of[id] for id in air if id in route.of},
    )


def _takes_nothing(op: OperationFacts) -> bool:
    if op.seen.cut_mm3 is None:
        return op.after is op.before
    return op.seen.cut_mm3 <= NOTHING_MM3


def _is_thread(op: OperationFacts) -> bool:
    return isinstance(op.operation, TurnThread) or bool(kind_of(op.operation).needs_hole)


def named(op: OperationFacts, facts: PlanFacts) -> Said:
    verb, detail, sizes = title(op, facts)
    return Said(f"{verb} {detail}".strip(), {name: length(mm) for name, mm in sizes.items()})
