"""The order with the fewest changes, and how little any order can take.

Operations that are alike are done in runs, one after the other. What can be done in a run is done
in it: to wait with it saves nothing. So an order is told by its runs, and of all ways to what is
done already only the shortest matters.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from heapq import heapify, heappop, heappush
from typing import NamedTuple

import numpy as np

from machining.geometry.frames import Vector

from .problem import Problem

MOST = 15_000  # ways looked at; what is not closed by then is a bound alone
WIDE = 60  # ways kept of as many runs, where it is not closed


class Fewest(NamedTuple):
    """A good ``order``; none takes less than ``least`` seconds."""

    order: tuple[int, ...]
    least: float


def fewest(problem: Problem, most: int = MOST) -> Fewest:
    """By what changes between runs take at least, for a problem without a ring. What keeps its
    place may move here.
    """
    least_in = _least_in(problem)
    fixed = float(least_in.sum())
    search = _Search(problem, least_in)
    order, least = search.best(most)
    return Fewest(order or search.good(), fixed + least)


def _least_in(problem: Problem) -> Vector:
    """What it takes at least to come to each (n,), s."""
    among = problem.between.astype(float).copy()
    np.fill_diagonal(among, np.inf)
    again = problem.again + problem.start[None, :]
    np.fill_diagonal(again, np.inf if problem.many > 1 else 0.0)
    found: Vector = np.minimum(among.min(axis=0), again.min(axis=0))
    return found


@dataclass(frozen=True, slots=True)
class _Way:
    """What is done (bits), by which run last and which first, in so many seconds."""

    done: int
    run: int
    first: int
    seconds: float
    before: _Way | None = None
    ended: bool = False

    @property
    def state(self) -> tuple[int, int, int]:
        return self.done, self.run, self.first


class _Search:
    """Goes on from what is done, run by run."""

    def __init__(self, problem: Problem, least_in: Vector) -> None:
        n = problem.many
        names = sorted(set(problem.alike))
        self.of = [names.index(each) for each in problem.alike]
        self.count, self.all = len(names), (1 << n) - 1
        self.members = [[k for k in range(n) if self.of[k] == c] for c in range(self.count)]
        self.needs = [sum(1 << k for k in range(n) if problem.reached[k, j]) for j in range(n)]
        self.mask = [sum(1 << k for k in each) for each in self.members]
        self.change = self._least(problem.between - least_in[None, :])
        self.again = self._least((problem.again + problem.start[None, :]) - least_in[None, :])
        np.fill_diagonal(self.change, np.inf)
        into = self.change.min(axis=0, initial=np.inf)
        self.back = self.again.min(axis=0).tolist()
        self.into = np.where(np.isfinite(into), np.maximum(into, 0.0), 0.0).tolist()

    def _least(self, cost: Vector) -> Vector:
        """Between members of two runs, at least; nought where rounding says less."""
        found = np.zeros((self.count, self.count))
        for a, b in np.ndindex(self.count, self.count):
            found[a, b] = max(cost[np.ix_(self.members[a], self.members[b])].min(), 0.0)
        return found

    def best(self, most: int) -> tuple[tuple[int, ...] | None, float]:
        """The shortest, and what it takes over the least into each; where so many ways did not find
        it none, and what it takes at least.
        """
        heap, order = [(self._guess(way), k, way) for k, way in enumerate(self._begin())], 1 << 20
        shortest = {way.state: way.seconds for _, _, way in heap}
        heapify(heap)
        for _ in range(most):
            _, _, way = heappop(heap)
            if way.ended:
                return self._order(way), way.seconds
            if way.seconds > shortest[way.state]:
                continue
            for then in self._on(way):
                if then.ended or then.seconds < shortest.get(then.state, np.inf):
                    if not then.ended:
                        shortest[then.state] = then.seconds
                    order += 1
                    heappush(heap, (self._guess(then), order, then))
        return None, heap[0][0]

    def good(self) -> tuple[int, ...]:
        """A short one: of ways of as many runs the most promising are gone on with."""
        ways, ended = self._begin(), list[_Way]()
        while ways:
            known = dict[tuple[int, int, int], _Way]()
            for then in (each for way in ways for each in self._on(way)):
                if then.ended:
                    ended.append(then)
                elif then.seconds < known.get(then.state, then).seconds or then.state not in known:
                    known[then.state] = then
            ways = sorted(known.values(), key=self._guess)[:WIDE]
        return self._order(min(ended, key=lambda way: way.seconds))

    def _begin(self) -> list[_Way]:
        """One for each run that can be the first."""
        begun = ((self._done(0, c), c) for c in range(self.count))
        return [_Way(done, c, c, 0.0) for done, c in begun if done]

    def _on(self, way: _Way) -> Iterator[_Way]:
        """With one more run, or back to the first where all is done."""
        done, run, first = way.state
        if done == self.all:
            total = way.seconds + float(self.again[run, first])
            yield replace(way, seconds=total, before=way, ended=True)
            return
        for c in range(self.count):
            if c != run and self.mask[c] & ~done:
                then = self._done(done, c)
                if then != done:
                    yield _Way(then, c, first, way.seconds + float(self.change[run, c]), way)

    def _guess(self, way: _Way) -> float:
        """What all of it takes at least."""
        if way.ended:
            return way.seconds
        left = sum(self.into[c] for c in range(self.count) if self.mask[c] & ~way.done)
        return way.seconds + left + self.back[way.first]

    def _done(self, done: int, run: int) -> int:
        """What is done once all of a run was that could be."""
        while True:
            more = 0
            for k in self.members[run]:
                if not done >> k & 1 and not self.needs[k] & ~done:
                    more |= 1 << k
            if not more:
                return done
            done |= more

    def _order(self, way: _Way) -> tuple[int, ...]:
        """Each run in an order that its own pairs allow."""
        ways, at = list[_Way](), way.before
        while at is not None:
            ways.append(at)
            at = at.before
        order, done = list[int](), 0
        for each in reversed(ways):
            left = [k for k in self.members[each.run] if each.done >> k & 1 and not done >> k & 1]
            while left:
                k = next(k for k in left if not self.needs[k] & ~done)
                left.remove(k)
                order.append(k)
                done |= 1 << k
        return tuple(order)
