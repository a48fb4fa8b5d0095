"""What would save most: changes to a plan, each worked out as a plan of its own."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from math import floor
from time import process_time
from typing import Any

from machining.evaluate import evaluate
from machining.evaluation import Evaluation, plain_said
from machining.facts.context import OperationFacts, PlanFacts, Ready, SetupFacts
from machining.facts.route import walk
from machining.memo import Memo
from machining.ordering.in_setup import edits_to, held_to, problem_of
from machining.ordering.reason import Reason
from machining.ordering.rules import reasons_of
from machining.ordering.solve import solve
from machining.plan.apply import EditRefused, apply
from machining.plan.document import Plan
from machining.plan.edit import (
    Change,
    Edit,
    Keep,
    LoadTool,
    MoveOperation,
    RemoveOperation,
    RemoveSetup,
)
from machining.plan.trade import AnyEdit, Load
from machining.quantities.said import Said, Shown
from machining.ways import trade
from machining.ways.choices import Choice, choices
from machining.world.library import Library

from .telling import Tell

LEAST_S = 0.05  # of a part, over the batch: less is no saving
MORE = (2, 4)  # times as many parts at a time
SHARED = "route.share-tool"
CHANGE_S = 5.0  # of a tool, about
EFFORT = 0.1  # of the solver: an order found soon
MAYBE = 0.3  # of an operation, of ways whose cut was not searched for
MM3_IN_CM3, MINUTE_S = 1e3, 60.0


@dataclass(frozen=True, slots=True)
class Tried:
    """A change: ``of`` an operation or a setup by its id, of which the best of all is told.
    ``hope`` is what it may save of a part (s), by which those are tried first that promise most.
    """

    of: str
    hope: float
    setup: str
    said: Said
    because: Said
    edits: Sequence[AnyEdit]


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
    offered = sorted(_every(plan, facts, before), key=lambda each: -each.hope)
    until = process_time() + longest_s if longest_s is not None else None
    best, tried = dict[str, dict[str, Any]](), 0
    for each in offered:
        if tried and ((until is not None and process_time() > until) or tried == most):
            break
        tried += 1
        row = _row(each, plan, library, memo, before)
        if (
            row is not None
            and row["batch_s"] > best.get(each.of, row | {"batch_s": 0.0})["batch_s"]
        ):
            best[each.of] = row
        tell(tried / len(offered), _so_far(tried, len(offered)), _told(best, tried, offered))
    return _told(best, tried, offered)


def _told(best: dict[str, dict[str, Any]], tried: int, offered: list[Tried]) -> dict[str, Any]:
    rows = sorted(best.values(), key=lambda row: -row["batch_s"])
    return {"rows": rows, "tried": tried, "untried": len(offered) - tried}


def _so_far(tried: int, all: int) -> Said:
    return Said("{tried} of {all} tried", {"tried": Shown(f"{tried}"), "all": Shown(f"{all}")})


def _row(
    each: Tried, plan: Plan, library: Library, memo: Memo, before: Evaluation
) -> dict[str, Any] | None:
    """What it saves, None where it saves nothing, can't be done or would stop the plan."""
    try:
        edits = trade.structural(plan, library, memo, each.edits)
        after = evaluate(apply(plan, edits), library, memo)
    except EditRefused:
        return None
    if after.problem or after.working or after.unknown > before.unknown:
        return None
    known = {f.key: f.severity for f in before.open}
    if any(f.severity == "stop" and known.get(f.key) != "stop" for f in after.open):
        return None
    saved = before.batch_s - after.batch_s
    if saved <= LEAST_S * plan.quantity:
        return None
    looks = [f for f in after.open if f.severity == "look" and f.key not in known]
    return {
        "of": each.of,
        "setup": each.setup,
        "said": plain_said(each.said),
        "because": plain_said(each.because),
        "one_part_s": before.one_part_s - after.one_part_s,
        "batch_s": saved,
        "pays_from": pays_from(edits, plan, saved, before.one_part_s - after.one_part_s),
        "looks": [plain_said(Said(f.message, f.values)) for f in looks],
        "edits": [edit.model_dump(mode="json") for edit in edits],
    }


def pays_from(edits: Sequence[Edit], plan: Plan, saved: float, each: float) -> int | None:
    """From how many parts on a tool that is loaded for it is worth it, by what it takes to put it
    in and measure it; None where none is loaded.
    """
    once = each * plan.quantity - saved
    if not any(isinstance(edit, LoadTool) for edit in edits) or each <= 0:
        return None
    return max(floor(once / each) + 1, 1)


