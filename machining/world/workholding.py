"""What holds a part: machine vises with two plain jaws, chucks, collets, mandrels and face drivers,
what it is clamped down on, and what pulls it down.
"""

from __future__ import annotations

from datetime import date
from typing import Annotated, Literal

from pydantic import Field, model_validator

from .clamping import Base
from .fixture import Fixture
from .record import (
    ByTheWatch,
    Force,
    Key,
    Length,
    LengthOrZero,
    Mass,
    Name,
    Record,
    Speed,
    Text,
    Torque,
)


class Vise(Record):
    """A machine vise. Heights are above the table; the bed is what parallels stand on. Its base is
    ``base_length_mm`` along the way its jaw moves; ``handle_mm`` is how far what stays on its screw
    stands out of that.

    ``outer_opening_mm`` is how far it opens with the jaws on the outer faces of what carries them,
    ``back_opening_mm`` with the moving one alone on the back of what carries it, None where they
    don't go there; a part lies over that then, ``outer_seat_mm`` over the bed, and the jaws close
    by ``travel_mm``.

    ``force_per_torque`` is the clamping force in N for each N·m at the screw (maker's chart or
    measured).
    """

    key: Key
    name: Name = Field(min_length=1, max_length=60)
    kind: Literal["vise"] = "vise"
    jaw_width_mm: Length
    jaw_height_mm: Length
    jaw_thickness_mm: Length
    jaws: Literal["smooth", "serrated", "soft"] = "smooth"
    step_mm: LengthOrZero = 0.0
    max_opening_mm: Length
    outer_opening_mm: Length | None = None
    back_opening_mm: Length | None = None
    outer_seat_mm: LengthOrZero = 0.0
    travel_mm: Length = 100.0
    bed_height_mm: Length
    base_length_mm: Length
    base_width_mm: Length
    handle_mm: LengthOrZero = 0.0
    force_per_torque: Force
    max_torque_nm: Torque
    friction: float = Field(gt=0, le=1)
    parallels_mm: tuple[Length, ...] = Field((), max_length=60)
    mass_kg: Mass = 30.0
    close_s: ByTheWatch = None
    source: Text


class Chuck(Record):
    """A chuck of a lathe. ``force_per_jaw_n`` is at rest and at the most its cylinder or key gives.

    ``jaw_radius_mm`` is how far the centre of mass of a jaw lies outside the diameter gripped;
    ``jaw_length_mm`` is along the spindle, ``bore_mm`` the largest bar that passes through.
    ``jaw_travel_mm`` is how far each jaw moves from open to closed, None where a key moves it over
    all that it grips. ``height_mm`` is of one for a table: how high its jaws begin over that; one
    for a spindle has none. ``run_out_mm`` is what an indicator reads in one turn on what it grips,
    ``read_on`` the day.
    """

    key: Key
    name: Name = Field(min_length=1, max_length=60)
    kind: Literal["chuck"] = "chuck"
    jaws: int = Field(3, ge=2, le=6)
    jaw_kind: Literal["hard", "soft"] = "hard"
    jaw_width_mm: Length
    jaw_length_mm: Length
    jaw_height_mm: Length
    jaw_mass_kg: Mass
    jaw_radius_mm: Length
    jaw_travel_mm: Length | None = None
    height_mm: Length | None = None
    force_per_jaw_n: Force
    friction: float = Field(gt=0, le=1)
    min_grip_mm: Length
    max_grip_mm: Length
    bore_mm: LengthOrZero = 0.0
    max_rpm: Speed
    run_out_mm: LengthOrZero | None = None
    read_on: date | None = None
    close_s: ByTheWatch = None
    source: Text

    @model_validator(mode="after")
    def _opens(self) -> Chuck:
        if self.min_grip_mm >= self.max_grip_mm:
            raise ValueError(
                f"min_grip_mm is {self.min_grip_mm:g}; it must be under max_grip_mm,"
                f" {self.max_grip_mm:g}"
            )
        return self


class Collet(Record):
    """A collet of a lathe, with its chuck. It closes on stock of its profile, ``grips_mm`` across
    and up to ``range_mm`` less, with ``force_n`` all round; ``length_mm`` is what it grips along
    the spindle, ``nose_mm`` the outside of what stands round it; ``run_out_mm`` is what an
    indicator reads in one turn on what it grips, ``read_on`` the day.
    """

    key: Key
    name: Name = Field(min_length=1, max_length=60)
    kind: Literal["collet"] = "collet"
    grips_mm: Length
    profile: Literal["round", "hexagon", "square"] = "round"
    range_mm: LengthOrZero = 0.5
    length_mm: Length
    nose_mm: Length
    force_n: Force
    friction: float = Field(gt=0, le=1)
    max_rpm: Speed
    run_out_mm: LengthOrZero | None = None
    read_on: date | None = None
    close_s: ByTheWatch = None
    source: Text

    @model_validator(mode="after")
    def _has_walls(self) -> Collet:
        if self.nose_mm <= self.grips_mm:
            raise ValueError(
                f"nose_mm is {self.nose_mm:g}; it must be over grips_mm, {self.grips_mm:g}"
            )
        return self


