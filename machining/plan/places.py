"""Where an operation works: on features of the part, or at typed places from the setup's zero."""

from __future__ import annotations

from functools import cached_property
from math import cos, hypot, radians, sin
from typing import Annotated, Literal, Self

from pydantic import Field, model_validator
from shapely import Polygon

from machining.geometry.lettering import SIGNS
from machining.geometry.regions import Region, between, smallest_corner
from machining.world.asked import Asked
from machining.world.record import (
    Coordinate,
    Id,
    Length,
    LengthOrZero,
    Line,
    Place,
    Record,
    Step,
)

from .asked_alike import DEPTH, TOP_Z

MOST_HOLES, MOST_CORNERS, MOST_LINES = 500, 500, 200  # of one operation
MOST_IN_A_ROW = 100
MOST_DRAWN_CORNERS, MOST_DRAWN_LINES = 20_000, 2000


class Top(Record):
    """The whole top of the stock as it lies."""

    kind: Literal["top"] = "top"


class Outside(Record):
    """Round the part, down to ``depth_mm`` below its top: along its outline, or along the square
    block that holds it.
    """

    kind: Literal["outside"] = "outside"
    depth_mm: Annotated[Length, Asked("Down to")]
    along: Annotated[
        Literal["part", "block"],
        Asked("Along", choices=(("part", "the part’s outline"), ("block", "a square block"))),
    ] = "part"


class OnFeatures(Record):
    """Features of the part, by id; holes are visited in the order given."""

    kind: Literal["features"] = "features"
    ids: tuple[Id, ...] = Field(min_length=1, max_length=MOST_HOLES)


class Rectangle(Record):
    """A typed rectangle, measured from the setup's zero (X, Y of its middle, Z of its top)."""

    kind: Literal["rectangle"] = "rectangle"
    x_mm: Annotated[Coordinate, Asked("Middle X")]
    y_mm: Annotated[Coordinate, Asked("Y")]
    length_mm: Annotated[Length, Asked("Length X")]
    width_mm: Annotated[Step, Asked("Width Y")]
    corner_radius_mm: Annotated[LengthOrZero, Asked("Corner")] = 0.0
    top_mm: Annotated[Coordinate, TOP_Z] = 0.0
    depth_mm: Annotated[Length, DEPTH]


class Points(Record):
    """Typed hole positions from the setup's zero, alike in diameter and depth."""

    kind: Literal["points"] = "points"
    at_mm: tuple[Place, ...] = Field(min_length=1, max_length=MOST_HOLES)
    diameter_mm: Annotated[Length, Asked("Hole Ø")]
    top_mm: Annotated[Coordinate, TOP_Z] = 0.0
    depth_mm: Annotated[Length, DEPTH]
    through: bool = False


class _AlikeHoles(Record):
    """Holes alike in diameter and depth that a pattern places; X and Y are its middle."""

    x_mm: Annotated[Coordinate, Asked("Middle X")] = 0.0
    y_mm: Annotated[Coordinate, Asked("Y")] = 0.0
    diameter_mm: Annotated[Length, Asked("Hole Ø")]
    top_mm: Annotated[Coordinate, TOP_Z] = 0.0
    depth_mm: Annotated[Length, DEPTH]
    through: bool = False


class HoleCircle(_AlikeHoles):
    """So many holes equally far from each other on a circle, from ``first_deg`` on,
    counter-clockwise from X.
    """

    kind: Literal["hole_circle"] = "hole_circle"
    circle_mm: Annotated[Length, Asked("Circle Ø")]
    count: Annotated[int, Asked("Holes", "count")] = Field(ge=1, le=MOST_HOLES)
    first_deg: Annotated[float, Asked("First at", "angle")] = Field(0.0, ge=-360, le=360)

    @cached_property
    def at_mm(self) -> tuple[Place, ...]:
        """Where they are, from the setup's zero."""
        angles = [radians(self.first_deg + 360.0 * k / self.count) for k in range(self.count)]
        radius = self.circle_mm / 2.0
        return tuple((self.x_mm + radius * cos(t), self.y_mm + radius * sin(t)) for t in angles)


class HoleGrid(_AlikeHoles):
    """Columns along X and rows along Y, a pitch apart; every other row runs back, so that the
    tool's way is short.
    """

    kind: Literal["hole_grid"] = "hole_grid"
    columns: Annotated[int, Asked("Columns", "count")] = Field(ge=1, le=MOST_IN_A_ROW)
    rows: Annotated[int, Asked("Rows", "count")] = Field(ge=1, le=MOST_IN_A_ROW)
    column_pitch_mm: Annotated[Length, Asked("Pitch X")]
    row_pitch_mm: Annotated[Length, Asked("Pitch Y")]

    @cached_property
    def at_mm(self) -> tuple[Place, ...]:
        """Where they are, from the setup's zero."""
        found = list[Place]()
        for j in range(self.rows):
            y = self.y_mm + (j - (self.rows - 1) / 2.0) * self.row_pitch_mm
            row = [
                (self.x_mm + (i - (self.columns - 1) / 2.0) * self.column_pitch_mm, y)
                for i in range(self.columns)
            ]
            found += row if j % 2 == 0 else row[::-1]
        return tuple(found)

    @model_validator(mode="after")
    def _not_too_many(self) -> HoleGrid:
        if self.columns * self.rows > MOST_HOLES:
            raise ValueError(
                f"columns times rows is {self.columns * self.rows}; it must be at most {MOST_HOLES}"
            )
        return self


TypedHoles = Points | HoleCircle | HoleGrid
HOLES = frozenset({"features", "points", "hole_circle", "hole_grid"})