def _every(plan: Plan, facts: PlanFacts, before: Evaluation) -> Iterator[Tried]:
    for setup in facts.setups:
        yield from _order(setup, facts)
    for finding in before.open:
        if finding.id == SHARED:
            for fix in finding.fixes:
                if not any(isinstance(e, Keep | RemoveOperation | RemoveSetup) for e in fix.edits):
                    said = Said(fix.label, fix.values)
                    yield Tried(finding.key, CHANGE_S, finding.setup, said, Said(), fix.edits)
    yield from _cuts(facts)
    for setup in facts.setups:
        if setup.operations:
            yield from _more(setup, plan)


def _cuts(facts: PlanFacts) -> Iterator[Tried]:
    for op in facts.operations():
        for choice in choices(op, facts):
            if choice.edits and not choice.last:
                said, hope = Said(choice.label, choice.values), _hope(op, choice)
                yield Tried(op.id, hope, op.setup.id, said, choice.because, choice.edits)


def _hope(op: OperationFacts, choice: Choice) -> float:
    """By what a cut removes in a minute, where that is known; else a share of its time."""
    cutting = op.time.cutting_s
    if choice.cut is None or not isinstance(op, Ready):
        return MAYBE * cutting
    removed = op.before.volume() - op.after.volume()
    return cutting - removed / MM3_IN_CM3 / choice.cut.removal * MINUTE_S


def _order(setup: SetupFacts, facts: PlanFacts) -> Iterator[Tried]:
    """The shortest order, with habits kept and without; all positions with one tool, or one part
    after the other.
    """
    if len(setup.operations) > 2:
        yield from _shorter(setup, facts)
    if any(station.positions > 1 for station in setup.planned.stations):
        other = "by part" if setup.planned.order == "by tool" else "by tool"
        words = {"by part": "One part after the other", "by tool": "Each tool at all parts"}
        change = Change(on=setup.on, fields={"order": other})
        said = Said(words[other])
        yield Tried(f"{setup.id}/by", CHANGE_S, setup.id, said, Said(), (change,))


def _shorter(setup: SetupFacts, facts: PlanFacts) -> Iterator[Tried]:
    """The shortest order; and that without habits, where it is shorter still."""
    free, reasons = problem_of(setup, facts), reasons_of(setup, facts)
    habits = [each for each in reasons if each.kind == "practice"]
    shortest = now = free.seconds(range(free.many))
    parts = max(station.positions for station in setup.planned.stations)
    for about, kept in (
        ("order", reasons),
        ("habits", [each for each in reasons if each.kind != "practice"]),
    ):
        if about == "habits" and not habits:
            return
        solved = solve(held_to(free, setup, kept), range(free.many), EFFORT)
        if solved.order is None or shortest - solved.seconds <= LEAST_S:
            continue
        shortest = solved.seconds
        new = [setup.operations[k].id for k in solved.order]
        said, because, edits = _said(setup, new, habits)
        hope = (now - shortest) / parts
        yield Tried(f"{setup.id}/{about}", hope, setup.id, said, because, edits)


def _said(
    setup: SetupFacts, new: Sequence[str], habits: Sequence[Reason]
) -> tuple[Said, Said, list[MoveOperation]]:
    """A new order in words, the first habit that it breaks, and its edits."""
    edits = edits_to(setup, new)
    number = {op.id: f"{op.number}" for op in setup.operations}
    moved = ", ".join(number[each.operation] for each in edits)
    said = Said("A shorter order: {moved} moved", {"moved": Shown(moved)})
    broken = [each for each in habits if new.index(each.first) > new.index(each.then)]
    if not broken:
        return said, Said(), edits
    habit, then = broken[0].said, Shown(number[broken[0].then])
    text = "Against a habit, for {then}: " + habit.text
    return said, Said(text, {**habit.values, "then": then}), edits


def _more(setup: SetupFacts, plan: Plan) -> Iterator[Tried]:
    """More parts at a time."""
    for times in MORE:
        edits: list[AnyEdit] = []
        for station in setup.planned.stations:
            parts = times * station.positions
            if parts <= plan.quantity:
                edits.append(Load(station=station.id, parts=parts))
        if edits:
            parts = times * setup.planned.stations[0].positions
            said = Said("{parts} parts at a time", {"parts": Shown(float(parts), "count")})
            yield Tried(f"{setup.id}/load", 0.0, setup.id, said, Said(), edits)
