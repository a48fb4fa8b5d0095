"""Machines: what turns in them, what carries their tools, where the work is, how fast they move."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Annotated, Literal

from pydantic import Field, model_validator

from .carrier import Carrier, TimedRun
from .record import (
    Compliance,
    Coolant,
    Coordinate,
    Feed,
    Force,
    Key,
    Length,
    LengthOrZero,
    Line,
    Mass,
    Money,
    Name,
    Record,
    SecondsOrZero,
    Text,
    WorkOffset,
)
from .rotary_axis import RotaryAxis
from .spindle import Spindle
from .standing import StandingTool
from .trued import Pair, Square, Tram


class Tombstone(Record):
    """What a table carries its parts on, at upright faces round the axis that turns it: ``sides``
    of them, each ``out_mm`` from the axis, ``wide_mm`` wide and ``tall_mm`` tall over the table.
    """

    key: Key
    name: Name = Field(min_length=1, max_length=60)
    sides: Annotated[int, Field(ge=1, le=12)] = 4
    out_mm: Length
    wide_mm: Length
    tall_mm: Length
    mass_kg: Mass

    def turned_deg(self, face: int) -> float:
        """The turn that brings a face (from 1) to the tool."""
        return (face - 1) * 360.0 / self.sides


class Plate(Record):
    """A plate that is bolted on the middle of a table: what stands on the table stands on it then,
    ``thick_mm`` higher.
    """

    key: Key
    name: Name = Field(min_length=1, max_length=60)
    x_mm: Length
    y_mm: Length
    thick_mm: Length
    mass_kg: Mass


class Spot(Record):
    """A place on a table whose position is known: a dowel, a pallet's corner, a fixture's bore.
    From the middle of the table's top, mm. It is called by its key.
    """

    key: Key
    x_mm: Coordinate
    y_mm: Coordinate
    z_mm: Coordinate = 0.0


class Table(Record):
    """A table under a spindle's nose, or facing it. ``rotaries`` turn what stands on it, or tilt
    the head over it.

    Of a table that lies along its spindle ``surface_below_mm`` says how far under the middle of Y's
    way its surface is; its parts stand on one of its ``tombstones``, and what is said of its top is
    then meant of the axis it turns about.

    ``middle_x_mm``, ``middle_y_mm`` and ``top_z_mm`` are where the machine says it is (mm) when its
    gauge line, without a tool, stands on the middle of the table's top; None while nobody has
    measured that.
    """

    kind: Literal["table"] = "table"
    id: Key = "table"
    x_mm: Length
    y_mm: Length
    load_kg: Mass
    nose_to_table_min_mm: LengthOrZero
    nose_to_table_max_mm: Length
    middle_x_mm: Coordinate | None = None
    middle_y_mm: Coordinate | None = None
    top_z_mm: Coordinate | None = None
    pallets: int = Field(1, ge=1, le=40)
    pallet_change_s: SecondsOrZero = 0.0
    rotaries: tuple[RotaryAxis, ...] = Field((), max_length=3)
    surface_below_mm: LengthOrZero | None = None
    tombstones: tuple[Tombstone, ...] = Field((), max_length=12)
    plates: tuple[Plate, ...] = Field((), max_length=12)
    spots: tuple[Spot, ...] = Field((), max_length=40)

    def tombstone(self, key: str) -> Tombstone | None:
        """One of its tombstones; None for what it does not have."""
        return next((each for each in self.tombstones if each.key == key), None)

    def plate(self, key: str) -> Plate | None:
        """One of its plates; None for what it does not have."""
        return next((each for each in self.plates if each.key == key), None)

    def spot(self, key: str) -> Spot | None:
        """One of its known places; None for what it does not have."""
        return next((each for each in self.known_spots if each.key == key), None)

    @property
    def turning(self) -> tuple[RotaryAxis, ...]:
        """The axes that turn what stands on it."""
        return tuple(each for each in self.rotaries if each.carries == "work")

    @property
    def head(self) -> RotaryAxis | None:
        """The axis that tilts the head over it, None where it stands upright."""
        return next((each for each in self.rotaries if each.carries == "tool"), None)

    @property
    def known_spots(self) -> tuple[Spot, ...]:
        """What is said of it, and where its axes meet."""
        if not self.turning:
            return self.spots
        above = next((each.above_mm for each in self.turning if each.about != "z"), 0.0)
        centre = Spot(key="centre-of-rotation", x_mm=0.0, y_mm=0.0, z_mm=above)
        return (*self.spots, centre)

    def face_middle(self, on: Tombstone) -> tuple[float, float, float]:
        """Of a tombstone's face that is turned to the tool: from the middle of Y's way and the axis
        it turns about, mm.
        """
        return (0.0, on.tall_mm / 2.0 - (self.surface_below_mm or 0.0), on.out_mm)

    @property
    def middle(self) -> tuple[float, float, float] | None:
        """Where the machine is with its gauge line on the middle of the table (mm), if known."""
        x, y, z = self.middle_x_mm, self.middle_y_mm, self.top_z_mm
        return None if x is None or y is None or z is None else (x, y, z)

    @model_validator(mode="after")
    def _consistent(self) -> Table:
        low, high = self.nose_to_table_min_mm, self.nose_to_table_max_mm
        if low >= high:
            raise ValueError(
                f"nose_to_table_min_mm is {low:g}; it must be under nose_to_table_max_mm, {high:g}"
            )
        known = {
            "middle_x_mm": self.middle_x_mm,
            "middle_y_mm": self.middle_y_mm,
            "top_z_mm": self.top_z_mm,
        }
        missing = [name for name, value in known.items() if value is None]
        if 0 < len(missing) < len(known):
            raise ValueError(
                f"{missing[0]} is empty; it must be known with the other two, or none of them"
            )
        _unique("tombstones", self.tombstones)
        _unique("spots", self.known_spots)
        _unique("plates", self.plates)
        self._carries_plates()
        if self.tombstones and self.surface_below_mm is None:
            raise ValueError(
                "surface_below_mm is empty; it must be known of a table that carries tombstones"
            )
        self._head_alone_tilts()
        if self.surface_below_mm is not None and not any(e.about == "y" for e in self.turning):
            raise ValueError(
                "rotaries have none about y; a table that lies along its spindle must turn about Y"
            )
        if self.pallets > 1 and self.pallet_change_s <= 0:
            raise ValueError(
                f"pallet_change_s is {self.pallet_change_s:g}; it must be over 0 with"
                f" {self.pallets} pallets"
            )
        return self

    def _carries_plates(self) -> None:
        if self.plates and self.surface_below_mm is not None:
            raise ValueError("plates must be empty of a table that carries tombstones")
        for plate in self.plates:
            for name, most in (("x_mm", self.x_mm), ("y_mm", self.y_mm)):
                if (value := getattr(plate, name)) > most:
                    raise ValueError(
                        f"{name} of {plate.name} is {value:g}; it must be at most {most:g}, the"
                        " table’s"
                    )

    def _head_alone_tilts(self) -> None:
        if self.head is None:
            return
        others = [each for each in self.rotaries if each is not self.head]
        tilts = next((each for each in others if each.about != "z"), None)
        if tilts is not None:
            raise ValueError(
                f"about of {tilts.name} is {tilts.about!r}; beside a head that tilts it must be 'z'"
            )


class SpindleNose(Record):
    """Work in front of a spindle that turns it: ``swing_mm`` is the largest diameter that goes
    round. ``bar_feed_s`` is what the next part takes off a bar that the machine feeds, 0 where it
    feeds none. ``rotaries`` turn the work slowly, and hold it for tools that are driven.

    ``tailstock_n`` is the most its tailstock presses with, None without one, and ``centre_mm`` how
    thick the centre in it is behind its point; a steady carries diameters from ``steady_from_mm``
    to ``steady_to_mm``.
    """

    kind: Literal["spindle"] = "spindle"
    id: Key = "spindle"
    spindle: Key
    swing_mm: Length
    bar_feed_s: SecondsOrZero = 0.0
    longest_bar_mm: LengthOrZero = 0.0
    tailstock_n: Force | None = None
    centre_mm: Length = 60.0
    steady_from_mm: Length | None = None
    steady_to_mm: Length | None = None
    rotaries: tuple[RotaryAxis, ...] = Field((), max_length=1)

    @property
    def turning(self) -> tuple[RotaryAxis, ...]:
        """The axes that turn what it holds."""
        return self.rotaries

    @model_validator(mode="after")
    def _no_head(self) -> SpindleNose:
        for each in self.rotaries:
            if each.carries == "tool":
                raise ValueError(
                    f"carries of {each.name} is 'tool'; before a spindle it must be 'work'"
                )
        return self


WorkPlace = Annotated[Table | SpindleNose, Field(discriminator="kind")]


class Obstacle(Record):
    """What stands in a machine beside its spindle and does not move with the table: its column, a
    door. From the spindle's axis, ``towards`` the side where it is, it begins at ``from_mm``;
    across that it is ``wide_mm`` wide about ``middle_mm``. It is taken to be as high as anything
    that stands on the table.
    """

    name: Name = Field(min_length=1, max_length=40)
    towards: Literal["x+", "x-", "y+", "y-"] = "y+"
    from_mm: Length
    wide_mm: Length
    middle_mm: Coordinate = 0.0


class Machine(Record):
    """Each value's origin is in ``source``. The first of its carriers and places is the one that is
    meant where a plan names none.

    ``tram`` are readings of how square the spindle stands to the table, ``square`` of how its
    axes stand to each other; the last one counts. Its control sees so many blocks ahead, and goes
    no faster than it could stop in them: ``look_ahead``, None where it sees all of a path.
    ``in_doubt`` is why nobody relies on it for now, empty where there is nothing.
    ``standing`` are tools that stay in it.
    ``timed`` are the runs its values were fitted to. ``offset_block`` is how its control takes
    work offsets from a file, empty where nobody knows. ``obstacles`` are what its table carries the
    work past. ``positioning_mm`` is how closely its axes go to a place, each way.
    With ``carries_zero`` its control carries a zero round with its rotary axes; else every side
    that is turned to the tool keeps one of its own. With ``tilted_plane`` its control turns X, Y
    and Z of a program with a head that tilts.
    """

    key: Key
    name: Name = Field(min_length=1, max_length=60)
    max_feed_mm_min: Feed
    rapid_moves: Literal["linear", "each-axis"] = "linear"
    jerk_time_s: SecondsOrZero = 0.05
    corner_tolerance_mm: Length = 0.05
    block_time_s: SecondsOrZero = 0.002
    m_code_s: SecondsOrZero = 0.0
    look_ahead: int | None = Field(None, ge=1, le=100_000)
    compliance_um_n: Compliance = 0.01
    positioning_mm: Length = 0.005
    carries_zero: bool = False
    tilted_plane: bool = False
    work_offsets: tuple[WorkOffset, ...] = ("G54", "G55", "G56", "G57", "G58", "G59")
    offset_block: Literal["", "g10"] = ""
    coolant: tuple[Coolant, ...] = ("flood", "air", "none")
    tram: tuple[Tram, ...] = Field((), max_length=40)
    square: tuple[Square, ...] = Field((), max_length=40)
    hourly_cost: Money = 0.0
    in_doubt: Line = ""
    timed: tuple[TimedRun, ...] = Field((), max_length=40)
    standing: tuple[StandingTool, ...] = Field((), max_length=400)
    source: Text
    spindles: tuple[Spindle, ...] = Field(min_length=1, max_length=6)
    carriers: tuple[Carrier, ...] = Field(min_length=1, max_length=6)
    places: tuple[WorkPlace, ...] = Field(min_length=1, max_length=6)
    obstacles: tuple[Obstacle, ...] = Field((), max_length=12)

    def stands_square(self, of: Pair) -> Square | None:
        """How two axes stand to each other, as that was last read; None while nobody has."""
        return next((each for each in reversed(self.square) if each.of == of), None)

    @property
    def leans(self) -> Tram | None:
        """How its spindle was found to stand when that was last read; None while nobody has."""
        return self.tram[-1] if self.tram else None

    @model_validator(mode="after")
    def _names_what_it_has(self) -> Machine:
        _unique("spindles", self.spindles)
        _unique("carriers", self.carriers)
        _unique("places", self.places)
        turning = {each.id: each.turns for each in self.spindles}
        _stand_apart(self)
        for carrier in self.carriers:
            if carrier.drives and turning.get(carrier.drives) != "tool":
                raise ValueError(
                    f"drives is {carrier.drives!r} of {carrier.id};"
                    f" {_one_of('tool', turning)}, or empty"
                )
        for place in self.places:
            if isinstance(place, SpindleNose) and turning.get(place.spindle) != "work":
                raise ValueError(
                    f"spindle is {place.spindle!r} of {place.id}; {_one_of('work', turning)}"
                )
            if isinstance(place, Table) and not any(each.drives for each in self.carriers):
                raise ValueError(
                    f"drives is empty; over the table {place.id} a carrier must drive a spindle"
                    " that turns the tool"
                )
        return self


def _stand_apart(machine: Machine) -> None:
    """Raises ValueError for a carrier that is not there, a pocket it has not, or two in one."""
    known = {each.id: each for each in machine.carriers}
    taken = set[tuple[str, int]]()
    for each in machine.standing:
        carrier = known.get(each.carrier or machine.carriers[0].id)
        if carrier is None:
            raise ValueError(f"carrier is {each.carrier!r} of T{each.number}; {_one_of_ids(known)}")
        if each.pocket > carrier.pockets:
            raise ValueError(
                f"pocket is {each.pocket} of T{each.number}; {carrier.id} has {carrier.pockets}"
            )
        if (carrier.id, each.pocket) in taken:
            raise ValueError(f"pocket is {each.pocket} of T{each.number}; another tool stays in it")
        taken.add((carrier.id, each.pocket))


def _one_of_ids(known: Iterable[str]) -> str:
    return f"it must be {' or '.join(known)}, or empty"


def _unique(
    field: str, parts: Iterable[Spindle | Carrier | Table | SpindleNose | Tombstone | Plate | Spot]
) -> None:
    ids = [each.key if isinstance(each, Tombstone | Plate | Spot) else each.id for each in parts]
    twice = {each for each in ids if ids.count(each) > 1}
    if twice:
        raise ValueError(f"id of {field} is {sorted(twice)[0]!r}; it must be used only once")


def _one_of(turns: str, turning: Mapping[str, str]) -> str:
    able = [id for id, who in turning.items() if who == turns]
    return (
        f"it must be a spindle that turns the {turns}: {', '.join(able)}"
        if able
        else f"none of its spindles turns the {turns}"
    )
