"""An axis of a machine that turns the work, or tilts the head its tool is in."""

from __future__ import annotations

from datetime import date
from typing import Literal

from pydantic import Field, model_validator

from .record import Factor, LengthOrZero, Name, Record, SecondsOrZero


class RotaryAxis(Record):
    """An axis that turns what stands at a place, or with ``carries`` "tool" tilts the head over it.
    Angles in degrees, of the work's turn about one of its station's directions, or of the tool's
    where that tilts: either way 90 about Y brings the right side and the tool together, about X the
    front. ``above_mm`` is how high over the table's top a tilting axis of the work lies,
    ``clamp_s`` what releasing and clamping take for a position, ``swing_mm`` the largest diameter
    that goes round about it, 0 where nobody has said. ``centre_on`` is the day its centre was last
    measured. A head tilts about a pivot, ``pivot_mm`` over its spindle's end.

    What a tilting axis carries hangs between two arms at its ends: ``arms_apart_mm`` from one to
    the other, 0 where nobody has said, each ``arms_wide_mm`` along the axis and ``arms_deep_mm``
    across, up to ``arms_over_mm`` over the table's top.
    """

    name: Name = Field(min_length=1, max_length=4)
    about: Literal["x", "y", "z"]
    carries: Literal["work", "tool"] = "work"
    low_deg: float = Field(-360.0, ge=-360, le=0)
    high_deg: float = Field(360.0, ge=0, le=360)
    speed_deg_s: Factor
    clamp_s: SecondsOrZero
    above_mm: float = Field(0.0, ge=-1000, le=1000)
    swing_mm: LengthOrZero = 0.0
    centre_on: date | None = None
    arms_apart_mm: LengthOrZero = 0.0
    arms_wide_mm: LengthOrZero = 0.0
    arms_deep_mm: LengthOrZero = 0.0
    arms_over_mm: float = Field(0.0, ge=-1000, le=1000)
    pivot_mm: LengthOrZero = 0.0

    @model_validator(mode="after")
    def _of_work_or_tool(self) -> RotaryAxis:
        if self.carries == "work":
            if self.pivot_mm:
                raise ValueError(
                    f"pivot_mm is {self.pivot_mm:g}; it must be 0 of an axis that carries work"
                )
            return self
        if self.about == "z":
            raise ValueError("about is 'z'; it must be x or y of an axis that carries the tool")
        if not self.pivot_mm:
            raise ValueError("pivot_mm is 0; it must be over 0 of an axis that carries the tool")
        of_work = ("above_mm", "swing_mm", "arms_apart_mm")
        for name in of_work:
            if value := getattr(self, name):
                raise ValueError(
                    f"{name} is {value:g}; it must be 0 of an axis that carries the tool"
                )
        return self
