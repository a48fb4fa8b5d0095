"""How a held part stands: the bodies round it, one list for checks, drawings and labels."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from shapely import box, unary_union
from shapely.geometry.base import BaseGeometry

from machining.geometry import prisms
from machining.geometry.frames import Vector

BED_OVER_MM, BED_MM = 22.0, 12.0  # of a bed beside the jaws and down, as it is drawn
Role = Literal["part", "jaw", "stop", "nose", "parallel", "bed", "chuck", "table", "tombstone"]


@dataclass(frozen=True, slots=True)
class Body:
    """A prism in the setup frame, mm. ``name`` is how a drawing labels it, empty for what it does
    not; ``moves`` is for what closes on the part.
    """

    role: Role
    name: str
    region: BaseGeometry
    bottom: float
    top: float
    moves: bool = False

    def turned(self, rotation: Vector) -> tuple[Body, ...]:
        """The same after a rotation about the frame's origin, in upright pieces that hold it."""
        pieces = prisms.turned((self.region, self.bottom, self.top), rotation)
        return tuple(
            replace(self, region=region, bottom=bottom, top=top) for region, bottom, top in pieces
        )


@dataclass(frozen=True, slots=True)
class Stand:
    """``key`` is equal for equal bodies. ``grips_at`` is the diameter it closes on or, ``inside``,
    opens into, mm; 0 where it is no round holding. ``gripped`` are the corners of what lies
    between the jaws of a vise.
    """

    bodies: tuple[Body, ...] = ()
    key: tuple[object, ...] = ()
    grips_at: float = 0.0
    inside: bool = False
    gripped: tuple[Vector, Vector] | None = None

    def of(self, *roles: Role) -> tuple[Body, ...]:
        return tuple(body for body in self.bodies if body.role in roles)

    @property
    def beside(self) -> tuple[Body, ...]:
        """What stands beside the part, where a tool and its holder can meet it."""
        return self.of("jaw", "stop", "nose")

    @property
    def near(self) -> tuple[Body, ...]:
        """What a drawing of the part shows: of a bed no more than what lies round the jaws."""
        jaws = self.of("jaw")
        if not jaws:
            return self.bodies
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
            for body in self.bodies
        )

    @property
    def top(self) -> float | None:
        """How high it reaches beside the part, None where nothing does."""
        return max((body.top for body in self.beside), default=None)
