"""The plan document: one frozen value that holds everything a planner decides about a part."""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal

from pydantic import Field, model_validator

from machining.geometry.frames import Direction, Sideways, Turn, Vector, orientation, raising
from machining.quantities.errors import Missing
from machining.world.asked import Asked
from machining.world.part import Part
from machining.world.record import (
    Id,
    Key,
    Length,
    NoneOrKey,
    Place,
    Record,
    SecondsOrZero,
    Text,
    WorkOffset,
)
from machining.world.stock import Block, Stock
from machining.world.stock.shaped import Shaped

from .at import At
from .base import Kept
from .holding import Held, InChuck, Rested
from .in_vise import SIDES, Holding
from .operation import Operation
from .outside import OutsideStep
from .zero import Zero

BLANK = "blank"  # what a station takes that takes from no other


RAISED_BY = (
    ("block", "an angle block"),
    ("sine", "a sine bar on gauge blocks"),
    ("jaws", "soft jaws cut at the angle"),
    ("vise", "a sine plate under the vise"),
)


class Orientation(Record):
    """Which side of the part looks at the spindle, and how far it is turned about the spindle's
    axis; then, where it is held at an angle, by how much a side of the machine's is raised, and
    what sets the angle.
    """

    up: Direction = "+z"
    turn: Turn = 0
    raised: Annotated[Sideways, Asked("Raised side", choices=SIDES)] = "+x"
    raised_deg: Annotated[float, Field(ge=0, lt=90)] = 0.0
    raised_by: Annotated[
        Literal["block", "sine", "jaws", "vise"], Asked("Angle set by", choices=RAISED_BY)
    ] = "block"

    @property
    def leans(self) -> bool:
        """Does what holds it stand at the angle, with the part square in it?"""
        return self.raised_deg > 0.0 and self.raised_by == "vise"

    @property
    def square(self) -> Vector:
        """From part coordinates to the machine's, before it is raised."""
        return orientation(self.up, self.turn)

    @property
    def rotation(self) -> Vector:
        """The same as it lies."""
        if not self.raised_deg:
            return self.square
        turned: Vector = raising(self.raised, self.raised_deg) @ self.square
        return turned


class LoadedTool(Record):
    """An assembly in a pocket of a machine, of its first carrier where none is named. Operations
    name this, never the library's tool.
    """

    CHANGES: ClassVar[frozenset[str]] = frozenset(
        {"number", "assembly", "stick_out_mm", "pocket", "carrier", "h", "d"}
    )

    id: Id
    machine: Key
    number: int = Field(ge=1, le=9999)
    assembly: Key
    stick_out_mm: Length
    pocket: int = Field(ge=1, le=400)
    carrier: NoneOrKey = ""
    h: int = Field(ge=0, le=999)
    d: int = Field(ge=0, le=999)


class Ran(Record):
    """That a holding has run: as ``holding`` tells (a digest of how the part lies in it), stood
    ``factor`` times at its weakest then.
    """

    holding: str = Field(min_length=8, max_length=64, pattern="^[0-9a-f]+$")
    factor: float = Field(ge=0, le=1000)


