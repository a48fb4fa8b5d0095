"""Why one operation comes before another."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass
from typing import Literal

from machining.facts.context import OperationFacts, PlanFacts, StationFacts
from machining.quantities.said import Said, Shown

# of the stock that is there, of what is done to one place, of how the part is held, of practice,
# what an order that was evaluated ran into, and what the planner said
Kind = Literal["stock", "place", "holding", "practice", "tried", "own"]


@dataclass(frozen=True, slots=True)
class Reason:
    """``first`` and ``then`` are operations by their ids; ``said`` tells it of the later one, and
    names the earlier one as {first}.
    """

    first: str
    then: str
    kind: Kind
    said: Said


Rule = Callable[[StationFacts, PlanFacts], Iterator[Reason]]


def because(first: OperationFacts, then: OperationFacts, kind: Kind, text: str) -> Reason:
    return Reason(first.id, then.id, kind, Said(text, {"first": Shown(f"{first.number}")}))


def one_each(reasons: Iterable[Reason]) -> list[Reason]:
    """Of each pair the reason that comes first, whichever way it has them."""
    found = dict[frozenset[str], Reason]()
    for each in reasons:
        found.setdefault(frozenset((each.first, each.then)), each)
    return list(found.values())


def ring_in(every: Sequence[str], reasons: Iterable[Reason]) -> list[Reason]:
    """Reasons each of which begins where the one before it ends, back to the first; none where
    some order meets all.
    """
    after = dict[str, list[Reason]]()
    for each in reasons:
        after.setdefault(each.first, []).append(each)
    done, on_way = set[str](), list[Reason]()

    def search(at: str) -> list[Reason]:
        for each in after.get(at, ()):
            on_way.append(each)
            places = [reason.first for reason in on_way]
            if each.then in places:
                return on_way[places.index(each.then) :]
            if each.then not in done:
                found = search(each.then)
                if found:
                    return found
            on_way.pop()
        done.add(at)
        return []

    return next((ring for id in every if id not in done and (ring := search(id))), [])


def direct(reasons: Sequence[Reason]) -> set[tuple[str, str]]:
    """The pairs that no way over others says already; of reasons without a ring."""
    after = dict[str, set[str]]()
    for each in reasons:
        after.setdefault(each.first, set()).add(each.then)
    reached = dict[str, set[str]]()

    def reach(at: str) -> set[str]:
        if at not in reached:
            nexts = after.get(at, set())
            reached[at] = nexts.union(*(reach(each) for each in nexts)) if nexts else set()
        return reached[at]

    return {
        (each.first, each.then)
        for each in reasons
        if not any(each.then in reach(other) for other in after[each.first] if other != each.then)
    }
