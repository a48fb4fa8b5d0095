"""How much of a plan is worked out before it is answered: all of it, or as much as can be in a
moment, the rest standing as it did before.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

from machining.memo import Memo, digest
from machining.plan.document import Plan, Station
from machining.world.library import Library

from .context import QUESTIONS, OperationFacts, PlanFacts

AT_FIRST = 4  # operations worked out before the answer: the edited one, and what is soon done
NOT_YET = "It is still being worked out."


class Pace:
    """Works out as many operations as it has left, the first of those on the part's way that are
    not known; what comes after them waits, and stands as it did ``before``.
    """

    def __init__(self, before: Mapping[str, OperationFacts], left: int = AT_FIRST) -> None:
        self._before, self._left, self._behind = before, left, set[str]()

    def waits(self, station: Station, known: bool) -> bool:
        """Does the next operation of a station wait? It does behind any that does."""
        behind = bool({station.id, station.takes} & self._behind)
        if not behind and (known or self._left > 0):
            self._left -= not known
            return False
        self._behind.add(station.id)
        return True

    def meanwhile(self, bare: OperationFacts) -> OperationFacts:
        """What stands for an operation that waits: all of it as it was, if it was there."""
        before, here = self._before.get(bare.id), bare.station
        if before is None or (before.setup.id, before.station.id) != (here.setup.id, here.id):
            return replace(bare, waits=True, unknown=dict.fromkeys(QUESTIONS, NOT_YET))
        return replace(before, waits=True)


def name_of(plan: Plan) -> str:
    """The same for equal plans."""
    return digest(plan.model_dump_json())


def remember(facts: PlanFacts, memo: Memo) -> None:
    """Keep the operations of a plan, for the edit that comes next."""
    memo.put(_key(name_of(facts.plan), facts.library), {op.id: op for op in facts.operations()})


def pace_since(name: str, library: Library, memo: Memo) -> Pace | None:
    """The pace of what follows an edit; None where the plan before it (by its name) is not known
    here, so that all of it has to be worked out.
    """
    before = memo.peek(_key(name, library))
    return Pace(before) if isinstance(before, dict) else None


def _key(name: str, library: Library) -> tuple[str, str, str]:
    return "operations", library.key, name
