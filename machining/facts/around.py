"""What stands round an operation's work as its tool sees it, with the table's axes at the index of
a position: what holds the part, the table, what carries it.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from functools import partial

import numpy as np
from shapely import MultiPoint, Polygon, affinity, box

from machining.geometry.frames import Vector
from machining.memo import Memo, digest
from machining.placing import rotary
from machining.world.machine import Table, Tombstone
from machining.world.rotary_axis import RotaryAxis

from . import index
from .context import OperationFacts, StationFacts
from .stand import Body, key_of

TABLE_MM = 60.0  # how thick it is taken to be
ALONG_Y = np.array([[1.0, 0.0, 0.0], [0.0, 0.0, 1.0], [0.0, -1.0, 0.0]])  # a prism's height, as Y


def aim_of(op: OperationFacts) -> Vector:
    """The rotation from its station to how its tool sees it."""
    turn: Vector = op.lie.pose.rotation @ op.station.lie.pose.rotation.T
    return turn


def holds(op: OperationFacts, memo: Memo) -> tuple[Body, ...]:
    """What of its holding a tool or its holder can meet, in the frame it is cut in: from above what
    stands beside the part, from another side all of it.
    """
    if op.aimed is None:
        return op.stand.beside
    turn, bodies = aim_of(op), op.stand.bodies
    key = ("stand turned", op.stand.bodies_key, turn.round(9).tobytes())
    return memo.get(key, lambda: tuple(piece for each in bodies for piece in each.turned(turn)))


def holds_key(op: OperationFacts) -> str:
    """Equal where its tool meets equal bodies of its holding."""
    stand = op.stand
    if op.aimed is None:
        return stand.beside_key
    return digest(stand.bodies_key, aim_of(op).round(9).tobytes())


def carried_by(station: StationFacts) -> Iterator[Body]:
    """The table and the tombstone on it, in the table's frame with its axes at 0."""
    table = station.place
    if not isinstance(table, Table):
        return
    half = table.x_mm / 2.0, table.y_mm / 2.0
    if table.surface_below_mm is None:
        plate = box(-half[0], -half[1], half[0], half[1])
        yield Body("table", "table", plate, -TABLE_MM, 0.0)
        if (on := station.plate) is not None:
            half = on.x_mm / 2.0, on.y_mm / 2.0
            region = box(-half[0], -half[1], half[0], half[1])
            yield Body("plate", on.name, region, 0.0, on.thick_mm)
        return
    top = -table.surface_below_mm
    lying = (
        Body("table", "table", box(-half[0], -half[1], half[0], half[1]), top - TABLE_MM, top),
        *_tombstone(station.tombstone, top),
    )
    for each in lying:
        yield from each.turned(ALONG_Y)


def _tombstone(on: Tombstone | None, bottom: float) -> Iterator[Body]:
    if on is not None:
        outline = tombstone_outline(on)
        yield Body("tombstone", on.name, outline, bottom, bottom + on.tall_mm)


def tombstone_outline(on: Tombstone) -> Polygon:
    """As it looks from above, its first face to the front."""
    corners = [(0.0, 0.0)] if on.sides == 1 else []
    for face in range(1, on.sides + 1):
        turn = rotary.turn_about("z", -on.turned_deg(face))[:2, :2]
        for across in (-on.wide_mm / 2.0, on.wide_mm / 2.0):
            corners.append(tuple(turn @ np.array([across, -on.out_mm])))
    hull: Polygon = MultiPoint(corners).convex_hull
    return hull


def turned_to(op: OperationFacts, position: int, face_deg: float = 0.0) -> Vector:
    """The rotation of what stands on its table, from where it looks to the tool with the table at
    ``face_deg``, to the index of one of its positions.
    """
    turn = op.station.turned_deg(position) - face_deg
    return aim_of(op) @ rotary.turn_about("y", turn) if turn else aim_of(op)


def arms(table: Table) -> Iterator[tuple[RotaryAxis, Body]]:
    """What carries a table where it tilts, in its frame with its axes at 0: they tilt with it, and
    do not turn as it does.
    """
    for each in table.turning:
        if each.about == "z" or each.arms_apart_mm <= 0.0:
            continue
        near, deep = each.arms_apart_mm / 2.0, each.arms_deep_mm / 2.0
        bottom = min(-TABLE_MM, each.arms_over_mm - TABLE_MM)
        for sign in (-1.0, 1.0):
            ends = sorted((sign * near, sign * (near + each.arms_wide_mm)))
            plan = (ends[0], -deep, ends[1], deep)
            region = box(*plan) if each.about == "x" else box(plan[1], plan[0], plan[3], plan[2])
            yield each, Body("arm", f"arm of {each.name}", region, bottom, each.arms_over_mm)


def is_amid(op: OperationFacts) -> bool:
    """Does a tool come beside what carries its part?"""
    table = op.station.place
    if op.aimed is not None or op.station.tombstone is not None:
        return True
    return isinstance(table, Table) and any(True for _ in arms(table))


def _arms_as_tilted(op: OperationFacts) -> tuple[Body, ...]:
    table, aim = op.station.place, op.operation.aim
    if not isinstance(table, Table):
        return ()
    way = index.way_to(op.station, aim) if op.aimed is not None and aim is not None else None
    to = {axis.name: deg for axis, deg in way.to} if way is not None else {}
    found, pivot = list[Body](), index.centre(table)
    for each, body in arms(table):
        turn = rotary.turn_about(each.about, to.get(each.name, 0.0))
        found += _turned((body,), turn, pivot - turn @ pivot)
    return tuple(found)


def tables(op: OperationFacts, memo: Memo) -> Iterator[tuple[list[int], tuple[Body, ...]]]:
    """What carries all positions, as it looks to the tool: which positions it looks so for, and the
    bodies, from the middle of the table. Seen from above a table is under all that stands on it.
    """
    beside = _arms_as_tilted(op)
    if op.aimed is None and op.station.tombstone is None:
        if beside:
            yield [*range(op.station.planned.positions)], beside
        return
    carried, known = memo.get(
        ("carried by", op.station.place, op.station.tombstone, op.station.plate),
        lambda: _with_key(tuple(carried_by(op.station))),
    )
    pivot = index.centre(op.station.place)
    faces = [op.station.turned_deg(k) for k in range(op.station.planned.positions)]
    for face in dict.fromkeys(faces):
        at = [k for k, each in enumerate(faces) if each == face]
        turn = turned_to(op, at[0])
        key = ("carried", known, turn.round(9).tobytes())
        put = pivot - turn @ pivot
        yield at, (*memo.get(key, partial(_turned, carried, turn, put)), *beside)


def _with_key(bodies: tuple[Body, ...]) -> tuple[tuple[Body, ...], str]:
    return bodies, key_of(bodies)


def _turned(bodies: tuple[Body, ...], turn: Vector, put: Vector) -> tuple[Body, ...]:
    return tuple(moved(piece, put) for each in bodies for piece in each.turned(turn))


def moved(body: Body, by: Vector) -> Body:
    """The same, carried by (x, y, z), mm."""
    x, y, z = (float(each) for each in by)
    region = affinity.translate(body.region, x, y)
    return replace(body, region=region, bottom=body.bottom + z, top=body.top + z)
