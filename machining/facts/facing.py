"""Facing first or last: the only face of a station, at the other end of what is cut there."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace

from machining.plan.operation import Face

from . import ledger
from .context import OperationFacts, PlanFacts, SetupFacts

LEAST = 3  # operations: of two there is no first and last to talk of


@dataclass(frozen=True, slots=True)
class Facing:
    """A face that is not pinned, whether it is the ``first`` of its station or the ``last``, and
    the setup's operations with it at the other end: first where it is in between.
    """

    op: OperationFacts
    first: bool
    last: bool
    order: list[str]

    def spared_s(self, setup: SetupFacts, facts: PlanFacts) -> float:
        """What a cycle takes less in that order as far as tools, ranges and ways over go; what is
        cut is taken as it is.
        """
        known = {op.id: op for op in setup.operations}
        other = replace(setup, operations=[known[id] for id in self.order])
        return ledger.of_plan(facts)[setup.id].ends_s - ledger.of_setup(other, facts).ends_s


def facings(setup: SetupFacts) -> Iterator[Facing]:
    """Of every station that has one face among three operations or more."""
    ids = [op.id for op in setup.operations]
    for station in setup.stations:
        mine = station.operations
        faces = [op for op in mine if isinstance(op.operation, Face)]
        if len(mine) < LEAST or len(faces) != 1 or faces[0].operation.pinned:
            continue
        (op,) = faces
        first, last = mine[0] is op, mine[-1] is op
        rest = [id for id in ids if id != op.id]
        beside = mine[-1].id if first else next(each.id for each in mine if each is not op)
        at = rest.index(beside) + (1 if first else 0)
        yield Facing(op, first, last, [*rest[:at], op.id, *rest[at:]])
