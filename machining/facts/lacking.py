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
    in part); of turning tools edges. Of a tool that has ``inserts`` those wear, and are told apart
    from it.
    """

    tool: Tool
    places: int
    needed: int
    worn: float
    on_hand: int
    inserts: bool = False

    @property
    def name(self) -> str:
        return f"inserts of {self.tool.name}" if self.inserts else self.tool.name

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
        one = self.tool.insert_cost if self.inserts else self.tool.cost
        return None if one is None else self.more * one


def lacking(facts: PlanFacts) -> list[Lacking]:
    """In the order in which they are used. Tools are left out of which nobody says how many the
    shop has.
    """
    using = defaultdict[str, list[Ready]](list)
    for op in facts.operations():
        if isinstance(op, Ready):
            using[op.tool.key].append(op)
    return [
        found
        for each in using.values()
        for of in (lacking_of, inserts_lacking)
        if (found := of(each, facts.plan.quantity)) is not None
    ]


def inserts_lacking(using: Sequence[Ready], quantity: int) -> Lacking | None:
    """The same of a tool's inserts, of which every tooth has one edge in use."""
    tool = using[0].tool
    if tool.insert_edges is None or tool.inserts_on_hand is None:
        return None
    life = _life(using)
    parts = (edges_of_a_part(op, life) or 0.0 for op in using if op.time.total_s > 0)
    worn = sum(parts) * quantity * tool.flutes / tool.insert_edges
    found = Lacking(tool, 0, ceil(worn - ROUNDING), worn, tool.inserts_on_hand, True)
    return found if found.more > 0 else None


def _life(using: Sequence[Ready]) -> float | None:
    """How long an edge lasts (min) where any of them says it."""
    return next((minutes for op in using if (minutes := op.value("edge_life"))), None)


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
    life, wears = _life(using), tool.insert_edges is None  # else its inserts do
    worn = defaultdict[tuple[str, str], float](float)
    for op in using:
        share = edges_of_a_part(op, life) if op.time.total_s > 0 else None
        worn[op.loaded.machine, op.loaded.id] += (share or 0.0) * quantity * wears
    stands, uses = Counter[str](), Counter[str]()
    for (machine, _), edges in worn.items():
        stands[machine] += 1
        uses[machine] += max(1, ceil(edges - ROUNDING))
    in_all = sum(worn.values())
    needed = max(*uses.values(), ceil(in_all - ROUNDING))
    return Lacking(tool, max(stands.values()), needed, in_all, tool.on_hand)
