"""Why a setup's operations come in the order they do, and which order takes less."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Any

from machining.evaluate import evaluate
from machining.evaluation import Evaluation, plain_said
from machining.facts.context import PlanFacts, SetupFacts
from machining.facts.route import walk
from machining.memo import Memo
from machining.ordering.in_setup import held_to, problem_of
from machining.ordering.moves import moves
from machining.ordering.problem import Problem
from machining.ordering.reason import Reason, direct, ring_in
from machining.ordering.rules import reasons_of
from machining.ordering.solve import Solved, solve
from machining.plan.apply import apply
from machining.plan.document import Plan
from machining.plan.edit import MoveOperation
from machining.quantities.errors import Missing
from machining.quantities.said import Said, Shown
from machining.world.library import Library

ROUNDS = 8  # orders that are evaluated whole
LEAST_S = 0.05  # of a part: less is no better order
PRICED = 8  # pins and habits whose price is told


def order(plan: Plan, library: Library, memo: Memo, setup: str) -> dict[str, Any]:
    """The reasons for the order of a setup; the order that takes least between its operations and
    neither stops what is not stopped now nor brings anything to look at, as edits; and what pins
    and habits cost. A ``ring`` of reasons, or pins that are ``stuck`` among them, let no order be.
    Raises Missing.
    """
    facts = walk(plan, library, memo)
    seen = next((each for each in facts.setups if each.id == setup), None)
    if seen is None:
        raise Missing("Setup", setup)
    search = _Search(plan, library, memo, facts, seen, reasons_of(seen, facts))
    ring = ring_in([op.id for op in seen.operations], search.reasons)
    found = None if ring or not seen.operations else search.best()
    said = direct(search.reasons) if not ring else {(e.first, e.then) for e in search.reasons}
    return {
        "reasons": [
            {**_plain(each), "direct": (each.first, each.then) in said} for each in search.reasons
        ],
        "ring": [_plain(each) for each in ring],
        "none": search.none,
        "stuck": search.stuck(),
        "tried": search.tried,
        "found": found,
        "prices": search.prices() if found is not None else [],
    }


def _plain(each: Reason) -> dict[str, Any]:
    return {
        "first": each.first,
        "then": each.then,
        "kind": each.kind,
        "said": plain_said(each.said),
    }


@dataclass
class _Search:
    """``reasons`` are those that are known, and what orders that were evaluated ran into;
    ``none`` says that no order meets them all.
    """

    plan: Plan
    library: Library
    memo: Memo
    facts: PlanFacts
    setup: SetupFacts
    reasons: list[Reason]
    tried: int = 0
    none: bool = False
    least_s: float = 0.0

    @cached_property
    def free(self) -> Problem:
        return problem_of(self.setup, self.facts)

    @property
    def ids(self) -> list[str]:
        return [op.id for op in self.setup.operations]

    def best(self) -> dict[str, Any]:
        """Solved, evaluated, and solved again with what it ran into."""
        before = evaluate(self.plan, self.library, self.memo)
        while True:
            solved, now_s = self._solved(self.reasons)
            self.none = solved.order is None and solved.proven
            self.least_s = solved.seconds
            new = [self.ids[k] for k in solved.order or ()]
            found = {
                "now_s": now_s,
                "least_s": min(solved.least, now_s),
                "proven": solved.proven,
                "gave_up": self.tried == ROUNDS,
                "better": None,
            }
            allowed = self._allowed_now()
            if not new or before.problem or self.tried == ROUNDS:
                return found
            if new == self.ids or (allowed and solved.seconds > now_s - LEAST_S):
                return found
            self.tried += 1
            edits = self._edits(new)
            after = evaluate(apply(self.plan, edits), self.library, self.memo)
            learnt = self._learnt(new, before, after)
            row = self._row(edits, before, after)
            if not learnt and allowed and row["one_part_s"] <= LEAST_S:
                learnt = self._longer(new, before, after)
            if not learnt:
                worth = not allowed or row["one_part_s"] > LEAST_S
                row |= {"seconds": solved.seconds, "order": new}
                return {**found, "better": row if worth else None}
            self.reasons.extend(learnt)

    def _allowed_now(self) -> bool:
        problem = held_to(self.free, self.setup, self.reasons)
        return problem.allows(range(problem.many))

    def stuck(self) -> list[str]:
        """What is pinned where no order that meets the reasons has it; without one of them there is
        such an order.
        """
        pinned = [op for op in self.setup.operations if op.operation.pinned]
        problem = held_to(self.free, self.setup, self.reasons)
        places = {op.id: self.ids.index(op.id) for op in pinned} if self.none else {}
        return [
            id
            for id, at in places.items()
            if solve(replace(problem, fixed={k: k for k in places.values() if k != at})).order
        ]

    def _solved(self, reasons: Sequence[Reason], pins: bool = True) -> tuple[Solved, float]:
        problem = held_to(self.free, self.setup, reasons, pins)
        now = range(problem.many)
        return solve(problem, now), problem.seconds(now)

    def _edits(self, new: Sequence[str]) -> list[MoveOperation]:
        pinned = {op.id for op in self.setup.operations if op.operation.pinned}
        return [
            MoveOperation(operation=id, setup=self.setup.id, index=to)
            for id, to in moves(self.ids, new, pinned)
        ]

    def _learnt(self, new: Sequence[str], before: Evaluation, after: Evaluation) -> list[Reason]:
        """What an order ran into: that operation stays behind those it overtook, or before those
        that overtook it; where none is named nothing of what changed may.
        """
        known = {f.key: f.severity for f in before.open}
        worse = [
            f
            for f in after.open
            if f.severity in ("stop", "look") and known.get(f.key) not in ("stop", f.severity)
        ]
        return self._behind(new, {f.operation: Said(f.message, f.values) for f in worse[::-1]})

    def _longer(self, new: Sequence[str], before: Evaluation, after: Evaluation) -> list[Reason]:
        """Where it saves nothing: what took longer in it stays where it was."""
        took = {op.id: op.time_s for each in before.setups for op in each.operations}
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
        """Each named operation stays on its side of those that the new order put on the other."""
        stood = {(each.first, each.then) for each in self.reasons}
        number = {op.id: f"{op.number}" for op in self.setup.operations}
        found = dict[tuple[str, str], Reason]()
        for operation, said in why.items():
            for first, then in self._overtaken(new, operation):
                text = f"Tried before operation {{first}}: {said.text}"
                values = {**said.values, "first": Shown(number[first])}
                if (first, then) not in stood:
                    found.setdefault(
                        (first, then), Reason(first, then, "tried", Said(text, values))
                    )
        return list(found.values())

    def _overtaken(self, new: Sequence[str], operation: str) -> list[tuple[str, str]]:
        """Pairs (first, then) as planned that the new order has the other way round."""
        at = {id: place for place, id in enumerate(new)}
        every = [(a, b) for k, a in enumerate(self.ids) for b in self.ids[k + 1 :] if at[a] > at[b]]
        return [pair for pair in every if operation in pair] or every

    def _row(
        self, edits: Sequence[MoveOperation], before: Evaluation, after: Evaluation
    ) -> dict[str, Any]:
        """What it saves as the whole plan is evaluated."""
        return {
            "one_part_s": before.one_part_s - after.one_part_s,
            "batch_s": before.batch_s - after.batch_s,
            "moved": [edit.operation for edit in edits],
            "edits": [edit.model_dump(mode="json") for edit in edits],
        }

    def prices(self) -> list[dict[str, Any]]:
        """What a cycle would take less between operations without each pin and each habit."""
        found = list[dict[str, Any]]()
        if any(op.operation.pinned for op in self.setup.operations):
            saves = self.least_s - self._solved(self.reasons, pins=False)[0].seconds
            found.append({"first": "", "then": "", "seconds": saves})
        habits = [each for each in self.reasons if each.kind == "practice"]
        for each in habits[:PRICED]:
            others = [other for other in self.reasons if other is not each]
            saves = self.least_s - self._solved(others)[0].seconds
            found.append({"first": each.first, "then": each.then, "seconds": saves})
        return [each for each in found if each["seconds"] > LEAST_S]