class Station(Record):
    """One way the part is held in a setup: which way up, held how, zero where. ``takes`` is what
    comes into it: the blank, or what another station leaves. ``place`` is where in the machine
    it is, the machine's first where none is named. ``at`` are the places on the table
    where equal copies of it stand, None while nobody has said. With ``offset_each`` every copy
    keeps its zero in an offset of its own: those that follow ``work_offset`` in the machine's list.
    ``ran`` is how it has held a part before, None while it has not. ``load_s`` is what putting a
    part in and taking it out takes by the watch, None where nobody timed it.
    """

    CHANGES: ClassVar[frozenset[str]] = frozenset(
        {
            "takes",
            "place",
            "orientation",
            "holding",
            "zero",
            "work_offset",
            "offset_each",
            "at",
            "ran",
            "load_s",
        }
    )

    id: Id
    takes: Id = BLANK
    place: NoneOrKey = ""
    orientation: Orientation = Orientation()
    holding: Held | None = None
    zero: Zero = Zero()
    work_offset: WorkOffset = "G54"
    offset_each: bool = False
    at: At | None = None
    ran: Ran | None = None
    load_s: SecondsOrZero | None = None
    kept: Kept = ()

    @property
    def in_vise(self) -> Holding | None:
        return self.holding if isinstance(self.holding, Holding) else None

    @property
    def rested(self) -> Rested | None:
        return self.holding if isinstance(self.holding, Rested) else None

    @property
    def in_chuck(self) -> InChuck | None:
        return self.holding if isinstance(self.holding, InChuck) else None

    @property
    def spots(self) -> tuple[Place, ...]:
        """Where the middle of its stock stands on the table, a part at each."""
        return self.at.spots if self.at is not None else ((0.0, 0.0),)

    @property
    def positions(self) -> int:
        """How many parts it holds at one time."""
        return len(self.spots)


class SaidOrder(Record):
    """That operation ``then`` comes after ``first``, and ``why``; or, where it is ``free``, that a
    habit which says so is set aside.
    """

    first: Id
    then: Id
    free: bool = False
    why: str = Field(min_length=1, max_length=200)


class Setup(Record):
    """All that is in the machine while its door is shut. ``order`` says whether a tool does its
    work at every station before the next one comes, or a part is finished first; ``plate`` is that
    of the machine's which its load stands on, empty on the table itself. ``said_order`` is what the
    planner said of the order of operations; ``retract_mm`` how far over all that stands there its
    tools go from cut to cut, None as far as the shop does.
    """

    CHANGES: ClassVar[frozenset[str]] = frozenset(
        {"machine", "plate", "order", "note", "said_order", "retract_mm"}
    )

    id: Id
    machine: Key
    plate: Annotated[NoneOrKey, Asked("Stands on")] = ""
    order: Literal["by tool", "by part"] = "by tool"
    stations: tuple[Station, ...] = Field(min_length=1, max_length=20)
    note: Text = ""
    retract_mm: Length | None = None
    kept: Kept = ()
    said_order: tuple[SaidOrder, ...] = Field((), max_length=100)
    operations: tuple[Operation, ...] = Field((), max_length=200)

    @model_validator(mode="after")
    def _says_each_order_once(self) -> Setup:
        pairs = [frozenset((each.first, each.then)) for each in self.said_order]
        for each, pair in zip(self.said_order, pairs, strict=True):
            if each.first == each.then:
                raise ValueError(f"then is {each.then!r}; it must be another operation than first")
            if pairs.count(pair) > 1:
                raise ValueError(
                    f"then is {each.then!r}; of {each.first} and {each.then} it is said once"
                )
        return self

    @model_validator(mode="after")
    def _operations_have_stations(self) -> Setup:
        ids = [each.id for each in self.stations]
        for op in self.operations:
            if op.station and op.station not in ids:
                raise ValueError(
                    f"station is {op.station!r}; it must be one of its setup: {', '.join(ids)}"
                )
            if not op.station and len(ids) > 1:
                raise ValueError(
                    f"station is empty at {op.id}; it must be one of its setup: {', '.join(ids)}"
                )
        return self

    def operation(self, id: str) -> Operation:
        return next(op for op in self.operations if op.id == id)

    def station_of(self, operation: Operation) -> Station:
        """Where an operation works; a setup's only station need not be named."""
        named = (each for each in self.stations if each.id == operation.station)
        return next(named, self.stations[0])