class Mandrel(Record):
    """An expanding mandrel of a lathe: it opens evenly in bores ``from_mm`` to ``to_mm`` wide with
    ``force_n`` all round, over ``length_mm`` along the spindle; the part lies against a shoulder
    ``shoulder_mm`` wide. ``run_out_mm`` is what an indicator reads in one turn on what it carries,
    ``read_on`` the day.
    """

    key: Key
    name: Name = Field(min_length=1, max_length=60)
    kind: Literal["mandrel"] = "mandrel"
    from_mm: Length
    to_mm: Length
    length_mm: Length
    shoulder_mm: Length
    force_n: Force
    friction: float = Field(gt=0, le=1)
    max_rpm: Speed
    run_out_mm: LengthOrZero | None = None
    read_on: date | None = None
    close_s: ByTheWatch = None
    source: Text

    @model_validator(mode="after")
    def _opens(self) -> Mandrel:
        if not self.from_mm < self.to_mm < self.shoulder_mm:
            raise ValueError(
                f"from_mm, to_mm and shoulder_mm are {self.from_mm:g}, {self.to_mm:g} and"
                f" {self.shoulder_mm:g}; each must be over the one before"
            )
        return self


class Driver(Record):
    """A face driver of a lathe: a sprung centre, and round it a ring of teeth ``teeth_mm`` in
    diameter that bite into the part's end as a tailstock presses it on; their ``friction`` is what
    they hold aside over what presses. It drives ends ``from_mm`` to ``to_mm`` wide; its centre
    closes holes up to ``centre_mm``. ``run_out_mm`` is what an indicator reads in one turn on what
    runs on it, ``read_on`` the day.
    """

    key: Key
    name: Name = Field(min_length=1, max_length=60)
    kind: Literal["centres"] = "centres"
    from_mm: Length
    to_mm: Length
    teeth_mm: Length
    centre_mm: Length
    friction: float = Field(gt=0, le=2)
    max_rpm: Speed
    run_out_mm: LengthOrZero | None = None
    read_on: date | None = None
    close_s: ByTheWatch = None
    source: Text

    @model_validator(mode="after")
    def _bites(self) -> Driver:
        if not self.centre_mm < self.teeth_mm <= self.from_mm < self.to_mm:
            raise ValueError(
                f"centre_mm, teeth_mm, from_mm and to_mm are {self.centre_mm:g},"
                f" {self.teeth_mm:g}, {self.from_mm:g} and {self.to_mm:g}; each must be over the"
                " one before, and the teeth within the least end"
            )
        return self


class Puller(Record):
    """A plate that pulls a part down on its face, or sticks to it: ``pull_kpa`` over what lies
    inside of its seal, which is ``seal_mm`` in from the part's edge. Without a size it is cut as
    large as the part. ``friction`` is that of the part on it; of what sticks, its strength along
    the face over that square to it.
    """

    key: Key
    name: Name = Field(min_length=1, max_length=60)
    kind: Literal["pulled"] = "pulled"
    by: Literal["vacuum", "tape", "glue"] = "vacuum"
    x_mm: LengthOrZero = 0.0
    y_mm: LengthOrZero = 0.0
    thick_mm: Length
    pull_kpa: float = Field(gt=0, le=20_000)
    seal_mm: LengthOrZero = 0.0
    friction: float = Field(gt=0, le=2)
    close_s: ByTheWatch = None
    source: Text

    @model_validator(mode="after")
    def _has_a_size_or_none(self) -> Puller:
        if (self.x_mm > 0.0) != (self.y_mm > 0.0):
            nought = "x_mm" if self.x_mm == 0.0 else "y_mm"
            raise ValueError(f"{nought} is 0; a plate has a length and a width, or neither")
        return self


AnyHolding = Vise | Chuck | Collet | Mandrel | Driver | Base | Puller | Fixture
# a record of the library's one table of holdings, told apart by its kind
Workholding = Annotated[AnyHolding, Field(discriminator="kind")]
