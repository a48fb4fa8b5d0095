"""A station on the way of a part: how it lies, what arrives in it, and how it is held."""

from __future__ import annotations

import logging
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from machining.geometry.frames import Pose, Vector
from machining.geometry.regions import Region, filled
from machining.geometry.solids import outline, posed
from machining.memo import Memo, digest
from machining.placing.zero import Lie, lie_of
from machining.plan.at import Faces
from machining.plan.document import Station
from machining.plan.zero import From, Of
from machining.quantities.errors import MachiningError, Missing, OutOfRange
from machining.world.capability import place_of
from machining.world.gear import HeldBy
from machining.world.geometry import PartGeometry
from machining.world.library import Library
from machining.world.machine import Plate, SpindleNose, Table, Tombstone

from . import hold, holdings
from .context import (
    NOT_WORKED_OUT,
    PlanFacts,
    SetupFacts,
    StationFacts,
    base_of,
    guarded,
)
from .holdings import vise
from .state import State

log = logging.getLogger("machining")
HANDED_OVER = "Handing a part over from one spindle to another is not worked out yet."
ON_AXIS = {"x": From(), "y": From()}  # a lathe turns the stock about its middle


def station_facts(
    station: Station, setup: SetupFacts, facts: PlanFacts, stock: State, memo: Memo
) -> StationFacts:
    """All of a station but its operations; ``stock`` is what arrives, in part coordinates. Kept by
    the value of all that goes into it.
    """
    key = digest(
        facts.key,
        setup.id,
        setup.number,
        setup.planned.machine,
        setup.planned.plate,
        setup.planned.retract_mm,
        [_beside_it(each) for each in setup.planned.stations],
        station.model_dump_json(),
        _clamp_changes(station, setup),
        stock.key,
    )
    known = memo.get(("station", key), lambda: _fresh(station, setup, facts, stock, memo))
    return replace(
        known,
        setup=setup,
        planned=station,
        operations=[],
        figures={**known.figures},
        unknown={**known.unknown},
    )


def _clamp_changes(station: Station, setup: SetupFacts) -> list[tuple[str, str]]:
    """Of its operations in order, where clamps change between any of them, or a tailstock goes in
    and out.
    """
    planned = setup.planned
    own = [op for op in planned.operations if planned.station_of(op) is station]
    tailstock = station.rested is not None and station.rested.tailstock_n is not None
    if not tailstock and all(op.clamps_after is None for op in own):
        return []
    return [(op.id, op.clamps_after.model_dump_json() if op.clamps_after else "") for op in own]


def _fresh(
    station: Station, setup: SetupFacts, facts: PlanFacts, stock: State, memo: Memo
) -> StationFacts:
    stock_bounds, unknown = stock.bounds(), dict[str, str]()
    machine = setup.machine
    place = _place(station, setup)
    tombstone, plate = _tombstone(station, place), _plate(setup, place)
    lie = _lie(station, (place, tombstone, plate), facts, stock, unknown)
    seen = StationFacts(
        setup,
        station,
        facts.geometry,
        _item(station, facts),
        lie,
        part_outline(facts.geometry, lie, memo),
        stock.lying(lie),
        {
            way: side
            for side in facts.blank.sides_left(stock_bounds)
            if (way := lie.looks(side)) is not None
        },
        place=place,
        tombstone=tombstone,
        plate=plate,
        unknown=unknown,
    )
    _as_held(seen)
    _held(seen, facts, memo)
    if machine is None:
        unknown["cut"] = unknown["travel"] = (
            f"The library has no machine {setup.planned.machine!r}."
        )
    elif place is None:
        unknown["cut"] = unknown["travel"] = f"{machine.name} has no place {station.place!r}."
    if (open_ := stands_on(seen)) is not None:
        unknown["reach"] = unknown["travel"] = open_
    if (beside := _beside(station, setup)) is not None:
        unknown.setdefault("reach", beside)
        unknown.setdefault("travel", beside)
    if is_handed_over(station, setup):
        unknown.setdefault("travel", HANDED_OVER)
    seen.key, seen.anywhere_key = _key(seen, stock_bounds), _key(seen, stock_bounds, "at")
    return seen


