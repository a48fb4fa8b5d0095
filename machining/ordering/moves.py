"""The fewest moves from one order to another."""

from __future__ import annotations

from collections.abc import Container, Sequence

STAYS = 1_000_000  # as if so many were left where they are


def moves(
    now: Sequence[str], then: Sequence[str], pinned: Container[str] = ()
) -> list[tuple[str, int]]:
    """What is moved where, one after the other, so that ``now`` becomes ``then``: each with its
    place once it was taken out. What is pinned is not moved; it has its place in both.
    """
    stays = _stays(now, then, pinned)
    order, found = list(now), list[tuple[str, int]]()
    for place, each in enumerate(then):
        if each in stays:
            continue
        order.remove(each)
        to = order.index(then[place - 1]) + 1 if place else 0
        order.insert(to, each)
        found.append((each, to))
    return found


def _stays(now: Sequence[str], then: Sequence[str], pinned: Container[str]) -> set[str]:
    """The most that come after each other in both, all that is pinned among them."""
    at = {each: place for place, each in enumerate(now)}
    best = dict[str, tuple[int, str]]()
    for k, each in enumerate(then):
        before = [other for other in then[:k] if at[other] < at[each]]
        last = max(before, key=lambda other: best[other][0], default="")
        weight = STAYS if each in pinned else 1
        best[each] = (weight + (best[last][0] if last else 0), last)
    found, last = set[str](), max(best, key=lambda each: best[each][0], default="")
    while last:
        found.add(last)
        last = best[last][1]
    return found
