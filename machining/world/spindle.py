"""Spindles: who turns in them, the tool or the work, how fast and with what power."""

from __future__ import annotations

from typing import Literal

from pydantic import Field, model_validator

from .record import (
    Key,
    Length,
    LengthOrZero,
    Name,
    Power,
    Record,
    Seconds,
    SecondsOrZero,
    Share,
    Speed,
    SpeedOrZero,
    TorqueOrZero,
)


class CurvePoint(Record):
    rpm: SpeedOrZero
    power_kw: Power
    torque_nm: TorqueOrZero


class SpindleRange(Record):
    """One gear or belt position with its curves, at the motor unless the spindle says
    at the nose.
    """

    name: Name
    min_rpm: SpeedOrZero
    max_rpm: Speed
    continuous: tuple[CurvePoint, ...] = Field(min_length=2, max_length=60)
    short_time: tuple[CurvePoint, ...] = Field((), max_length=60)

    @model_validator(mode="after")
    def _rises(self) -> SpindleRange:
        for name in ("continuous", "short_time"):
            speeds = [point.rpm for point in getattr(self, name)]
            if any(b <= a for a, b in zip(speeds, speeds[1:], strict=False)):
                raise ValueError(f"{name}: rpm must rise from point to point")
        if self.min_rpm >= self.max_rpm:
            raise ValueError(
                f"min_rpm is {self.min_rpm:g}; it must be under max_rpm, {self.max_rpm:g}"
            )
        return self


class NoseStep(Record):
    """A round section of what stands round a spindle's end: from so far over the gauge line on it
    is so wide, mm.
    """

    above_mm: LengthOrZero
    diameter_mm: Length


class Spindle(Record):
    """What turns: the tool a carrier puts into it, or the work. ``start_s`` are the seconds from
    rest to its highest speed, ``base_rpm`` the speed up to which it pulls with constant torque.
    ``nose`` is its end and the head behind it, empty where nobody has said.
    """

    id: Key = "main"
    turns: Literal["tool", "work"] = "tool"
    curves_at: Literal["motor", "nose"] = "motor"
    efficiency: Share = 0.85
    start_s: Seconds
    base_rpm: Speed
    range_change_s: SecondsOrZero = 0.0
    ranges: tuple[SpindleRange, ...] = Field(min_length=1, max_length=12)
    nose: tuple[NoseStep, ...] = Field((), max_length=8)

    @property
    def min_rpm(self) -> float:
        return min(each.min_rpm for each in self.ranges)

    @property
    def max_rpm(self) -> float:
        return max(each.max_rpm for each in self.ranges)

    @property
    def reaches_edge(self) -> float:
        """What arrives at the cutting edge of a power read off its curves, as a share."""
        return self.efficiency if self.curves_at == "motor" else 1.0
