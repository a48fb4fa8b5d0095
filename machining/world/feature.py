"""Features of a part: holes, pockets and flat faces, found in a solid or typed in. Part
coordinates, mm.
"""

from __future__ import annotations

from hashlib import blake2b
from typing import Annotated, Literal

from pydantic import Field

from machining.geometry.frames import Direction

from .record import Coordinate, Id, Length, LengthOrZero, Point, Record


class Hole(Record):
    """A round hole. ``point`` is the end of its wall at the low side of ``axis``; the other is
    ``length`` further.

    ``opens`` lists the directions from which a straight tool of its size can come.
    """

    kind: Literal["hole"] = "hole"
    id: Id
    point: Point
    axis: Direction
    diameter_mm: Length
    length_mm: Length
    through: bool
    opens: tuple[Direction, ...] = Field((), max_length=6)


class Pocket(Record):
    """A recess with a flat floor. ``loops`` are the floor's outline (outer first) in part
    coordinates.

    ``opens`` is the direction its tool comes from; ``closed`` means walls all round.
    """

    kind: Literal["pocket"] = "pocket"
    id: Id
    loops: tuple[Annotated[tuple[Point, ...], Field(min_length=3, max_length=20_000)], ...] = Field(
        min_length=1, max_length=2_000
    )
    opens: Direction
    depth_mm: Length
    corner_radius_mm: LengthOrZero
    closed: bool = True


class Flat(Record):
    """A flat face that looks in one of the six directions; ``height_mm`` is its coordinate along
    it.
    """

    kind: Literal["flat"] = "flat"
    id: Id
    faces: Direction
    height_mm: Coordinate
    area_mm2: float = Field(gt=0, le=1e9)
    outermost: bool


Feature = Annotated[Hole | Pocket | Flat, Field(discriminator="kind")]


def feature_id(kind: str, axis: str, point: Point, size: float) -> str:
    """A name that follows from the geometry, so the same file read twice gives the same
    features.
    """
    text = f"{kind} {axis} " + " ".join(f"{round(v, 3) + 0.0:.3f}" for v in (*point, size))
    return f"{kind[0]}{blake2b(text.encode(), digest_size=4).hexdigest()}"
