"""How square a machine was found to stand: its spindle to its table, its axes to each other."""

from __future__ import annotations

from datetime import date
from typing import Literal

from pydantic import model_validator

from .record import Length, LengthOrZero, Record

STEEPEST = 0.01  # of a reading that is one: mm on each mm across
Way = Literal["x+", "x-", "y+", "y-"]
Pair = Literal["x y", "x z", "y z"]


class Tram(Record):
    """How square a spindle was found to stand to its table: an indicator in it, swept round in a
    circle ``over_mm`` across, read ``high_mm`` more ``towards`` one side than on the other: there
    the table is nearer, and a cutter is lower.
    """

    high_mm: LengthOrZero
    over_mm: Length = 200.0
    towards: Way
    read_on: date | None = None

    @property
    def slope(self) -> float:
        """How far it leans, mm on each mm."""
        return self.high_mm / self.over_mm

    @model_validator(mode="after")
    def _could_be_read(self) -> Tram:
        most = self.over_mm * STEEPEST
        if self.high_mm > most:
            raise ValueError(
                f"high_mm is {self.high_mm:g}; it must be at most {most:g}, a hundredth of over_mm"
            )
        return self


class Square(Record):
    """How square two axes were found to each other: along the second one of ``of``, over
    ``over_mm``, an indicator on a square laid along the first moved by ``off_mm``.
    """

    of: Pair = "x y"
    off_mm: LengthOrZero
    over_mm: Length = 200.0
    read_on: date | None = None

    @property
    def slope(self) -> float:
        """How far off, mm on each mm."""
        return self.off_mm / self.over_mm

    @model_validator(mode="after")
    def _could_be_read(self) -> Square:
        most = self.over_mm * STEEPEST
        if self.off_mm > most:
            raise ValueError(
                f"off_mm is {self.off_mm:g}; it must be at most {most:g}, a hundredth of over_mm"
            )
        return self
