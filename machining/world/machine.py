"""Machines: where they reach, how fast they move, what their spindles can do."""

from __future__ import annotations

from typing import Literal

from pydantic import Field, model_validator

from .record import (
    Acceleration,
    Compliance,
    Coolant,
    Coordinate,
    Factor,
    Feed,
    Key,
    Length,
    LengthOrZero,
    Line,
    Mass,
    Money,
    Name,
    Power,
    Record,
    Seconds,
    SecondsOrZero,
    Share,
    Speed,
    SpeedOrZero,
    Text,
    TorqueOrZero,
    WorkOffset,
)


class CurvePoint(Record):
    rpm: SpeedOrZero
    power_kw: Power
    torque_nm: TorqueOrZero


class SpindleRange(Record):
    """One gear or belt position with its curves, at the motor unless the machine says
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


class Axes(Record):
    x: Acceleration
    y: Acceleration
    z: Acceleration


class Rotary(Record):
    """A table that tilts about X and turns about its own axis. Angles in degrees, speeds in degrees
    a second.

    ``tilt_axis_above_mm`` is the height of the tilting axis over the table's top; ``clamp_s`` what
    releasing and clamping take for a position.
    """

    tilt_low_deg: float = Field(ge=-180, le=0)
    tilt_high_deg: float = Field(ge=0, le=180)
    tilt_speed_deg_s: Factor
    turn_speed_deg_s: Factor
    clamp_s: SecondsOrZero
    tilt_axis_above_mm: Coordinate = Field(0.0, ge=-1000, le=1000)


FacingDirection = Literal["any", "x+", "x-", "y+", "y-"]


class Machine(Record):
    """Lengths in mm, speeds in mm/min, accelerations in mm/s². Each value's origin is in
    ``source``.

    A mill has a table under its spindle's nose; a lathe (X across its spindle, Z along it,
    ``pockets`` stations of a turret) has a ``swing_mm``, the largest diameter it turns.
    ``tram_note`` says how square the spindle stands to the table; ``face_towards`` is the direction
    in which a face mill leaves the better surface for it.
    """

    key: Key
    name: Name = Field(min_length=1, max_length=60)
    kind: Literal["mill-3", "mill-4", "mill-5", "lathe"] = "mill-3"
    spindle: Literal["vertical", "horizontal"] = "vertical"
    travel: Axes
    nose_to_table_min_mm: LengthOrZero | None = None
    nose_to_table_max_mm: Length | None = None
    rapid: Axes
    acceleration: Axes
    jerk_time_s: SecondsOrZero = 0.05
    corner_tolerance_mm: Length = 0.05
    block_time_s: SecondsOrZero = 0.002
    max_feed_mm_min: Feed
    rapid_moves: Literal["linear", "each-axis"] = "linear"
    ranges: tuple[SpindleRange, ...] = Field(min_length=1, max_length=12)
    curves_at: Literal["motor", "nose"] = "motor"
    efficiency: Share = 0.85
    spindle_start_s: Seconds
    base_rpm: Speed
    range_change_s: SecondsOrZero = 0.0
    chip_to_chip_s: Seconds
    tool_change_z_mm: Length
    pockets: int = Field(ge=1, le=400)
    max_tool_length_mm: Length
    max_tool_diameter_mm: Length
    table_x_mm: Length | None = None
    table_y_mm: Length | None = None
    table_load_kg: Mass | None = None
    swing_mm: Length | None = None
    rotary: Rotary | None = None
    work_offsets: tuple[WorkOffset, ...] = ("G54", "G55", "G56", "G57", "G58", "G59")
    coolant: tuple[Coolant, ...] = ("flood", "air", "none")
    probe: bool = False
    tool_setter: bool = False
    pallets: int = Field(1, ge=1, le=40)
    pallet_change_s: SecondsOrZero = 0.0
    tram_note: Line = ""
    face_towards: FacingDirection = "any"
    compliance_um_n: Compliance = 0.01
    hourly_cost: Money = 0.0
    source: Text

    @model_validator(mode="after")
    def _consistent(self) -> Machine:
        needed = (
            ("swing_mm",)
            if self.kind == "lathe"
            else (
                "nose_to_table_min_mm",
                "nose_to_table_max_mm",
                "table_x_mm",
                "table_y_mm",
                "table_load_kg",
            )
        )
        missing = [name for name in needed if getattr(self, name) is None]
        if missing:
            raise ValueError(
                f"{missing[0]} is missing; a {'lathe' if self.kind == 'lathe' else 'mill'} needs it"
            )
        if self.kind != "lathe" and (self.nose_to_table_min_mm or 0.0) >= (
            self.nose_to_table_max_mm or 0.0
        ):
            raise ValueError(
                f"nose_to_table_min_mm is {self.nose_to_table_min_mm:g}; it must be under"
                f" nose_to_table_max_mm, {self.nose_to_table_max_mm:g}"
            )
        if self.pallets > 1 and self.pallet_change_s <= 0:
            raise ValueError(
                f"pallet_change_s is {self.pallet_change_s:g}; it must be over 0 with"
                f" {self.pallets} pallets"
            )
        return self

    @property
    def min_rpm(self) -> float:
        return min(each.min_rpm for each in self.ranges)

    @property
    def max_rpm(self) -> float:
        return max(each.max_rpm for each in self.ranges)
