"""Small linear programmes, many of them alike: the primal simplex on columns, compiled.

Source: revised simplex with an explicit inverse of the basis; the steepest gain enters, Bland's
rule where steps stand still.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numba import njit
from numpy.typing import NDArray

from machining.geometry.frames import Vector

OPTIMAL, WITHOUT_END, GIVEN_UP = 0, 1, 2
NOTHING, PIVOT = 1e-9, 1e-9
STILL, MOST_STEPS = 40, 5000
AFRESH = 50  # steps after which the inverse is worked out anew
SAME, LOOSE, MISSING = 1e-12, 1e-7, 1e-7
Indices = NDArray[np.int64]
Status = Literal["optimal", "infeasible", "unbounded"]


@dataclass(frozen=True, slots=True)
class Solved:
    """The greatest worth and what gives it: each column's share (n,)."""

    status: Status
    worth: float
    shares: Vector


@dataclass(frozen=True, slots=True)
class Base:
    """Columns (n, m) that reach an amount (m,), from where programmes over them start: which are
    in the basis (m,), its inverse (m, m), and their shares (m,). ``signs`` are those of the
    artificial columns that may be left in it.
    """

    columns: Vector
    amount: Vector
    basis: Indices
    inverse: Vector
    shares: Vector
    signs: Vector


def base_of(columns: Vector, amount: Vector) -> Base | None:
    """Shares of columns (n, m), none of them negative, that make up an amount (m,); None where
    there are none.
    """
    columns = np.ascontiguousarray(columns, dtype=float)
    amount = np.ascontiguousarray(amount, dtype=float)
    n, m = columns.shape
    signs = np.where(amount < 0.0, -1.0, 1.0)
    basis, inverse, shares = np.arange(n, n + m), np.diag(signs).copy(), np.abs(amount)
    worth = np.append(np.zeros(n), -np.ones(m))
    missing = _reach(columns, amount, worth, basis, inverse, shares, signs)
    if missing > MISSING * max(1.0, float(np.abs(amount).max(initial=0.0))):
        return None
    return Base(columns, amount, basis, inverse, shares, signs)


def most(columns: Vector, amount: Vector, worth: Vector) -> Solved:
    """The most that shares of columns (n, m) are worth (n,) while they make up an amount (m,)."""
    base = base_of(columns, amount)
    return Solved("infeasible", 0.0, np.zeros(len(columns))) if base is None else best(base, worth)


def best(base: Base, worth: Vector) -> Solved:
    """The same from where programmes over the columns start."""
    n, m = base.columns.shape
    basis, inverse, shares = base.basis.copy(), base.inverse.copy(), base.shares.copy()
    every = np.append(worth, np.zeros(m))
    at = (base.columns, base.amount, every, basis, inverse, shares, base.signs, True, np.inf)
    state = _climb(*at)
    found = np.zeros(n + m)
    found[basis] = shares
    if state == WITHOUT_END:
        return Solved("unbounded", np.inf, found[:n])
    return Solved("optimal", float(found[:n] @ worth), found[:n])


def farthest(base: Base, ways: Vector, times: Vector, least: bool = False) -> tuple[Vector, Vector]:
    """How far (k,) one can go each of some ways (k, m), counted ``times`` (k,), from an amount that
    shares reach, and the shares there (k, n): the most of a way that can be added to the columns.
    Infinite where it never ends. Where the ``least`` alone is asked for, those that are farther are
    only known to be.
    """
    n, m = base.columns.shape
    ways = np.ascontiguousarray(ways, dtype=float)
    far, found = np.zeros(len(ways)), np.zeros((len(ways), n))
    columns = np.vstack([base.columns, np.zeros((1, m))])
    at = base.amount, base.basis, base.inverse, base.shares, base.signs
    _farthest(columns, *at, ways, np.asarray(times, dtype=float), far, found, least)
    return far, found


# what follows is plain loops over numbers: that compiles in a tenth of the time


@njit(cache=True)  # type: ignore[untyped-decorator]
def _in_basis(inverse, column, step):  # type: ignore[no-untyped-def]
    """A column in terms of the basis, written into ``step``."""
    for i in range(inverse.shape[0]):
        total = 0.0
        for j in range(inverse.shape[1]):
            total += inverse[i, j] * column[j]
        step[i] = total


@njit(cache=True)  # type: ignore[untyped-decorator]
def _enter(inverse, shares, row, step, basis, entering):  # type: ignore[no-untyped-def]
    """Exchange a column of the basis; ``step`` is the entering one in its terms."""
    m = inverse.shape[0]
    by = shares[row] / step[row]
    for j in range(m):
        inverse[row, j] /= step[row]
    for i in range(m):
        if i != row and step[i] != 0.0:
            for j in range(m):
                inverse[i, j] -= step[i] * inverse[row, j]
            shares[i] -= step[i] * by
            if 0.0 > shares[i] > -NOTHING:
                shares[i] = 0.0
    shares[row] = by
    basis[row] = entering


