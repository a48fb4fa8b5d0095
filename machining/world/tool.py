"""Tools, holders and the assemblies of both. Symbols in the descriptions are those of ISO 13399."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Literal

from pydantic import Field, model_validator

from .material import ToolMaterial
from .record import Compliance, Key, Length, LengthOrZero, Minutes, Money, Name, Record, Speed, Text

ToolKind = Literal[
    "face_mill",
    "shell_mill",
    "end_mill",
    "roughing_end_mill",
    "high_feed_mill",
    "slot_mill",
    "undercut_mill",
    "chamfer_mill",
    "engraver",
    "corner_rounder",
    "thread_mill",
    "drill",
    "insert_drill",
    "spot_drill",
    "reamer",
    "tap",
    "boring_head",
    "turning_rough",
    "turning_finish",
    "turning_thread",
    "turning_groove",
    "face_groove",
    "part_off",
    "boring_bar",
    "turning_drill",
]
DRILLS: frozenset[str] = frozenset({"drill", "insert_drill", "turning_drill"})
TURNS_ON_AXIS: frozenset[str] = DRILLS | {"spot_drill", "reamer", "tap", "boring_head"}
TURNING: frozenset[str] = frozenset(
    {
        "turning_rough",
        "turning_finish",
        "turning_thread",
        "turning_groove",
        "face_groove",
        "part_off",
        "boring_bar",
    }
)
STANDS_STILL: frozenset[str] = TURNING | {"turning_drill"}  # while the work turns
FACES: frozenset[str] = frozenset({"face_mill", "shell_mill"})
ROUGHS_SIDES: frozenset[str] = frozenset({"end_mill", "roughing_end_mill", "high_feed_mill"})
POINTED: frozenset[str] = frozenset({"chamfer_mill", "engraver", "undercut_mill"})
# one length, given by how they are built
BUILT_TO_LENGTH: frozenset[str] = FACES | {"boring_head", "insert_drill"}
# what a kind can't be without
_NEEDS: dict[str, tuple[tuple[str, str], ...]] = {
    "tap": (("pitch_mm", "a tap needs its pitch"),),
    "thread_mill": (("pitch_mm", "a thread mill needs its pitch"),),
    "turning_thread": (("pitch_mm", "a threading tool needs its pitch"),),
    "drill": (("point_angle_deg", "a drill needs its point angle"),),
    "spot_drill": (("point_angle_deg", "a spot drill needs its point angle"),),
    "turning_drill": (("point_angle_deg", "a drill needs its point angle"),),
    "insert_drill": (("point_angle_deg", "a drill needs its point angle, 180 where it cuts flat"),),
    "chamfer_mill": (("included_angle_deg", "a chamfer mill needs its angle"),),
    "engraver": (("included_angle_deg", "an engraver needs its angle"),),
    "undercut_mill": (("included_angle_deg", "an undercut mill needs its angle"),),
    "high_feed_mill": (("max_depth_mm", "a high-feed mill needs the depth its edge allows"),),
    "turning_groove": (("insert_width_mm", "a grooving tool needs its width"),),
    "face_groove": (("insert_width_mm", "a grooving tool needs its width"),),
    "part_off": (("insert_width_mm", "a parting tool needs its width"),),
    "slot_mill": (("insert_width_mm", "a slot mill needs its width"),),
}


class Tool(Record):
    """``diameter_mm`` DC, ``corner_radius_mm`` RE, ``flutes`` ZEFP, ``flute_length_mm`` LCF,
    ``usable_length_mm`` LU, ``max_depth_mm`` APMX, ``insert_width_mm`` CW, ``helix_deg`` FHA,
    ``point_angle_deg`` SIG, ``included_angle_deg`` twice the half angle, ``rows`` rows of teeth of
    a thread mill. A turning tool's ``diameter_mm`` is its shank's height, a boring bar's the
    smallest bore it enters; ``order_days`` is how long a tool made to order takes; where it has
    inserts, ``insert_cost`` is what one of them costs;
    ``edge_angle_deg`` goes up to 150 for turning, where ``max_ramp_deg`` is the steepest contour a
    tool follows down behind a shoulder.

    ``neck_diameter_mm`` DN (relieved from the flutes up to the usable length; empty: the shank goes
    down to the flutes), ``shank_diameter_mm`` DMM, ``overall_length_mm`` OAL, ``pitch_mm`` TP,
    ``edge_angle_deg`` KAPR.
    """

    key: Key
    name: Name = Field(min_length=1)
    kind: ToolKind
    diameter_mm: float = Field(ge=0.05, le=500)
    corner_radius_mm: LengthOrZero = 0.0
    flutes: int = Field(ge=1, le=60)
    flute_length_mm: Length
    usable_length_mm: Length
    neck_diameter_mm: Length | None = None
    shank_diameter_mm: Length
    overall_length_mm: Length
    point_angle_deg: float | None = Field(None, ge=1, le=180)
    included_angle_deg: float | None = Field(None, ge=1, le=179)
    tip_diameter_mm: LengthOrZero = 0.0
    edge_angle_deg: float = Field(90.0, ge=1, le=150)
    helix_deg: float = Field(30.0, ge=0, le=70)
    pitch_mm: Length | None = None
    max_depth_mm: Length | None = None
    insert_width_mm: Length | None = None
    rows: int = Field(1, ge=1, le=60)
    hand: Literal["right", "left", "neutral"] = "right"
    material: ToolMaterial = "carbide"
    coating: Name = ""
    centre_cutting: bool = False
    max_ramp_deg: float = Field(0.0, ge=0, lt=90)
    max_rpm: Speed | None = None
    max_chip_mm: Length | None = None
    edge_radius_mm: LengthOrZero = 0.01
    edge_life_min: Minutes | None = None
    cost: Money | None = None
    insert_edges: int | None = Field(
        None, ge=1, le=32, description="edges of one of its inserts; empty: the tool itself wears"
    )
    insert_cost: Money | None = None
    inserts_on_hand: int | None = Field(None, ge=0, le=1_000_000)
    on_hand: int | None = Field(
        None, ge=0, le=1_000_000, description="pieces; of turning tools, edges"
    )
    order_days: int | None = Field(None, ge=0, le=365)
    note: Text = ""

    @model_validator(mode="after")
    def _can_exist(self) -> Tool:
        problems = [
            f"{field} is {value:g}; it must be {most}"
            for field, value, holds, most in self._limits()
            if not holds
        ]
        problems += [
            f"{field} is missing; {words}"
            for field, words in _NEEDS.get(self.kind, ())
            if getattr(self, field) is None
        ]
        if problems:
            raise ValueError("; ".join(problems))
        return self

    def _limits(self) -> Iterator[tuple[str, float, bool, str]]:
        """Field, its value, whether it is what it must be, and that in words."""
        across, overall, flutes = self.diameter_mm, self.overall_length_mm, self.flute_length_mm
        radius, usable, edge = self.corner_radius_mm, self.usable_length_mm, self.edge_angle_deg
        yield (
            "corner_radius_mm",
            radius,
            2 * radius <= across + 1e-9,
            f"up to half the diameter, {across / 2:g}",
        )
        over = f"up to the overall length, {overall:g}"
        yield "flute_length_mm", flutes, flutes <= overall, over
        yield "usable_length_mm", usable, usable <= overall, over
        at_least = f"at least the flute length, {flutes:g}"
        yield "usable_length_mm", usable, usable >= flutes, at_least
        if self.neck_diameter_mm is not None:
            fits, neck = self.neck_diameter_mm <= across, f"up to the cutting diameter, {across:g}"
            yield "neck_diameter_mm", self.neck_diameter_mm, fits, neck
        tip = self.tip_diameter_mm
        yield "tip_diameter_mm", tip, tip <= across, f"up to the diameter, {across:g}"
        if self.kind in ("corner_rounder", "turning_finish", "turning_rough"):
            yield "corner_radius_mm", radius, radius > 0, "over 0 for this kind of tool"
        if self.kind not in TURNING:
            yield "edge_angle_deg", edge, edge <= 90, "up to 90 for a tool that turns"
        if self.insert_cost is not None:
            known = self.insert_edges is not None
            yield "insert_cost", self.insert_cost, known, "empty where nobody says its insert_edges"
        if self.kind == "high_feed_mill":
            yield "edge_angle_deg", edge, edge <= 30, "up to 30 for a high-feed mill"
        if self.max_depth_mm is not None:
            deep = f"up to the flute length, {flutes:g}"
            yield "max_depth_mm", self.max_depth_mm, self.max_depth_mm <= flutes, deep

    @property
    def is_made_first(self) -> bool:
        """Is it made to order, and not here yet?"""
        return self.order_days is not None and not self.on_hand

    @property
    def edges_cost(self) -> float | None:
        """What the edges cost that wear at a time: the tool, or of every insert one of its edges;
        None where nobody has said that.
        """
        if self.insert_edges is None:
            return self.cost
        one = self.insert_cost
        return None if one is None else self.flutes * one / self.insert_edges

    @property
    def cutting_depth_mm(self) -> float:
        """How deep the edge can cut at once: the maker's limit, or the flutes."""
        return self.max_depth_mm or self.flute_length_mm

    @property
    def behind_flutes_mm(self) -> float:
        """Diameter from the flutes up to the usable length: the neck, or the shank where there is
        none.
        """
        return self.neck_diameter_mm or self.shank_diameter_mm


