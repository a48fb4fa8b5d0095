"""Machines: what turns in them, what carries their tools, where the work is, how fast they move."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Annotated, Literal

from pydantic import Field, model_validator

from .record import (
    Acceleration,
    Compliance,
    Coolant,
    Coordinate,
    Factor,
    Feed,
    Key,
    Length,
    LengthOrZero,
    Line,
    Mass,
    Money,
    Name,
    NoneOrKey,
    Record,
    Seconds,
    SecondsOrZero,
    Text,
    WorkOffset,
)
from .spindle import Spindle


class Axes(Record):
    """Of travel, rapids and accelerations alike; ``y`` is 0 where there is no such axis."""

    x: Acceleration
    y: float = Field(0.0, ge=0, le=1_000_000)
    z: Acceleration


class RotaryAxis(Record):
    """An axis that turns what stands at a place. Angles in degrees, of the work's turn about one of
    its station's directions; ``above_mm`` is how high over the table's top a tilting axis lies,
    ``clamp_s`` what releasing and clamping take for a position.
    """

    name: Name = Field(min_length=1, max_length=4)
    about: Literal["x", "y", "z"]
    low_deg: float = Field(-360.0, ge=-360, le=0)
    high_deg: float = Field(360.0, ge=0, le=360)
    speed_deg_s: Factor
    clamp_s: SecondsOrZero
    above_mm: float = Field(0.0, ge=-1000, le=1000)


class Carrier(Record):
    """What holds the tools and moves them: its pockets, what a change takes from chip to chip, the
    axes it is moved along. Lengths in mm, speeds in mm/min, accelerations in mm/s².

    ``drives`` is the spindle its tools turn in, empty where they stand still.
    """

    id: Key = "magazine"
    kind: Literal["magazine", "turret"] = "magazine"
    drives: NoneOrKey = ""
    pockets: int = Field(ge=1, le=400)
    chip_to_chip_s: Seconds
    max_tool_length_mm: Length
    max_tool_diameter_mm: Length
    travel: Axes
    rapid: Axes
    acceleration: Axes


class Table(Record):
    """A table under a spindle's nose, or facing it. ``rotaries`` turn what stands on it.

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
        if self.pallets > 1 and self.pallet_change_s <= 0:
            raise ValueError(
                f"pallet_change_s is {self.pallet_change_s:g}; it must be over 0 with"
                f" {self.pallets} pallets"
            )
        return self


class SpindleNose(Record):
    """Work in front of a spindle that turns it: ``swing_mm`` is the largest diameter that goes
    round. ``bar_feed_s`` is what the next part takes off a bar that the machine feeds, 0 where it
    feeds none. ``rotaries`` turn the work slowly, and hold it for tools that are driven.
    """

    kind: Literal["spindle"] = "spindle"
    id: Key = "spindle"
    spindle: Key
    swing_mm: Length
    bar_feed_s: SecondsOrZero = 0.0
    longest_bar_mm: LengthOrZero = 0.0
    rotaries: tuple[RotaryAxis, ...] = Field((), max_length=1)


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


FacingDirection = Literal["any", "x+", "x-", "y+", "y-"]


class Machine(Record):
    """Each value's origin is in ``source``. The first of its carriers and places is the one that is
    meant where a plan names none.

    ``tram_note`` says how square the spindle stands to the table; ``face_towards`` is the direction
    in which a face mill leaves the better surface for it. ``offset_block`` is how its control takes
    work offsets from a file, empty where nobody knows. ``obstacles`` are what its table carries the
    work past. ``positioning_mm`` is how closely its axes go to a place, each way.
    """

    key: Key
    name: Name = Field(min_length=1, max_length=60)
    max_feed_mm_min: Feed
    rapid_moves: Literal["linear", "each-axis"] = "linear"
    jerk_time_s: SecondsOrZero = 0.05
    corner_tolerance_mm: Length = 0.05
    block_time_s: SecondsOrZero = 0.002
    compliance_um_n: Compliance = 0.01
    positioning_mm: Length = 0.005
    work_offsets: tuple[WorkOffset, ...] = ("G54", "G55", "G56", "G57", "G58", "G59")
    offset_block: Literal["", "g10"] = ""
    coolant: tuple[Coolant, ...] = ("flood", "air", "none")
    tram_note: Line = ""
    face_towards: FacingDirection = "any"
    hourly_cost: Money = 0.0
    source: Text
    spindles: tuple[Spindle, ...] = Field(min_length=1, max_length=6)
    carriers: tuple[Carrier, ...] = Field(min_length=1, max_length=6)
    places: tuple[WorkPlace, ...] = Field(min_length=1, max_length=6)
    obstacles: tuple[Obstacle, ...] = Field((), max_length=12)

    @model_validator(mode="after")
    def _names_what_it_has(self) -> Machine:
        _unique("spindles", self.spindles)
        _unique("carriers", self.carriers)
        _unique("places", self.places)
        turning = {each.id: each.turns for each in self.spindles}
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


def _unique(field: str, parts: Iterable[Spindle | Carrier | Table | SpindleNose]) -> None:
    ids = [each.id for each in parts]
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
