"""Round bar."""

from __future__ import annotations

from math import pi
from typing import Annotated, Literal

import numpy as np

from machining.geometry.solids import ROUND_STEPS, Solid
from machining.quantities.said import Said, Shown

from ..asked import Asked
from ..geometry import PartGeometry
from ..record import Length
from ..settings import Settings
from .bar import Bar, across, bar_axis, next_size, usual_ends
from .base import Axis


class Round(Bar):
    NAME = "round bar"
    TURNED = True

    form: Literal["round"] = "round"
    diameter_mm: Annotated[Length, Asked("Ø")]

    @classmethod
    def usual(cls, geometry: PartGeometry, settings: Settings) -> Round:
        axis = bar_axis(geometry)
        return cls(diameter_mm=usual_round(geometry, axis, settings), **usual_ends(axis, settings))

    def half_widths(self) -> tuple[float, float]:
        return self.diameter_mm / 2.0, self.diameter_mm / 2.0

    def upright(self, length: float) -> Solid:
        radius = self.diameter_mm / 2.0
        return Solid.cylinder(length, radius, radius, 2 * ROUND_STEPS)

    def section_words(self) -> Said:
        return Said("Ø{d}", {"d": Shown(self.diameter_mm, "size")})

    def section_mm2(self) -> float:
        return pi / 4.0 * self.diameter_mm**2

    def is_round_about(self, axis: Axis) -> bool:
        return axis == self.axis


def usual_round(geometry: PartGeometry, axis: Axis, settings: Settings) -> float:
    """The first bar (Ø, mm) that a part comes out of, with what the shop leaves to turn."""
    points = across(geometry, axis)
    least = 2.0 * float(np.hypot(points[:, 0], points[:, 1]).max())
    return next_size(least + settings.usual_bar_mm)
