"""How a held part stands: the bodies round it, one list for checks, drawings and labels."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property
from math import ceil
from typing import Literal

import numpy as np
from shapely import box, unary_union
from shapely.geometry.base import BaseGeometry

from machining.geometry import prisms
from machining.geometry.frames import Vector
from machining.memo import digest
from machining.placing.zero import Lie

STRIP_MM, MOST_STRIPS = 2.0, 100  # of a wedge, in upright pieces
BED_OVER_MM, BED_MM = 22.0, 12.0  # of a bed beside the jaws and down, as it is drawn
Role = Literal[
    "part",
    "jaw",
    "step",
    "stop",
    "nose",
    "parallel",
    "bed",
    "handle",
    "plate",
    "chuck",
    "centre",
    "steady",
    "table",
    "tombstone",
    "angle",
    "arm",
    "pallet",
    "dowel",
    "fixture",
    "clamp",
    "heel",
]


@dataclass(frozen=True, slots=True)
class Body:
    """A prism in the setup frame, mm. ``name`` is how a drawing labels it, empty for what it does
    not; ``moves`` is for what closes on the part, ``of`` names what a nameless one belongs to.
    """

    role: Role
    name: str
    region: BaseGeometry
    bottom: float
    top: float
    moves: bool = False
    of: str = ""

    def turned(self, rotation: Vector) -> tuple[Body, ...]:
        """The same after a rotation about the frame's origin, in upright pieces that hold it."""
        pieces = prisms.turned((self.region, self.bottom, self.top), rotation)
        return tuple(
            replace(self, region=region, bottom=bottom, top=top) for region, bottom, top in pieces
        )


Outline = tuple[tuple[float, float], ...]


@dataclass(frozen=True, slots=True)
class Pressed:
    """A clamp: what stands there of it, itself first, and where it presses on the part: a region in
    plan at a height, or, from beside, a region along the side and up at its face, mm.
    """

    bodies: tuple[Body, ...]
    region: BaseGeometry
    at: float


@dataclass(frozen=True, slots=True)
class Wedge:
    """What it lies on between the jaws: an outline of (along, height), drawn along the axis across
    that from a low to a high end, mm.
    """

    axis: Literal["x", "y"]
    corners: tuple[tuple[float, float], ...]
    low: float
    high: float

    @property
    def points(self) -> Vector:
        """Its corners in the setup frame (n, 3)."""
        ends = np.array([(x, y, z) for y in (self.low, self.high) for x, z in self.corners])
        return ends if self.axis == "y" else ends[:, [1, 0, 2]]

    @property
    def strips(self) -> list[Body]:
        """The same as upright prisms, none lower than it is."""
        (start, bed), (end, _), (_, right), (_, left) = self.corners
        count = min(MOST_STRIPS, max(1, ceil((end - start) / STRIP_MM)))
        edges, tops = np.linspace(start, end, count + 1), np.linspace(left, right, count + 1)
        found = []
        for k in range(count):
            sides = (edges[k], self.low, edges[k + 1], self.high)
            region = box(*sides) if self.axis == "y" else box(*(sides[j] for j in (1, 0, 3, 2)))
            found.append(Body("angle", "", region, bed, float(max(tops[k], tops[k + 1]))))
        return found


def key_of(bodies: tuple[Body, ...]) -> str:
    """Equal for equal bodies."""
    return digest([(e.role, e.name, e.region.wkb, e.bottom, e.top, e.moves) for e in bodies])


@dataclass(frozen=True)
class Stand:
    """``key`` is equal for equal bodies. ``grips_at`` is the diameter it closes on or, ``inside``,
    opens into, mm; 0 where it is no round holding, ``flat`` across flats, ``along`` from where to
    where along the spindle the part has that. ``gripped`` are the corners of what lies
    between the jaws of a vise, ``wedge`` what a part at an angle lies on there, whose strips are
    among the bodies. Where all of it leans, ``upright`` are its bodies before that, ``turn`` the
    rotation, and ``lie`` how the part lies in it; the bodies are pieces of those that lean then.

    Where clamps are changed in the cycle the bodies are all that ever stand there, ``during`` what
    stands there in an operation and, by ``""``, before the first. ``on`` are the ids of the clamps
    by then, ``clamps`` where they are, ``problem`` why one of them has no place.
    """

    bodies: tuple[Body, ...] = ()
    key: tuple[object, ...] = ()
    grips_at: float = 0.0
    inside: bool = False
    flat: bool = False
    along: tuple[float, float] = (0.0, 0.0)
    gripped: tuple[Vector, Vector] | None = None
    wedge: Wedge | None = None
    upright: tuple[Body, ...] = ()
    turn: Vector | None = None
    lie: Lie | None = None
    during: Mapping[str, Stand] = field(default_factory=dict)
    on: frozenset[str] = frozenset()
    clamps: Mapping[str, Pressed] = field(default_factory=dict)
    problem: str = ""

    @cached_property
    def bodies_key(self) -> str:
        """Equal for equal bodies."""
        return key_of(self.bodies)

    @cached_property
    def beside_key(self) -> str:
        """The same of what stands beside the part."""
        return key_of(self.beside)

    def of(self, *roles: Role) -> tuple[Body, ...]:
        return tuple(body for body in self.bodies if body.role in roles)

    @property
    def beside(self) -> tuple[Body, ...]:
        """What stands beside the part, where a tool and its holder can meet it."""
        return self.of("jaw", "step", "stop", "nose", "dowel", "fixture", "clamp", "heel")

    @cached_property
    def outlines(self) -> tuple[Outline, ...]:
        """Of what is near, corner by corner (x, y), mm."""
        rings = [body.region.exterior.coords for body in self.near]  # type: ignore[attr-defined]
        return tuple(tuple((float(x), float(y)) for x, y in each[:-1]) for each in rings)

    @cached_property
    def near(self) -> tuple[Body, ...]:
        """What a drawing of the part shows beside a wedge, before it leans: of a bed no more than
        what lies round the jaws.
        """
        every = self.upright or self.bodies
        jaws = [body for body in every if body.role == "jaw"]
        if not jaws:
            return every
        upright = (body for body in every if body.role not in ("angle", "plate"))
        west, south, east, north = unary_union([jaw.region for jaw in jaws]).bounds
        around = box(west, south, east, north).buffer(BED_OVER_MM, join_style="mitre")
        return tuple(
            replace(
                body,
                region=body.region.intersection(around),
                bottom=max(body.bottom, body.top - BED_MM),
            )
            if body.role == "bed"
            else body
            for body in upright
        )

    @cached_property
    def shadows(self) -> tuple[Body, ...]:
        """Its bodies as they look from above, those that lean each as one."""
        return self.bodies if self.turn is None else tuple(map(self._leant, self.upright))

    def _leant(self, body: Body) -> Body:
        assert self.turn is not None
        pieces = body.turned(self.turn)
        region = unary_union([piece.region for piece in pieces])
        low, high = min(each.bottom for each in pieces), max(each.top for each in pieces)
        return replace(body, region=region, bottom=low, top=high)

    @property
    def top(self) -> float | None:
        """How high it reaches beside the part, None where nothing does."""
        return max((body.top for body in self.beside), default=None)
