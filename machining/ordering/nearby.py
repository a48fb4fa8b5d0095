"""An order made shorter bit by bit: pieces of it go elsewhere while that saves time."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from machining.geometry.frames import Vector

from .problem import Problem

SAVES_S = 1e-6
ROUNDS = 200


def nearby(problem: Problem, order: Sequence[int]) -> tuple[int, ...]:
    """An allowed order no longer than another allowed one."""
    best = np.asarray(order, dtype=np.int64)
    for _ in range(ROUNDS):
        more = _more_s(problem, best)
        low, high, to = np.unravel_index(int(more.argmin()), more.shape)
        if not more[low, high, to] < -SAVES_S:
            break
        piece, over = best[low:high], best[high : to + 1]
        best = np.concatenate([best[:low], over, piece, best[to + 1 :]])
    return tuple(best.tolist())


def _more_s(problem: Problem, order: NDArray[np.int64]) -> Vector:
    """What it takes more (s) with the piece from ``low`` to before ``high`` behind what is at
    ``to``, (n, n, n); inf where that may not be.
    """
    n = len(order)
    low, high, to = np.ogrid[:n, :n, :n]
    between = problem.between[np.ix_(order, order)]
    back = (problem.again + problem.start[None, :])[np.ix_(order, order)]
    # what comes before the piece and after what it goes behind; round it where that is nothing
    before, after, tail = low - 1, (to + 1) % n, high - 1
    inside, ends = (low > 0) & (to < n - 1), (low == 0) & (to == n - 1)
    last = np.where(to == n - 1, tail, n - 1)
    first = np.where(low == 0, high, 0)
    gone = between[tail, high] + (low > 0) * between[before, low]
    gone = gone + (to < n - 1) * between[to, after] + back[n - 1, 0] * ~inside
    new = between[to, low] + (low > 0) * between[before, high]
    new = new + (to < n - 1) * between[tail, after] + np.where(inside, 0.0, back[last, first])
    new = np.where(ends, between[to, low] + back[tail, high], new)
    found: Vector = np.where((low < high) & (high <= to) & _may(problem, order), new - gone, np.inf)
    return found


def _may(problem: Problem, order: NDArray[np.int64]) -> NDArray[np.bool_]:
    """Whether nothing at ``high`` to ``to`` comes after what is in the piece before it, and none of
    all these keeps its place, (n, n, n).
    """
    n = len(order)
    earlier = problem.reached[np.ix_(order, order)]
    place = np.arange(n)
    follows = np.full((n, n + 1), n)  # where the next is from a place on that comes after it
    for high in range(n - 1, -1, -1):
        follows[:, high] = np.where(earlier[:, high], high, follows[:, high + 1])
    until = np.full((n, n), n)  # of all in the piece
    for k in range(n - 2, -1, -1):
        until[k] = np.minimum(follows[k, :n], until[k + 1])
        until[k, k + 1] = follows[k, k + 1]
    kept = np.isin(place, [*problem.fixed]) if problem.fixed else np.zeros(n, dtype=bool)
    stays = np.minimum.accumulate(np.where(kept, place, n)[::-1])[::-1]  # the next that does
    low, _, to = np.ogrid[:n, :n, :n]
    may: NDArray[np.bool_] = (to < until[:, :, None]) & (to < stays[low])
    return may
