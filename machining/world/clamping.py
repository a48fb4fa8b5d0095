"""What clamps a part down on what it stands on: the base under it, and the clamps of the shop."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from .record import ByTheWatch, Key, Length, LengthOrZero, Name, Record, Text, Torque

Friction = Annotated[float, Field(gt=0, le=1)]
NutFactor = Annotated[float, Field(ge=0.05, le=0.5)]


class Base(Record):
    """What a part lies on: a plate or pallet of the shop with threads and bores for dowels, or,
    without a size, the machine's own table or plate. ``friction`` is that of the part on it,
    ``cut_into_mm`` how deep a tool may go into it: a plate that is faced again between jobs.
    """

    key: Key
    name: Name = Field(min_length=1, max_length=60)
    kind: Literal["clamped"] = "clamped"
    x_mm: LengthOrZero = 0.0
    y_mm: LengthOrZero = 0.0
    thick_mm: LengthOrZero = 0.0
    dowel_mm: Length = 8.0
    cut_into_mm: LengthOrZero = 0.0
    friction: Friction
    mass_kg: Annotated[float, Field(ge=0, le=100_000)] = 0.0
    close_s: ByTheWatch = None
    source: Text

    @model_validator(mode="after")
    def _has_a_size_or_none(self) -> Base:
        sizes = {"x_mm": self.x_mm, "y_mm": self.y_mm, "thick_mm": self.thick_mm}
        if any(sizes.values()) and not all(sizes.values()):
            nought = next(name for name, value in sizes.items() if not value)
            raise ValueError(f"{nought} is 0; a plate has a length, a width and a thickness")
        return self

    @property
    def loose(self) -> bool:
        """Is it a body of its own?"""
        return self.thick_mm > 0.0


class _Screwed(Record):
    """With a thread of ``thread_mm`` whose nut or head asks for a wrench ``wrench_mm`` across its
    flats; ``nut_factor`` is K of F = T/(K·d).
    """

    key: Key
    name: Name = Field(min_length=1, max_length=60)
    thread_mm: Length
    nut_factor: NutFactor = 0.2
    max_torque_nm: Torque
    wrench_mm: Length
    friction: Friction
    source: Text


class Strap(_Screwed):
    """A strap clamp: its nose of ``pad_mm`` presses on the part, its heel stands on a block as high
    as the part there, the stud between both.
    """

    kind: Literal["strap"] = "strap"
    width_mm: Length
    thick_mm: Length
    pad_mm: Length
    nose_to_stud_mm: Length
    stud_to_heel_mm: Length

    @property
    def long_mm(self) -> float:
        """From the tip of its nose to its end."""
        return self.pad_mm + self.nose_to_stud_mm + self.stud_to_heel_mm


class ScrewDown(_Screwed):
    """A screw through a hole of the part, its head on top."""

    kind: Literal["screw"] = "screw"
    head_mm: Length
    head_high_mm: Length

    @model_validator(mode="after")
    def _bears(self) -> ScrewDown:
        if self.head_mm <= self.thread_mm:
            raise ValueError(
                f"head_mm is {self.head_mm:g}; it must be over thread_mm, {self.thread_mm:g}"
            )
        return self


class SideClamp(Record):
    """A clamp beside the part, lower than its top: a toe or an edge clamp. Its nose, ``width_mm``
    along the part and from ``low_mm`` to ``low_mm`` + ``nose_mm`` over what it stands on, pushes
    inwards and ``down_deg`` downwards. ``force_per_torque`` is N for each N·m at its screw.
    """

    key: Key
    name: Name = Field(min_length=1, max_length=60)
    kind: Literal["side"] = "side"
    force_per_torque: Annotated[float, Field(gt=0, le=1e5)]
    max_torque_nm: Torque
    wrench_mm: Length
    down_deg: Annotated[float, Field(ge=0, lt=60)] = 0.0
    width_mm: Length
    low_mm: LengthOrZero
    nose_mm: Length
    high_mm: Length
    long_mm: Length
    friction: Friction
    source: Text

    @model_validator(mode="after")
    def _is_as_high_as_its_nose(self) -> SideClamp:
        if self.low_mm + self.nose_mm > self.high_mm:
            raise ValueError(
                f"high_mm is {self.high_mm:g}; it must be at least low_mm + nose_mm,"
                f" {self.low_mm + self.nose_mm:g}"
            )
        return self


AnyClamp = Strap | ScrewDown | SideClamp
# a record of the library's table of clamps, told apart by its kind
Clamping = Annotated[AnyClamp, Field(discriminator="kind")]
