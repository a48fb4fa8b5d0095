"""What a batch takes and costs, and what a part of it does at other quantities."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Mapping
from dataclasses import asdict
from math import log
from typing import Any

from machining.facts import ledger
from machining.facts.batch import Share, shares, skipped_s
from machining.facts.context import PlanFacts
from machining.facts.flows import bottleneck, steps_of
from machining.facts.route import walk
from machining.facts.times import in_last_load
from machining.memo import Memo
from machining.motion.attended import attended, machines_for_one
from machining.motion.flow import Step
from machining.plan.document import Plan
from machining.world.library import Library

from .costs import Costs, breaks_of, costs_of

# quantities beside the one that was ordered, for its curve
EVEN = (1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000, 5000)
AROUND = 10.0  # times fewer and more
BESIDE = 0.15  # of its logarithm: nearer to the one ordered it tells nothing more


def quantities(plan: Plan, library: Library, memo: Memo) -> dict[str, Any]:
    """Of the quantity that was ordered, what it costs and of what; of others from a tenth to ten
    times, seconds and cost of the batch, each as a plan of its own. ``at_once`` is the batch over
    several machines that work at the same time, ``setups`` what somebody does at each of them.
    ``whole`` says whether nothing of the cost is unknown, ``no_dearer`` how many more cost no more.
    """
    facts = walk(plan, library, memo)
    breaks = breaks_of(facts)
    curve = {n: _at(n, plan, library, memo) for n in around(plan.quantity, breaks)}
    costs = curve[plan.quantity]
    taken = shares(facts, ledger.of_plan(facts))
    steps = steps_of(facts, taken)
    return {
        "parts": costs.plain(),
        "known": costs.known,
        "whole": costs.whole,
        "at_once": _at_once(facts, steps),
        "setups": [*_by_hand(facts, taken, steps)],
        "curve": [
            {"quantity": n, "batch_s": each.batch_s, "known": each.known}
            for n, each in curve.items()
        ],
        "no_dearer": _no_dearer(plan.quantity, breaks, curve),
    }


def _no_dearer(
    ordered: int, breaks: Collection[int], curve: Mapping[int, Costs]
) -> dict[str, Any] | None:
    """The least of more parts that cost no more in all, because a lower price begins there."""
    for n in sorted(each for each in curve if each > ordered and each in breaks):
        if curve[n].known <= curve[ordered].known:
            return {"quantity": n, "known": curve[n].known}
    return None


def _at_once(facts: PlanFacts, steps: list[Step]) -> dict[str, Any] | None:
    """The batch where every machine works as soon as it has parts and somebody who puts them in;
    None where there is but one.
    """
    machines = {each.machine for each in steps}
    if len(machines) < 2:
        return None
    quantity, people = facts.plan.quantity, facts.library.settings.people
    runs = attended(steps, quantity, people)
    more = attended(steps, quantity, len(machines)) if people < len(machines) else runs
    working = [each for each in facts.setups if each.operations]
    return {
        "ends_s": max(each.ends_s for each in runs),
        "people": people,
        "ends_with_enough_s": max(each.ends_s for each in more),
        "bottleneck": bottleneck(steps, quantity),
        "runs": [
            {"setup": setup.id, "machine": step.machine, **asdict(run)}
            for setup, step, run in zip(working, steps, runs, strict=True)
        ],
    }


def _by_hand(
    facts: PlanFacts, taken: Mapping[str, Share], steps: list[Step]
) -> Iterator[dict[str, Any]]:
    """Of each setup that has work: how long somebody is at it in a cycle of so many seconds, and
    how many machines like it one keeps running; sizes, edges, what is not known of them, and what
    the places of the last load that are empty take.
    """
    working = [each for each in facts.setups if each.operations]
    for setup, step in zip(working, steps, strict=True):
        share, busy = taken[setup.id], step.hand_s + step.beside_s
        each_s = max(step.each_s, busy)
        yield {
            "setup": setup.id,
            "each_s": each_s,
            "hand_s": busy,
            "machines": machines_for_one(each_s, busy),
            "holdings_there": share.built.standing,
            "tools_there": share.built.there,
            "holding_s": share.built.holding_s,
            "sizes": share.gauged.sizes,
            "sizes_later": share.gauged.later,
            "edges": share.worn.edges,
            "edges_unknown": share.worn.unknown,
            "last_load": in_last_load(setup.planned, facts.plan.quantity),
            "skipped_s": share.skipped,
            "would_skip_s": skipped_s(setup, ledger.of_setup(setup, facts), facts),
        }


def around(ordered: int, breaks: Collection[int] = ()) -> list[int]:
    """The quantity that was ordered among others, and those at which a price breaks."""
    near = {n for n in EVEN if ordered / AROUND <= n <= ordered * AROUND}
    near = {n for n in near if abs(log(n / ordered)) > BESIDE}
    return sorted(
        near | {n for n in breaks if ordered / AROUND <= n <= ordered * AROUND} | {ordered}
    )


def _at(quantity: int, plan: Plan, library: Library, memo: Memo) -> Costs:
    of = plan.model_copy(update={"quantity": quantity})
    return costs_of(walk(of, library, memo))
