"""What would save most: changes to a plan, each worked out as a plan of its own."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import islice
from math import floor
from time import process_time
from typing import Any

from machining.evaluate import evaluate
from machining.evaluation import Evaluation, plain_said
from machining.facts.context import PlanFacts
from machining.facts.route import walk
from machining.memo import Memo
from machining.plan.apply import EditRefused, apply
from machining.plan.document import Plan
from machining.plan.edit import Change, Edit, LoadTool
from machining.quantities.said import Said, Shown
from machining.ways import trade
from machining.world.library import Library

from .alone import promised, stops
from .changes import LEAST_S, Tried, at_once, every
from .costs import costs_of
from .telling import Tell

ABOUT = 0.75  # of what one saves: what promises less is no more


def savings(
    plan: Plan,
    library: Library,
    memo: Memo,
    longest_s: float | None = None,
    most: int | None = None,
    tell: Tell = lambda share, doing, so_far: None,
) -> dict[str, Any]:
    """Changes that shorten the batch and stop nothing that is not stopped now, those that save most
    first; of each operation the best. With a limit to the processor's time (s) or to how many are
    tried what is left is not: so many are ``untried``. ``tell`` hears how far it is (share, words)
    and what was found so far.
    """
    before = evaluate(plan, library, memo)
    if before.problem or before.working:
        return {"rows": [], "tried": 0, "untried": 0}
    facts = walk(plan, library, memo)
    found = _first(facts, memo, before)
    best, tried = {each["of"]: each for each in found}, 0
    until = process_time() + longest_s if longest_s is not None else None
    offered = sorted(every(plan, facts, before, memo), key=lambda each: -each.hope / each.dear)
    for each in offered:
        if tried and ((until is not None and process_time() > until) or tried == most):
            break
        tried += 1
        least = best[each.of]["batch_s"] if each.of in best else 0.0
        row = _row(each, facts, memo, before, least)
        if row is not None:
            best[each.of] = row
        tell(tried / len(offered), _so_far(tried, len(offered)), _told(best, tried, offered))
    return _told(best, tried, offered)


def first_saving(plan: Plan, library: Library, memo: Memo) -> dict[str, Any]:
    """One of them that is found before all are looked for; how many there are is not known."""
    before = evaluate(plan, library, memo)
    known = not before.problem and not before.working
    rows = _first(walk(plan, library, memo), memo, before) if known else []
    return {"rows": rows, "tried": len(rows), "untried": 0}


def _first(facts: PlanFacts, memo: Memo, before: Evaluation) -> list[dict[str, Any]]:
    """The first row of what is known at once, if there is one."""
    found = (_row(each, facts, memo, before) for each in at_once(facts, before))
    return [*islice((row for row in found if row is not None), 1)]


def _told(best: dict[str, dict[str, Any]], tried: int, offered: list[Tried]) -> dict[str, Any]:
    rows = sorted(best.values(), key=lambda row: -row["batch_s"])
    return {"rows": rows, "tried": tried, "untried": len(offered) - tried}


def _so_far(tried: int, all: int) -> Said:
    return Said("{tried} of {all} tried", {"tried": Shown(f"{tried}"), "all": Shown(f"{all}")})


def _row(
    each: Tried, facts: PlanFacts, memo: Memo, before: Evaluation, least_s: float = 0.0
) -> dict[str, Any] | None:
    """What it saves, None where it saves no more of the batch than is known already, can't be done
    or would stop the plan.
    """
    plan, library = facts.plan, facts.library
    said, because, meant = each.said, each.because, each.edits
    try:
        if each.made is not None:
            made = each.made()
            if made is None:
                return None
            said, because, meant = made
        edits = trade.structural(plan, library, memo, meant)
        changed = apply(plan, edits)
    except EditRefused:
        return None
    about = promised(changed, facts, before, memo)
    if about is None or about <= ABOUT * least_s:
        return None
    after = evaluate(changed, library, memo)
    if after.problem or after.working or after.unknown > before.unknown:
        return None
    known = {f.key: f.severity for f in before.open}
    if stops(after.open, before):
        return None
    saved = before.batch_s - after.batch_s
    if saved <= max(LEAST_S * plan.quantity, least_s):
        return None
    looks = [f for f in after.open if f.severity == "look" and f.key not in known]
    return {
        "of": each.of,
        "setup": each.setup,
        "said": plain_said(said),
        "because": plain_said(because),
        "one_part_s": before.one_part_s - after.one_part_s,
        "batch_s": saved,
        "cost": _less_cost(plan, changed, library, memo),
        "pays_from": pays_from(edits, plan, saved, before.one_part_s - after.one_part_s),
        "looks": [plain_said(Said(f.message, f.values)) for f in looks],
        "each": _of_each(edits, before, after),
        "edits": [edit.model_dump(mode="json") for edit in edits],
    }


def _less_cost(plan: Plan, changed: Plan, library: Library, memo: Memo) -> float | None:
    """What the batch costs less, more where that is negative: edges that wear sooner may ask for
    more than the machine's time. None where its machines have no price.
    """
    machines = [library.machines.get(setup.machine) for setup in changed.setups]
    if not all(each is not None and each.hourly_cost > 0 for each in machines):
        return None
    before, after = (costs_of(walk(each, library, memo)) for each in (plan, changed))
    return before.known - after.known


def _of_each(edits: Sequence[Edit], before: Evaluation, after: Evaluation) -> list[dict[str, Any]]:
    """Where operations change tools: how much longer each takes (s), less where it is negative."""
    others = {
        each.on.removeprefix("operation:")
        for each in edits
        if isinstance(each, Change) and "tool" in each.fields
    }
    took = {op.id: op.time_s for each in before.setups for op in each.operations}
    return [
        {"operation": op.id, "number": op.number, "seconds": op.time_s - took[op.id]}
        for each in after.setups
        for op in each.operations
        if op.id in others and op.id in took
    ]


def pays_from(edits: Sequence[Edit], plan: Plan, saved: float, each: float) -> int | None:
    """From how many parts on a tool that is loaded for it is worth it, by what it takes to put it
    in and measure it; None where none is loaded.
    """
    once = each * plan.quantity - saved
    if not any(isinstance(edit, LoadTool) for edit in edits) or each <= 0:
        return None
    return max(floor(once / each) + 1, 1)
