"""What holds a part. This far: machine vises with two plain jaws."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from .record import Key, NotNegative, Positive, Record


class Vise(Record):
    """A machine vise. Heights are above the table; the bed is what parallels stand on.

    ``force_per_torque`` is the clamping force in N for each N·m at the screw (maker's chart or measured).
    """

    key: Key
    name: str = Field(min_length=1, max_length=60)
    kind: Literal["vise"] = "vise"
    jaw_width_mm: Positive
    jaw_height_mm: Positive
    jaw_thickness_mm: Positive
    jaws: Literal["smooth", "serrated", "soft"] = "smooth"
    step_mm: NotNegative = 0.0
    max_opening_mm: Positive
    bed_height_mm: Positive
    base_length_mm: Positive
    base_width_mm: Positive
    force_per_torque: Positive
    max_torque_nm: Positive
    friction: float = Field(gt=0, le=1)
    parallels_mm: tuple[Positive, ...] = ()
    mass_kg: Positive = 30.0
    source: str
