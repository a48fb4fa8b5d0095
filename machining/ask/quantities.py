"""What a batch takes and costs, and what a part of it does at other quantities."""

from __future__ import annotations

from dataclasses import asdict
from math import log
from typing import Any

from machining.facts import ledger
from machining.facts.batch import shares
from machining.facts.flows import bottleneck, steps_of
from machining.facts.route import walk
from machining.memo import Memo
from machining.motion.flow import flow
from machining.plan.document import Plan
from machining.world.library import Library

from .costs import Costs, costs_of

# quantities beside the one that was ordered, for its curve
EVEN = (1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000, 5000)
AROUND = 10.0  # times fewer and more
BESIDE = 0.15  # of its logarithm: nearer to the one ordered it tells nothing more


def quantities(plan: Plan, library: Library, memo: Memo) -> dict[str, Any]:
    """Of the quantity that was ordered, what it costs and of what; of others from a tenth to ten
    times, seconds and cost of the batch, each as a plan of its own. ``at_once`` is the batch over
    several machines that work at the same time. ``whole`` says
    whether nothing of the cost is unknown.
    """
    curve = {n: _at(n, plan, library, memo) for n in around(plan.quantity)}
    costs = curve[plan.quantity]
    return {
        "parts": costs.plain(),
        "known": costs.known,
        "whole": costs.whole,
        "at_once": _at_once(plan, library, memo),
        "curve": [
            {"quantity": n, "batch_s": each.batch_s, "known": each.known}
            for n, each in curve.items()
        ],
    }


def _at_once(plan: Plan, library: Library, memo: Memo) -> dict[str, Any] | None:
    """The batch where every machine works as soon as it has parts; None where there is but one."""
    facts = walk(plan, library, memo)
    taken = shares(facts, {each.id: ledger.of_setup(each, facts) for each in facts.setups})
    steps = steps_of(facts, taken)
    if len({each.machine for each in steps}) < 2:
        return None
    runs = flow(steps, plan.quantity)
    working = [each for each in facts.setups if each.operations]
    return {
        "ends_s": max(each.ends_s for each in runs),
        "bottleneck": bottleneck(steps, plan.quantity),
        "runs": [
            {"setup": setup.id, "machine": step.machine, **asdict(run)}
            for setup, step, run in zip(working, steps, runs, strict=True)
        ],
    }


def around(ordered: int) -> list[int]:
    """The quantity that was ordered among others."""
    near = (n for n in EVEN if ordered / AROUND <= n <= ordered * AROUND)
    return sorted({n for n in near if abs(log(n / ordered)) > BESIDE} | {ordered})


def _at(quantity: int, plan: Plan, library: Library, memo: Memo) -> Costs:
    of = plan.model_copy(update={"quantity": quantity})
    return costs_of(walk(of, library, memo))