class HolderSection(Record):
    """One cylinder or cone of a holder, from the front face up."""

    length_mm: Length
    front_diameter_mm: Length
    back_diameter_mm: Length


class Holder(Record):
    """A holder's profile from its front face (a nut belongs to it) to the gauge line.

    It must hold ``grip_depth_mm`` of the shank and can take ``deepest_mm`` before the shank meets
    its bottom.
    """

    key: Key
    name: Name = Field(min_length=1)
    sections: tuple[HolderSection, ...] = Field(min_length=1, max_length=40)
    grip_depth_mm: Length = 25.0
    deepest_mm: Length = 45.0
    max_rpm: Speed | None = None
    run_out_mm: LengthOrZero = 0.01
    stiffness_um_n: Compliance = 0.02

    @property
    def length_mm(self) -> float:
        """Front face to gauge line."""
        return sum(section.length_mm for section in self.sections)

    @property
    def wider_steps(self) -> list[tuple[float, float]]:
        """Radius, and height above the front face, where each wider part begins (mm)."""
        found, at, widest = [], 0.0, 0.0
        for section in self.sections:
            radius = max(section.front_diameter_mm, section.back_diameter_mm) / 2.0
            if radius > widest:
                found.append((radius, at))
                widest = radius
            at += section.length_mm
        return found


class Assembly(Record):
    """A tool in a holder. Stick-out is from the tip to the holder's front face."""

    key: Key
    name: Name = Field(min_length=1)
    tool: Key
    holder: Key
    stick_out_mm: Length
