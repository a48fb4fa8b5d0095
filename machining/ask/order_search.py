"""A search for the order of a setup that takes least: orders that are evaluated as whole plans, and
what is learnt of those that are worse.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property
from heapq import heappop, heappush
from math import inf
from typing import Any, NamedTuple, TypeAlias

from machining.evaluate import evaluate
from machining.evaluation import Evaluation
from machining.facts.context import PlanFacts, SetupFacts
from machining.memo import Memo
from machining.ordering.in_setup import edits_to, held_to, problem_of
from machining.ordering.problem import Problem
from machining.ordering.reason import Reason, ring_in
from machining.ordering.solve import Solved, solve
from machining.plan.apply import apply
from machining.plan.document import Plan
from machining.quantities.said import Said, Shown
from machining.world.library import Library

LEAST_S = 0.05  # of a part: less is no better order
BRANCHES = 6  # of what one of them runs into, that are gone on with
PRICED = 8  # pins and habits whose price is told


class Way(NamedTuple):
    """An order that keeps ``more`` than the reasons that are known; shorter ones go first."""

    seconds: float
    tick: int
    solved: Solved
    more: tuple[Reason, ...]


class Room(NamedTuple):
    """How many ``orders`` are evaluated whole, how many ``searches`` gone on with, and the solver's
    effort for the shortest of all (``first``) and for each of the others.
    """

    orders: int
    searches: int
    first: float
    others: float


Hear: TypeAlias = Callable[[dict[str, Any]], None]


@dataclass
class Search:
    """``reasons`` are those that are known, ``ran_into`` what orders that were evaluated showed;
    ``none`` says that no order meets all reasons.
    """

    plan: Plan
    library: Library
    memo: Memo
    facts: PlanFacts
    setup: SetupFacts
    reasons: list[Reason]
    room: Room
    ran_into: tuple[Reason, ...] = ()
    tried: int = 0
    none: bool = False
    opened: int = 0
    ways: list[Way] = field(default_factory=list)
    known: dict[tuple[int, ...], list[Reason]] = field(default_factory=dict)

    @cached_property
    def free(self) -> Problem:
        return problem_of(self.setup, self.facts)

    @cached_property
    def before(self) -> Evaluation:
        return evaluate(self.plan, self.library, self.memo)

    @cached_property
    def ring(self) -> list[Reason]:
        return ring_in(self.ids, self.reasons)

    @property
    def may_be_ordered(self) -> bool:
        return bool(self.setup.operations) and not self.ring

    @property
    def ids(self) -> list[str]:
        return [op.id for op in self.setup.operations]

    @cached_property
    def allowed(self) -> bool:
        """Does the order as it is planned keep the reasons?"""
        return held_to(self.free, self.setup, self.reasons).allows(range(self.free.many))

    @cached_property
    def shortest(self) -> Solved:
        return self._solved(self.reasons, self.room.first)

    @cached_property
    def now_s(self) -> float:
        return self.free.seconds(range(self.free.many))

    def careful(self, hear: Hear = lambda now: None) -> dict[str, Any]:
        """One that is no worse, evaluated whole, soon found: what one runs into is kept as it is
        planned, all of it, and the next is the shortest that does. ``hear`` is told before each.
        """
        solved, kept, found = self.shortest, list[Reason](), self._begun()
        found |= {"least_s": min(solved.least, self.now_s), "proven": solved.proven}
        self.none = solved.order is None and solved.proven
        while solved.order is not None and not self._is_no_less(solved):
            found |= {"gave_up": True, "short_s": min(solved.seconds, self.now_s)}
            if self.tried == self.room.orders or self.before.problem:
                break
            hear({**found})
            found["better"] = self._evaluated(solved.order)
            learnt = self.known[solved.order]
            found["short_s"] = self.now_s
            if found["better"] is not None or not learnt:
                found["gave_up"] = found["better"] is None
                break
            kept += learnt
            found["proven"] = False
            solved = self._solved([*self.reasons, *kept], self.room.others)
        return found

    def _begun(self) -> dict[str, Any]:
        found: dict[str, Any] = {"now_s": self.now_s, "least_s": 0.0, "short_s": self.now_s}
        return found | {"proven": False, "gave_up": False, "better": None}

    def _is_no_less(self, solved: Solved | Way) -> bool:
        return self.allowed and solved.seconds > self.now_s - LEAST_S

    def best(self, hear: Hear = lambda now: None, than: float = inf) -> dict[str, Any]:
        """The shortest that is no worse, evaluated whole, and takes less ``than`` one that is known
        (s). What one runs into is left by any one of what it has the other way round: each is a
        search of its own, and the shortest goes on. ``hear`` is told before each.
        """
        rounds, now_s, found = self.room.orders, self.now_s, self._begun()
        self._open((), self.shortest)
        self.none = not self.ways and self.shortest.proven
        every = True  # way out of what was run into is looked at
        for _ in range(self.room.searches):
            if not self.ways:
                found |= {"gave_up": not every, "short_s": now_s}
                break
            way = heappop(self.ways)
            self.ran_into = way.more
            if every:
                found["least_s"] = min(way.solved.least, now_s, than)
            found["proven"] = way.solved.proven and every
            order, found["short_s"] = way.solved.order or (), min(way.seconds, now_s)
            if self._is_no_less(way) or way.seconds > than - LEAST_S:
                break
            if order not in self.known and (self.tried == rounds or self.before.problem):
                found["gave_up"] = self.tried == rounds
                break
            hear({**found, "gave_up": True})  # until it is known
            found["better"] = self._evaluated(order)
            if found["better"] is not None:
                break
            every &= len(self.known[order]) <= BRANCHES
            for each in self.known[order][:BRANCHES]:
                self._open(
                    (*way.more, each),
                    self._solved([*self.reasons, *way.more, each], self.room.others),
                )
        else:  # as many as there were to be
            found |= {"gave_up": True, "short_s": now_s}
        return found

    def _open(self, more: tuple[Reason, ...], solved: Solved) -> None:
        if solved.order is not None:
            self.opened += 1
            heappush(self.ways, Way(solved.seconds, self.opened, solved, more))

    def _evaluated(self, order: tuple[int, ...]) -> dict[str, Any] | None:
        """What it brings; None where it is worse, and why is known then."""
        if order in self.known:
            return None
        self.tried += 1
        new = [self.ids[k] for k in order]
        edits = edits_to(self.setup, new)
        after = evaluate(apply(self.plan, edits), self.library, self.memo)
        saves = self.before.one_part_s - after.one_part_s
        worth = saves > LEAST_S or not self.allowed
        learnt = self._learnt(new, after) or ([] if worth else self._longer(new, after))
        self.known[order] = learnt
        if learnt or not worth:
            return None
        return {
            "order": new,
            "seconds": self.free.seconds(order),
            "one_part_s": saves,
            "batch_s": self.before.batch_s - after.batch_s,
            "moved": [edit.operation for edit in edits],
            "edits": [edit.model_dump(mode="json") for edit in edits],
        }

    def _solved(self, reasons: Sequence[Reason], effort: float, pins: bool = True) -> Solved:
        problem = held_to(self.free, self.setup, reasons, pins)
        return solve(problem, range(problem.many), effort)

    @cached_property
    def stuck(self) -> list[str]:
        """What is pinned where no order that meets the reasons has it; without one of them there is
        such an order.
        """
        problem = held_to(self.free, self.setup, self.reasons)
        pins, effort = problem.fixed if self.none else {}, self.room.others
        return [
            self.ids[k]
            for k in pins
            if solve(replace(problem, fixed={p: p for p in pins if p != k}), None, effort).order
        ]

    def _learnt(self, new: Sequence[str], after: Evaluation) -> list[Reason]:
        """What stops it, or is to be looked at, and is not now."""
        known = {f.key: f.severity for f in self.before.open}
        worse = [
            f
            for f in after.open
            if f.severity in ("stop", "look") and known.get(f.key) not in ("stop", f.severity)
        ]
        return self._behind(new, {f.operation: Said(f.message, f.values) for f in worse[::-1]})

    def _longer(self, new: Sequence[str], after: Evaluation) -> list[Reason]:
        """What takes longer in it."""
        took = {op.id: op.time_s for each in self.before.setups for op in each.operations}
        grew = {
            op.id: op.time_s - took[op.id]
            for each in after.setups
            for op in each.operations
            if op.time_s - took[op.id] > LEAST_S
        }
        text = "operation {slower} takes {more} longer."
        number = {op.id: f"{op.number}" for op in self.setup.operations}
        return self._behind(
            new,
            {
                id: Said(text, {"slower": Shown(number[id]), "more": Shown(more, "time")})
                for id, more in grew.items()
                if id in number
            },
        )

    def _behind(self, new: Sequence[str], why: Mapping[str, Said]) -> list[Reason]:
        """Each named operation on its side of one that the new order put on the other."""
        number = {op.id: f"{op.number}" for op in self.setup.operations}
        found = dict[tuple[str, str], Reason]()
        for operation, said in why.items():
            for first, then in self._overtaken(new, operation):
                text = f"Tried before operation {{first}}: {said.text}"
                values = {**said.values, "first": Shown(number[first])}
                why_not = Reason(first, then, "tried", Said(text, values))
                found.setdefault((first, then), why_not)
        return list(found.values())

    def _overtaken(self, new: Sequence[str], operation: str) -> list[tuple[str, str]]:
        """Pairs (first, then) as planned that the new order has the other way round."""
        at = {id: place for place, id in enumerate(new)}
        every = [(a, b) for k, a in enumerate(self.ids) for b in self.ids[k + 1 :] if at[a] > at[b]]
        return [pair for pair in every if operation in pair] or every

    @cached_property
    def prices(self) -> list[dict[str, Any]]:
        """What a cycle would take less between operations without each pin and each habit."""
        found, effort = list[dict[str, Any]](), self.room.others
        if any(op.operation.pinned for op in self.setup.operations):
            saves = self.shortest.seconds - self._solved(self.reasons, effort, pins=False).seconds
            found.append({"first": "", "then": "", "seconds": saves})
        habits = [each for each in self.reasons if each.kind == "practice"]
        for each in habits[:PRICED]:
            others = [other for other in self.reasons if other is not each]
            saves = self.shortest.seconds - self._solved(others, effort).seconds
            found.append({"first": each.first, "then": each.then, "seconds": saves})
        return [each for each in found if each["seconds"] > LEAST_S]
