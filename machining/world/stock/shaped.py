"""A blank of its own shape, read from a file: cast, forged, or cut before it comes."""

from __future__ import annotations

from typing import Annotated, Literal

import numpy as np
from pydantic import Field

from machining.geometry.frames import Direction, Pose, Turn, orientation
from machining.geometry.solids import Solid, bounds, posed
from machining.quantities.errors import Missing, OutOfRange

from ..asked import Asked
from ..geometry import PartGeometry
from ..record import LengthOrZero, Line, Name, Point
from ..settings import Settings
from .base import Blank, Corners, Shapes, Skin

UP = (
    ("+z", "top"),
    ("-z", "bottom"),
    ("+y", "back"),
    ("-y", "front"),
    ("+x", "right"),
    ("-x", "left"),
)
QUARTERS = (("0", "0°"), ("90", "90°"), ("180", "180°"), ("270", "270°"))


class Shaped(Blank):
    """``geometry`` is the key of its solid. ``up`` is the side of the file that lies at the part's
    top, ``turn`` how far it is turned about that, ``at_mm`` where the file's zero then lies in the
    part.
    """

    NAME = "shape from a file"

    form: Literal["shaped"] = "shaped"
    geometry: Annotated[Name, Field(min_length=1)]
    file_name: Line = ""
    up: Annotated[Direction, Asked("Its side on top", choices=UP)] = "+z"
    turn: Annotated[Turn, Asked("Turned", choices=QUARTERS)] = 0
    at_mm: Point = (0.0, 0.0, 0.0)
    tolerance_mm: Annotated[LengthOrZero, Asked("Skin up to this much over")] = 0.0

    @classmethod
    def usual(cls, geometry: PartGeometry, settings: Settings) -> Shaped:
        raise OutOfRange("form", "shaped", "read from a file of the blank")

    def shape(self, shapes: Shapes) -> PartGeometry:
        """What was read. Raises Missing."""
        if self.geometry not in shapes:
            raise Missing("Solid of the blank", self.geometry)
        return shapes[self.geometry]

    def pose(self) -> Pose:
        return Pose(orientation(self.up, self.turn), np.array(self.at_mm))

    def corners(self, part: Corners, shapes: Shapes) -> Corners:
        return bounds(self.solid(part, shapes))

    def solid(self, part: Corners, shapes: Shapes) -> Solid:
        return posed(self.shape(shapes).solid, self.pose())

    def volume_mm3(self, part: Corners, shapes: Shapes) -> float:
        return self.shape(shapes).volume_mm3

    def skin(self, side: Direction) -> Skin:
        return "cast"

    def tolerance_at(self, side: Direction) -> float:
        return self.tolerance_mm

    def tolerance_field(self, side: Direction) -> str:
        return "stock.tolerance_mm"
