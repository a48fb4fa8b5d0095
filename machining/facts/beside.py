"""What stands beside an operation's work in the same load: other positions, their holdings and
their parts as they are at that moment.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import partial

import numpy as np
from shapely import box
from shapely.affinity import translate

from machining.geometry.frames import Vector
from machining.geometry.regions import Region
from machining.memo import Memo
from machining.motion.beside import Standing, met, moves_of
from machining.placing import rotary
from machining.quantities.computed import Given
from machining.world.machine import Table

from . import around, index, travel
from .context import (
    Crossed,
    OperationFacts,
    PlanFacts,
    Ready,
    SetupFacts,
    StationFacts,
    given_up,
)
from .discs import Parts, Who, discs
from .observed import Meets
from .pairs import UPRIGHT, alike, pairs_of
from .retract import retract_of
from .stand import Body
from .state import State

PART = "part"
SAME_MM = 1e-3  # of heights of a part's top


@dataclass(frozen=True, slots=True)
class Neighbour:
    """A position beside another one: its station, which (from 0), its stock then, how it is turned,
    seen from the other's frame, and where its frame's middle is there, mm. Of a position itself
    there is no ``stock``: what holds it is beside its own work.
    """

    station: StationFacts
    position: int
    stock: State | None
    at: Vector
    turn: Vector


def look(setup: SetupFacts, facts: PlanFacts, memo: Memo) -> None:
    """Fill which positions of a load take the same room; where none do, what every operation meets
    beside its own position.
    """
    several = sum(each.planned.positions for each in setup.stations if on_table(each)) > 1
    setup.crossed = [*_in_one_another(setup)] if several else []
    if setup.crossed:
        return
    over = clear_height(setup, facts)
    for op in setup.operations:
        if isinstance(op, Ready) and not op.waits and on_table(op.station):
            if several or around.is_amid(op):
                try:
                    op.meets = _worst(op, facts, memo)
                except Exception:
                    given_up(op, "what stands beside it")
            if several and op.aimed is None:
                _goes_over(op, over)


def clear_height(setup: SetupFacts, facts: PlanFacts) -> float:
    """How high over the table (mm) a tip goes from one position to another: the shop's retract over
    the highest that stands there.
    """
    tops = [
        float(station.on_place(np.array([0.0, 0.0, body.top]), 0)[2])
        for station in setup.stations
        if on_table(station)
        for body in room_taken(station)
    ]
    return max(tops, default=0.0) + retract_of(setup, facts)


def _goes_over(op: Ready, height: float) -> None:
    """The room upwards, where it goes higher to another position than on its own path."""
    table, tip = op.station.place, height - travel.seat(op).value
    known = op.figures.get("travel_up")
    if known is None or not isinstance(table, Table):
        return
    if tip > next(each.value for each in known.inputs if each.name == "tip_highest") + SAME_MM:
        op.figures, op.shown = {**op.figures}, {}  # those of it alone are kept for other loads
        travel.upwards(op, table, Given(tip, "from position to position"))


def on_table(station: StationFacts) -> bool:
    return isinstance(station.place, Table)


def _worst(op: Ready, facts: PlanFacts, memo: Memo) -> Meets | None:
    if not op.path.legs:
        return None
    parts = discs(op, facts)
    key = ("worst", facts.key, op.path_key, op.id, op.lie.key, repr(parts), *_load_key(op))
    return memo.get(key, lambda: _looked_for(op, parts, facts, memo))


def _load_key(op: Ready) -> Iterator[object]:
    """Equal for loads that stand alike when an operation is cut."""
    by_part = op.setup.planned.order == "by part"
    for station in op.setup.stations:
        if station.place is op.station.place:
            yield station.key
            if by_part:
                yield from (station.arrives.key, station.leaves.key)
            if by_part or station is op.station:
                yield from (op.before.key, op.after.key)
            else:
                yield stock_then(op, 0, station, 0).key


def _looked_for(op: Ready, parts: Parts, facts: PlanFacts, memo: Memo) -> Meets | None:
    worst: Meets | None = None
    known = repr(parts)
    for position, beside in _each(op, max(disc.reach for _, disc in parts), facts, memo):
        key = ("beside", op.path_key, known, *_stands_key(beside))
        found = memo.get(key, partial(_meets, op, beside, parts, memo))
        if found is not None and (worst is None or found[2] > worst.low_mm + SAME_MM):
            worst = Meets(
                position, found[0], found[1], beside.station.id, beside.position, found[2]
            )
    return _lower(worst, *_of_table(op, parts, facts, memo))


def clears(op: Ready, station: StationFacts, stock: State, facts: PlanFacts, memo: Memo) -> bool:
    """Would an operation go clear of the positions of a station beside its own, were this there?"""
    if not op.path.legs:
        return True
    parts = discs(op, facts)
    key = ("clears", op.path_key, repr(parts), op.lie.key, station.key, stock.key, *_load_key(op))
    reach = max(disc.reach for _, disc in parts)
    return memo.get(
        key,
        lambda: all(
            _meets(op, replace(each, stock=stock), parts, memo) is None
            for _, each in _each(op, reach, facts, memo)
            if each.station is station and each.stock is not None
        ),
    )


def _lower(worst: Meets | None, *others: Meets) -> Meets | None:
    for each in others:
        if worst is None or each.low_mm > worst.low_mm + SAME_MM:
            worst = each
    return worst


def _of_table(op: Ready, parts: Parts, facts: PlanFacts, memo: Memo) -> Iterator[Meets]:
    """What carries all positions, where a tool comes beside it: from another side, before a
    tombstone, between arms.
    """
    moves = memo.get(("moves", op.path_key), lambda: moves_of(op.path))
    stands, ends = index.origins(op), np.array(op.path.bounds())
    key = ("tables", facts.key, op.station.key, op.lie.key, op.operation.aim)
    for at, names, standing in memo.get(key, lambda: [*_tables(op, memo)]):
        near = standing.near(*(stands[at] + ends[:, None]), *(disc for _, disc in parts))
        for part, k in np.argwhere(near).tolist():
            (who, disc), position = parts[part], at[k]
            found = met(moves + stands[position], standing, disc)
            if found is not None:
                yield Meets(position, who, names[found.which], "", 0, found.low)


def _tables(op: Ready, memo: Memo) -> Iterator[tuple[list[int], list[str], Standing]]:
    for at, bodies in around.tables(op, memo):
        regions, tops = [each.region for each in bodies], [each.top for each in bodies]
        yield at, [each.name for each in bodies], Standing.of(regions, tops)


def _each(op: Ready, reach: float, facts: PlanFacts, memo: Memo) -> Iterator[tuple[int, Neighbour]]:
    """Of all its positions the neighbours that come within reach (mm) of its path, and differ:
    equal ones equally far are looked at once. From another side its own holding is one of them.
    """
    low, high = (np.array(each)[:2] for each in op.path.bounds())
    for station in op.setup.stations:
        if station.place is not op.station.place:
            continue
        for pairs in pairs_of(op, station, facts, memo):
            off, turn = pairs.off, pairs.turn
            least, most = _extent(station, memo, turn)
            near = (off[:, :, :2] + most >= low - reach) & (off[:, :, :2] + least <= high + reach)
            for position, other in pairs.within(np.asarray(near.all(axis=2))):
                own = station is op.station and other == position
                if own and op.aimed is None:
                    continue
                stock = None if own else stock_then(op, position, station, other)
                yield position, Neighbour(station, other, stock, off[position, other], turn)


def _extent(station: StationFacts, memo: Memo, turn: Vector = UPRIGHT) -> tuple[Vector, Vector]:
    """Corners of what its bodies take in plan, in its own frame or as that is turned."""
    key = ("extent", *_takes_key(station, turn))
    taken = memo.get(
        key, lambda: np.array([body.region.bounds for body in room_taken(station, turn)])
    )
    return taken[:, :2].min(axis=0), taken[:, 2:].max(axis=0)


def _stands_key(beside: Neighbour) -> tuple[object, ...]:
    at = tuple(beside.at.round(4).tolist())
    return (*_looks_key(beside), beside.station.seat_mm, at)


def _looks_key(beside: Neighbour) -> tuple[object, ...]:
    """Equal where as much stands there, turned alike."""
    stock = beside.stock
    return (
        stock.in_part().key if stock is not None else "",
        beside.station.lie.key,
        beside.station.stand.bodies_key,
        beside.turn.round(6).tobytes(),
    )


def between(here: StationFacts, position: int, there: StationFacts, other: int) -> Vector:
    """Where the origin of another position's frame is, in the frame of one, mm."""
    return there.on_place(np.zeros(3), other) - here.on_place(np.zeros(3), position)


