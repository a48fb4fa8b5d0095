"""What stands on a table against what stands beside the spindle, which it is carried past."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from machining.geometry.frames import Vector
from machining.memo import Memo
from machining.motion.beside import moves_of
from machining.placing import rotary
from machining.world.machine import Obstacle

from . import around, head, index
from .beside import on_table, room_taken
from .context import Ready, StationFacts

AXES = {"x": 0, "y": 1}


@dataclass(frozen=True, slots=True)
class Standing:
    """A body of a position (from 0): its corners on the table, from its middle, mm."""

    station: StationFacts
    position: int
    body: str
    low: Vector
    high: Vector


@dataclass(frozen=True, slots=True)
class Carried:
    """While a tool works at a ``position`` (from 0) of its operation's station, something is
    carried ``over_mm`` into an obstacle.
    """

    position: int
    what: Standing
    obstacle: Obstacle
    over_mm: float


def carried_into(op: Ready, memo: Memo, room: float) -> Carried | None:
    """What on the table comes deepest into an obstacle on an operation's way; None where all of it
    keeps ``room`` (mm) away.
    """
    if not on_table(op.station) or not op.path.legs or not op.machine.obstacles:
        return None
    worst: Carried | None = None
    for position in range(op.station.planned.positions):
        standing, tip = _standing(op, position), None
        low, high = head.ends(op, position)
        for obstacle in op.machine.obstacles:
            for each in standing:
                if _farthest(low, high, each, obstacle) + room <= obstacle.from_mm:
                    continue  # wherever the obstacle is across its way
                if tip is None:
                    moves = memo.get(("moves", op.path_key), lambda: moves_of(op.path))
                    tip = head.slides(op, position, moves)
                over = _over(tip, each, obstacle, room)
                if over > 1e-6 and (worst is None or over > worst.over_mm + 1e-6):
                    worst = Carried(position, each, obstacle, over)
    return worst


def _standing(op: Ready, position: int) -> list[Standing]:
    """Every body of every position, with the table at the index of one of them; worked out once for
    all operations that look from a side.
    """
    aim = op.operation.aim if op.aimed is not None else None
    name = f"standing of {op.station.id} {aim} {op.station.turned_deg(position)}"
    shown = op.setup.shown
    if name not in shown:
        shown[name] = [*_stands(op, position)]
    found: list[Standing] = shown[name]
    return found


def _stands(op: Ready, position: int) -> Iterator[Standing]:
    pivot = index.centre(op.station.place)
    for station in op.setup.stations:
        if station.place is not op.station.place:
            continue
        for other, put in enumerate(index.origins_of(station)):
            turn = head.work_turn(op, around.turned_to(op, position, station.turned_deg(other)))
            at = rotary.carried_round(put, turn, pivot)[:2]
            for body in room_taken(station, turn):
                west, south, east, north = body.region.bounds
                low, high = np.array([west, south]), np.array([east, north])
                yield Standing(station, other, body.name or body.role, low + at, high + at)


def _farthest(low: Vector, high: Vector, what: Standing, obstacle: Obstacle) -> float:
    """How far (mm) it comes towards an obstacle, the spindle between two corners of its way."""
    axis, plus = AXES[obstacle.towards[0]], obstacle.towards[1] == "+"
    return float(what.high[axis] - low[axis] if plus else high[axis] - what.low[axis])


def _over(tip: Vector, what: Standing, obstacle: Obstacle, room: float) -> float:
    """How far (mm) it comes into an obstacle while the spindle makes these moves; 0 where it never
    is beside it.
    """
    axis, plus = AXES[obstacle.towards[0]], obstacle.towards[1] == "+"
    half, across = obstacle.wide_mm / 2.0 + room, 1 - axis
    ends = _between(
        tip,
        axis,
        float(what.low[across]) - obstacle.middle_mm - half,
        float(what.high[across]) - obstacle.middle_mm + half,
    )
    if not len(ends):
        return 0.0
    reach = what.high[axis] - ends.min() if plus else ends.max() - what.low[axis]
    return float(reach + room - obstacle.from_mm)


def _between(tip: Vector, axis: int, least: float, most: float) -> Vector:
    """How far along an axis both ends are of what of each move lies between two bounds across."""
    a, b = tip[:, 0, 1 - axis], tip[:, 1, 1 - axis]
    kept = (np.minimum(a, b) <= most) & (np.maximum(a, b) >= least)
    begin, end, a, b = tip[kept, 0, axis], tip[kept, 1, axis], a[kept], b[kept]
    level = np.abs(b - a) <= 1e-9
    way = np.where(level, 1.0, b - a)
    first = np.where(level, 0.0, np.clip((least - a) / way, 0.0, 1.0))
    last = np.where(level, 1.0, np.clip((most - a) / way, 0.0, 1.0))
    along = end - begin
    return np.concatenate([begin + first * along, begin + last * along])
