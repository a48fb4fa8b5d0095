"""What bars with flat sides have in common: a regular section of so many flats."""

from __future__ import annotations

from math import cos, pi, radians, tan
from typing import Annotated, ClassVar

import numpy as np
from pydantic import Field
from shapely import Polygon

from machining.geometry.frames import Vector
from machining.geometry.solids import Solid, prism
from machining.quantities.said import Said, Shown

from ..asked import Asked
from ..geometry import PartGeometry
from ..record import Length
from ..settings import Settings
from .bar import Bar, across, bar_axis, next_size, usual_ends


class Edged(Bar):
    """``across_mm`` is from flat to flat, ``turn_deg`` how far its flats are turned about the
    axis.
    """

    FLATS: ClassVar[int]

    across_mm: Annotated[Length, Asked("Across flats")]
    turn_deg: Annotated[float, Field(ge=-180, le=180), Asked("Turned by", "angle")] = 0.0

    @classmethod
    def usual(cls, geometry: PartGeometry, settings: Settings) -> Edged:
        """The smallest the part comes out of: its flats along the section's axes, or its corners
        where that saves more than a tenth.
        """
        axis = bar_axis(geometry)
        points = across(geometry, axis)
        flat, on_corner = cls._least(points, 0.0), cls._least(points, 180.0 / cls.FLATS)
        turned = on_corner < 0.9 * flat
        return cls(
            across_mm=next_size(on_corner if turned else flat),
            turn_deg=180.0 / cls.FLATS if turned else 0.0,
            **usual_ends(axis, settings),
        )

    @classmethod
    def _least(cls, points: Vector, turn: float) -> float:
        return 2.0 * max(float((points @ normal).max()) for normal in cls._normals(turn))

    @classmethod
    def _normals(cls, turn: float) -> Vector:
        at = radians(turn) + 2.0 * pi * np.arange(cls.FLATS) / cls.FLATS
        return np.column_stack([np.cos(at), np.sin(at)])

    def _corners(self) -> Vector:
        radius = self.across_mm / 2.0 / cos(pi / self.FLATS)
        corners: Vector = radius * self._normals(self.turn_deg + 180.0 / self.FLATS)
        return corners

    def half_widths(self) -> tuple[float, float]:
        widest = self._corners().max(axis=0)
        return float(widest[0]), float(widest[1])

    def upright(self, length: float) -> Solid:
        return prism(Polygon(self._corners()), 0.0, length)

    def section_words(self) -> Said:
        return Said(f"{self.form} {{across}}", {"across": Shown(self.across_mm, "size")})

    def section_mm2(self) -> float:
        return self.FLATS * tan(pi / self.FLATS) * (self.across_mm / 2.0) ** 2
