"""What holds a part: machine vises with two plain jaws, and chucks that turn."""

from __future__ import annotations

from typing import Literal

from pydantic import Field, model_validator

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


class Chuck(Record):
    """A chuck of a lathe. ``force_per_jaw_n`` is at rest and at the most its cylinder or key gives.

    ``jaw_radius_mm`` is how far the centre of mass of a jaw lies outside the diameter gripped; ``jaw_length_mm`` is along the
    spindle, ``bore_mm`` the largest bar that passes through.
    """

    key: Key
    name: str = Field(min_length=1, max_length=60)
    kind: Literal["chuck"] = "chuck"
    jaws: int = Field(3, ge=2, le=6)
    jaw_kind: Literal["hard", "soft"] = "hard"
    jaw_width_mm: Positive
    jaw_length_mm: Positive
    jaw_height_mm: Positive
    jaw_mass_kg: Positive
    jaw_radius_mm: Positive
    force_per_jaw_n: Positive
    friction: float = Field(gt=0, le=1)
    min_grip_mm: Positive
    max_grip_mm: Positive
    bore_mm: NotNegative = 0.0
    max_rpm: Positive
    source: str

    @model_validator(mode="after")
    def _opens(self) -> Chuck:
        if self.min_grip_mm >= self.max_grip_mm:
            raise ValueError(f"min_grip_mm is {self.min_grip_mm:g}; it must be under max_grip_mm, {self.max_grip_mm:g}")
        return self
