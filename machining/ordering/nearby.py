"""An order made shorter bit by bit: pieces of it go elsewhere while that saves time."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from .problem import Problem

SAVES_S = 1e-6
ROUNDS = 200


def nearby(problem: Problem, order: Sequence[int]) -> tuple[int, ...]:
    """An allowed order no longer than another allowed one."""
    best, takes = tuple(order), problem.seconds(order)
    for _ in range(ROUNDS):
        found = min(_moved(problem, best), key=problem.seconds, default=best)
        now = problem.seconds(found)
        if now > takes - SAVES_S:
            return best
        best, takes = found, now
    return best


def _moved(problem: Problem, order: tuple[int, ...]) -> Iterator[tuple[int, ...]]:
    """Each allowed order with one piece of it elsewhere."""
    n, reached = len(order), problem.reached
    for low in range(n):
        for high in range(low + 1, n):
            piece = list(order[low:high])
            for to in range(high, n):  # over what follows, as far as that may come before
                if reached[piece, order[to]].any():
                    break
                new = (*order[:low], *order[high : to + 1], *piece, *order[to + 1 :])
                if _keep(problem, new):
                    yield new


def _keep(problem: Problem, order: tuple[int, ...]) -> bool:
    return all(order[place] == each for each, place in problem.fixed.items())
