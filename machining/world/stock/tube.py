"""Tube: a round bar with its bore."""

from __future__ import annotations

from math import pi
from typing import Annotated, Literal

import numpy as np
from pydantic import model_validator

from machining.geometry.solids import ROUND_STEPS, Solid, half_section, stood_up
from machining.quantities.errors import OutOfRange
from machining.quantities.said import Said, Shown

from ..asked import Asked
from ..geometry import PartGeometry
from ..record import Length
from ..settings import Settings
from .bar import EVEN_MM, Bar, bar_axis, usual_ends
from .base import Axis
from .round import usual_round


class Tube(Bar):
    NAME = "tube"
    TURNED = True

    form: Literal["tube"] = "tube"
    diameter_mm: Annotated[Length, Asked("Ø")]
    bore_mm: Annotated[Length, Asked("Bore Ø")]

    @model_validator(mode="after")
    def _has_a_wall(self) -> Tube:
        if self.bore_mm >= self.diameter_mm:
            raise ValueError(
                f"bore_mm is {self.bore_mm:g}; it must be under the tube's Ø, {self.diameter_mm:g}"
            )
        return self

    @classmethod
    def usual(cls, geometry: PartGeometry, settings: Settings) -> Tube:
        """With the largest bore that leaves the part whole. Raises OutOfRange for a part that is
        not open along its axis.
        """
        axis = bar_axis(geometry)
        middle = (geometry.bounds[0] + geometry.bounds[1]) / 2.0
        upright = stood_up(geometry.solid, "xyz".index(axis), middle)
        most = 2.0 * float(half_section(upright).bounds[0]) - settings.usual_bar_mm
        bore = float(np.floor(round(most / EVEN_MM, 6)) * EVEN_MM)
        if bore < EVEN_MM:
            raise OutOfRange("form", "tube", f"another: the part is not open along {axis.upper()}")
        return cls(
            diameter_mm=usual_round(geometry, axis, settings),
            bore_mm=bore,
            **usual_ends(axis, settings),
        )

    def half_widths(self) -> tuple[float, float]:
        return self.diameter_mm / 2.0, self.diameter_mm / 2.0

    def upright(self, length: float) -> Solid:
        outer, inner = self.diameter_mm / 2.0, self.bore_mm / 2.0
        hole = Solid.cylinder(length + 2.0, inner, inner, 2 * ROUND_STEPS).translate([0, 0, -1.0])
        return Solid.cylinder(length, outer, outer, 2 * ROUND_STEPS) - hole

    def section_words(self) -> Said:
        return Said(
            "tube Ø{d} / Ø{bore}",
            {"d": Shown(self.diameter_mm, "size"), "bore": Shown(self.bore_mm, "size")},
        )

    def section_mm2(self) -> float:
        return pi / 4.0 * (self.diameter_mm**2 - self.bore_mm**2)

    def is_round_about(self, axis: Axis) -> bool:
        return axis == self.axis
