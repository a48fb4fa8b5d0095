"""An order by constraints: each operation has one that follows it, the last one the first."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray
from ortools.sat.python import cp_model

from .problem import Problem

MS = 1e3


def by_constraints(
    problem: Problem, least: float, hint: Sequence[int] | None, effort: float
) -> tuple[tuple[int, ...] | None, float, bool]:
    """The order found, None where none was; what any takes at least (s), and whether that is all
    there is to know. ``least`` is known, ``effort`` the solver's own seconds: the same work
    whatever else the machine does.
    """
    if (np.greater(*places(problem))).any():
        return None, least, True
    model = _Model(problem, least)
    if hint is not None:
        model.hint(hint)
    solver = cp_model.CpSolver()
    solver.parameters.max_deterministic_time = effort
    solver.parameters.num_workers = 1
    solver.parameters.random_seed = 1
    solver.parameters.linearization_level = 2
    ended = solver.solve(model.cp)
    if ended == cp_model.INFEASIBLE:
        return None, least, True
    if ended not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
        return None, least, False
    bound = max(least, solver.best_objective_bound / MS)
    return model.order(solver), bound, ended == cp_model.OPTIMAL


def places(problem: Problem) -> tuple[NDArray[np.int64], NDArray[np.int64]]:
    """The earliest and the latest place of each (n,): one that keeps its place too early or too
    late has none.
    """
    earliest = problem.reached.sum(axis=0)
    latest = problem.many - 1 - problem.reached.sum(axis=1)
    for each, place in problem.fixed.items():
        earliest[each], latest[each] = max(earliest[each], place), min(latest[each], place)
    return earliest, latest


class _Model:
    """A round through all operations: an arc to the one that follows, one of them back from the
    last of a run to the first.
    """

    def __init__(self, problem: Problem, least: float) -> None:
        self.cp, self.problem = cp_model.CpModel(), problem
        n, (earliest, latest) = problem.many, places(problem)
        self.at = [
            self.cp.new_int_var(int(low), int(high), f"at {k}")
            for k, (low, high) in enumerate(zip(earliest, latest, strict=True))
        ]
        self.next = dict[tuple[int, int], cp_model.IntVar]()
        self.back = dict[tuple[int, int], cp_model.IntVar]()
        for i, j in np.ndindex(n, n):
            if i != j:
                self._arcs(i, j)
        arcs = [(i, j, lit) for each in (self.next, self.back) for (i, j), lit in each.items()]
        self.cp.add_circuit(arcs)
        self.cp.add_exactly_one(self.back.values())
        self.cp.add_all_different(self.at)
        for a, b in problem.before:
            self.cp.add(self.at[a] < self.at[b])
        takes = sum(_ms(problem.between[pair]) * lit for pair, lit in self.next.items()) + sum(
            _ms(problem.again[i, j] + problem.start[j]) * lit for (i, j), lit in self.back.items()
        )
        self.cp.add(takes >= _ms(least) - n)  # each is rounded
        self.cp.minimize(takes)

    def _arcs(self, i: int, j: int) -> None:
        n, before = self.problem.many, self.problem.reached
        between = before[i] & before[:, j]  # what has to come in the middle
        if not before[j, i] and not between.any():
            lit = self.next[i, j] = self.cp.new_bool_var(f"{i} {j}")
            self.cp.add(self.at[j] == self.at[i] + 1).only_enforce_if(lit)
        if not before[i].any() and not before[:, j].any():
            lit = self.back[i, j] = self.cp.new_bool_var(f"{i} last {j} first")
            self.cp.add(self.at[i] == n - 1).only_enforce_if(lit)
            self.cp.add(self.at[j] == 0).only_enforce_if(lit)

    def hint(self, order: Sequence[int]) -> None:
        for place, each in enumerate(order):
            self.cp.add_hint(self.at[each], place)
        follows = set(zip(order, order[1:], strict=False))
        for pair, lit in self.next.items():
            self.cp.add_hint(lit, pair in follows)
        for pair, lit in self.back.items():
            self.cp.add_hint(lit, pair == (order[-1], order[0]))

    def order(self, solver: cp_model.CpSolver) -> tuple[int, ...]:
        return tuple(sorted(range(self.problem.many), key=lambda k: solver.value(self.at[k])))


def _ms(seconds: float) -> int:
    return round(float(seconds) * MS)
