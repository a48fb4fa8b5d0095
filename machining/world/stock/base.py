"""What all blanks have in common: their sides, what stands there over the part, and how it was
left.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import ClassVar, Literal

import numpy as np

from machining.geometry.frames import DIRECTIONS, Direction, Vector
from machining.geometry.solids import Solid, block
from machining.quantities.said import Said, Shown

from ..geometry import PartGeometry
from ..record import LengthOrZero, Record
from ..settings import Settings

Corners = tuple[Vector, Vector]
Size = tuple[float, float, float]
Skin = Literal["sawn", "rolled", "drawn", "cast"]
Axis = Literal["x", "y", "z"]
Shapes = Mapping[str, PartGeometry]
AXES = (("x", "X"), ("y", "Y"), ("z", "Z"))
SIDE_WORDS: dict[Direction, str] = {
    "+x": "right side",
    "-x": "left side",
    "+y": "back",
    "-y": "front",
    "+z": "top",
    "-z": "bottom",
}


class Side(Record):
    """One side of a blank. ``over_mm`` stands there over the finished part; ``tolerance_mm`` is how
    much more it can be, None where that is what all sides of its skin have.
    """

    over_mm: LengthOrZero = 0.0
    tolerance_mm: LengthOrZero | None = None


class Blank(Record):
    """A form of stock. ``part`` is always the corners of the finished part, ``shapes`` the solids
    read from files by their key; all in part coordinates (mm).
    """

    NAME: ClassVar[str]
    TURNED: ClassVar[bool] = False  # goes to a lathe first
    SIDES: ClassVar[tuple[tuple[str, str], ...]] = ()  # the fields that are sides, in words

    form: str

    @classmethod
    def usual(cls, geometry: PartGeometry, settings: Settings) -> Blank:
        """This form round a part, with what the shop usually leaves. Raises OutOfRange where it
        can't be.
        """
        raise NotImplementedError

    def corners(self, part: Corners, shapes: Shapes) -> Corners:
        """The box it fills, as ordered."""
        raise NotImplementedError

    def solid(self, part: Corners, shapes: Shapes) -> Solid:
        """Raises OutOfRange where it has no volume, Missing where its file isn't there."""
        raise NotImplementedError

    def volume_mm3(self, part: Corners, shapes: Shapes) -> float:
        raise NotImplementedError

    def with_saw_cuts(self, size: Vector, kerf: float) -> float:
        """How many times its own volume is taken of what it is sawn from: along each axis that ends
        in sawn sides one cut (mm) more. Source: volumes of boxes; what the saw takes off belongs to
        the blank before it.
        """
        ways = [k for k, letter in enumerate("xyz") if self._sawn(letter)]
        return float(np.prod(1.0 + kerf / size[ways]))

    def _sawn(self, axis: str) -> bool:
        return any(side[1] == axis and self.skin(side) == "sawn" for side in DIRECTIONS)

    def words(self, size: Size, shapes: Shapes) -> Said:
        """What is ordered, with its sizes (mm), for a part of a size."""
        low, high = self.corners((np.zeros(3), np.array(size)), shapes)
        return Said(
            "{x} × {y} × {z}",
            {name: Shown(float(high[k] - low[k]), "size") for k, name in enumerate("xyz")},
        )

    def skin(self, side: Direction) -> Skin:
        """How a side was left before the first cut."""
        raise NotImplementedError

    def tolerance_at(self, side: Direction) -> float:
        """How much more (mm) may stand on a side than ordered."""
        raise NotImplementedError

    def usual_over(self) -> dict[str, float]:
        """How much more (mm) may stand on each of its sides that has no tolerance of its own, by
        the side's field.
        """
        return {}

    def tolerance_field(self, side: Direction) -> str:
        """The field that says so, as an edit of the plan names it."""
        raise NotImplementedError

    def over_field(self, side: Direction) -> str | None:
        """The field that says how much stands over a side, as an edit of the plan names it; None
        where it follows from another size.
        """
        return None

    def is_round_about(self, axis: Axis) -> bool:
        """Does it turn about an axis without a gap?"""
        return False


def side_field(side: Direction) -> str:
    """``+z`` is ``z_high``."""
    return f"{side[1]}_{'high' if side[0] == '+' else 'low'}"


class SixSides(Blank):
    """A blank bounded by six planes."""

    SIDES: ClassVar[tuple[tuple[str, str], ...]] = (
        ("x_low", "left"),
        ("x_high", "right"),
        ("y_low", "front"),
        ("y_high", "back"),
        ("z_low", "bottom"),
        ("z_high", "top"),
    )

    x_low: Side = Side()
    x_high: Side = Side()
    y_low: Side = Side()
    y_high: Side = Side()
    z_low: Side = Side()
    z_high: Side = Side()

    def corners(self, part: Corners, shapes: Shapes) -> Corners:
        low, high = part[0].copy(), part[1].copy()
        for i, letter in enumerate("xyz"):
            low[i] -= self._side(f"{letter}_low").over_mm
            high[i] += self._side(f"{letter}_high").over_mm
        return low, high

    def solid(self, part: Corners, shapes: Shapes) -> Solid:
        return block(*self.corners(part, shapes))

    def volume_mm3(self, part: Corners, shapes: Shapes) -> float:
        low, high = self.corners(part, shapes)
        return float((high - low).prod())

    def tolerance_at(self, side: Direction) -> float:
        own = self._side(side_field(side)).tolerance_mm
        return float(getattr(self, self._common(side))) if own is None else own

    def over_field(self, side: Direction) -> str | None:
        return f"stock.{side_field(side)}.over_mm"

    def usual_over(self) -> dict[str, float]:
        named = {side_field(side): self._common(side) for side in DIRECTIONS}
        return {name: float(getattr(self, common)) for name, common in named.items()}

    def tolerance_field(self, side: Direction) -> str:
        name = side_field(side)
        own = self._side(name).tolerance_mm is not None
        return f"stock.{name}.tolerance_mm" if own else f"stock.{self._common(side)}"

    def _common(self, side: Direction) -> str:
        return "saw_tolerance_mm" if self.skin(side) == "sawn" else "rolled_tolerance_mm"

    def _side(self, name: str) -> Side:
        side: Side = getattr(self, name)
        return side


def usual_sides(settings: Settings) -> dict[str, Side]:
    """What the shop leaves on the six sides of a blank."""
    beside = Side(over_mm=settings.usual_side_mm)
    return {
        **dict.fromkeys(("x_low", "x_high", "y_low", "y_high"), beside),
        "z_low": Side(over_mm=settings.usual_bottom_mm),
        "z_high": Side(over_mm=settings.usual_top_mm),
    }
