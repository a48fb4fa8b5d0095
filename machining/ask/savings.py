"""What would save most: changes to a plan, each worked out as a plan of its own."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from functools import partial
from itertools import islice
from math import floor, inf
from time import process_time
from typing import Any

from machining.evaluate import evaluate
from machining.evaluation import Evaluation, plain_said
from machining.facts.context import PlanFacts
from machining.facts.lacking import Lacking, lacking
from machining.facts.route import walk
from machining.facts.totals import in_all
from machining.memo import Memo
from machining.plan.apply import EditRefused, apply
from machining.plan.document import Plan
from machining.plan.edit import Change, Edit, LoadTool
from machining.quantities.errors import MachiningError
from machining.quantities.said import Said, Shown
from machining.ways import trade
from machining.world.library import Library

from . import buying
from .abreast import abreast
from .alone import promised, stops
from .changes import LEAST_S, Tried, at_once, every
from .costs import costs_of
from .telling import Tell

SOUGHT = Said("What may be tried is looked for")
MOST_WAITING = 12  # that are told before they are tried
NOTHING: dict[str, Any] = {"rows": [], "tried": 0, "untried": 0, "waiting": []}
ABOUT = 0.75  # of what one saves: what promises less is no more


def savings(
    plan: Plan,
    library: Library,
    memo: Memo,
    longest_s: float | None = None,
    most: int | None = None,
    tell: Tell = lambda share, doing, so_far: None,
    hands: int = 1,
) -> dict[str, Any]:
    """Changes that shorten the batch and stop nothing that is not stopped now, those that save most
    first; of each operation the best. With a limit to the processor's time (s) or to how many are
    tried what is left is not: so many are ``untried``, and what they may save is ``waiting``.
    ``tell`` hears how far it is (share, words) and what was found so far. So many ``hands`` of this
    machine try at the same time.
    """
    now = _now(plan, library, memo)
    if now is None:
        return NOTHING
    search = _Search(now, [])
    for each in _first(now):
        search.hear(each)
    tell(0.0, SOUGHT, search.told())
    until = process_time() + longest_s if longest_s is not None else inf
    of = every(plan, now.facts, now.before, memo)
    search.offered = sorted(of, key=lambda each: -each.hope / each.dear)
    tell(0.0, search.so_far, search.told())
    for k, row in abreast(search.tries, search.known, len(search.offered), hands, memo.go_on):
        search.hear(row, k)
        tell(search.tried / len(search.offered), search.so_far, search.told())
        if process_time() > until or search.tried == most:
            break
    return search.told()


@dataclass(slots=True)
class _Search:
    """``best`` by what it is of: what it saves of the batch (s), its turn, and its row; ``done``
    are those of what is ``offered`` that were tried.
    """

    now: _Now
    offered: list[Tried]
    best: dict[str, tuple[float, int, dict[str, Any]]] = field(default_factory=dict)
    done: set[int] = field(default_factory=set)

    @property
    def tried(self) -> int:
        return len(self.done)

    @property
    def so_far(self) -> Said:
        tried, all = Shown(f"{self.tried}"), Shown(f"{len(self.offered)}")
        return Said("{tried} of {all} tried", {"tried": tried, "all": all})

    def known(self, k: int) -> float:
        """What is saved by the best that was tried of the same (s)."""
        return self.best[self.offered[k].of][0] if self.offered[k].of in self.best else 0.0

    def tries(self, k: int, least_s: float) -> dict[str, Any] | None:
        return _row(self.offered[k], self.now, least_s)

    def hear(self, row: dict[str, Any] | None, k: int = -1) -> None:
        """What came of one; of two that save as much the one whose turn was first is kept."""
        if k >= 0:
            self.done.add(k)
        if row is not None:
            found = (row["batch_s"], -k, row)
            was = self.best.get(row["of"], found)
            self.best[row["of"]] = max(was, found, key=lambda each: each[:2])

    def told(self) -> dict[str, Any]:
        rows = sorted((row for *_, row in self.best.values()), key=lambda row: -row["batch_s"])
        return {
            "rows": [{**row, "within": _within(row, rows)} for row in rows],
            "tried": self.tried,
            "untried": len(self.offered) - self.tried,
            "waiting": self._waiting(),
        }

    def _waiting(self) -> list[dict[str, Any]]:
        """Of each that may save more than is known of it the best hope, if there is any."""
        found = dict[str, Tried]()
        for k, each in enumerate(self.offered):
            hoped = self._batch_s(each)
            if k in self.done or (hoped is not None and hoped <= self.known(k)):
                continue
            if each.of not in found or each.hope > found[each.of].hope:
                found[each.of] = each
        most = sorted(found.values(), key=lambda each: -each.hope)[:MOST_WAITING]
        return [
            {
                "of": each.of,
                "setup": each.setup,
                "said": plain_said(each.said),
                "batch_s": self._batch_s(each),
            }
            for each in most
        ]

    def _batch_s(self, each: Tried) -> float | None:
        """What it saves of the batch (s), about; None where nobody has reckoned that."""
        return each.hope * self.now.facts.plan.quantity if each.reckoned else None


def _within(row: dict[str, Any], rows: Sequence[dict[str, Any]]) -> str:
    """Which other row does all that it does and more; none where it is empty."""
    edits = row["edits"]
    more = (each for each in rows if len(each["edits"]) > len(edits))
    return next((str(e["of"]) for e in more if all(one in e["edits"] for one in edits)), "")


@dataclass(frozen=True, slots=True)
class _Now:
    """A plan as it is, with the tools of which the shop has too few for it; ``cost`` is what its
    batch costs, None where nobody has said that.
    """

    facts: PlanFacts
    memo: Memo
    before: Evaluation
    cost: float | None
    lacks: list[Lacking]


def _now(plan: Plan, library: Library, memo: Memo) -> _Now | None:
    """None while nobody knows how long it takes."""
    before = evaluate(plan, library, memo)
    if before.problem or before.working:
        return None
    facts = walk(plan, library, memo)
    return _Now(facts, memo, before, _cost(facts), lacking(facts))


def first_saving(plan: Plan, library: Library, memo: Memo) -> dict[str, Any]:
    """One of them that is found before all are looked for; how many there are is not known."""
    now = _now(plan, library, memo)
    rows = [{**row, "within": ""} for row in _first(now)] if now is not None else []
    return {**NOTHING, "rows": rows, "tried": len(rows)}


def _first(now: _Now) -> list[dict[str, Any]]:
    """The first row of what is known at once, if there is one."""
    found = (_row(each, now) for each in at_once(now.facts, now.before))
    return [*islice((row for row in found if row is not None), 1)]


def _row(each: Tried, now: _Now, least_s: float = 0.0) -> dict[str, Any] | None:
    """What it saves, None where it saves no more of the batch than is known already, can't be done,
    or would stop the plan.
    """
    facts, memo, before = now.facts, now.memo, now.before
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
    then, saved = _then(changed, now)
    if then is None or saved <= max(LEAST_S * plan.quantity, least_s):
        return None
    after = evaluate(changed, library, memo)
    if after.problem or after.unknown > before.unknown or stops(after.open, before):
        return None
    known = {f.key: f.severity for f in before.open}
    looks = [f for f in after.open if f.severity == "look" and f.key not in known]
    tools = buying.bought(lacking(then), now.lacks)
    return {
        "of": each.of,
        "setup": each.setup,
        "said": plain_said(said),
        "because": plain_said(because),
        "one_part_s": before.one_part_s - after.one_part_s,
        "batch_s": saved,
        "cost": _less_cost(then, now, plan.quantity),
        "pays_from": pays_from(edits, plan, saved, before.one_part_s - after.one_part_s),
        "buys": buying.plain(tools),
        "buys_from": _buys_from(tools, then, now),
        "looks": [plain_said(Said(f.message, f.values)) for f in looks],
        "each": _of_each(edits, before, after),
        "edits": [edit.model_dump(mode="json") for edit in edits],
    }


def _then(changed: Plan, now: _Now) -> tuple[PlanFacts | None, float]:
    """A plan's facts, before anything is noticed of it, and what the batch takes less (s); none of
    one that can't be worked out.
    """
    try:
        facts = walk(changed, now.facts.library, now.memo)
        return facts, now.before.batch_s - in_all(facts).of("batch")
    except MachiningError:
        return None, -inf


def _less_cost(then: PlanFacts, now: _Now, quantity: int) -> float | None:
    """What so many parts cost less, more where that is negative: edges that wear sooner may ask for
    more than the machine's time. None where its machines have no price.
    """
    if now.cost is None:
        return None

    def at(facts: PlanFacts) -> float | None:
        if quantity == facts.plan.quantity:
            return _cost(facts)
        of = facts.plan.model_copy(update={"quantity": quantity})
        return _cost(walk(of, now.facts.library, now.memo))

    before = now.cost if quantity == now.facts.plan.quantity else at(now.facts)
    after = at(then)
    return before - after if before is not None and after is not None else None


def _buys_from(tools: Sequence[Lacking], then: PlanFacts, now: _Now) -> int | None:
    """From how many parts on the tools that are bought for it pay."""
    if not tools or now.cost is None:
        return None
    less = partial(_less_cost, then, now)
    return buying.pays_from(tools, lambda many: less(many) or 0.0, now.facts.plan.quantity)


def _cost(facts: PlanFacts) -> float | None:
    machines = [setup.machine for setup in facts.setups]
    if not all(each is not None and each.hourly_cost > 0 for each in machines):
        return None
    return costs_of(facts).known


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