def stock_then(op: OperationFacts, position: int, station: StationFacts, other: int) -> State:
    if op.setup.planned.order == "by part" and other != position:
        return station.leaves if other < position else station.arrives
    if station is op.station:
        return op.after if other < position else op.before
    done: State = station.arrives
    for each in op.setup.operations:
        if each is op:
            break
        if each.station is station:
            done = each.after
    return done


def _meets(op: Ready, beside: Neighbour, parts: Parts, memo: Memo) -> tuple[Who, str, float] | None:
    moves = memo.get(("moves", op.path_key), lambda: moves_of(op.path))
    worst: tuple[Who, str, float] | None = None
    seen_from_it = moves - beside.at
    if beside.stock is not None and not _comes_near(seen_from_it, beside, parts, memo):
        beside = replace(beside, stock=None)
    names, standing = bodies(beside, memo)
    for who, disc in parts:
        found = met(seen_from_it, standing, disc)
        if found is not None and (worst is None or found.low > worst[2]):
            worst = (who, names[found.which], found.low)
    return worst


def _comes_near(moves: Vector, beside: Neighbour, parts: Parts, memo: Memo) -> bool:
    """Does any part of the tool come beside what the stock of a neighbour goes into?"""
    key = ("goes into", *_looks_key(beside))
    into = memo.get(key, lambda: _goes_into(beside))
    low, high = moves.min(axis=1), moves.max(axis=1)
    return bool(into.near(low, high, *(disc for _, disc in parts)).any())


