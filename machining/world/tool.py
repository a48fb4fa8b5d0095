"""Tools, holders and the assemblies of both. Symbols in the descriptions are those of ISO 13399."""

from __future__ import annotations

from typing import Literal

from pydantic import Field, model_validator

from .material import ToolMaterial
from .record import Key, NotNegative, Positive, Record

ToolKind = Literal["face_mill", "end_mill", "chamfer_mill", "drill", "spot_drill", "reamer", "tap", "boring_head"]
TURNS_ON_AXIS: frozenset[str] = frozenset({"drill", "spot_drill", "reamer", "tap", "boring_head"})


class Tool(Record):
    """``diameter_mm`` DC, ``corner_radius_mm`` RE, ``flutes`` ZEFP, ``flute_length_mm`` LCF, ``usable_length_mm`` LU,
    ``neck_diameter_mm`` DN (relieved from the flutes up to the usable length; empty: the shank goes down to the flutes),
    ``shank_diameter_mm`` DMM, ``overall_length_mm`` OAL, ``point_angle_deg`` SIG, ``pitch_mm`` TP, ``edge_angle_deg`` KAPR.
    """

    key: Key
    name: str = Field(min_length=1, max_length=80)
    kind: ToolKind
    diameter_mm: float = Field(gt=0, le=500)
    corner_radius_mm: NotNegative = 0.0
    flutes: int = Field(ge=1, le=60)
    flute_length_mm: Positive
    usable_length_mm: Positive
    neck_diameter_mm: Positive | None = None
    shank_diameter_mm: Positive
    overall_length_mm: Positive
    point_angle_deg: float | None = Field(None, gt=0, le=180)
    included_angle_deg: float | None = Field(None, gt=0, lt=180)
    tip_diameter_mm: NotNegative = 0.0
    edge_angle_deg: float = Field(90.0, gt=0, le=90)
    pitch_mm: Positive | None = None
    material: ToolMaterial = "carbide"
    coating: str = ""
    centre_cutting: bool = False
    max_ramp_deg: float = Field(0.0, ge=0, lt=90)
    max_rpm: Positive | None = None
    max_chip_mm: Positive | None = None
    edge_radius_mm: NotNegative = 0.01
    edge_life_min: Positive | None = None
    cost: NotNegative | None = None
    on_hand: int | None = Field(None, ge=0)
    note: str = ""

    @model_validator(mode="after")
    def _can_exist(self) -> Tool:
        problems = []
        if 2 * self.corner_radius_mm > self.diameter_mm + 1e-9:
            problems.append(f"corner_radius_mm is {self.corner_radius_mm:g}; it must be up to half the diameter, {self.diameter_mm / 2:g}")
        if self.flute_length_mm > self.overall_length_mm:
            problems.append(f"flute_length_mm is {self.flute_length_mm:g}; it must be up to the overall length, {self.overall_length_mm:g}")
        if self.usable_length_mm > self.overall_length_mm:
            problems.append(f"usable_length_mm is {self.usable_length_mm:g}; it must be up to the overall length, {self.overall_length_mm:g}")
        if self.usable_length_mm < self.flute_length_mm:
            problems.append(f"usable_length_mm is {self.usable_length_mm:g}; it must be at least the flute length, {self.flute_length_mm:g}")
        if self.neck_diameter_mm is not None and self.neck_diameter_mm > self.diameter_mm:
            problems.append(f"neck_diameter_mm is {self.neck_diameter_mm:g}; a neck must be up to the cutting diameter, {self.diameter_mm:g}")
        if self.tip_diameter_mm > self.diameter_mm:
            problems.append(f"tip_diameter_mm is {self.tip_diameter_mm:g}; it must be up to the diameter, {self.diameter_mm:g}")
        if self.kind == "tap" and self.pitch_mm is None:
            problems.append("pitch_mm is missing; a tap needs its pitch")
        if self.kind in ("drill", "spot_drill") and self.point_angle_deg is None:
            problems.append("point_angle_deg is missing; a drill needs its point angle")
        if self.kind == "chamfer_mill" and self.included_angle_deg is None:
            problems.append("included_angle_deg is missing; a chamfer mill needs its angle")
        if problems:
            raise ValueError("; ".join(problems))
        return self

    @property
    def behind_flutes_mm(self) -> float:
        """Diameter from the flutes up to the usable length: the neck, or the shank where there is none."""
        return self.neck_diameter_mm or self.shank_diameter_mm


class HolderSection(Record):
    """One cylinder or cone of a holder, from the front face up."""

    length_mm: Positive
    front_diameter_mm: Positive
    back_diameter_mm: Positive


class Holder(Record):
    """A holder's profile from its front face (a nut belongs to it) to the gauge line.

    It must hold ``grip_depth_mm`` of the shank and can take ``deepest_mm`` before the shank meets its bottom.
    """

    key: Key
    name: str = Field(min_length=1, max_length=80)
    sections: tuple[HolderSection, ...] = Field(min_length=1)
    grip_depth_mm: Positive = 25.0
    deepest_mm: Positive = 45.0
    max_rpm: Positive | None = None
    run_out_mm: NotNegative = 0.01
    stiffness_um_n: NotNegative = 0.02

    @property
    def length_mm(self) -> float:
        """Front face to gauge line."""
        return sum(section.length_mm for section in self.sections)


class Assembly(Record):
    """A tool in a holder. Stick-out is from the tip to the holder's front face."""

    key: Key
    name: str = Field(min_length=1, max_length=80)
    tool: Key
    holder: Key
    stick_out_mm: Positive
