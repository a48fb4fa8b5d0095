"""Many parts on a table: where they stand, as close as tools and holdings let them."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from math import ceil, floor

import numpy as np

from machining.facts.beside import room_taken
from machining.facts.context import PlanFacts, SetupFacts, StationFacts
from machining.facts.pitch import pitch
from machining.facts.spread import carried_away
from machining.memo import Memo
from machining.plan.at import At, Faces, Grid, One, Row, Spots
from machining.plan.edit import Change, Edit
from machining.world.machine import Table, Tombstone


def load_of(station: StationFacts, parts: int, facts: PlanFacts, memo: Memo) -> At | None:
    """So many of a station about where it stands: a row along X, or along Y where only that has the
    room, else a grid; a last row that is not full where the number asks for it.
    """
    first = station.planned.at
    if isinstance(station.place, Table) and station.place.tombstones:
        return _on_faces(station, parts, facts, memo)
    about = One() if first is None else One(at_mm=_middle(first))
    if parts == 1:
        return None if about == One() else about
    steps = [_whole(station, facts, memo, axis) for axis in (0, 1)]
    most = [_most(station, steps[axis], axis) for axis in (0, 1)]
    if parts <= most[0] or (parts > most[1] and most[0] * most[1] <= 1):
        return Row(at_mm=about.at_mm, along="x", count=parts, pitch_mm=steps[0])
    if parts <= most[1]:
        return Row(at_mm=about.at_mm, along="y", count=parts, pitch_mm=steps[1])
    columns = next((n for n in range(most[0], 1, -1) if parts % n == 0), most[0])
    grid = Grid(
        at_mm=about.at_mm,
        columns=columns,
        rows=ceil(parts / columns),
        column_pitch_mm=steps[0],
        row_pitch_mm=steps[1],
    )
    return grid if len(grid.spots) == parts else Spots(at_mm=grid.spots[:parts])


def most_of(station: StationFacts, facts: PlanFacts, memo: Memo) -> int:
    """How many of a station go on what carries it."""
    if station.machine is None or not isinstance(station.place, Table):
        return 1
    tombstones = station.place.tombstones
    on = (station.tombstone or tombstones[0]) if tombstones else None
    columns, rows = (
        _most(station, _whole(station, facts, memo, axis), axis, on) for axis in (0, 1)
    )
    return columns * rows * (on.sides if on is not None else 1)


def _on_faces(station: StationFacts, parts: int, facts: PlanFacts, memo: Memo) -> Faces:
    """The same number on each of as many faces as divide it, one above the other where they go so;
    more than go on them all where there are more.
    """
    assert isinstance(station.place, Table)
    on, at = station.tombstone or station.place.tombstones[0], station.planned.at
    steps = [_whole(station, facts, memo, axis) for axis in (0, 1)]
    most = [_most(station, steps[axis], axis, on) for axis in (0, 1)]
    faces = next(n for n in range(on.sides, 0, -1) if parts % n == 0)
    each = parts // faces
    able = [n for n in range(1, most[0] + 1) if each % n == 0 and each // n <= most[1]]
    columns = min(able, default=1)
    return Faces(
        at_mm=at.at_mm if isinstance(at, Faces) else (0.0, 0.0),
        on=on.key,
        faces=tuple(range(1, faces + 1)),
        columns=columns,
        rows=each // columns,
        column_pitch_mm=steps[0],
        row_pitch_mm=steps[1],
    )


def _middle(at: At) -> tuple[float, float]:
    xs, ys = zip(*at.spots, strict=True)
    return (min(xs) + max(xs)) / 2.0, (min(ys) + max(ys)) / 2.0


def _whole(station: StationFacts, facts: PlanFacts, memo: Memo, axis: int) -> float:
    found = pitch(station, facts, memo, axis)
    return float(ceil(found.mm - 1e-6)) if found is not None else 1.0


def _most(station: StationFacts, step: float, axis: int, on: Tombstone | None = None) -> int:
    """How many stand along an axis with all that holds them on the table, or on a tombstone's face,
    and within the way the axis goes.
    """
    table, machine = station.place, station.machine
    if not isinstance(table, Table) or machine is None:
        return 1
    regions = [body.region.bounds for body in room_taken(station)]
    wide = max(b[axis + 2] for b in regions) - min(b[axis] for b in regions)
    under = station.plate or table
    on_table = ((on.wide_mm, on.tall_mm) if on else (under.x_mm, under.y_mm))[axis] - wide
    travel = machine.carriers[0].travel
    in_reach = (travel.x, travel.y)[axis] - 2.0 * _goes(station, axis)
    return max(int((min(on_table, in_reach) + 1e-6) // step) + 1, 1)


def _goes(station: StationFacts, axis: int) -> float:
    """How far (mm) its tools go from the middle of its stock."""
    middle = float(station.lie.stock_low[axis] + station.lie.stock_high[axis]) / 2.0
    ends = [op.path.bounds() for op in station.operations if op.path.legs]
    return max((abs(float(end[axis]) - middle) for both in ends for end in both), default=0.0)


def stood_free(station: StationFacts, facts: PlanFacts, memo: Memo) -> tuple[Edit, ...]:
    """The edit that carries a station away from those before it on its table; none where it stands
    free of them.
    """
    at = station.planned.at
    for other in station.setup.stations:
        if other is station:
            break
        if other.place is station.place and isinstance(station.place, Table):
            at = carried_away(station, other, facts, memo) or at
    if at == station.planned.at or at is None:
        return ()
    return (_put(station, at),)


def in_the_middle(setup: SetupFacts) -> tuple[Edit, ...]:
    """All positions of a load carried so that they stand, with all that holds them, about the
    middle of the table, or as near to it as the axes bring the tools to all of them.
    """
    on_table = [e for e in setup.stations if isinstance(e.place, Table) and e.tombstone is None]
    if not on_table:
        return ()
    corners = np.array([corner for each in on_table for corner in _corners(each)])
    by = -(corners.min(axis=0) + corners.max(axis=0)) / 2.0
    x, y = (_in_reach(on_table, float(round(by[axis], 1)), axis) for axis in (0, 1))
    if not (x or y):
        return ()
    return tuple(_put(each, (each.planned.at or One()).moved(x, y)) for each in on_table)


def _in_reach(stations: Sequence[StationFacts], by: float, axis: int) -> float:
    """The nearest to a way along an axis on which its tools come to all that is to be cut."""
    free = [
        (each.planned.spots, (travel.x, travel.y)[axis] / 2.0 - _goes(each, axis))
        for each in stations
        if each.machine is not None
        for travel in (each.machine.carriers[0].travel,)
    ]
    low = max((-far - min(spot[axis] for spot in spots) for spots, far in free), default=by)
    high = min((far - max(spot[axis] for spot in spots) for spots, far in free), default=by)
    if low > high:
        return by
    low, high = ceil(10.0 * low) / 10.0, floor(10.0 * high) / 10.0  # what a zero is set to
    return min(max(by, low), high)


def _corners(station: StationFacts) -> Iterator[tuple[float, float]]:
    """Of what each position takes of the table, from its middle (mm)."""
    middle = (station.lie.stock_low[:2] + station.lie.stock_high[:2]) / 2.0
    for body in room_taken(station):
        west, south, east, north = body.region.bounds
        for x, y in station.planned.spots:
            yield west - middle[0] + x, south - middle[1] + y
            yield east - middle[0] + x, north - middle[1] + y


def _put(station: StationFacts, at: At) -> Change:
    return Change(on=station.on, fields={"at": at.model_dump(mode="json")})
