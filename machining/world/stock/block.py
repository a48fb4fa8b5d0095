"""A block sawn on all sides."""

from __future__ import annotations

from typing import Annotated, Literal

from machining.geometry.frames import Direction

from ..asked import Asked
from ..geometry import PartGeometry
from ..record import LengthOrZero
from ..settings import Settings
from .base import Side, SixSides, Skin, usual_sides

Over = tuple[float, float]


class Block(SixSides):
    NAME = "sawn block"

    form: Literal["block"] = "block"
    saw_tolerance_mm: Annotated[LengthOrZero, Asked("Sawn up to this much over")] = 0.0

    @classmethod
    def usual(cls, geometry: PartGeometry, settings: Settings) -> Block:
        return usual_block(settings)

    def skin(self, side: Direction) -> Skin:
        return "sawn"


def usual_block(settings: Settings) -> Block:
    """With what the shop leaves on every side."""
    return Block(**usual_sides(settings), saw_tolerance_mm=settings.usual_saw_mm)


def sawn_block(x: Over = (0, 0), y: Over = (0, 0), z: Over = (0, 0), tolerance: float = 0) -> Block:
    """A block with what stands over the part (mm) at the low and the high side of X, Y and Z."""
    sides = {
        f"{letter}_{end}": Side(over_mm=over)
        for letter, both in zip("xyz", (x, y, z), strict=True)
        for end, over in zip(("low", "high"), both, strict=True)
    }
    return Block(**sides, saw_tolerance_mm=tolerance)
