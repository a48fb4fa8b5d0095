"""travel.table-load, travel.table-size: what the table carries, and what goes on it."""

from __future__ import annotations

from collections.abc import Iterator
from math import ceil, copysign

from shapely import unary_union

from machining.facts.context import PlanFacts, SetupFacts, StationFacts
from machining.facts.holdings import vise
from machining.plan.edit import Change, Keep
from machining.plan.in_vise import Holding
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown, length
from machining.world.gear import Gear
from machining.world.machine import Plate, Table, Tombstone
from machining.world.workholding import Vise

from ..finding import Finding

OF = {type(None): "the table", Tombstone: "a face", Plate: "the plate"}


def table_load(setup: SetupFacts, facts: PlanFacts) -> Iterator[Finding]:
    """Blanks and vises of one load; plates and straps that nobody named weigh too."""
    machine = setup.machine
    for table in machine.places if machine is not None else ():
        if isinstance(table, Table):
            yield from _load_of(table, setup, facts)


def _load_of(table: Table, setup: SetupFacts, facts: PlanFacts) -> Iterator[Finding]:
    if facts.material is None or setup.machine is None:
        return
    carries = (each.tombstone or each.plate for each in setup.stations)
    mass = max((each.mass_kg for each in carries if each), default=0.0) + sum(
        each.planned.positions * ((each.put_in_kg(facts) or 0.0) + _vise_kg(each))
        for each in setup.stations
        if each.place is table
    )
    if mass <= table.load_kg:
        return
    yield Finding(
        "travel.table-load",
        "stop",
        setup.id,
        "",
        "What stands on it weighs {mass}; the table of {machine} carries {most}.",
        {
            "mass": Shown(mass, "mass"),
            "machine": Shown(setup.machine.name),
            "most": Shown(table.load_kg, "mass"),
        },
    )


def table_size(station: StationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """The base of a vise at its farthest position. What stands out of the table is not bolted
    there, and is in the way of doors and covers; a planner who has measured keeps it. With its
    middle off the table it has nothing under it to be bolted to.
    """
    machine, table, held = station.machine, station.place, vise.held_in(station)
    if machine is None or held is None or not isinstance(table, Table):
        return
    on = station.tombstone or station.plate
    rooms = (table.x_mm, table.y_mm)
    if on is not None:
        rooms = (on.wide_mm, on.tall_mm) if isinstance(on, Tombstone) else (on.x_mm, on.y_mm)
    name = machine.name if on is None else on.name
    for i, (letter, room) in enumerate(zip("XY", rooms, strict=True)):
        middle = _middle_of(station, i)
        if abs(middle) > room / 2.0 + 1e-6:
            off = middle - copysign(room / 2.0, middle)
            yield _stands_off(station, held[1], off, OF[type(on)], i)
            continue
        needs = _needs(station, *held, i)
        if needs > room + 1e-6:
            yield Finding(
                "travel.table-size",
                "look",
                station.setup.id,
                "",
                f"{{vise}} needs {{needs}} of {OF[type(on)]} along {{letter}}; {{machine}} has"
                " {has}.",
                {
                    "vise": Shown(held[1].name),
                    "needs": length(needs),
                    "letter": Shown(letter),
                    "machine": Shown(name),
                    "has": length(room),
                },
                "",
                (*_moved_onto(station, rooms), _kept(station)),
            )


def _moved_onto(station: StationFacts, rooms: tuple[float, float]) -> Iterator[Proposal]:
    """No farther than until all bases are on it, to the millimetre, where they have room there."""
    at, by = station.planned.at, [0.0, 0.0]
    for axis, room in enumerate(rooms):
        ends = [end for both in _bases(station, axis) for end in both]
        over = max(ends, default=0.0) - room / 2.0, -min(ends, default=0.0) - room / 2.0
        if sum(over) <= 0.0:
            by[axis] = float(ceil(max(over[1], 0.0)) - ceil(max(over[0], 0.0)))
    if at is not None and any(by):
        fields = {"at": at.moved(*by).model_dump(mode="json")}
        yield Proposal("Move it until all of it is on it", (Change(on=station.on, fields=fields),))


def _needs(station: StationFacts, holding: Holding, item: Vise, axis: int) -> float:
    """How much (mm) of a table, as far to both sides of its middle, holds all its positions: of one
    that nobody has placed, its base alone.
    """
    along = axis == "xy".index(holding.fixed[1])
    base = item.base_length_mm if along else item.base_width_mm
    placed = _bases(station, axis)
    return 2.0 * max(max(abs(low), abs(high)) for low, high in placed) if placed else base


def _middle_of(station: StationFacts, axis: int) -> float:
    """Where the middle of its base is along an axis, at its farthest position: from the middle of
    what it stands on, mm.
    """
    middles = ((low + high) / 2.0 for low, high in _bases(station, axis))
    return max(middles, key=abs, default=0.0)


def _bases(station: StationFacts, axis: int) -> list[tuple[float, float]]:
    """From where to where along an axis its base stands at each position, from the middle of what
    that is (mm); none of a station that nobody has placed.
    """
    bed = station.stand.of("bed")
    if station.planned.at is None or not bed:
        return []
    middle = float(station.lie.stock_low[axis] + station.lie.stock_high[axis]) / 2.0
    takes = unary_union([each.region for each in bed]).bounds
    ends = takes[axis] - middle, takes[axis + 2] - middle
    return [(spot[axis] + ends[0], spot[axis] + ends[1]) for spot in station.planned.spots]


def _stands_off(station: StationFacts, vise: Vise, off: float, of: str, axis: int) -> Finding:
    at, fixes = station.planned.at, list[Proposal]()
    if at is not None:
        back = -copysign(ceil(abs(off)), off)
        moved = at.moved(*((back, 0.0) if axis == 0 else (0.0, back)))
        fields = {"at": moved.model_dump(mode="json")}
        fixes.append(
            Proposal("Move it until its middle is on it", (Change(on=station.on, fields=fields),))
        )
    return Finding(
        "travel.table-size",
        "stop",
        station.setup.id,
        "",
        f"The middle of {{vise}} stands {{by}} off {of} along {{letter}}: nothing there holds it.",
        {"vise": Shown(vise.name), "by": length(abs(off)), "letter": Shown("XY"[axis])},
        "",
        tuple(fixes),
        station=station.id,
        about=f"off-{'xy'[axis]}",  # not what is to be looked at once it is moved
    )


def _kept(station: StationFacts) -> Proposal:
    keep = Keep(on=station.on, finding="travel.table-size", words="stands out of the table, bolted")
    return Proposal("Keep it: {words}", (keep,), {"words": Shown(keep.words)})


def _vise_kg(station: StationFacts) -> float:
    """Of a vise, or of what the part is clamped on with the vise under it."""
    held, gear = vise.held_in(station), station.item
    if isinstance(gear, Gear):
        return gear.base.mass_kg + (gear.vise.mass_kg if gear.vise is not None else 0.0)
    return held[1].mass_kg if held is not None else 0.0
