"""Features of a part: holes, pockets, edges, flat and slanted faces, found in a solid; holes and
pockets may be typed in. Part coordinates, mm.
"""

from __future__ import annotations

from hashlib import blake2b
from typing import Annotated, Literal, TypeGuard

import numpy as np
from pydantic import Field

from machining.geometry.frames import Direction, Vector, axis, opposite

from .record import Coordinate, Id, Length, LengthOrZero, NoneOrId, Point, Record


class Sink(Record):
    """A cone at a hole's end that opens towards ``at``: its mouth and its included angle."""

    at: Direction
    diameter_mm: Length
    angle_deg: float = Field(gt=0, lt=180)


class Hole(Record):
    """A round hole. ``point`` is the end of its wall at the low side of ``axis``; the other is
    ``length`` further.

    ``opens`` lists the directions from which a straight tool of its size can come. ``bottom_deg``
    is the included angle of the cone a blind one ends in, 0 where it is flat; ``around`` the
    smaller hole in its floor, whose counterbore it is; ``open_deg`` what its wall lacks of a full
    turn: a hole over an edge.
    """

    kind: Literal["hole"] = "hole"
    id: Id
    point: Point
    axis: Direction
    diameter_mm: Length
    length_mm: Length
    through: bool
    opens: tuple[Direction, ...] = Field((), max_length=6)
    bottom_deg: float = Field(0.0, ge=0, lt=180)
    sinks: tuple[Sink, ...] = Field((), max_length=2)
    around: NoneOrId = ""
    open_deg: float = Field(0.0, ge=0, lt=360)

    @property
    def direction(self) -> Vector:
        """Of its axis."""
        return axis(self.axis)


class Pocket(Record):
    """A recess with a flat floor, or a window right ``through`` the part. ``loops`` are its outline
    (outer first, then its islands) at the floor's height, in part coordinates.

    ``opens`` is the direction its tool comes from, a window's from the other side as well;
    ``closed`` means walls all round. ``corner_radius_mm`` is the smallest inner corner of its
    walls, ``floor_radius_mm`` the fillet between walls and floor, ``draft_deg`` by how much the
    walls lean outwards; ``across_flats_mm`` where it is a regular hexagon; ``way_into`` the wider
    pocket that it is another way into.
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
    through: bool = False
    floor_radius_mm: LengthOrZero = 0.0
    draft_deg: float = Field(0.0, ge=0, lt=90)
    across_flats_mm: LengthOrZero = 0.0
    way_into: NoneOrId = ""

    @property
    def plane(self) -> tuple[Direction, float]:
        """Which way its floor looks, and its coordinate (mm) along that."""
        sign = 1.0 if self.opens[0] == "+" else -1.0
        return self.opens, sign * self.loops[0][0]["xyz".index(self.opens[1])]

    @property
    def looks(self) -> Vector:
        """Outwards, square to its floor."""
        return axis(self.opens)

    @property
    def out_mm(self) -> float:
        """How far out along that its floor lies."""
        return self.plane[1]

    def opens_to(self, towards: Direction) -> bool:
        return self.opens == towards or (self.through and opposite(self.opens) == towards)


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

    @property
    def plane(self) -> tuple[Direction, float]:
        """Which way it looks, and its coordinate (mm) along that."""
        return self.faces, self.height_mm

    @property
    def looks(self) -> Vector:
        """Outwards, square to it."""
        return axis(self.faces)

    @property
    def out_mm(self) -> float:
        """How far out along that it lies."""
        return self.height_mm


class Edge(Record):
    """Edges broken alike: ``surfaces`` are numbers of the solid's faces. A chamfer's ``size_mm`` is
    its width on the face that looks towards ``opens`` (its first), from which it leans down by
    ``angle_deg``; a round's is its radius. ``opens`` are the directions a tool can cut it from as
    an edge; ``of`` is the feature whose rim it is, none for the part's outside.
    """

    kind: Literal["edge"] = "edge"
    id: Id
    shape: Literal["chamfer", "round"]
    size_mm: Length
    angle_deg: float = Field(45.0, ge=0, le=90)
    length_mm: Length
    point: Point
    opens: tuple[Direction, ...] = Field((), max_length=6)
    of: NoneOrId = ""
    surfaces: tuple[int, ...] = Field((), max_length=20_000)


class Slanted(Record):
    """A face or a hole along none of the six directions: ``along`` is the face's outward normal, or
    the hole's axis; ``lean_deg`` what it leans from the nearest direction, ``opens``. ``edges`` are
    the ends of its straight edges that lie level, seen from there, the highest first. Of a hole
    ``point`` is the middle of its axis, ``comes`` from which ends of ``along`` a straight tool of
    its size can come.
    """

    kind: Literal["slanted"] = "slanted"
    id: Id
    shape: Literal["face", "hole"]
    along: Point
    opens: Direction
    lean_deg: float = Field(gt=0, le=90)
    point: Point
    area_mm2: float = Field(gt=0, le=1e9)
    diameter_mm: LengthOrZero = 0.0
    length_mm: LengthOrZero = 0.0
    edges: tuple[tuple[Point, Point], ...] = Field((), max_length=100)
    surfaces: tuple[int, ...] = Field((), max_length=20_000)
    through: bool = False
    comes: tuple[Literal["high", "low"], ...] = Field((), max_length=2)

    @property
    def looks(self) -> Vector:
        """A face's, outwards and square to it."""
        return np.array(self.along)

    @property
    def direction(self) -> Vector:
        """Of a hole's axis."""
        return np.array(self.along)

    @property
    def out_mm(self) -> float:
        """How far out along that a face lies."""
        return float(self.looks @ np.array(self.point))


