"""What goes round with a table when it turns another side or face to the tool."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace

import numpy as np
from shapely import get_coordinates

from machining.geometry.frames import Vector
from machining.placing import rotary
from machining.world.machine import Table
from machining.world.rotary_axis import RotaryAxis

from . import around, index
from .beside import room_taken
from .context import OperationFacts, SetupFacts
from .pairs import UPRIGHT
from .stand import Body

NOTHING_TURNS = RotaryAxis(name="–", about="z", speed_deg_s=1.0, clamp_s=0.0)
ACROSS = {"x": (1, 2), "y": (0, 2), "z": (0, 1)}  # the plane an axis turns things in


@dataclass(frozen=True, slots=True)
class Swing:
    """How far from an axis (mm) what stands on a table reaches, and what does."""

    axis: RotaryAxis
    radius_mm: float
    body: str


def turning(setup: SetupFacts, table: Table) -> list[RotaryAxis]:
    """The axes of a table that its setup's operations turn."""
    used = dict[str, set[float]]()
    for station in setup.stations:
        if station.place is not table or not station.work:
            continue
        faces = [station.turned_deg(k) for k in range(station.planned.positions)]
        for position in (faces.index(each) for each in dict.fromkeys(faces)):
            for way in (None, *index.sides(station).values()):
                for name, at in (index.angles_of(station, position, way) or {}).items():
                    used.setdefault(name, {0.0}).add(round(at, 6))
    return [each for each in table.turning if len(used.get(each.name, ())) > 1]


def swings(setup: SetupFacts, table: Table) -> list[Swing]:
    """Of each axis that turns, with all that stands on the table as it is put in."""
    name = f"swings on {table.id}"
    if name not in setup.shown:
        setup.shown[name] = _kept(setup, table)
    found: list[Swing] = setup.shown[name]
    return found


def _kept(setup: SetupFacts, table: Table) -> list[Swing]:
    here = [each for each in setup.stations if each.place is table]
    if not here:
        return []
    stand = tuple(
        (
            each.key,
            each.stand.bodies_key,
            each.tombstone,
            each.plate,
            tuple(dict.fromkeys(op.aim for op in each.work)),
        )
        for each in here
    )
    memo, key = here[0].arrives.memo, ("swings", table, stand)
    return memo.get(key, lambda: _swings(setup, table, turning(setup, table)))


def _swings(setup: SetupFacts, table: Table, axes: list[RotaryAxis]) -> list[Swing]:
    found, bodies = [], [*_alike(setup, table)]
    for axis in axes:
        reach = [(_reach(body, at, axis, table), body) for body, at in bodies]
        radius, body = max(reach, key=lambda each: each[0])
        found.append(Swing(axis, radius, body.name or body.role))
    return found


def highest(setup: SetupFacts, table: Table) -> Swing | None:
    """What stands highest under a spindle that is not at work (mm over the table's top): what goes
    round, at its farthest, where anything turns towards it.
    """
    name = f"highest on {table.id}"
    if name not in setup.shown:
        setup.shown[name] = _highest(setup, table)
    found: Swing | None = setup.shown[name]
    return found


def _highest(setup: SetupFacts, table: Table) -> Swing | None:
    lying = [each for each in swings(setup, table) if each.axis.about != "z"]
    if lying:
        most = max(lying, key=lambda each: each.radius_mm + each.axis.above_mm)
        return replace(most, radius_mm=most.radius_mm + most.axis.above_mm)
    tops = [(body.top + float(at[:, 2].max()), body) for body, at in _alike(setup, table)]
    if not tops:
        return None
    top, body = max(tops, key=lambda each: each[0])
    return Swing(NOTHING_TURNS, top, body.name or body.role)


def turns_with(op: OperationFacts) -> bool:
    """Does the table turn for it, its tool in the spindle?"""
    if op.station.tombstone is not None and len({*_faces(op)}) > 1:
        return True
    place, aim = op.station.place, op.operation.aim
    if op.aimed is None or place is None:
        return False
    way = index.way_to(op.station, aim) if aim is not None else None
    return way is None or any(abs(to) > index.SAME_DEG for _, to in way.of_work)


def _faces(op: OperationFacts) -> Iterator[float]:
    for position in range(op.station.planned.positions):
        yield op.station.turned_deg(position)


def standing(setup: SetupFacts, table: Table) -> Iterator[Body]:
    """All that stands on a table, in its frame with its axes at 0."""
    for body, at in _alike(setup, table):
        yield from (around.moved(body, each) for each in at)


def _alike(setup: SetupFacts, table: Table) -> Iterator[tuple[Body, Vector]]:
    """Its bodies, each with all the places (n, 3) where one such stands, mm."""
    for station in setup.stations:
        if station.place is not table:
            continue
        for body in around.carried_by(station):
            yield body, np.zeros((1, 3))
        put = index.origins_of(station)
        faces = np.array([station.turned_deg(k) for k in range(len(put))])
        for face in dict.fromkeys(faces.tolist()):
            turn = rotary.turn_about("y", -face)
            at = rotary.carried_round(put[faces == face], turn, index.centre(table))
            for body in room_taken(station, turn if station.tombstone else UPRIGHT):
                yield body, at


def _reach(body: Body, at: Vector, axis: RotaryAxis, table: Table) -> float:
    """How far from an axis the farthest of those at some places reaches, mm."""
    plan = get_coordinates(body.region)
    corners = np.vstack(
        [np.column_stack([plan, np.full(len(plan), z)]) for z in (body.bottom, body.top)]
    )
    every = (corners[None, :, :] + at[:, None, :]).reshape(-1, 3)
    return float(_from_axis(every - index.centre(table), axis, table).max())


def _from_axis(corners: Vector, axis: RotaryAxis, table: Table) -> Vector:
    if axis.about == "x" and any(each.about == "z" for each in table.rotaries):
        sideways = np.hypot(corners[:, 0], corners[:, 1])  # wherever it was turned to before
        return np.hypot(sideways, corners[:, 2])
    a, b = ACROSS[axis.about]
    return np.hypot(corners[:, a], corners[:, b])
