"""Format 2 to 3: a form of stock has the fields of its form alone, and a side its own tolerance.

Until then one tolerance held for every side, rolled and drawn ones too: it is kept for all of them,
so that nothing is checked more gently than it was.
"""

from __future__ import annotations

from typing import Any

SIDES = ("x_low", "x_high", "y_low", "y_high", "z_low", "z_high")


def step(raw: dict[str, Any]) -> dict[str, Any]:
    stock = raw.get("stock")
    changed = {"stock": _stock(stock)} if isinstance(stock, dict) else {}
    return {**raw, "format": 3, **changed}


def _stock(old: dict[str, Any]) -> dict[str, Any]:
    form, sawn = old.get("form", "block"), old.get("saw_tolerance_mm", 0.0)
    if form == "round":
        axis = old.get("round_axis", "z")
        return {
            "form": form,
            "axis": axis,
            "diameter_mm": old.get("round_diameter_mm"),
            "low": {"over_mm": old.get(f"{axis}_low_mm", 0.0)},
            "high": {"over_mm": old.get(f"{axis}_high_mm", 0.0)},
            "saw_tolerance_mm": sawn,
            "drawn_tolerance_mm": 2.0 * sawn if isinstance(sawn, int | float) else sawn,
        }
    rest = {
        name: value
        for name, value in old.items()
        if name not in {"form", "saw_tolerance_mm", "round_diameter_mm", "round_axis"}
        and name.removesuffix("_mm") not in SIDES
    }
    return {
        **rest,
        "form": form,
        **{side: {"over_mm": old.get(f"{side}_mm", 0.0)} for side in SIDES},
        "saw_tolerance_mm": sawn,
        **({"rolled_tolerance_mm": sawn} if form == "plate" else {}),
    }