class Boss(Record):
    """A cylinder that stands outwards all the way round: ``point`` is the middle of its low end,
    ``axis`` the + direction it lies along.
    """

    kind: Literal["boss"] = "boss"
    id: Id
    point: Point
    axis: Direction
    diameter_mm: Length
    length_mm: Length
    surfaces: tuple[int, ...] = Field((), max_length=20_000)

    @property
    def direction(self) -> Vector:
        return axis(self.axis)


Feature = Annotated[Hole | Pocket | Flat | Edge | Slanted | Boss, Field(discriminator="kind")]


def has_axis(feature: object) -> TypeGuard[Hole | Slanted | Boss]:
    """Is it round, inwards or outwards?"""
    return is_round(feature) or isinstance(feature, Boss)


def is_plane(feature: object) -> TypeGuard[Flat | Pocket | Slanted]:
    """Is it flat, in one of the six directions or at an angle?"""
    return is_face(feature) or (isinstance(feature, Slanted) and feature.shape == "face")


def is_round(feature: object) -> TypeGuard[Hole | Slanted]:
    """Is it a hole, along one of the six directions or at an angle?"""
    return isinstance(feature, Hole) or (isinstance(feature, Slanted) and feature.shape == "hole")


def is_face(feature: object) -> TypeGuard[Flat | Pocket]:
    """Is it a flat face, or a pocket with a floor?"""
    return isinstance(feature, Flat) or (isinstance(feature, Pocket) and not feature.through)


def feature_id(kind: str, axis: str, point: Point, size: float) -> str:
    """A name that follows from the geometry, so the same file read twice gives the same
    features.
    """
    text = f"{kind} {axis} " + " ".join(f"{round(v, 3) + 0.0:.3f}" for v in (*point, size))
    return f"{kind[0]}{blake2b(text.encode(), digest_size=4).hexdigest()}"


def ways_in(feature: Hole | Pocket) -> tuple[Direction, ...]:
    """The sides it opens to."""
    if isinstance(feature, Pocket):
        return (feature.opens, *((opposite(feature.opens),) if feature.through else ()))
    return feature.opens