@njit(cache=True)  # type: ignore[untyped-decorator]
def _anew(columns, amount, signs, basis, inverse, shares):  # type: ignore[no-untyped-def]
    """The inverse of the basis and its shares by elimination, so that small errors do not grow."""
    n, m = columns.shape
    left = np.zeros((m, 2 * m))
    for k in range(m):
        left[k, m + k] = 1.0
        if basis[k] >= n:
            left[basis[k] - n, k] = signs[basis[k] - n]
        else:
            for i in range(m):
                left[i, k] = columns[basis[k], i]
    for k in range(m):
        best = k
        for i in range(k + 1, m):
            if abs(left[i, k]) > abs(left[best, k]):
                best = i
        for j in range(2 * m):
            left[k, j], left[best, j] = left[best, j], left[k, j]
        by = left[k, k]
        for j in range(2 * m):
            left[k, j] /= by
        for i in range(m):
            if i != k and left[i, k] != 0.0:
                by = left[i, k]
                for j in range(2 * m):
                    left[i, j] -= by * left[k, j]
    for i in range(m):
        total = 0.0
        for j in range(m):
            inverse[i, j] = left[i, m + j]
            total += left[i, m + j] * amount[j]
        shares[i] = max(total, 0.0)


@njit(cache=True)  # type: ignore[untyped-decorator]
def _entering(columns, worth, basis, inverse, first):  # type: ignore[no-untyped-def]
    """Which column gains most, or the first that gains; -1 where none does."""
    n, m = columns.shape
    prices = np.zeros(m)
    for i in range(m):
        if worth[basis[i]] != 0.0:
            for j in range(m):
                prices[j] += worth[basis[i]] * inverse[i, j]
    found, best = -1, NOTHING
    for k in range(n):
        gain = worth[k]
        for j in range(m):
            gain -= prices[j] * columns[k, j]
        if gain > best:
            found, best = k, gain
            if first:
                break
    return found


@njit(cache=True)  # type: ignore[untyped-decorator]
def _leaving(step, shares, basis, n, frozen, first):  # type: ignore[no-untyped-def]
    """Which row ends the step first, -1 where none does. Artificial columns do not move once they
    are at nothing.
    """
    row, least = -1, np.inf
    for i in range(len(basis)):
        if frozen and basis[i] >= n and abs(step[i]) > PIVOT:
            ratio = 0.0
        elif step[i] > PIVOT:
            ratio = max(shares[i], 0.0) / step[i]
        else:
            continue
        if row < 0 or ratio < least - SAME:
            row, least = i, ratio
        elif ratio <= least + SAME:
            better = basis[i] < basis[row] if first else abs(step[i]) > abs(step[row])
            row = i if better else row
    return row


@njit(cache=True)  # type: ignore[untyped-decorator]
def _climb(columns, amount, worth, basis, inverse, shares, signs, frozen, enough):  # type: ignore[no-untyped-def]
    """To the most worth, from a basis that is feasible; ``worth`` (n + m,) has the artificial
    columns last. No farther than until the last column has ``enough``.
    """
    n, m = columns.shape
    still, step = 0, np.zeros(m)
    for count in range(1, MOST_STEPS):
        if count % AFRESH == 0:
            _anew(columns, amount, signs, basis, inverse, shares)
        k = _entering(columns, worth, basis, inverse, still > STILL)
        if k < 0:
            return OPTIMAL
        _in_basis(inverse, columns[k], step)
        row = _leaving(step, shares, basis, n, frozen, still > STILL)
        if row < 0:
            return WITHOUT_END
        still = still + 1 if shares[row] <= NOTHING else 0
        _enter(inverse, shares, row, step, basis, k)
        for i in range(m):
            if basis[i] == n - 1 and shares[i] > enough:
                return OPTIMAL
    return GIVEN_UP


@njit(cache=True)  # type: ignore[untyped-decorator]
def _reach(columns, amount, worth, basis, inverse, shares, signs):  # type: ignore[no-untyped-def]
    """From artificial columns to real ones; what is missing then."""
    n, m = columns.shape
    _climb(columns, amount, worth, basis, inverse, shares, signs, False, np.inf)
    missing, step = 0.0, np.zeros(m)
    for row in range(m):
        if basis[row] < n:
            continue
        missing += shares[row]
        shares[row] = 0.0
        for k in range(n):  # one at nothing leaves where anything can take its row
            total = 0.0
            for j in range(m):
                total += inverse[row, j] * columns[k, j]
            if abs(total) > LOOSE:
                _in_basis(inverse, columns[k], step)
                _enter(inverse, shares, row, step, basis, k)
                break
    return missing


@njit(cache=True)  # type: ignore[untyped-decorator]
def _farthest(columns, amount, basis, inverse, shares, signs, ways, times, far, found, least):  # type: ignore[no-untyped-def]
    """``columns`` (n, m) have room for the way as their last. Of ``least`` alone the others are
    left once they are farther.
    """
    n, m = columns.shape
    worth = np.zeros(n + m)
    worth[n - 1] = 1.0
    own, inv, at, nearest = np.zeros(m, np.int64), np.zeros((m, m)), np.zeros(m), np.inf
    for k in range(len(ways)):
        for i in range(m):
            columns[n - 1, i] = ways[k, i]
            own[i] = basis[i] + 1 if basis[i] >= n - 1 else basis[i]
            at[i] = shares[i]
            for j in range(m):
                inv[i, j] = inverse[i, j]
        enough = nearest / times[k] if least else np.inf
        state = _climb(columns, amount, worth, own, inv, at, signs, True, enough)
        if state == WITHOUT_END:
            far[k] = np.inf
        for i in range(m):
            if own[i] < n - 1:
                found[k, own[i]] = at[i]
            elif own[i] == n - 1 and state != WITHOUT_END:
                far[k] = times[k] * at[i]
        nearest = min(nearest, far[k])
