"""Two plans of the same part side by side: what each takes, costs and asks for, from which quantity
on one is the better, and what is otherwise.
"""

from __future__ import annotations

from collections.abc import Callable, Collection
from typing import Any

from machining.evaluate import evaluate
from machining.evaluation import Evaluation, plain_said
from machining.facts.context import PlanFacts
from machining.facts.lacking import lacking
from machining.facts.route import walk
from machining.facts.times import parts
from machining.memo import Memo, digest
from machining.plan.document import Plan
from machining.world.library import Library

from .buying import plain
from .costs import Costs, breaks_of, costs_of
from .differences import differences
from .quantities import around

NOTHING_CUT = "One of them cuts nothing yet: there is nothing to compare."
MOST = 100_000  # parts, up to which a quantity is looked for


def compare(plan: Plan, library: Library, memo: Memo, other: dict[str, Any]) -> dict[str, Any]:
    """``other`` against this plan; both at the quantities of this one, so that they are told on the
    same terms. Break-evens are the least quantity from which on the one that is behind for a
    single part is ahead, None where it never is.
    """
    second = Plan.model_validate(other)
    plans = (plan, second.model_copy(update={"quantity": plan.quantity}))
    seen = [evaluate(each, library, memo) for each in plans]
    problem = next((each.problem for each in seen if each.problem), "")
    if not problem and not all(any(s.operations for s in each.setups) for each in plans):
        problem = NOTHING_CUT
    keys = [digest(library.key, each.model_dump_json(exclude={"quantity"})) for each in plans]

    def at(side: int, quantity: int) -> Costs:
        of = plans[side].model_copy(update={"quantity": quantity})
        key = ("costs", keys[side], quantity)
        return memo.get(key, lambda: costs_of(walk(of, library, memo)))

    costs = [Costs(0.0) if problem else at(side, plan.quantity) for side in (0, 1)]
    told: dict[str, Any] = {
        "sides": [
            _side(*each, None if problem else walk(each[0], library, memo))
            for each in zip(plans, seen, costs, strict=True)
        ],
        "differences": [plain_said(each) for each in differences(plan, second, library)],
        "problem": problem,
        "curve": [],
        "sooner_from": None,
        "cheaper_from": None,
    }
    if problem:
        return told
    breaks = {n for each in plans for n in breaks_of(walk(each, library, memo))}
    told["curve"] = [
        {
            "quantity": n,
            "batch_s": [at(side, n).batch_s for side in (0, 1)],
            "known": [at(side, n).known for side in (0, 1)],
        }
        for n in around(plan.quantity, breaks)
    ]
    step = max((parts(setup) for each in plans for setup in each.setups), default=1)
    told["sooner_from"] = break_even(lambda side, n: at(side, n).batch_s, step)
    told["cheaper_from"] = break_even(lambda side, n: at(side, n).known, step, breaks=breaks)
    return told


def break_even(
    of: Callable[[int, int], float],
    step: int = 1,
    most: int = MOST,
    breaks: Collection[int] = (),
) -> dict[str, Any] | None:
    """From which quantity on the side that is behind for one part stays ahead: what a side takes is
    told by its number and a quantity, and goes up by so many parts at a time (``step``). It may go
    down at ``breaks``, and runs straight between them.
    """
    behind = 0 if of(0, 1) > of(1, 1) else 1

    def lead(quantity: int) -> float:
        return of(1 - behind, quantity) - of(behind, quantity)

    if lead(most) <= 0:
        return None
    ends = {end for each in breaks for end in (each - 1, each) if 1 < end < most}
    last = max((end for end in ends if lead(end) <= 0), default=1)
    return {"side": behind, "quantity": _ahead_from(lead, last, most, step)}


def _ahead_from(lead: Callable[[int], float], low: int, most: int, step: int) -> int:
    """Where a lead begins between one end where there is none and another. Where it runs straight
    it is found at once: it is looked for where a line between the ends would cross, and by halves
    where that is far off.
    """
    high = most
    at_low, at_high = lead(low), lead(high)
    straight = True
    while high - low > 1:
        crossing = low + (high - low) * (-at_low / (at_high - at_low))
        middle = round(crossing) if straight else (low + high) // 2
        middle, straight = min(max(middle, low + 1), high - 1), not straight
        here = lead(middle)
        if here > 0:
            high, at_high = middle, here
        else:
            low, at_low = middle, here
    sure = high
    while sure < high + step:  # a load that is not full may put it behind again
        if lead(sure) <= 0:
            high = sure + 1
        sure += 1
    return high


def _side(plan: Plan, seen: Evaluation, costs: Costs, facts: PlanFacts | None) -> dict[str, Any]:
    proving, every = seen.figures.get("plan.prove_out"), facts.operations() if facts else []
    special = {e.kit.tool.key for e in every if e.kit is not None and e.kit.tool.is_made_first}
    return {
        "machines": sorted({each.machine for each in plan.setups}),
        "setups": len(plan.setups),
        "operations": sum(len(each.operations) for each in plan.setups),
        "tools": len({op.tool for each in plan.setups for op in each.operations if op.tool}),
        "special": len(special),
        "buys": plain(lacking(facts)) if facts is not None else [],
        "elsewhere": len(plan.outside),
        "one_part_s": seen.one_part_s,
        "batch_s": seen.batch_s,
        "by_hand_s": seen.by_hand_s,
        "build_s": seen.build_s,
        "prove_out_s": proving.value if proving is not None else 0.0,
        "stops": seen.count("stop"),
        "looks": seen.count("look"),
        "unknown": seen.unknown,
        "left_mm3": seen.left_mm3,
        "known": costs.known,
        "whole": costs.whole,
    }
