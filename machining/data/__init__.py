"""Seed data of a new shop, as validated records. Afterwards the shop's own database is
the truth.
"""

from __future__ import annotations

import tomllib
from functools import cache
from pathlib import Path
from typing import Any

from pydantic import TypeAdapter

from machining.world.clamping import Clamping
from machining.world.library import Library
from machining.world.machine import Machine
from machining.world.material import CuttingData, Material
from machining.world.tool import Assembly, Holder, Tool
from machining.world.workholding import Workholding

_CLAMPS: TypeAdapter[list[Clamping]] = TypeAdapter(list[Clamping])
_WORKHOLDING: TypeAdapter[list[Workholding]] = TypeAdapter(list[Workholding])
_HERE = Path(__file__).parent
SAME_CHIP = {"face", "turn", "turn_finish", "groove", "thread"}  # at any diameter


def _read(name: str) -> dict[str, Any]:
    return tomllib.loads((_HERE / name).read_text())


def _material(row: dict[str, Any], speeds: dict[str, Any]) -> Material:
    table = speeds[row.pop("speeds")]
    rows = tuple(
        CuttingData(
            process=process,
            tool_material=material,
            speed_low=low,
            speed_start=start,
            speed_high=high,
            chip_at_10_mm=chip,
            chip_exponent=0.0 if process in SAME_CHIP else 0.75,
            source=table["source"],
        )
        for material in ("carbide", "hss")
        for process, (low, start, high, chip) in (
            table[material] | (table["turning"] if material == "carbide" else {})
        ).items()
    )
    return Material(**row, cutting_data=rows)


@cache
def seed() -> Library:
    """Materials, tools, holders, assemblies, machines, holdings and clamps of the demo shop."""
    materials, tools, machines = (
        _read("materials.toml"),
        _read("tools.toml"),
        _read("machines.toml"),
    )
    known = {row["key"]: Tool(**row) for row in tools["tool"]}
    assemblies = [
        Assembly(key=key, name=known[key].name, tool=key, holder=holder, stick_out_mm=out)
        for key, (holder, out) in tools["assemblies"].items()
    ]
    return Library(
        materials={
            m.key: m
            for m in (_material(dict(row), materials["speeds"]) for row in materials["material"])
        },
        tools=known,
        holders={h.key: h for h in (Holder(**row) for row in tools["holder"])},
        assemblies={a.key: a for a in assemblies},
        machines={m.key: m for m in (Machine(**row) for row in machines["machine"])},
        holdings={
            each.key: each
            for kind, rows in machines.items()
            if kind != "machine"
            for each in _WORKHOLDING.validate_python([{**row, "kind": kind} for row in rows])
        },
        clamps={
            each.key: each
            for kind, rows in _read("clamps.toml").items()
            for each in _CLAMPS.validate_python([{**row, "kind": kind} for row in rows])
        },
    )
