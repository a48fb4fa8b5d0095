"""A piece of plate: two rolled faces as the mill left them, four sawn edges."""

from __future__ import annotations

from typing import Annotated, Literal

from machining.geometry.frames import Direction

from ..asked import Asked
from ..geometry import PartGeometry
from ..record import LengthOrZero
from ..settings import Settings
from .base import AXES, Axis, SixSides, Skin, usual_sides


class Plate(SixSides):
    """``axis`` is the direction its thickness lies along."""

    NAME = "plate"

    form: Literal["plate"] = "plate"
    axis: Annotated[Axis, Asked("Thick along", choices=AXES)] = "z"
    saw_tolerance_mm: Annotated[LengthOrZero, Asked("Sawn up to this much over")] = 0.0
    rolled_tolerance_mm: Annotated[LengthOrZero, Asked("Rolled up to this much over")] = 0.0

    @classmethod
    def usual(cls, geometry: PartGeometry, settings: Settings) -> Plate:
        """Thick along the shortest side of the part."""
        sides = geometry.bounds[1] - geometry.bounds[0]
        return cls(
            **usual_sides(settings),
            axis="xyz"[int(sides.argmin())],  # type: ignore[arg-type]
            saw_tolerance_mm=settings.usual_saw_mm,
            rolled_tolerance_mm=settings.usual_rolled_mm,
        )

    def skin(self, side: Direction) -> Skin:
        return "rolled" if side[1] == self.axis else "sawn"
