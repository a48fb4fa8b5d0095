"""What an operation would have to cut, were it done before one that it follows now: the metal that
is gone by then.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import combinations

import numpy as np
from shapely import box

from machining.facts.context import OperationFacts, PlanFacts, Ready, StationFacts
from machining.facts.found import shape_for
from machining.facts.found_turned import profile_of
from machining.facts.kinds import kind_of
from machining.facts.taken import metal_taken
from machining.facts.tilted import is_tilted
from machining.geometry.columns import Columns, Grid, columns_of, common
from machining.geometry.regions import Region
from machining.geometry.solids import posed, to_mesh
from machining.placing.zero import Lie
from machining.plan.turned import TurnThread
from machining.quantities.said import Said, Shown, length
from machining.removal.carry import carry, steps_of
from machining.removal.turned import sweep

from .reason import Reason, because

ACROSS = 120  # columns along the longest side
SOME_MM3, SOME_MM2, SOME_DEEP_MM = 1.0, 0.05, 0.1  # what columns and sections tell no better
NOT_KNOWN = "What it cuts is not known: it stays after operation {first}."
NOT_FOLLOWED = "Its way is not followed through the stock: it stays after operation {first}."
LITTLE = 0.1  # of what it roughs itself: a hole not drilled yet is no matter to it


@dataclass(frozen=True, slots=True)
class InWay:
    """What would stand in the way of a cut: how much (mm³, of what turns the mm² of its section),
    and the deepest of it (mm), None where that is not known.
    """

    much: float
    deep: float | None


def metal(station: StationFacts, facts: PlanFacts) -> Iterator[Reason]:
    for first, then in combinations(station.operations, 2):
        if first.before.key == first.after.key:
            continue
        if not isinstance(then, Ready) or not then.path.legs:
            yield because(first, then, "stock", NOT_KNOWN)
            continue
        found = _in_way(first, then)
        if found is None:
            yield because(first, then, "stock", NOT_FOLLOWED)
        elif _is_some(found, then) and not _bears(found, first, then):
            yield _said(first, then, found)


def _said(first: OperationFacts, then: Ready, found: InWay) -> Reason:
    if found.deep is None:
        return because(
            first, then, "stock", "It would have to cut what operation {first} takes away."
        )
    values = {"first": Shown(f"{first.number}"), "deep": length(found.deep)}
    text = "It would have to cut the {deep} that operation {first} takes away where it cuts."
    return Reason(first.id, then.id, "stock", Said(text, values))


def _is_some(found: InWay, then: Ready) -> bool:
    if found.deep is None:
        return found.much > SOME_MM2
    return found.much > SOME_MM3 and found.deep > SOME_DEEP_MM


def _bears(found: InWay, first: OperationFacts, then: Ready) -> bool:
    """Does it rough so much that a hole that is not there yet is no matter?"""
    hole, rough = kind_of(first.operation).makes_hole, kind_of(then.operation).roughs
    if found.deep is None or not hole or not rough:
        return False
    return found.much < LITTLE * (then.before.volume() - then.after.volume())


def _in_way(first: OperationFacts, then: Ready) -> InWay | None:
    """What of the metal of ``first`` the path of ``then`` goes through; None where that can't be
    looked at.
    """
    memo = then.before.memo
    key = ("in way", first.before.key, first.after.key, then.path_key, then.lie.key, then.tool)
    if then.turns and not isinstance(then.operation, TurnThread):
        return memo.get(key, lambda: _turned(first, then))
    if then.turns:
        return memo.get(key, lambda: _threaded(first, then))
    if is_tilted(then) or kind_of(then.operation).turned:
        return None
    return memo.get(key, lambda: _milled(first, then))


def _milled(first: OperationFacts, then: Ready) -> InWay:
    grid = _grid(then.lie)
    there = _metal_of(first, then.lie, grid)
    left = common(there, _swept(then, grid))
    much = there.volume() - left.volume()
    return InWay(much, _deepest(there, left) if much > 0 else 0.0)


def _grid(lie: Lie) -> Grid:
    low, high = lie.stock_low[:2], lie.stock_high[:2]
    return Grid.over(low, high, float(max(high - low)) / ACROSS)


def _metal_of(first: OperationFacts, lie: Lie, grid: Grid) -> Columns:
    """What it takes away, as it lies for another."""

    def found() -> Columns:
        gone = metal_taken(first)
        if first.lie.key != lie.key:
            gone = posed(posed(gone, first.lie.pose.inverse()), lie.pose)
        return columns_of(to_mesh(gone), grid)

    key = ("metal", first.before.key, first.after.key, lie.key, grid)
    return first.before.memo.get(key, found)


def _swept(then: Ready, grid: Grid) -> Columns:
    """All of the blank's box that its path leaves."""
    low, high = float(then.lie.stock_low[2]), float(then.lie.stock_high[2])
    key = ("leaves of box", then.path_key, grid, low, high, then.tool)

    def found() -> Columns:
        shape = (grid.nx, grid.ny, 1)
        box = Columns(grid, np.full(shape, high), np.full(shape, low))
        return carry(steps_of(then.path, grid.cell, high), shape_for(then), box).left

    return then.before.memo.get(key, found)


def _deepest(there: Columns, left: Columns) -> float:
    """The most that one column lost, mm."""
    lost = (there.tops - there.lows).sum(axis=2) - (left.tops - left.lows).sum(axis=2)
    return float(lost.max(initial=0.0))


def _turned(first: OperationFacts, then: Ready) -> InWay:
    there = _section_of(first)
    if there.is_empty:
        return InWay(0.0, None)
    left = sweep(then.path, profile_of(then), there)[1]
    return InWay(float(there.area - left.area), None)


def _threaded(first: OperationFacts, then: Ready) -> InWay:
    """A thread is fed along what it is cut in: all that lies between the corners of its way."""
    there = _section_of(first)
    if there.is_empty:
        return InWay(0.0, None)
    low, high = then.path.bounds()
    meets = there.intersects(box(low[0], low[2], high[0], high[2]))
    return InWay(float(there.area) if meets else 0.0, None)


def _section_of(first: OperationFacts) -> Region:
    before, after = first.before.half_section(), first.after.half_section()
    found: Region = before.difference(after)
    return found
