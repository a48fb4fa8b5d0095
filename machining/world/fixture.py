"""The shop's own fixture: what a file says of its body, and what was picked of that: the seats a
part lies on, the locators it is pushed against, the threads its clamps are screwed into.
"""

from __future__ import annotations

from functools import cached_property
from typing import Annotated, Literal

from pydantic import Field, model_validator
from shapely import Polygon, unary_union

from machining.geometry.frames import Sideways
from machining.geometry.regions import Region, disc, filled

from .record import ByTheWatch, Id, Key, Length, LengthOrZero, Line, Name, Place, Record, Text

MOST_BLOCKS, MOST_CORNERS, MOST_PICKED = 400, 2_000, 60
OWN_DOWEL_MM = 8.0  # of pins that are put in beside its own locators
Loop = Annotated[tuple[Place, ...], Field(min_length=3, max_length=MOST_CORNERS)]


class Outlined(Record):
    """A region in plan by its outline and the outlines of its holes, from the fixture's middle."""

    outline: Loop
    holes: tuple[Loop, ...] = Field((), max_length=200)

    @model_validator(mode="after")
    def _goes_round(self) -> Outlined:
        if not self.region.is_valid or self.region.area <= 0.0:
            raise ValueError("outline crosses itself or encloses nothing")
        return self

    @cached_property
    def region(self) -> Polygon:
        return Polygon(self.outline, self.holes)


class Block(Outlined):
    """An upright piece of its body, heights over its bottom."""

    low_mm: LengthOrZero
    high_mm: Length

    @model_validator(mode="after")
    def _stands(self) -> Block:
        if self.high_mm <= self.low_mm:
            raise ValueError(
                f"high_mm is {self.high_mm:g}; it must be over low_mm, {self.low_mm:g}"
            )
        return self


class Seat(Outlined):
    """A level face that a part lies on, so high over the fixture's bottom."""

    id: Id
    high_mm: Length


class Locator(Record):
    """A face that a ``side`` of the part is pushed against, from one place to another, or a round
    pin of ``diameter_mm`` at the first; heights over the fixture's bottom.
    """

    id: Id
    side: Sideways
    at_mm: Place
    to_mm: Place
    diameter_mm: LengthOrZero = 0.0
    low_mm: LengthOrZero
    high_mm: Length

    @model_validator(mode="after")
    def _is_square_to_its_side(self) -> Locator:
        k = "xy".index(self.side[1])
        if not self.diameter_mm and abs(self.at_mm[k] - self.to_mm[k]) > 1e-6:
            raise ValueError(
                f"to_mm is {self.to_mm[k]:g} along {self.side[1].upper()}; it must be"
                f" {self.at_mm[k]:g}, as at_mm, for a face square to that"
            )
        if self.high_mm <= self.low_mm:
            raise ValueError(
                f"high_mm is {self.high_mm:g}; it must be over low_mm, {self.low_mm:g}"
            )
        return self

    @property
    def region(self) -> Region:
        """Of a pin, in plan."""
        return disc(*self.at_mm, self.diameter_mm / 2.0)


class Thread(Record):
    """A tapped hole, its mouth so high over the fixture's bottom."""

    id: Id
    at_mm: Place
    size_mm: Length
    high_mm: Length


class Fixture(Record):
    """A body with a place for one part. ``friction`` is that of the part on it, ``file`` what its
    body was read from.
    """

    key: Key
    name: Name = Field(min_length=1, max_length=60)
    kind: Literal["fixture"] = "fixture"
    friction: Annotated[float, Field(gt=0, le=1)]
    mass_kg: Annotated[float, Field(ge=0, le=100_000)] = 0.0
    close_s: ByTheWatch = None
    source: Text
    file: Line = ""
    blocks: tuple[Block, ...] = Field(min_length=1, max_length=MOST_BLOCKS)
    seats: tuple[Seat, ...] = Field(min_length=1, max_length=MOST_PICKED)
    locators: tuple[Locator, ...] = Field((), max_length=MOST_PICKED)
    threads: tuple[Thread, ...] = Field((), max_length=MOST_PICKED)

    @model_validator(mode="after")
    def _one_of_each_name(self) -> Fixture:
        seats, pins = [each.id for each in self.seats], [each.id for each in self.locators]
        ids = [*seats, *pins, *(each.id for each in self.threads)]
        for id in ids:
            if ids.count(id) > 1:
                raise ValueError(f"id is {id!r} more than once; each seat, locator and thread has")
        return self

    @property
    def loose(self) -> bool:
        """It is a body of its own."""
        return True

    @property
    def dowel_mm(self) -> float:
        return OWN_DOWEL_MM

    @cached_property
    def outline(self) -> Region:
        """All of it from above, without its holes."""
        return filled(unary_union([each.region for each in self.blocks]))

    @cached_property
    def _bounds(self) -> tuple[float, float, float, float]:
        every = [each.region.bounds for each in self.blocks]
        west, south = (min(each[k] for each in every) for k in (0, 1))
        east, north = (max(each[k] for each in every) for k in (2, 3))
        return west, south, east, north

    @property
    def x_mm(self) -> float:
        return self._bounds[2] - self._bounds[0]

    @property
    def y_mm(self) -> float:
        return self._bounds[3] - self._bounds[1]

    @property
    def thick_mm(self) -> float:
        """How high its highest seat lies."""
        return max(each.high_mm for each in self.seats)