def _goes_into(beside: Neighbour) -> Standing:
    stock, turn = beside.stock, beside.turn
    assert stock is not None
    pieces = _as_block(*stock.seen_in(beside.station.lie).bounds()).turned(turn)
    return Standing.of([each.region for each in pieces], [each.top for each in pieces])


def bodies(beside: Neighbour, memo: Memo) -> tuple[list[str], Standing]:
    """What stands at a position, by name, in its own frame as it is turned."""
    key = ("bodies beside", *_looks_key(beside))
    return memo.get(key, lambda: _bodies(beside, memo))


def _bodies(beside: Neighbour, memo: Memo) -> tuple[list[str], Standing]:
    station, turn = beside.station, beside.turn
    parts = _of_stock(beside, memo) if beside.stock is not None else []
    upright = np.array_equal(turn, UPRIGHT)
    held = [b for b in station.stand.bodies if not (upright and b.role == "parallel")]
    if not upright:
        key = ("stand turned", station.stand.bodies_key, turn.round(9).tobytes())
        held = [*memo.get(key, lambda: tuple(p for b in held for p in b.turned(turn)))]
    names = [PART] * len(parts) + [body.name or body.role for body in held]
    regions = [*(region for region, _ in parts), *(body.region for body in held)]
    return names, Standing.of(regions, [*(top for _, top in parts), *(b.top for b in held)])


def _of_stock(beside: Neighbour, memo: Memo) -> list[tuple[Region, float]]:
    """A part as seen from above, piece by piece with its height; turned by no quarter turns, the
    block it goes into.
    """
    station, turn, stock = beside.station, beside.turn, beside.stock
    assert stock is not None
    quarters = np.rint(turn)
    if np.allclose(turn, quarters, atol=1e-9):
        seen = stock.seen_in(station.lie.turned(quarters))
        return memo.get(("flats", seen.key), lambda: seen.top().flats(SAME_MM))
    return [(piece.region, piece.top) for piece in _block(station).turned(turn)]


def _block(station: StationFacts) -> Body:
    """What its stock goes into as it arrives."""
    return _as_block(station.lie.stock_low, station.lie.stock_high)


def _as_block(low: Vector, high: Vector) -> Body:
    region = box(float(low[0]), float(low[1]), float(high[0]), float(high[1]))
    return Body("part", PART, region, float(low[2]), float(high[2]))


def _in_one_another(setup: SetupFacts) -> Iterator[Crossed]:
    standing = [each for each in setup.stations if on_table(each)]
    for k, there in enumerate(standing):
        for here in standing[: k + 1]:
            if here.place is there.place:
                yield from _crossed(here, there)


def _crossed(here: StationFacts, there: StationFacts) -> Iterator[Crossed]:
    """Each pair once; equal ones equally far are looked at once."""
    mine, stand = index.origins_of(here), index.origins_of(there)
    known = dict[tuple[object, ...], bool]()
    memo = here.arrives.memo
    (low, high), pivot = _extent(here, memo), index.centre(here.place)
    for which, turn in alike(here, there):
        theirs = rotary.carried_round(stand, turn, pivot)
        least, most = _extent(there, memo, turn)
        off = theirs[None, :, :] - mine[:, None, :]
        near = (off[:, :, :2] + most > low) & (off[:, :, :2] + least < high)
        for position, other in np.argwhere(near.all(axis=2) & which).tolist():
            if here is there and other <= position:
                continue
            at = off[position, other]
            key = (*at.round(4).tolist(), turn.round(6).tobytes())
            if key not in known:
                known[key] = _share_room(here, there, at, turn)
            if known[key]:
                yield Crossed(here, position, there, other)


def _share_room(here: StationFacts, there: StationFacts, at: Vector, turn: Vector) -> bool:
    x, y, z = (float(each) for each in at)
    ours, theirs = room_taken(here), room_taken(there, turn)
    return any(
        body.bottom < other.top + z - SAME_MM
        and other.bottom + z < body.top - SAME_MM
        and body.region.intersection(translate(other.region, x, y)).area > SAME_MM
        for body in ours
        for other in theirs
    )


def room_taken(station: StationFacts, turn: Vector = UPRIGHT) -> tuple[Body, ...]:
    """The bodies of a position: what holds it, and its stock as it arrives; as it is turned."""
    key = ("room taken", *_takes_key(station, turn))
    return station.arrives.memo.get(key, lambda: (*_room_taken(station, turn),))


def _takes_key(station: StationFacts, turn: Vector) -> tuple[object, ...]:
    """Equal where a position takes the same room."""
    held = station.stand.bodies_key
    return station.lie.key, station.arrives.key, held, turn.tobytes()


def _room_taken(station: StationFacts, turn: Vector) -> Iterator[Body]:
    if not np.array_equal(turn, UPRIGHT):
        for each in (_block(station), *station.stand.bodies):
            yield from each.turned(turn)
        return
    low, high = station.lie.stock_low[2], station.lie.stock_high[2]
    yield Body("part", PART, station.arrives.outline(), float(low), float(high))
    yield from (body for body in station.stand.bodies if body.role != "parallel")
