"""Where the equal copies of a station stand on a table, from its middle (mm)."""

from __future__ import annotations

from functools import cached_property
from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from machining.world.record import Key, Length, Place, Record

Count = Annotated[int, Field(ge=1, le=400)]


class _About(Record):
    at_mm: Place = (0.0, 0.0)

    def moved(self, x: float, y: float) -> Self:
        """The same, carried (mm)."""
        return self.model_copy(update={"at_mm": (self.at_mm[0] + x, self.at_mm[1] + y)})


class One(_About):
    kind: Literal["one"] = "one"

    @property
    def spots(self) -> tuple[Place, ...]:
        return (self.at_mm,)


class Row(_About):
    """So many along X or Y, a pitch apart; ``at_mm`` is the middle of the row."""

    kind: Literal["row"] = "row"
    along: Literal["x", "y"] = "x"
    count: Count
    pitch_mm: Length

    @cached_property
    def spots(self) -> tuple[Place, ...]:
        x, y = self.at_mm
        steps = [(k - (self.count - 1) / 2.0) * self.pitch_mm for k in range(self.count)]
        return tuple((x + step, y) if self.along == "x" else (x, y + step) for step in steps)


class Grid(_About):
    """Columns along X and rows along Y; ``at_mm`` is the middle of all."""

    kind: Literal["grid"] = "grid"
    columns: Annotated[int, Field(ge=1, le=40)]
    rows: Annotated[int, Field(ge=1, le=40)]
    column_pitch_mm: Length
    row_pitch_mm: Length

    @cached_property
    def spots(self) -> tuple[Place, ...]:
        x, y = self.at_mm
        return tuple(
            (
                x + (i - (self.columns - 1) / 2.0) * self.column_pitch_mm,
                y + (k - (self.rows - 1) / 2.0) * self.row_pitch_mm,
            )
            for k in range(self.rows)
            for i in range(self.columns)
        )


class Faces(_About):
    """On faces of a tombstone of its table (``on``), the same on each: columns across a face and
    rows up it. ``at_mm`` is the middle of all on a face, from the face's own.
    """

    kind: Literal["faces"] = "faces"
    on: Key
    faces: tuple[Annotated[int, Field(ge=1, le=12)], ...] = Field(min_length=1, max_length=12)
    columns: Annotated[int, Field(ge=1, le=40)] = 1
    rows: Annotated[int, Field(ge=1, le=40)] = 1
    column_pitch_mm: Length = 100.0
    row_pitch_mm: Length = 100.0

    @model_validator(mode="after")
    def _faces_differ(self) -> Self:
        twice = {each for each in self.faces if self.faces.count(each) > 1}
        if twice:
            raise ValueError(f"faces have {min(twice)} twice; each must be named only once")
        return self

    @property
    def grid(self) -> Grid:
        """The same of one face."""
        fields = self.model_dump(exclude={"kind", "on", "faces"})
        return Grid(**fields)

    @cached_property
    def spots(self) -> tuple[Place, ...]:
        """Face by face."""
        return self.grid.spots * len(self.faces)

    @cached_property
    def face_of(self) -> tuple[int, ...]:
        """On which face each of its positions is."""
        each = self.columns * self.rows
        return tuple(face for face in self.faces for _ in range(each))


class Spots(Record):
    """Wherever each of them stands."""

    kind: Literal["spots"] = "spots"
    at_mm: tuple[Place, ...] = Field(min_length=1, max_length=400)

    def moved(self, x: float, y: float) -> Self:
        """The same, carried (mm)."""
        return self.model_copy(update={"at_mm": tuple((a + x, b + y) for a, b in self.at_mm)})

    @property
    def spots(self) -> tuple[Place, ...]:
        return self.at_mm


At = Annotated[One | Row | Grid | Faces | Spots, Field(discriminator="kind")]
