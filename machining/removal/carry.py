"""A path carried through columns of stock, step by step of a cell."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from math import ceil

import numpy as np
from numba import njit
from numpy.typing import NDArray

from machining.geometry.columns import NOTHING, SHIFT_X, SHIFT_Y, Columns, shifts
from machining.geometry.frames import Vector
from machining.motion.path import LegKind, Path

from .shape import ABOVE, Shape

MOST_STEPS = 2_000_000
MOST_TOGETHER = 100_000  # steps that are held at a time, where a path is lifted or joined
KINDS: tuple[LegKind, ...] = ("rapid", "cut", "plunge", "link", "ramp")
MOST_TURNS = 200  # of a thread that is looked at


@dataclass(frozen=True, slots=True)
class Steps:
    """A path in steps (m,): where the tip stands at their end (m, 3), how long each is (mm), the
    kind of its leg (place in ``KINDS``) and the leg it is of.
    """

    at: Vector
    length: Vector
    kind: NDArray[np.int8]
    leg: NDArray[np.int32]


@dataclass(frozen=True, slots=True)
class Carried:
    """What each step met: ``removed`` mm³, ``moment`` mm³·mm (each column's share times its height
    in contact) and ``deep`` mm, its highest contact; ``left`` are the columns afterwards.
    """

    steps: Steps
    removed: Vector
    moment: Vector
    deep: Vector
    left: Columns

    @property
    def volume(self) -> float:
        return float(self.removed.sum())


def steps_of(path: Path, cell: float, ceiling: float) -> Steps:
    """Steps no longer than a cell (mm) where the tip is under the ceiling, whole moves over it."""
    if not path.legs:
        return Steps(np.zeros((0, 3)), np.zeros(0), np.zeros(0, np.int8), np.zeros(0, np.int32))
    cell = max(cell, float(path.lengths.sum()) / MOST_STEPS)
    points = np.concatenate([leg.points for leg in path.legs])
    counts = np.array([len(leg.points) for leg in path.legs])
    starts = np.delete(np.arange(len(points)), np.cumsum(counts) - 1)  # of moves, not over joins
    of = np.repeat(np.arange(len(path.legs)), counts - 1)
    kinds = np.array([KINDS.index(leg.kind) for leg in path.legs], dtype=np.int8)
    ends = points[starts + 1]
    moves = ends - points[starts]
    whole = np.linalg.norm(moves, axis=1)
    over = np.minimum(ends[:, 2], points[starts, 2]) >= ceiling
    count = np.where(over, 1, np.maximum(np.ceil(whole / cell - 1e-9), 1)).astype(np.int64)
    which = np.repeat(np.arange(len(moves)), count)
    first = np.cumsum(count) - count
    share = (np.arange(len(which)) - first[which] + 1) / count[which]
    at = moves[which].astype(float, copy=False)
    at *= share[:, None]
    at += points[starts[which]]
    return Steps(
        at,
        (whole / count)[which],
        kinds[of][which],
        of[which].astype(np.int32),
    )


def parts_of(path: Path, cell: float, ceiling: float) -> Iterator[Steps]:
    """The same steps a part of the path after the other, each of whole legs."""
    cell = max(cell, float(path.lengths.sum()) / MOST_STEPS)
    part = np.floor(np.cumsum(path.lengths / cell) / MOST_TOGETHER)
    starts = [0, *(np.flatnonzero(np.diff(part)) + 1).tolist(), len(path.legs)]
    for first, end in zip(starts, starts[1:], strict=False):
        steps = steps_of(Path(path.legs[first:end]), cell, ceiling)
        yield replace(steps, leg=steps.leg + np.int32(first))


def carry(steps: Steps, shape: Shape, stock: Columns) -> Carried:
    """The steps of a tool through stock, which stays as it is: what is left is another."""
    lowest = float(steps.at[:, 2].min(initial=np.inf))
    return carry_on(steps, shape, stock.top, stock.copy(more_intervals(lowest, shape, stock.top)))


def carry_on(steps: Steps, shape: Shape, ceiling: float, left: Columns) -> Carried:
    """The steps of a tool through what is left of stock that was as high as a ceiling (mm). Of rows
    of teeth one goes after the other, each through what the one under it left, and they count as in
    contact together.
    """
    removed, moment, deep = _through(steps.at, shape, ceiling, left)
    together = (removed > 0).astype(float)
    for row in range(1, shape.rows):
        up = np.array([0.0, 0.0, row * shape.pitch])
        more = _through(steps.at + up, shape, ceiling, left)
        removed, moment, deep = removed + more[0], moment + more[1], np.maximum(deep, more[2])
        together += more[0] > 0
    if shape.rows > 1:
        moment *= together
    return Carried(steps, removed, moment, deep, left)


def more_intervals(lowest: float, shape: Shape, top: float) -> int:
    """How many more a column may get where a tip comes down to a height (mm): one over each turn of
    a thread.
    """
    if shape.pitch <= 0 or lowest > top:
        return int(shape.undercuts)
    return min(ceil((top - lowest) / shape.pitch) + 1, MOST_TURNS)


def _through(at: Vector, shape: Shape, ceiling: float, left: Columns) -> list[Vector]:
    """What each step removed, its moment and how deep it was; taken from what is left."""
    grid, found = left.grid, [np.zeros(len(at)) for _ in range(3)]
    u, v = shifts(grid.ny, SHIFT_X), shifts(grid.nx, SHIFT_Y)
    _carry(
        np.ascontiguousarray(at),
        (shape.radius, shape.lower, shape.upper, shape.flat, not shape.undercuts),
        ceiling,
        (grid.x, grid.y, grid.cell, u, v),
        left.tops,
        left.lows,
        *found,
    )
    return found


@njit(cache=True, nogil=True)  # type: ignore[untyped-decorator]
def _carry(at, shape, ceiling, place, tops, lows, removed, moment, deep):  # type: ignore[no-untyped-def]
    (radius, lower, upper, flat, clears), (x0, y0, cell, u, v) = shape, place
    nx, ny = tops.shape[0], tops.shape[1]
    lowest = np.inf  # it stood where it stands now
    least = lower.min()  # over its tip, of all of the tool
    for k in range(at.shape[0]):
        px, py, pz = at[k]
        if k > 0 and at[k - 1, 0] == px and at[k - 1, 1] == py:
            if clears and pz >= lowest:
                continue
            lowest = min(lowest, pz)
        else:
            lowest = pz
        if pz >= ceiling:
            continue
        # level with the step before or over it, only what its rim comes to is new
        level = flat and k > 0 and at[k - 1, 2] <= pz
        reach = radius if flat else reach_under(ceiling - pz, radius, lower)
        first = max(int(np.floor((py - reach - y0) / cell)), 0)
        last = min(int(np.floor((py + reach - y0) / cell)), ny - 1)
        for j in range(first, last + 1):
            near, _ = _row(y0 + j * cell - py, cell)
            if near > reach:
                continue
            half = np.sqrt(reach * reach - near * near)
            i = max(int(np.floor((px - half - x0) / cell - u[j])), 0)
            end = min(int(np.floor((px + half - x0) / cell - u[j])) + 1, nx - 1)
            skip, resume = end + 1, end + 1
            if level:
                skip, resume = _been(
                    y0 + j * cell - at[k - 1, 1], cell, radius, at[k - 1, 0] - x0, u[j]
                )
            while i <= end:
                if skip <= i < resume:
                    i = resume
                    continue
                dx, dy = x0 + (i + u[j]) * cell - px, y0 + (j + v[i]) * cell - py
                away = dx * dx + dy * dy
                if tops[i, j, 0] > pz + least and away <= reach * reach:
                    low, high = pz + lower[0], np.inf
                    if not flat:
                        low, high = _edge(np.sqrt(away) / radius, lower, upper, pz)
                    if tops[i, j, 0] > low:
                        height = _taken(tops[i, j], lows[i, j], low, high)
                        removed[k] += height
                        moment[k] += height * height
                        deep[k] = max(deep[k], height)
                i += 1
        removed[k] *= cell * cell
        moment[k] *= cell * cell


@njit(cache=True, nogil=True)  # type: ignore[untyped-decorator]
def reach_under(deep, radius, lower):  # type: ignore[no-untyped-def]
    """How far from its axis a tool whose tip is so deep under everything can meet any of it: its
    edge only rises outwards.
    """
    for n in range(len(lower)):
        if lower[n] >= deep:
            return radius * n / (len(lower) - 1)
    return radius


@njit(cache=True, nogil=True)  # type: ignore[untyped-decorator]
def _edge(share, lower, upper, pz):  # type: ignore[no-untyped-def]
    """From which height to which a tool sweeps at a share of its radius."""
    spot = share * (len(lower) - 1)
    n = min(int(spot), len(lower) - 2)
    low = pz + lower[n] + (lower[n + 1] - lower[n]) * (spot - n)
    if upper[n] >= ABOVE:  # a step from the neck to the edge
        return low, pz + upper[n + 1]
    return low, pz + upper[n] + (upper[n + 1] - upper[n]) * (spot - n)


@njit(cache=True, nogil=True)  # type: ignore[untyped-decorator]
def _row(below, cell):  # type: ignore[no-untyped-def]
    """How near and how far the columns of a row may be from a line along it."""
    above = below + cell
    far = max(abs(below), abs(above))
    if below <= 0.0 <= above:
        return 0.0, far
    return min(abs(below), abs(above)), far


@njit(cache=True, nogil=True)  # type: ignore[untyped-decorator]
def _been(below, cell, radius, x, shift):  # type: ignore[no-untyped-def]
    """From which column of a row to which a tool at x has been over all of them."""
    _, far = _row(below, cell)
    if far >= radius:
        return 1 << 30, 1 << 30
    half = np.sqrt(radius * radius - far * far)
    first = int(np.ceil((x - half) / cell - shift)) + 1
    return first, int(np.floor((x + half) / cell - shift))


@njit(cache=True, nogil=True)  # type: ignore[untyped-decorator]
def _taken(tops, lows, low, high):  # type: ignore[no-untyped-def]
    """Takes a column's material between two heights; how much that was."""
    taken, layer = 0.0, 0
    while layer < len(tops) and tops[layer] > low:
        top, bottom = tops[layer], lows[layer]
        if bottom >= high:
            layer += 1
            continue
        above, under = top > high, bottom < low
        taken += min(top, high) - max(bottom, low)
        if above and under:
            # a part of it stays over the edge and another under it
            for n in range(len(tops) - 1, layer + 1, -1):
                tops[n], lows[n] = tops[n - 1], lows[n - 1]
            lows[layer] = high
            if layer + 1 < len(tops):
                tops[layer + 1], lows[layer + 1] = low, bottom
            layer += 2
        elif above:
            lows[layer] = high
            layer += 1
        elif under:
            tops[layer] = low
            layer += 1
        else:
            for n in range(layer, len(tops) - 1):
                tops[n], lows[n] = tops[n + 1], lows[n + 1]
            tops[len(tops) - 1] = lows[len(tops) - 1] = NOTHING
    return taken
