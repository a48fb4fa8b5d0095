"""The values of a machine that fit the times of its runs, how sure they are, and what those times
can't tell apart.

Least squares of seconds over what a watch is off by, with what the record says as a weak guess:
what no run tells of stays as it was. Source: Gauss and Newton, damped; spreads from the curvature.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import hypot

import numpy as np

from machining.geometry.frames import Vector
from machining.quantities.errors import Missing, OutOfRange

from ..timing import Drive
from .runs import Run, Timed
from .values import LEAST, NAMES, Values

WATCH_S, WATCH_SHARE = 0.3, 0.003  # how far a watch in a hand is off
GUESS = 0.7  # how far a record may be off, as a share (of its logarithm)
TOLD = 0.5  # of that guess: what is less sure than that was told nothing by the runs
ALIKE = 0.9
LEAST_RUNS, MOST_STEPS, STEP, DONE = 4, 40, 1e-4, 1e-6


@dataclass(frozen=True, slots=True)
class Fitted:
    """``values``, the spread (one standard deviation, as a share) of each by name, those that the
    runs ``told``, pairs of them that they can't tell apart, and by how much each run is off (s).
    """

    values: Values
    spread: dict[str, float]
    told: frozenset[str]
    alike: tuple[tuple[str, str], ...]
    off: dict[str, float]


def fit(before: Values, timed: Sequence[Timed], runs: Sequence[Run], like: Drive) -> Fitted:
    """Raises OutOfRange for fewer than four runs or one timed twice, Missing for a run that is
    none.
    """
    known = {each.id: each for each in runs}
    for each in timed:
        if each.run not in known:
            raise Missing("Run", each.run)
    if len(timed) < LEAST_RUNS:
        raise OutOfRange("timed runs", len(timed), f"at least {LEAST_RUNS}")
    twice = {each.run for each in timed if sum(o.run == each.run for o in timed) > 1}
    if twice:
        raise OutOfRange("timed runs", sorted(twice)[0], "each once: its times' mean")
    problem = _Problem(before, [known[each.run] for each in timed], timed, like)
    at = problem.solved()
    spread, covariance = problem.spreads(at)
    told = frozenset(name for name in NAMES if spread[name] < TOLD * GUESS)
    off = {each.run: float(o) for each, o in zip(timed, problem.seconds(at), strict=True)}
    return Fitted(
        problem.values(at), spread, told, tuple(_alike(covariance, spread)), _less(off, timed)
    )


def _less(seconds: dict[str, float], timed: Sequence[Timed]) -> dict[str, float]:
    return {each.run: seconds[each.run] - each.seconds for each in timed}


class _Problem:
    """Logarithms of the values over those before are what is looked for."""

    def __init__(
        self, before: Values, runs: Sequence[Run], timed: Sequence[Timed], like: Drive
    ) -> None:
        self.before = np.log([max(value, LEAST) for _, value in before.items()])
        self.runs, self.like = runs, like
        self.timed = np.array([each.seconds for each in timed])
        self.watch = np.array([hypot(WATCH_S, WATCH_SHARE * each.seconds) for each in timed])

    def values(self, at: Vector) -> Values:
        return Values(*np.exp(self.before + at).tolist())

    def seconds(self, at: Vector) -> Vector:
        values = self.values(at)
        return np.array([each.seconds(values, self.like) for each in self.runs])

    def off(self, at: Vector) -> Vector:
        return np.concatenate([(self.seconds(at) - self.timed) / self.watch, at / GUESS])

    def slopes(self, at: Vector) -> Vector:
        here = self.off(at)
        return np.stack([(self.off(at + each) - here) / STEP for each in STEP * np.eye(len(at))], 1)

    def solved(self) -> Vector:
        at, damped = np.zeros(len(self.before)), 1e-3
        off = self.off(at)
        for _ in range(MOST_STEPS):
            slopes = self.slopes(at)
            square = slopes.T @ slopes
            step = np.linalg.solve(square + damped * np.diag(np.diag(square)), -slopes.T @ off)
            then = self.off(at + step)
            if then @ then < off @ off:
                gained, at, off, damped = off @ off - then @ then, at + step, then, damped / 5.0
                if gained < DONE * (1.0 + off @ off):
                    break
            else:
                damped *= 5.0
                if damped > 1e9:
                    break
        return at

    def spreads(self, at: Vector) -> tuple[dict[str, float], Vector]:
        slopes = self.slopes(at)
        covariance = np.linalg.inv(slopes.T @ slopes)
        sigma: list[float] = np.sqrt(np.diag(covariance)).tolist()
        return dict(zip(NAMES, sigma, strict=True)), np.asarray(covariance, dtype=float)


def _alike(covariance: Vector, spread: dict[str, float]) -> list[tuple[str, str]]:
    sigma = np.array([spread[name] for name in NAMES])
    together = covariance / np.outer(sigma, sigma)
    return [
        (NAMES[i], NAMES[j])
        for i in range(len(NAMES))
        for j in range(i + 1, len(NAMES))
        if abs(float(together[i, j])) > ALIKE
    ]