def _held(seen: StationFacts, facts: PlanFacts, memo: Memo) -> None:
    """What holds it; a fault of the program leaves that unknown, and a line in the log."""
    if (why := _not_held(seen, facts.library)) is not None:
        seen.unknown["hold"] = why
        return
    try:
        guarded(seen, "hold", lambda: hold.of_station(seen, facts, memo))
    except Exception:
        log.exception("station %s could not be worked out: what holds it", seen.id)
        seen.unknown["hold"] = NOT_WORKED_OUT


def _as_held(seen: StationFacts) -> None:
    """How high it stands on a table, or how fast what holds it may turn."""
    held = seen.planned.holding
    if held is None or seen.item is None:
        return
    kind = holdings.kind_of(held)
    if seen.turns:
        seen.most_rpm = min(kind.most_rpm(held, seen.item), seen.most_rpm)
    else:
        seen.seat_mm = kind.seat_mm(held, seen.item)


def _beside_it(other: Station) -> tuple[object, ...]:
    """What a station's own answers take from another one of its setup."""
    on = other.at.on if isinstance(other.at, Faces) else ""
    return other.id, other.place, other.takes, other.positions, other.holding is None, on


def part_outline(geometry: PartGeometry, lie: Lie, memo: Memo) -> Region:
    """The finished part's shadow from above, as it lies."""
    key = ("part-outline", geometry.key, lie.key)
    return memo.get(key, lambda: filled(outline(posed(geometry.solid, lie.pose))))


def _beside(station: Station, setup: SetupFacts) -> str | None:
    """Why nothing can be said of what stands beside it, None where nothing does."""
    here = _place(station, setup)
    together = [each for each in setup.planned.stations if _place(each, setup) == here]
    if sum(each.positions for each in together) == 1:
        return None
    if isinstance(here, SpindleNose):
        return "One spindle turns one part; it has several positions here."
    open_ = next((each for each in together if each.holding is None), None)
    if open_ is None or open_ is station:
        return None
    number = setup.planned.stations.index(open_) + 1
    return f"Nothing says yet how the part of station {number} is held, which stands beside it."


def is_handed_over(station: Station, setup: SetupFacts) -> bool:
    """Does it take the part from another spindle of the same machine, without the door opening?"""
    here = _place(station, setup)
    before = [_place(each, setup) for each in setup.planned.stations if each.id == station.takes]
    return isinstance(here, SpindleNose) and any(
        isinstance(there, SpindleNose) and there != here for there in before
    )


def _tombstone(station: Station, place: Table | SpindleNose | None) -> Tombstone | None:
    at = station.at
    if not isinstance(at, Faces) or not isinstance(place, Table):
        return None
    return place.tombstone(at.on)


def _plate(setup: SetupFacts, place: Table | SpindleNose | None) -> Plate | None:
    return place.plate(setup.planned.plate) if isinstance(place, Table) else None


def stands_on(seen: StationFacts) -> str | None:
    """Why nobody knows what it stands on, None where that is known."""
    at, place, machine = seen.planned.at, seen.place, seen.machine
    if machine is None or not isinstance(place, Table):
        return None
    if isinstance(at, Faces):
        on = seen.tombstone
        if on is None:
            return f"The table of {machine.name} has no tombstone {at.on!r}."
        if max(at.faces) > on.sides:
            return f"{on.name} has no face {max(at.faces)}."
        others = (e.at for e in seen.setup.planned.stations if _place(e, seen.setup) is place)
        if any(isinstance(each, Faces) and each.on != at.on for each in others):
            return f"The table of {machine.name} carries one tombstone; two are named."
        return None
    if seen.setup.planned.plate and seen.plate is None:
        return f"The table of {machine.name} has no plate {seen.setup.planned.plate!r}."
    if place.surface_below_mm is not None:
        return f"{machine.name} carries its parts on a tombstone; nobody has said on which."
    return None


def _place(station: Station, setup: SetupFacts) -> Table | SpindleNose | None:
    return place_of(setup.machine, station.place) if setup.machine is not None else None


