"""What stands beside an operation's work in the same load: other positions, their holdings and
their parts as they are at that moment.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import partial
from typing import Literal

import numpy as np
from shapely.affinity import translate

from machining.geometry.frames import Vector
from machining.memo import Memo
from machining.motion.beside import Disc, Standing, met, moves_of
from machining.plan.operation import Bore
from machining.quantities.computed import Given
from machining.world.machine import Table

from . import travel
from .context import Crossed, Meets, OperationFacts, PlanFacts, Ready, SetupFacts, StationFacts
from .stand import Body
from .state import State

Who = Literal["tool", "holder"]
PART = "part"
SAME_MM = 1e-3  # of heights of a part's top, and of where two positions stand


@dataclass(frozen=True, slots=True)
class Neighbour:
    """A position beside another one: its station, which (from 0), its stock then, and where its
    frame's middle is, seen from the other's frame, mm.
    """

    station: StationFacts
    position: int
    stock: State
    at: Vector


def look(setup: SetupFacts, facts: PlanFacts, memo: Memo) -> None:
    """Fill which positions of a load take the same room; where none do, what every operation meets
    beside its own position.
    """
    if sum(each.planned.positions for each in setup.stations if on_table(each)) < 2:
        return
    setup.crossed = [*_in_one_another(setup)]
    if setup.crossed:
        return
    over = clear_height(setup, facts)
    for op in setup.operations:
        if isinstance(op, Ready) and not op.waits and op.aimed is None and on_table(op.station):
            op.meets = _worst(op, facts, memo)
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
    return max(tops, default=0.0) + facts.library.settings.retract_mm


def _goes_over(op: Ready, height: float) -> None:
    """The room upwards, where it goes higher to another position than on its own path."""
    table, tip = op.station.place, height - op.station.seat_mm
    known = op.figures.get("travel_up")
    if known is None or not isinstance(table, Table):
        return
    if tip > next(each.value for each in known.inputs if each.name == "tip_highest") + SAME_MM:
        op.figures = {**op.figures}  # those of the operation alone are kept for other loads
        travel.upwards(op, table, Given(tip, "from position to position"))


def on_table(station: StationFacts) -> bool:
    return isinstance(station.place, Table)


def _worst(op: Ready, facts: PlanFacts, memo: Memo) -> Meets | None:
    if not op.path.legs:
        return None
    worst: Meets | None = None
    parts = discs(op, facts)
    for position, beside in _each(op, max(disc.reach for _, disc in parts)):
        key = ("beside", op.path_key, *parts, beside.stock.key, *_stands_key(beside))
        found = memo.get(key, partial(_meets, op, beside, parts, memo))
        if found is not None and (worst is None or found[2] > worst.low_mm + SAME_MM):
            worst = Meets(
                position, found[0], found[1], beside.station.id, beside.position, found[2]
            )
    return worst


def _each(op: Ready, reach: float) -> Iterator[tuple[int, Neighbour]]:
    """Of all its positions the neighbours that come within reach (mm) of its path, and differ:
    equal ones equally far are looked at once.
    """
    seen, mine = set[tuple[object, ...]](), origins(op.station)
    low, high = (np.array(each)[:2] for each in op.path.bounds())
    for station in op.setup.stations:
        if station.place is not op.station.place:
            continue
        theirs, (least, most) = origins(station), _extent(station)
        off = theirs[None, :, :2] - mine[:, None, :2]
        near = (off + most >= low - reach) & (off + least <= high + reach)
        for position, other in np.argwhere(near.all(axis=2)).tolist():
            if station is op.station and other == position:
                continue
            stock = stock_then(op, position, station, other).seen_in(station.lie)
            beside = Neighbour(station, other, stock, theirs[other] - mine[position])
            key = (beside.stock.key, *_stands_key(beside))
            if key not in seen:
                seen.add(key)
                yield position, beside


def origins(station: StationFacts) -> Vector:
    """Where the origin of the frame of each of its positions is on the table (n, 3), mm."""
    first = station.on_place(np.zeros(3), 0)
    spots = np.array(station.planned.spots)
    return np.column_stack([first[:2] + spots - spots[0], np.full(len(spots), first[2])])


def _extent(station: StationFacts) -> tuple[Vector, Vector]:
    """Corners of what its bodies take in plan, in its own frame."""
    taken = np.array([body.region.bounds for body in room_taken(station)])
    return taken[:, :2].min(axis=0), taken[:, 2:].max(axis=0)


def _stands_key(beside: Neighbour) -> tuple[object, ...]:
    at = tuple(float(each) for each in beside.at.round(4))
    return (beside.station.stand.key, beside.station.seat_mm, at)


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


def discs(op: Ready, facts: PlanFacts) -> list[tuple[Who, Disc]]:
    """The parts of its tool from the tip up, with the room the shop wants round them."""
    settings, tool, out = facts.library.settings, op.tool, op.loaded.stick_out_mm
    radius = (op.work.hole_diameter if isinstance(op.operation, Bore) else tool.diameter_mm) / 2.0
    beside, below = settings.side_margin_mm, settings.below_margin_mm
    found: list[tuple[Who, Disc]] = [("tool", Disc(radius, 0.0, settings.jaw_margin_mm, 0.0))]
    shank = (tool.shank_diameter_mm or 0.0) / 2.0
    if shank > radius:
        found.append(("tool", Disc(shank, min(tool.usable_length_mm, out), beside, below)))
    for wider, above in op.holder.wider_steps:
        found.append(("holder", Disc(wider, out + above, beside, below)))
    return found


def _meets(
    op: Ready, beside: Neighbour, parts: list[tuple[Who, Disc]], memo: Memo
) -> tuple[Who, str, float] | None:
    moves = memo.get(("moves", op.path_key), lambda: moves_of(op.path))
    names, standing = bodies(beside, memo)
    worst: tuple[Who, str, float] | None = None
    for who, disc in parts:
        found = met(moves, standing.moved(beside.at), disc)
        if found is not None and (worst is None or found.low > worst[2]):
            worst = (who, names[found.which], found.low)
    return worst


def bodies(beside: Neighbour, memo: Memo) -> tuple[list[str], Standing]:
    """What stands at a position, by name, in its own frame."""
    stand = beside.station.stand
    flats = memo.get(("flats", beside.stock.key), lambda: beside.stock.top().flats(SAME_MM))
    held = [body for body in stand.bodies if body.role != "parallel"]
    names = [PART] * len(flats) + [body.name or body.role for body in held]
    regions = [*(region for region, _ in flats), *(body.region for body in held)]
    return names, Standing.of(regions, [*(top for _, top in flats), *(b.top for b in held)])


def _in_one_another(setup: SetupFacts) -> Iterator[Crossed]:
    standing = [each for each in setup.stations if on_table(each)]
    for k, there in enumerate(standing):
        for here in standing[: k + 1]:
            if here.place is there.place:
                yield from _crossed(here, there)


def _crossed(here: StationFacts, there: StationFacts) -> Iterator[Crossed]:
    """Each pair once; equal ones equally far are looked at once."""
    mine, theirs, known = origins(here), origins(there), dict[tuple[float, ...], bool]()
    (low, high), (least, most) = _extent(here), _extent(there)
    off = theirs[None, :, :2] - mine[:, None, :2]
    near = (off + most > low) & (off + least < high)
    for position, other in np.argwhere(near.all(axis=2)).tolist():
        if here is there and other <= position:
            continue
        at = theirs[other] - mine[position]
        key = tuple(at.round(4).tolist())
        if key not in known:
            known[key] = _share_room(here, there, at)
        if known[key]:
            yield Crossed(here, position, there, other)


def _share_room(here: StationFacts, there: StationFacts, at: Vector) -> bool:
    x, y, z = (float(each) for each in at)
    ours, theirs = room_taken(here), room_taken(there)
    return any(
        body.bottom < other.top + z - SAME_MM
        and other.bottom + z < body.top - SAME_MM
        and body.region.intersection(translate(other.region, x, y)).area > SAME_MM
        for body in ours
        for other in theirs
    )


def room_taken(station: StationFacts) -> list[Body]:
    """The bodies of a position: what holds it, and its stock as it arrives."""
    low, high = station.lie.stock_low[2], station.lie.stock_high[2]
    stock = Body("part", PART, station.arrives.outline(), float(low), float(high))
    return [stock, *(body for body in station.stand.bodies if body.role != "parallel")]