class Plan(Record):
    CHANGES: ClassVar[frozenset[str]] = frozenset(
        {"material", "quantity", "remnants", "stock", "units", "outside"}
    )

    format: Literal[5] = 5
    material: NoneOrKey = ""
    units: Literal["", "metric", "inch"] = Field(
        "", description="the system its sheets are printed in; empty: the shop's"
    )
    quantity: int = Field(1, ge=1, le=1_000_000)
    remnants: int = Field(
        0,
        ge=0,
        le=1_000_000,
        description="so many of its blanks come out of remnants; the others are bought",
    )
    part: Part = Part()
    stock: Stock = Block()
    outside: tuple[OutsideStep, ...] = Field((), max_length=40)
    tools: tuple[LoadedTool, ...] = Field((), max_length=400)
    kept: Kept = ()
    setups: tuple[Setup, ...] = Field((), max_length=40)

    @model_validator(mode="after")
    def _ids_are_unique(self) -> Plan:
        ids = (
            [s.id for s in self.setups]
            + [each.id for each in self.stations]
            + [op.id for s in self.setups for op in s.operations]
            + [t.id for t in self.tools]
            + [each.id for each in self.outside]
        )
        twice = {each for each in ids if ids.count(each) > 1}
        if twice:
            raise ValueError(f"id is {sorted(twice)[0]!r}; it must be used only once")
        places = [(t.machine, t.number) for t in self.tools]
        doubled = {each for each in places if places.count(each) > 1}
        if doubled:
            machine, number = sorted(doubled)[0]
            raise ValueError(f"number is {number}; T{number} on {machine} is taken")
        return self

    @model_validator(mode="after")
    def _stations_take_from_what_is_there(self) -> Plan:
        taken = {each.id: each.takes for each in self.stations}
        if BLANK in taken:
            raise ValueError(f"id is {BLANK!r}; it must be another name for a station")
        for id, takes in taken.items():
            if takes != BLANK and takes not in taken:
                raise ValueError(f"takes is {takes!r}; there is no such station for {id} to take")
            others = [each for each in taken if takes != BLANK and taken[each] == takes]
            if others[1:]:
                raise ValueError(
                    f"takes is {takes!r}; {others[0]} takes it already: a part goes one way"
                )
            way = [id]
            while (takes := taken[way[-1]]) != BLANK:
                if takes in way:
                    ring = " from ".join([*way[way.index(takes) :], takes])
                    raise ValueError(f"takes is {takes!r}; {ring} is a ring: none comes first")
                way.append(takes)
        for step in self.outside:
            if step.after != BLANK and step.after not in taken:
                raise ValueError(f"after is {step.after!r}; there is no such station to leave from")
        return self

    @property
    def stations(self) -> tuple[Station, ...]:
        """Of all setups, in their order."""
        return tuple(station for setup in self.setups for station in setup.stations)

    @property
    def route(self) -> tuple[Station, ...]:
        """The same, each after what it takes from."""
        done: dict[str, Station] = {}
        while len(done) < len(self.stations):
            for each in self.stations:
                if each.id not in done and (each.takes == BLANK or each.takes in done):
                    done[each.id] = each
        return tuple(done.values())

    @property
    def solids(self) -> tuple[str, ...]:
        """Keys of the solids it was given by files: of the part, and of a blank of its own
        shape.
        """
        blank = self.stock.geometry if isinstance(self.stock, Shaped) else ""
        return tuple(dict.fromkeys(key for key in (self.part.geometry, blank) if key))

    def setup(self, id: str) -> Setup:
        """The setup with this id. Raises Missing."""
        for setup in self.setups:
            if setup.id == id:
                return setup
        raise Missing("Setup", id)

    def station(self, id: str) -> Station:
        """The station with this id. Raises Missing."""
        for station in self.stations:
            if station.id == id:
                return station
        raise Missing("Station", id)

    def setup_with(self, station: str) -> Setup:
        """The setup that has a station. Raises Missing."""
        for setup in self.setups:
            if any(each.id == station for each in setup.stations):
                return setup
        raise Missing("Station", station)

    def setup_of(self, operation: str) -> Setup:
        """The setup that holds an operation. Raises Missing."""
        for setup in self.setups:
            if any(op.id == operation for op in setup.operations):
                return setup
        raise Missing("Operation", operation)

    def tool(self, id: str) -> LoadedTool:
        """The loaded tool with this id. Raises Missing."""
        for tool in self.tools:
            if tool.id == id:
                return tool
        raise Missing("Tool", id)