def _lie(
    station: Station,
    on: tuple[Table | SpindleNose | None, Tombstone | None, Plate | None],
    facts: PlanFacts,
    stock: State,
    unknown: dict[str, str],
) -> Lie:
    """How it lies; about a corner of the stock where its zero can't be found, and then the travel
    is unknown.
    """
    turns, bounds = isinstance(on[0], SpindleNose), stock.bounds()
    zero = station.zero.model_copy(update=ON_AXIS) if turns else station.zero
    holds = Held(station, _item(station, facts), stock, *on)
    try:
        placed = station.model_copy(update={"zero": zero})
        return lie_of(placed, facts.geometry, bounds, holds, stock.bounds_turned)
    except MachiningError as problem:
        unknown["travel"] = str(problem)
        plain = station.model_copy(update={"zero": type(station.zero)()})
        return lie_of(plain, facts.geometry, bounds, None, stock.bounds_turned)


@dataclass(frozen=True, slots=True)
class Held:
    """How a part is held at a station, as far as its zero asks for it; ``stock`` is in part
    coordinates.
    """

    station: Station
    item: HeldBy | None
    stock: State
    place: Table | SpindleNose | None = None
    tombstone: Tombstone | None = None
    plate: Plate | None = None

    def against(self, of: Of, turn: Vector) -> tuple[int, float]:
        """Raises OutOfRange where no vise holds it, or no stop stands there."""
        held = self.station.in_vise
        if self.station.orientation.leans:
            raise OutOfRange(f"Zero on the {of}", LEANS, SQUARE)
        if held is None:
            raise OutOfRange(f"Zero on the {of}", "no vise", "a part held in a vise")
        if of == "stop" and not held.stop:
            raise OutOfRange("Zero on the stop", "no stop", "a holding with a stop")
        gripped = vise.gripped(held, posed(self.stock.solid, Pose(turn, np.zeros(3))))
        on, _, at = vise.touched("stop" if of == "stop" else "jaw", held, gripped)
        return on, at

    def table(self, stock: tuple[Vector, Vector]) -> Vector:
        """Raises OutOfRange where its parts stand at several places, or at an angle."""
        if self.station.orientation.leans:
            raise OutOfRange("Zero on the table", LEANS, SQUARE)
        if self.station.positions > 1:
            raise OutOfRange(
                "Zero on the table", f"{self.station.positions} positions", "one position"
            )
        held, item = self.station.holding, self.item
        seat = holdings.kind_of(held).seat_mm(held, item) if held and item else 0.0
        low, high = stock
        x, y = (low[:2] + high[:2]) / 2.0 - self.station.spots[0]
        return np.array([x, y, low[2] - seat]) - base_of(self.place, self.tombstone, self.plate)

    def spot(self, key: str, stock: tuple[Vector, Vector]) -> Vector:
        """Raises Missing for what is not on the table, and as its middle does."""
        found = self.place.spot(key) if isinstance(self.place, Table) else None
        if found is None:
            raise Missing("Zero's spot on the table", key)
        return self.table(stock) + np.array([found.x_mm, found.y_mm, found.z_mm])


LEANS, SQUARE = "a vise that leans", "a vise that stands square, or a place of the part"


def _not_held(seen: StationFacts, library: Library) -> str | None:
    """Why nothing can be said of how it is held, None where it can."""
    held, machine, place = seen.planned.holding, seen.machine, seen.place
    if held is None:
        return "Nothing says yet how the part is held."
    if seen.planned.orientation.raised_deg and seen.planned.in_vise is None:
        return "It is raised at an angle, which only a vise holds here."
    kind = holdings.kind_of(held)
    if seen.item is None:
        return kind.lacks(held, library)
    return kind.fits(machine, place) if machine is not None and place is not None else None


def _item(station: Station, facts: PlanFacts) -> HeldBy | None:
    """What the library has of what holds the part, None where it has not all of it."""
    held = station.holding
    return holdings.kind_of(held).item_of(held, facts.library) if held is not None else None


def _key(seen: StationFacts, stock_bounds: tuple[Vector, Vector], *but: str) -> str:
    """Equal for stations whose operations are answered alike, ``but`` for some of its fields."""
    said: Any = {
        **dict.fromkeys(but, True),
        "id": True,
        "takes": True,
        "kept": True,
        "holding": {"reason"},
        "zero": {"reason"},
    }
    return digest(
        seen.setup.id,
        seen.setup.number,
        seen.setup.planned.machine,
        seen.setup.planned.plate,
        seen.setup.planned.retract_mm,
        seen.planned.model_dump_json(exclude=said),
        seen.lie.key,
        stock_bounds[0].tolist(),
        stock_bounds[1].tolist(),
        sorted(seen.unknown.items()),
    )
