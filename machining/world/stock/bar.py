"""What bars have in common: a section as drawn, cut to length with a saw."""

from __future__ import annotations

from math import pi
from typing import Annotated, ClassVar

import numpy as np

from machining.geometry.frames import Direction, Vector
from machining.geometry.solids import Solid, laid_along
from machining.quantities.said import Said, Shown

from ..asked import Asked
from ..geometry import PartGeometry
from ..record import LengthOrZero
from ..settings import Settings
from .base import AXES, Axis, Blank, Corners, Shapes, Side, Size, Skin

EVEN_MM = 0.5  # bars are looked for from size to size in steps of this


class Bar(Blank):
    """Its axis is X, Y or Z of the part, through the middle of the part. ``low`` and ``high`` are
    its sawn ends.
    """

    SIDES: ClassVar[tuple[tuple[str, str], ...]] = (("low", "low end"), ("high", "high end"))

    axis: Annotated[Axis, Asked("Axis", choices=AXES)] = "z"
    low: Side = Side()
    high: Side = Side()
    saw_tolerance_mm: Annotated[LengthOrZero, Asked("Sawn up to this much over")] = 0.0
    drawn_tolerance_mm: Annotated[LengthOrZero, Asked("Its size up to this much over")] = 0.0

    def half_widths(self) -> tuple[float, float]:
        """How far its section reaches from the axis (mm), along the section's own two axes."""
        raise NotImplementedError

    def upright(self, length: float) -> Solid:
        """The bar standing on its middle, along Z."""
        raise NotImplementedError

    def section_mm2(self) -> float:
        raise NotImplementedError

    def section_words(self) -> Said:
        """Its section with its sizes."""
        raise NotImplementedError

    def words(self, size: Size, shapes: Shapes) -> Said:
        long = size["xyz".index(self.axis)] + self.low.over_mm + self.high.over_mm
        section = self.section_words()
        return Said(section.text + " × {long}", {**section.values, "long": Shown(long, "size")})

    def corners(self, part: Corners, shapes: Shapes) -> Corners:
        along = "xyz".index(self.axis)
        middle, (u, v) = (part[0] + part[1]) / 2.0, self.half_widths()
        out = np.array([(0.0, v, u), (u, 0.0, v), (u, v, 0.0)][along])
        lower, upper = middle - out, middle + out
        lower[along] = part[0][along] - self.low.over_mm
        upper[along] = part[1][along] + self.high.over_mm
        return lower, upper

    def solid(self, part: Corners, shapes: Shapes) -> Solid:
        along, (low, high) = "xyz".index(self.axis), self.corners(part, shapes)
        middle = (part[0] + part[1]) / 2.0
        middle[along] = low[along]
        return laid_along(self.upright(float(high[along] - low[along])), along, middle)

    def volume_mm3(self, part: Corners, shapes: Shapes) -> float:
        along, (low, high) = "xyz".index(self.axis), self.corners(part, shapes)
        return self.section_mm2() * float(high[along] - low[along])

    def skin(self, side: Direction) -> Skin:
        return "sawn" if side[1] == self.axis else "drawn"

    def tolerance_at(self, side: Direction) -> float:
        if side[1] != self.axis:
            return self.drawn_tolerance_mm / 2.0
        own = self._end(side).tolerance_mm
        return self.saw_tolerance_mm if own is None else own

    def usual_over(self) -> dict[str, float]:
        return {"low": self.saw_tolerance_mm, "high": self.saw_tolerance_mm}

    def tolerance_field(self, side: Direction) -> str:
        if side[1] != self.axis:
            return "stock.drawn_tolerance_mm"
        own = self._end(side).tolerance_mm is not None
        end = "high" if side[0] == "+" else "low"
        return f"stock.{end}.tolerance_mm" if own else "stock.saw_tolerance_mm"

    def over_field(self, side: Direction) -> str | None:
        end = "high" if side[0] == "+" else "low"
        return f"stock.{end}.over_mm" if side[1] == self.axis else None

    def _end(self, side: Direction) -> Side:
        return self.high if side[0] == "+" else self.low


def across(geometry: PartGeometry, axis: Axis) -> Vector:
    """The part's corners as its bar sees them: (n, 2) from the bar's axis, along the section's own
    axes (mm).
    """
    low, high = geometry.bounds
    points = geometry.mesh.vertices - (low + high) / 2.0
    columns = {"x": (-points[:, 2], points[:, 1]), "y": (points[:, 0], -points[:, 2])}
    return np.column_stack(columns.get(axis, (points[:, 0], points[:, 1])))


def bar_axis(geometry: PartGeometry) -> Axis:
    """Along which a bar for a part lies: where it is round, else its longest side."""
    low, high = geometry.bounds
    size = high - low
    areas = [pi / 4.0 * size[(i + 1) % 3] * size[(i + 2) % 3] * size[i] for i in range(3)]
    even = [abs(size[(i + 1) % 3] - size[(i + 2) % 3]) < 0.01 * size.max() for i in range(3)]
    if sum(even) == 1 and geometry.volume_mm3 <= 1.01 * areas[even.index(True)]:
        return "xyz"[even.index(True)]  # type: ignore[return-value]
    return "xyz"[int(size.argmax())]  # type: ignore[return-value]


def usual_ends(axis: Axis, settings: Settings) -> dict[str, object]:
    """Axis, ends and tolerances as the shop usually has them."""
    upright = axis == "z"
    return {
        "axis": axis,
        "low": Side(over_mm=settings.usual_bottom_mm if upright else settings.usual_side_mm),
        "high": Side(over_mm=settings.usual_top_mm if upright else settings.usual_side_mm),
        "saw_tolerance_mm": settings.usual_saw_mm,
        "drawn_tolerance_mm": settings.usual_drawn_mm,
    }


def next_size(least: float) -> float:
    """The first size of bar (mm) that is not under the least."""
    return float(np.ceil(round(least / EVEN_MM, 6)) * EVEN_MM)
