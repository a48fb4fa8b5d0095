"""How far apart two positions of a load must stand, and what asks for it."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from itertools import chain

import numpy as np
from shapely import affinity

from machining.geometry.frames import Vector
from machining.geometry.regions import Region
from machining.memo import Memo
from machining.motion.beside import Disc, apart, swept_below

from . import around
from .beside import Neighbour, between, bodies, room_taken, stock_then
from .context import PlanFacts, Ready, StationFacts
from .discs import discs
from .pairs import UPRIGHT

LETTERS = "xy"
ACROSS = 1e-6  # of a direction that is none of those seen from above


@dataclass(frozen=True, slots=True)
class Pitch:
    """The least way (mm) from one position to the next along an axis, and what governs it: a body
    of one, and a body of the other or, with an ``operation``, its ``who``.
    """

    mm: float
    body: str
    other: str
    operation: str = ""


def pitch(station: StationFacts, facts: PlanFacts, memo: Memo, axis: int) -> Pitch | None:
    """Between equal copies of a station, along X (0) or Y (1); None where nothing stands there."""
    work = tuple(op.key for op in station.operations)
    first = station.arrives.key, station.setup.planned.order
    key = ("pitch", facts.key, station.key, first, work, axis)
    return memo.get(key, lambda: from_to(station, station, facts, memo, axis, 0.0))


def from_to(
    here: StationFacts, there: StationFacts, facts: PlanFacts, memo: Memo, axis: int, across: float
) -> Pitch | None:
    """How far the stock of ``there`` has to stand past that of ``here`` along an axis, ``across``
    beside it (mm from middle to middle): with ``between_mm`` from body to body, and with the room
    each tool wants beside its path.
    """
    start = between(here, 0, there, 0)
    start[axis] = _middle(here)[axis] - _middle(there)[axis]
    start[1 - axis] = _middle(here)[1 - axis] - _middle(there)[1 - axis] + across
    most: Pitch | None = None

    def worth(bound: float) -> bool:
        return most is None or bound > most.mm

    for each in chain(
        _of_bodies(here, there, start, axis, facts.library.settings.between_mm),
        _of_tools(here, there, start, axis, facts, memo, worth),
        _of_tools(there, here, -start, axis, facts, memo, worth, before=True),
    ):
        most = each if worth(each.mm) else most
    return most


def _middle(station: StationFacts) -> Vector:
    middle: Vector = (station.lie.stock_low[:2] + station.lie.stock_high[:2]) / 2.0
    return middle


def _of_bodies(
    here: StationFacts, there: StationFacts, start: Vector, axis: int, room: float
) -> Iterator[Pitch]:
    x, y, z = (float(each) for each in start)
    theirs = [
        (body, affinity.translate(body.region, x, y), body.bottom + z, body.top + z)
        for body in room_taken(there)
    ]
    for body in room_taken(here):
        grown = body.region.buffer(room, join_style="mitre")
        for other, region, bottom, top in theirs:
            if bottom < body.top and body.bottom < top:
                found = apart(grown, region, axis)
                if found is not None:
                    yield Pitch(found, body.name or body.role, other.name or other.role)


def _of_tools(
    here: StationFacts,
    there: StationFacts,
    start: Vector,
    along: int,
    facts: PlanFacts,
    memo: Memo,
    worth: Callable[[float], bool],
    before: bool = False,
) -> Iterator[Pitch]:
    """What the tools of one ask of the other, which stands past it, or ``before`` it. Those
    that come along the axis themselves have it in their way at any distance. What can't come to
    more than is known already, by where paths and bodies end, is not ``worth`` it.
    """
    position, other = (1, 0) if before else (0, 1)
    for op in here.operations:
        if not isinstance(op, Ready) or not op.path.legs:
            continue
        turn = around.aim_of(op) if op.aimed is not None else UPRIGHT
        way = turn[:, along]
        if abs(way[2]) > ACROSS:
            continue
        axis, back = int(np.abs(way).argmax()), before != bool(way.sum() < 0)
        stock = stock_then(op, position, there, other)
        names, standing = bodies(Neighbour(there, other, stock, start, turn), memo)
        moved = standing.moved(turn @ start)
        ends = _ends(op, axis)
        for who, disc in discs(op, facts):
            for name, region, top in zip(names, moved.regions, moved.tops, strict=True):
                if region.is_empty or not worth(_at_most(ends, disc.reach, region, axis, back)):
                    continue
                swept = _swept(op, float(top), disc, memo)
                swept, region = (_mirrored(each, axis, back) for each in (swept, region))
                found = apart(swept, region, axis)
                if found is not None:
                    yield Pitch(found, name, who, op.id)


def _ends(op: Ready, axis: int) -> tuple[float, float]:
    """From where to where its path goes along an axis (mm)."""
    low, high = op.path.bounds()
    return float(low[axis]), float(high[axis])


def _at_most(
    ends: tuple[float, float], reach: float, region: Region, axis: int, back: bool
) -> float:
    """No more than so far a region has to go, whatever its shape."""
    low, high = region.bounds[axis], region.bounds[axis + 2]
    return (high - ends[0] if back else ends[1] - low) + reach


def _swept(op: Ready, top: float, disc: Disc, memo: Memo) -> Region:
    """What a disc covers while it is too low for something so high."""
    height = round(top + disc.below - disc.above, 3)
    key = ("swept below", op.path_key, height, disc.reach)
    return memo.get(key, lambda: swept_below(op.path, height, disc.reach))


def _mirrored(region: Region, axis: int, back: bool) -> Region:
    signs = np.where(np.arange(2) == axis, -1.0, 1.0)
    return affinity.scale(region, *signs, origin=(0.0, 0.0)) if back else region
