"""The order that takes least: by its runs, bit by bit, and by constraints, which also tell how far
it may be from the best there is.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from .nearby import nearby
from .problem import Problem
from .runs import fewest

# the solver's own seconds: the same work whatever else the machine does
EFFORT, LEAST_EFFORT = 1.0, 0.05
MS = 1e3


@dataclass(frozen=True, slots=True)
class Solved:
    """``order`` takes ``seconds``; no order takes less than ``least`` of them, to a millisecond
    where it is ``proven``. ``order`` is None where none was found that meets what is asked, and
    where that is proven there is none.
    """

    order: tuple[int, ...] | None
    seconds: float
    least: float
    proven: bool


NONE = Solved(None, 0.0, 0.0, True)


def solve(problem: Problem, now: Sequence[int] | None = None, effort: float = EFFORT) -> Solved:
    """The best order found, no worse than ``now`` where that is allowed. Without effort the solver
    is asked only where nothing else finds one.
    """
    if problem.reached.diagonal().any():
        return NONE
    if problem.many < 2:
        return _of(problem, tuple(range(problem.many)), 0.0, True)
    runs = fewest(problem)
    begun = [each for each in (now, runs.order) if each is not None and problem.allows(each)]
    best = min((nearby(problem, each) for each in begun), key=problem.seconds, default=None)
    if best is not None and _is_least(problem, best, runs.least):
        return _of(problem, best, runs.least, True)
    if best is not None and effort <= 0.0:
        return _of(problem, best, runs.least, False)
    from .constraints import by_constraints  # takes a while to be there

    found, least, ended = by_constraints(problem, runs.least, best, max(effort, LEAST_EFFORT))
    if found is not None:
        best = found if best is None else min(best, found, key=problem.seconds)
    if best is None:
        return NONE if ended else Solved(None, 0.0, least, False)
    return _of(problem, best, least, ended)


def _of(problem: Problem, order: tuple[int, ...], least: float, proven: bool) -> Solved:
    seconds = problem.seconds(order) if order else 0.0
    proven = proven or _is_least(problem, order, least)
    return Solved(order, seconds, seconds if proven else least, proven)


def _is_least(problem: Problem, order: tuple[int, ...], least: float) -> bool:
    """Is nothing left to be saved, as far as rounding to milliseconds tells?"""
    return not order or problem.seconds(order) - least < len(order) / MS
