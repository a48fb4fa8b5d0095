"""Tools of which the shop has fewer than a plan asks for."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from math import ceil

from machining.world.tool import Tool

from .context import PlanFacts, Ready
from .worn import edges_of_a_part

ROUNDING = 1e-9


@dataclass(frozen=True, slots=True)
class Lacking:
    """A tool of which more are needed than are on hand: one at each of its ``places``, where it is
    loaded at the same time, and as many as the batch wears out (``worn``, one that is worn in part
    in part); of turning tools edges.
    """

    tool: Tool
    places: int
    needed: int
    worn: float
    on_hand: int

    @property
    def more(self) -> int:
        return self.needed - self.on_hand

    @property
    def missing(self) -> int:
        """So many of those are not there even before anything is worn."""
        return max(self.places - self.on_hand, 0)

    @property
    def cost(self) -> float | None:
        """Of those; None where nobody has said that."""
        return None if self.tool.cost is None else self.more * self.tool.cost


def lacking(facts: PlanFacts) -> list[Lacking]:
    """In the order in which they are used. Tools are left out of which nobody says how many the
    shop has.
    """
    using = defaultdict[str, list[Ready]](list)
    for op in facts.operations():
        if isinstance(op, Ready):
            using[op.tool.key].append(op)
    found = (lacking_of(each, facts.plan.quantity) for each in using.values())
    return [each for each in found if each is not None]


def lacking_of(using: Sequence[Ready], quantity: int) -> Lacking | None:
    """The same of one tool, by all operations with it."""
    found = asked_of(using, quantity)
    return found if found is not None and found.more > 0 else None


def asked_of(using: Sequence[Ready], quantity: int) -> Lacking | None:
    """What is asked for of one tool, also where there is enough of it; None where nobody says how
    many the shop has. What stands in one machine after the other is counted there where most of it
    stands at the same time.
    """
    tool = using[0].tool
    if tool.on_hand is None:
        return None
    life = next((minutes for op in using if (minutes := op.value("edge_life"))), None)
    worn = defaultdict[tuple[str, str], float](float)
    for op in using:
        share = edges_of_a_part(op, life) if op.time.total_s > 0 else None
        worn[op.loaded.machine, op.loaded.id] += (share or 0.0) * quantity
    stands, uses = Counter[str](), Counter[str]()
    for (machine, _), edges in worn.items():
        stands[machine] += 1
        uses[machine] += max(1, ceil(edges - ROUNDING))
    in_all = sum(worn.values())
    needed = max(*uses.values(), ceil(in_all - ROUNDING))
    return Lacking(tool, max(stands.values()), needed, in_all, tool.on_hand)
