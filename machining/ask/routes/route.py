"""A route on its way: the plan so far, why each of its setups is as it is, what it had to leave
out.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from itertools import count
from math import inf
from typing import NamedTuple

from machining.evaluate import evaluate
from machining.evaluation import Evaluation
from machining.facts.context import PlanFacts
from machining.facts.route import walk
from machining.findings.finding import Finding
from machining.memo import Memo
from machining.plan.document import Plan, Setup
from machining.quantities.said import Said
from machining.world.library import Library


@dataclass(frozen=True)
class Missed:
    """Something that is not in the plan, and why; of which features of the part."""

    what: Said
    why: Said
    features: tuple[str, ...] = ()


@dataclass(frozen=True)
class Step:
    """Why a setup is as it is: a sentence for its side, and the last for its holding, an ``item``
    of the library; and what of others was tried.
    """

    setup: str
    because: tuple[Said, ...]
    item: str
    instead: tuple[Missed, ...] = ()


class Offered(NamedTuple):
    """An offer by where it was made and what it says."""

    station: str
    group: str
    label: str


@dataclass(frozen=True)
class Route:
    """``of`` says by which offer an operation came; ``refused`` are those that were taken and had
    to go again; ``instead`` is what else was tried for its last setup. What was ``stopped`` or
    ``unknown`` before it was begun is left as it is.
    """

    plan: Plan
    steps: tuple[Step, ...] = ()
    missed: tuple[Missed, ...] = ()
    of: Mapping[str, Offered] = field(default_factory=dict)
    refused: frozenset[Offered] = frozenset()
    instead: tuple[Missed, ...] = ()
    stopped: frozenset[str] = frozenset()
    unknown: int = 0


@dataclass
class Bench:
    """What routes are planned with. ``tried`` counts the plans that were evaluated; a route is made
    better ``until`` there are so many. Setups that are ``kept`` were there before.
    """

    library: Library
    memo: Memo
    tried: int = 0
    until: float = inf
    taken: frozenset[str] = frozenset()
    kept: tuple[Setup, ...] = ()
    numbers: Iterator[int] = field(default_factory=lambda: count(1))

    def fresh(self) -> str:
        """An id that neither the plan nor a route of this search uses."""
        return next(id for n in self.numbers if (id := f"r{n}") not in self.taken)

    def keeps(self, plan: Plan) -> bool:
        """Are the setups that were there still as they were?"""
        return plan.setups[: len(self.kept)] == self.kept

    @property
    def spent(self) -> bool:
        """Were as many plans evaluated as there were to be?"""
        return self.tried >= self.until

    def walk(self, plan: Plan) -> PlanFacts:
        return walk(plan, self.library, self.memo)

    def evaluate(self, plan: Plan, to_its_end: bool = False) -> Evaluation:
        """What still stands after its last setup is looked at ``to_its_end``."""
        self.tried += 1
        return evaluate(plan, self.library, self.memo, to_its_end=to_its_end)


def stops_of(told: Evaluation) -> list[Finding]:
    return [each for each in told.open if each.severity == "stop"]