def _corners_differ(lines: tuple[tuple[Place, ...], ...]) -> None:
    for place, line in enumerate(lines, 1):
        if any(a == b for a, b in zip(line[:-1], line[1:], strict=True)):
            raise ValueError(
                f"line {place} passes the same corner twice in a row; its corners must differ"
            )


class Lines(Record):
    """Typed lines in plan from the setup's zero, each through two corners or more. ``tool_side`` is
    where the tool stands, looking along them.
    """

    kind: Literal["lines"] = "lines"
    at_mm: tuple[
        Annotated[tuple[Place, ...], Field(min_length=2, max_length=MOST_CORNERS)], ...
    ] = Field(min_length=1, max_length=MOST_LINES)
    top_mm: Annotated[Coordinate, TOP_Z] = 0.0
    tool_side: Annotated[
        Literal["left", "right"],
        Asked("Tool", choices=(("left", "left of the line"), ("right", "right of the line"))),
    ] = "left"

    @model_validator(mode="after")
    def _goes_somewhere(self) -> Lines:
        _corners_differ(self.at_mm)
        return self

    @property
    def placed(self) -> tuple[tuple[Place, ...], ...]:
        """Its corners from the setup's zero."""
        return self.at_mm


class _FromFile(Record):
    """Lines read from a file of a drawing: their corners as they are drawn, in mm, and where they
    lie from the setup's zero: scaled and turned about the drawing's own zero, then moved there.
    """

    file: Line = ""
    lines: tuple[Annotated[tuple[Place, ...], Field(min_length=2)], ...] = Field(
        min_length=1, max_length=MOST_DRAWN_LINES
    )
    x_mm: Annotated[Coordinate, Asked("Drawing’s zero at X")] = 0.0
    y_mm: Annotated[Coordinate, Asked("Y")] = 0.0
    scale: Annotated[float, Asked("Scale", "factor")] = Field(1.0, ge=0.001, le=1000)
    angle_deg: Annotated[float, Asked("Turned", "angle")] = Field(0.0, ge=-360, le=360)
    top_mm: Annotated[Coordinate, TOP_Z] = 0.0

    @model_validator(mode="after")
    def _can_be_followed(self) -> Self:
        corners = sum(len(line) for line in self.lines)
        if corners > MOST_DRAWN_CORNERS:
            raise ValueError(
                f"lines have {corners} corners; there can be at most {MOST_DRAWN_CORNERS}"
            )
        _corners_differ(self.lines)
        return self

    @cached_property
    def placed(self) -> tuple[tuple[Place, ...], ...]:
        """Its corners from the setup's zero."""
        turn = radians(self.angle_deg)
        across, along = self.scale * cos(turn), self.scale * sin(turn)
        return tuple(
            tuple(
                (self.x_mm + across * x - along * y, self.y_mm + along * x + across * y)
                for x, y in line
            )
            for line in self.lines
        )


class Drawn(_FromFile):
    """Lines of a file that are followed."""

    kind: Literal["drawn"] = "drawn"
    tool_side: Annotated[
        Literal["left", "right"],
        Asked("Tool", choices=(("left", "left of the line"), ("right", "right of the line"))),
    ] = "left"


class DrawnArea(_FromFile):
    """What closed lines of a file go round: a pocket, with islands where lines lie in others."""

    kind: Literal["area"] = "area"
    depth_mm: Annotated[Length, DEPTH]

    @model_validator(mode="after")
    def _goes_round(self) -> DrawnArea:
        for place, line in enumerate(self.lines, 1):
            if len(line) < 4 or line[0] != line[-1]:
                apart = hypot(line[0][0] - line[-1][0], line[0][1] - line[-1][1])
                raise ValueError(
                    f"line {place} is open, its ends {apart:.3g} mm apart; an area wants closed"
                    " lines"
                )
            if not Polygon(line).is_valid:
                raise ValueError(
                    f"line {place} crosses or touches itself; an area wants lines that don't"
                )
        return self

    @cached_property
    def region(self) -> Region:
        """From the setup's zero; lines in others are islands in them."""
        return between(self.placed)

    @cached_property
    def corner_radius_mm(self) -> float | None:
        """The smallest of its inner corners; None where they are sharp."""
        return smallest_corner(self.region)


class Text(Record):
    """A text in single strokes; its baseline starts at X, Y from the setup's zero."""

    kind: Literal["text"] = "text"
    text: str = Field(min_length=1, max_length=60)
    x_mm: Annotated[Coordinate, Asked("Starts at X")] = 0.0
    y_mm: Annotated[Coordinate, Asked("Y")] = 0.0
    top_mm: Annotated[Coordinate, TOP_Z] = 0.0
    height_mm: Annotated[float, Asked("High")] = Field(5.0, ge=0.5, le=200)
    angle_deg: Annotated[float, Asked("Turned", "angle")] = Field(0.0, ge=-360, le=360)

    @model_validator(mode="after")
    def _can_be_written(self) -> Text:
        strange = [sign for sign in self.text.upper() if sign not in SIGNS]
        if strange:
            raise ValueError(
                f"text is {self.text!r}; it must be of letters A to Z, digits, spaces and - / . : +"
                f" =, not {strange[0]!r}"
            )
        if not self.text.strip():
            raise ValueError("text is empty; it must hold a letter or digit")
        return self


Where = Annotated[
    Top
    | Outside
    | OnFeatures
    | Rectangle
    | Points
    | HoleCircle
    | HoleGrid
    | Lines
    | Drawn
    | DrawnArea
    | Text,
    Field(discriminator="kind"),
]
