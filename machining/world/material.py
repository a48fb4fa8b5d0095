"""Work materials: cutting resistance, weight, and the speeds a shop starts from."""

from __future__ import annotations

from typing import Literal

from pydantic import Field, model_validator

from .price import PriceBreaks
from .record import CuttingSpeed, Key, LengthOrZero, Money, Name, Record, Text

ToolMaterial = Literal["carbide", "hss"]
Process = Literal[
    "face",
    "rough",
    "finish",
    "drill",
    "ream",
    "tap",
    "chamfer",
    "bore",
    "turn",
    "turn_finish",
    "groove",
    "thread",
]


class CuttingData(Record):
    """Speed band (m/min) and chip for one process and tool material.

    ``chip_at_10_mm`` is the feed per tooth (per revolution for drill, ream, bore and turning) of a
    10 mm tool; it scales with (diameter/10)^chip_exponent. ``kept_by`` keeps general tables, a
    supplier's values and what the shop has proven apart.
    """

    process: Process
    tool_material: ToolMaterial
    speed_low: CuttingSpeed
    speed_start: CuttingSpeed
    speed_high: CuttingSpeed
    chip_at_10_mm: LengthOrZero = 0.0
    chip_exponent: float = Field(0.75, ge=0, le=1)
    source: Text
    kept_by: Literal["table", "supplier", "shop"] = "table"

    @model_validator(mode="after")
    def _in_order(self) -> CuttingData:
        if not self.speed_low <= self.speed_start <= self.speed_high:
            raise ValueError(
                f"speed_start is {self.speed_start:g}; it must lie from {self.speed_low:g} to"
                f" {self.speed_high:g}"
            )
        return self

    def chip_mm(self, diameter_mm: float) -> float:
        return self.chip_at_10_mm * (diameter_mm / 10.0) ** self.chip_exponent


class Material(Record):
    """``kc11_n_mm2`` and ``mc`` are Kienzle's constants, ``iso_group`` the ISO 513 application
    group.
    """

    key: Key
    name: Name = Field(min_length=1)
    iso_group: Literal["P", "M", "K", "N", "S", "H"]
    kc11_n_mm2: float = Field(gt=50, le=10_000)
    mc: float = Field(ge=0, lt=1)
    density_kg_dm3: float = Field(gt=0.5, lt=25)
    modulus_gpa: float | None = Field(
        None, gt=0.1, le=700, description="modulus of elasticity; without it no bending is known"
    )
    proof_n_mm2: float | None = Field(
        None, gt=1, le=4_000, description="proof stress; without it no tab's strength is known"
    )
    price_kg: Money | None = Field(None, description="of the stock, a kilogram as it comes")
    price_breaks: PriceBreaks = Field(
        (), description="a kilogram, from so many that are ordered at once"
    )
    hardness: Name = ""
    source: Text
    note: Text = ""
    hazards: tuple[Literal["dust", "fire", "fumes"], ...] = ()
    cutting_data: tuple[CuttingData, ...] = Field((), max_length=200)

    def data_for(self, process: Process, tool_material: ToolMaterial) -> CuttingData | None:
        """What the shop has proven comes first, then a supplier's values, then the tables."""
        rows = [
            row
            for row in self.cutting_data
            if (row.process, row.tool_material) == (process, tool_material)
        ]
        return min(
            rows, key=lambda row: ("shop", "supplier", "table").index(row.kept_by), default=None
        )
