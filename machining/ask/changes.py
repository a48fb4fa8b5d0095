"""Changes that may shorten a plan: cuts, orders, tools, loads, holdings. Whether one does is for a
plan to show in which it is made.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass
from functools import partial
from itertools import islice
from math import ceil
from typing import TypeAlias

from machining.evaluation import Evaluation
from machining.facts import times
from machining.facts.context import OperationFacts, PlanFacts, Ready, SetupFacts, StationFacts
from machining.facts.kinds import kind_of
from machining.facts.retract import retract_of
from machining.facts.route import walk
from machining.memo import Memo
from machining.ordering.in_setup import edits_to, held_to, problem_of
from machining.ordering.problem import Problem
from machining.ordering.reason import Reason
from machining.ordering.rules import reasons_of
from machining.ordering.runs import fewest
from machining.ordering.solve import solve
from machining.plan.apply import apply
from machining.plan.document import Plan
from machining.plan.edit import Change, Keep, MoveOperation, RemoveOperation, RemoveSetup
from machining.plan.trade import AnyEdit, Load
from machining.quantities.said import Said, Shown, length
from machining.ways.choices import Choice, choices
from machining.ways.fewer_tools import Merge, merges
from machining.ways.one_range import one_range
from machining.ways.takes_it import takes_it
from machining.world.library import Library

from .alone import changes_of, stops_nothing
from .more_parts import more_loads, spared_s

LEAST_S = 0.05  # of a part, over the batch: less is no saving
SHARED = "route.share-tool"
CHANGE_S, LOWER_S, HELD_S = 5.0, 2.0, 1.0  # of a part, about
PLAN, LONG = 2.0, 20.0  # as many operations as looking at a plan takes, and as a search for a cut
EFFORT = 0.1  # of the solver: an order found soon
MAYBE = 0.3  # of an operation, of ways whose cut was not searched for
MM3_IN_CM3, MINUTE_S = 1e3, 60.0
LOW_MM, SHORTER_MM = 5.0, 0.5
MOST_HELD = 3  # other things to hold a part in
KEPT_SHARP = "It finishes too then: a finisher that also roughs does not stay sharp as long."
LOW = (
    "Nothing that is known to stand there is higher. A hose, chips or a forgotten clamp are not"
    " known: watch it in the first run."
)


Made: TypeAlias = tuple[Said, Said, Sequence[AnyEdit]]


@dataclass(frozen=True, slots=True)
class Tried:
    """A change: ``of`` an operation or a setup by its id, of which the best of all is told; in
    one ``setup``, or in several where that is empty.
    ``hope`` is what it may save of a part (s), ``dear`` what it takes to try it, in operations that
    are worked out: those are tried first that promise most for that.
    ``made`` works the edits out where that takes a while: none where it comes to nothing. The hope
    may be ``reckoned``, or no more than a guess.
    """

    of: str
    hope: float
    setup: str
    said: Said
    because: Said
    edits: Sequence[AnyEdit] = ()
    made: Callable[[], Made | None] | None = None
    dear: float = PLAN + 1.0
    other_tool: bool = False
    reckoned: bool = False


def at_once(facts: PlanFacts, before: Evaluation) -> Iterator[Tried]:
    """What is known before all is listed: the best of the two cuts that take longest, with what
    they are cut with before other tools; more parts at a time, and nearer over the work, where the
    longest is.
    """
    longest = sorted(facts.operations(), key=lambda op: -op.time.cutting_s)[:2]
    cuts = [each for op in longest for each in _of_cut(op, facts)]
    yield from _best_of_each(each for each in cuts if not each.other_tool)
    for op in longest[:1]:
        yield from islice(_more(op.setup, facts, before), 1)
    yield from _best_of_each(each for each in cuts if each.other_tool)
    for op in longest[:1]:
        yield from _lower(op.setup, facts)


def _best_of_each(cuts: Iterable[Tried]) -> Iterable[Tried]:
    best = dict[str, Tried]()
    for each in cuts:
        if each.of not in best or each.hope > best[each.of].hope:
            best[each.of] = each
    return best.values()


def every(plan: Plan, facts: PlanFacts, before: Evaluation, memo: Memo) -> Iterator[Tried]:
    """All that may be tried."""
    for setup in facts.setups:
        yield from _order(setup, facts, _change_s(setup, before))
    for finding in before.open:
        if finding.id == SHARED:
            for fix in finding.fixes:
                if not any(isinstance(e, Keep | RemoveOperation | RemoveSetup) for e in fix.edits):
                    said = Said(fix.label, fix.values)
                    yield Tried(finding.key, CHANGE_S, finding.setup, said, Said(), fix.edits)
    yield from _cuts(facts)
    for setup in facts.setups:
        if setup.operations:
            yield from _more(setup, facts, before)
            yield from _lower(setup, facts)
        yield from _in_one_range(setup, facts)
    yield from _fewer_tools(facts, before, memo)
    yield from _shorter_tools(plan, facts, memo)
    for station in facts.stations:
        yield from _otherwise_held(station, facts)


def _cuts(facts: PlanFacts) -> Iterator[Tried]:
    for op in facts.operations():
        yield from _of_cut(op, facts)


def _of_cut(op: OperationFacts, facts: PlanFacts) -> Iterator[Tried]:
    for choice in choices(op, facts):
        if choice.edits and not choice.last and not choice.finer:
            said, hope = Said(choice.label, choice.values), _hope(op, choice)
            tool = _tool_of(op, choice)
            if _most_s(op, choice) > LEAST_S or _spares_changes(op, tool):
                yield Tried(
                    op.id,
                    hope,
                    op.setup.id,
                    said,
                    choice.because,
                    choice.edits,
                    other_tool=tool != op.operation.tool,
                    reckoned=choice.cut is not None,
                )


def _tool_of(op: OperationFacts, choice: Choice) -> str:
    """The tool it would be cut with."""
    changes = (each.fields for each in choice.edits if isinstance(each, Change))
    return next((str(each["tool"]) for each in changes if "tool" in each), op.operation.tool)


def _spares_changes(op: OperationFacts, tool: str) -> bool:
    """Is it another one that is in the spindle before it or after it?"""
    ops = op.setup.operations
    k = next(n for n, each in enumerate(ops) if each.id == op.id)
    beside = {ops[k - 1].operation.tool, ops[(k + 1) % len(ops)].operation.tool}
    return tool != op.operation.tool and tool in beside


def _hope(op: OperationFacts, choice: Choice) -> float:
    """By what a cut removes in a minute, where that is known; else a share of its time."""
    least_s = _least_s(op, choice)
    return MAYBE * op.time.cutting_s if least_s is None else op.time.cutting_s - least_s


def _most_s(op: OperationFacts, choice: Choice) -> float:
    """What nothing saves more than."""
    return op.time.total_s - (_least_s(op, choice) or 0.0)


def _least_s(op: OperationFacts, choice: Choice) -> float | None:
    """What a cut takes at least, by what it removes in a minute; None where that is not known."""
    if choice.cut is None or not isinstance(op, Ready):
        return None
    removed = op.before.volume() - op.after.volume()
    return removed / MM3_IN_CM3 / choice.cut.removal * MINUTE_S


def _order(setup: SetupFacts, facts: PlanFacts, change_s: float) -> Iterator[Tried]:
    """The shortest order, with habits kept and without; all positions with one tool, or one part
    after the other.
    """
    if len(setup.operations) > 2:
        free, reasons = problem_of(setup, facts), reasons_of(setup, facts)
        for about in ("order", "habits"):
            kept = [each for each in reasons if about == "order" or each.kind != "practice"]
            if about == "habits" and len(kept) == len(reasons):
                continue
            hope = min(change_s, _spared(held_to(free, setup, kept)) / times.parts(setup.planned))
            made = partial(_shorter, setup, facts, about == "order")
            said, dear = Said("A shorter order"), PLAN + 2.0 * len(setup.operations)
            of = (f"{setup.id}/{about}", hope, setup.id, said, Said(), ())
            yield Tried(*of, made, dear, reckoned=True)
    if any(station.positions > 1 for station in setup.planned.stations):
        other = "by part" if setup.planned.order == "by tool" else "by tool"
        words = {"by part": "One part after the other", "by tool": "Each tool at all parts"}
        change = Change(on=setup.on, fields={"order": other})
        said = Said(words[other])
        yield Tried(f"{setup.id}/by", CHANGE_S, setup.id, said, Said(), (change,))


def _spared(problem: Problem) -> float:
    """What no order spares more than, of a cycle (s); nothing where the reasons go round."""
    if problem.reached.diagonal().any():
        return 0.0
    return problem.seconds(range(problem.many)) - fewest(problem).least


def _shorter(setup: SetupFacts, facts: PlanFacts, habits_kept: bool) -> Made | None:
    """The shortest order; or that without habits, where it is shorter still."""
    free, reasons = problem_of(setup, facts), reasons_of(setup, facts)
    habits = [each for each in reasons if each.kind == "practice"]
    shortest = free.seconds(range(free.many))
    best = solve(held_to(free, setup, reasons), range(free.many), EFFORT)
    if not habits_kept:
        if not habits:
            return None
        shortest = min(shortest, best.seconds) if best.order is not None else shortest
        rest = [each for each in reasons if each.kind != "practice"]
        best = solve(held_to(free, setup, rest), range(free.many), EFFORT)
    if best.order is None or shortest - best.seconds <= LEAST_S:
        return None
    return _said(setup, [setup.operations[k].id for k in best.order], habits)


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


def _change_s(setup: SetupFacts, before: Evaluation) -> float:
    """What changes of tools take of one part (s)."""
    changes = next(each.changes_s for each in before.setups if each.id == setup.id)
    return changes / times.parts(setup.planned)


def _more(setup: SetupFacts, facts: PlanFacts, before: Evaluation) -> Iterator[Tried]:
    """More parts at a time."""
    for loads in more_loads(setup, facts.plan):
        edits = [Load(station=id, parts=parts) for id, parts in loads.items()]
        parts = max(loads.values())
        said = Said("{parts} parts at a time", {"parts": Shown(float(parts), "count")})
        hope = spared_s(loads, setup, facts, _change_s(setup, before))
        of = (f"{setup.id}/load", hope, setup.id, said, Said(), edits)
        yield Tried(*of, dear=2.0 * PLAN, reckoned=True)


def _lower(setup: SetupFacts, facts: PlanFacts) -> Iterator[Tried]:
    """Nearer over the work from cut to cut."""
    now = retract_of(setup, facts)
    if now <= LOW_MM or any(each.turns for each in setup.stations):
        return
    fields = {"retract_mm": LOW_MM}
    said = Said(
        "Go from cut to cut {low} over all that stands there, not {now}",
        {"low": length(LOW_MM), "now": length(now)},
    )
    change = Change(on=setup.on, fields=fields)
    dear = PLAN + len(setup.operations)
    yield Tried(f"{setup.id}/low", LOWER_S, setup.id, said, Said(LOW), (change,), dear=dear)


def _in_one_range(setup: SetupFacts, facts: PlanFacts) -> Iterator[Tried]:
    for way in one_range(setup, facts):
        said = Said("Cut all of it in the {range}", {"range": Shown(way.stays.name)})
        spared, dear = way.spared_s / times.parts(setup.planned), PLAN + len(way.edits)
        of = (f"{setup.id}/range", spared, setup.id, said, Said(), way.edits)
        yield Tried(*of, dear=dear, reckoned=True)


def _fewer_tools(facts: PlanFacts, before: Evaluation, memo: Memo) -> Iterator[Tried]:
    """One tool for the work of several: what that costs each operation is told with it. Of many
    those that stop nothing where each is done with it.
    """
    plan, setting_s = facts.plan, facts.library.settings.tool_s / facts.plan.quantity
    each_s = {each.id: _change_s(each, before) / max(changes_of(each), 1) for each in facts.setups}
    for machine in dict.fromkeys(each.machine for each in plan.tools):
        for merge in merges([each for each in plan.tools if each.machine == machine], facts):
            gone = ",".join(each.id for each in merge.gone)
            setups = {op.setup.id for op in merge.operations}
            hope = setting_s * len(merge.gone) + sum(
                each_s[each.id] * (changes_of(each) - changes_of(each, merge.instead))
                for each in facts.setups
            )
            made = None
            if len(merge.gone) > 1:
                made = partial(_together, merge, facts, before, memo)
                gone = machine
            said = Said(merge.said.label, merge.said.values)
            dull, dear = _dull(merge), PLAN + len(merge.operations)
            where = setups.pop() if len(setups) == 1 else ""
            of = (f"{gone}/tools", hope, where, said, dull, merge.edits)
            yield Tried(*of, made, dear, reckoned=True)


def _dull(merge: Merge) -> Said:
    return Said(KEPT_SHARP) if merge.dulls_a_finisher else Said()


def _together(merge: Merge, facts: PlanFacts, before: Evaluation, memo: Memo) -> Made | None:
    """The work of those that the tool does without a stop."""
    fit = [
        each
        for each in merge.gone
        if stops_nothing(apply(facts.plan, merge.only([each]).edits), facts, before, memo)
    ]
    if len(fit) < 2:
        return None
    found = merge.only(fit)
    return Said(found.said.label, found.said.values), _dull(found), found.edits


def _shorter_tools(plan: Plan, facts: PlanFacts, memo: Memo) -> Iterator[Tried]:
    """A tool no longer than its cuts need, and the heavier cut that it then bears."""
    for loaded in plan.tools:
        using = [
            op for op in facts.operations() if op.loaded is not None and op.loaded.id == loaded.id
        ]
        ready = [op for op in using if isinstance(op, Ready)]
        out = _shortest(ready) if len(ready) == len(using) else None
        if out is None or out > loaded.stick_out_mm - SHORTER_MM:
            continue
        shorter = Change(on=f"tool:{loaded.id}", fields={"stick_out_mm": out})
        for op in using:
            if kind_of(op.operation).roughs:
                made = partial(_heavier, op.id, shorter, plan, facts.library, memo)
                hope, said = MAYBE * op.time.cutting_s, _cut_shorter(op, out, Said())
                yield Tried(op.id, hope, op.setup.id, said, Said(), (), made, LONG)


def _shortest(using: Sequence[Ready]) -> float | None:
    """The stick-out (mm) that all its cuts need and its holder can be set to; None where that is
    not known.
    """
    needed = [op.value("stick_out_needed") for op in using]
    if not using or any(each is None for each in needed):
        return None
    tool, holder = using[0].tool, using[0].holder
    least = max(tool.flute_length_mm, tool.overall_length_mm - holder.deepest_mm)
    return float(ceil(max(least, *(each for each in needed if each is not None))))


def _heavier(id: str, shorter: Change, plan: Plan, library: Library, memo: Memo) -> Made | None:
    """The cut that takes most in a minute with its tool shorter."""
    facts = walk(apply(plan, [shorter]), library, memo)
    op = next(each for each in facts.operations() if each.id == id)
    cuts = [each for each in choices(op, facts) if each.edits and not each.last and each.cut]
    best = max(cuts, key=lambda each: _hope(op, each), default=None)
    if best is None:
        return None
    said = _cut_shorter(op, shorter.fields["stick_out_mm"], Said(best.label, best.values))
    return said, Said(), (shorter, *best.edits)


def _cut_shorter(op: OperationFacts, out: float, cut: Said) -> Said:
    values = {"tool": Shown(f"T{op.loaded.number}" if op.loaded else ""), "out": length(out)}
    text = "{tool} only {out} out of its holder, and a heavier cut"
    return Said(f"{text}: {cut.text}" if cut.text else text, {**cut.values, **values})


def _otherwise_held(station: StationFacts, facts: PlanFacts) -> Iterator[Tried]:
    """In something else that the shop has: it may close sooner, or let tools nearer."""
    held = station.planned.holding
    if held is None or not station.work:
        return
    known = {getattr(held, "item", "")}
    for offer in takes_it(station, facts):
        item = getattr(apply(facts.plan, offer.edits).station(station.id).holding, "item", "")
        if item in known:
            continue
        known.add(item)
        said = Said(offer.label, offer.values)
        named = f"{station.id}/hold"
        dear = PLAN + len(station.work)
        yield Tried(named, HELD_S, station.setup.id, said, Said(), offer.edits, dear=dear)
        if len(known) > MOST_HELD:
            return
