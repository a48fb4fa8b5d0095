"""What carries the tools of a machine and moves them, and what that was timed to."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from .record import (
    Acceleration,
    Key,
    Length,
    LengthOrZero,
    NoneOrKey,
    Record,
    Seconds,
    SecondsOrZero,
)


class Axes(Record):
    """Of travel, rapids and accelerations alike; ``y`` is 0 where there is no such axis."""

    x: Acceleration
    y: float = Field(0.0, ge=0, le=1_000_000)
    z: Acceleration


class AxisTimes(Record):
    """Seconds of each axis; ``y`` is 0 where there is no such axis."""

    x: SecondsOrZero
    y: SecondsOrZero = 0.0
    z: SecondsOrZero


class Carrier(Record):
    """What holds the tools and moves them: its pockets, what a change takes from chip to chip, the
    axes it is moved along. Lengths in mm, speeds in mm/min, accelerations in mm/s².

    Where ``tool_to_tool_s`` is known, a change is worked out of its parts: the swap alone, the
    spindle's stop and turn to where it is held (``orient_s``), the way up and down again, and the
    magazine's way from pocket to pocket (``pocket_s`` for each) as far as cutting did not cover it.
    ``jerk_s`` is what each axis takes from standing to its full acceleration, None where the
    machine says one time for all. ``corner_step`` is how much each axis's speed may change at once
    at a corner, None where the machine's control goes by how far a corner is cut.

    ``drives`` is the spindle its tools turn in, empty where they stand still. ``change_nose_mm`` is
    how high over a table the spindle's nose stands for a change, None where it goes up as far as it
    can; ``draws_out_mm`` how far a tool is drawn out of the spindle then. ``probe_touch_s`` is what
    one touch of its probe takes, from above to the place and back; 0 where it has none.
    """

    id: Key = "magazine"
    kind: Literal["magazine", "turret"] = "magazine"
    drives: NoneOrKey = ""
    pockets: int = Field(ge=1, le=400)
    chip_to_chip_s: Seconds
    tool_to_tool_s: Seconds | None = None
    orient_s: SecondsOrZero = 0.0
    pocket_s: SecondsOrZero = 0.0
    max_tool_length_mm: Length
    max_tool_diameter_mm: Length
    change_nose_mm: Length | None = None
    draws_out_mm: LengthOrZero = 0.0
    probe_touch_s: SecondsOrZero = 0.0
    travel: Axes
    rapid: Axes
    acceleration: Axes
    jerk_s: AxisTimes | None = None
    corner_step: Axes | None = None


class TimedRun(Record):
    """What a run took at the machine, so many times without a pause, by the watch."""

    run: Key
    repeats: int = Field(ge=1, le=10_000)
    seconds: float = Field(ge=0.5, le=3600)
