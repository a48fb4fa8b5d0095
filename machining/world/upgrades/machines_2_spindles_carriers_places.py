"""Format 2 to 3 of machines: one record of everything becomes spindles, carriers and places. What
nothing computed with is left out; a 5-axis mill whose axes nobody gave says so in its source note.
"""

from __future__ import annotations

from typing import Any

SPINDLE = ("curves_at", "efficiency", "base_rpm", "range_change_s", "ranges")
CARRIER = (
    "pockets",
    "chip_to_chip_s",
    "max_tool_length_mm",
    "max_tool_diameter_mm",
    "travel",
    "rapid",
    "acceleration",
)
TABLE = ("nose_to_table_min_mm", "nose_to_table_max_mm", "pallets", "pallet_change_s")
GONE = ("kind", "spindle", "probe", "tool_setter", "tool_change_z_mm")


def step(raw: dict[str, Any]) -> dict[str, Any]:
    turned = raw.get("kind") == "lathe"
    kept = {
        name: value
        for name, value in raw.items()
        if name not in (*SPINDLE, *CARRIER, *TABLE, *GONE)
        and name not in ("spindle_start_s", "rotary", "swing_mm")
        and not name.startswith("table_")
    }
    if raw.get("kind") == "mill-5" and raw.get("rotary") is None:
        said = "Was entered as a 5-axis mill; nobody gave its rotary axes."
        kept["source"] = f"{raw.get('source', '')} {said}"[:500].strip()
    return {
        **kept,
        "spindles": [_spindle(raw, turned)],
        "carriers": [_carrier(raw, turned)],
        "places": [_nose(raw) if turned else _table(raw)],
    }


def _of(raw: dict[str, Any], names: tuple[str, ...]) -> dict[str, Any]:
    return {name: raw[name] for name in names if name in raw}


def _spindle(raw: dict[str, Any], turned: bool) -> dict[str, Any]:
    start = {"start_s": raw["spindle_start_s"]} if "spindle_start_s" in raw else {}
    return {"id": "main", "turns": "work" if turned else "tool", **start, **_of(raw, SPINDLE)}


def _carrier(raw: dict[str, Any], turned: bool) -> dict[str, Any]:
    kind = "turret" if turned else "magazine"
    return {"id": kind, "kind": kind, "drives": "" if turned else "main", **_of(raw, CARRIER)}


def _nose(raw: dict[str, Any]) -> dict[str, Any]:
    return {"kind": "spindle", "id": "main", "spindle": "main", **_of(raw, ("swing_mm",))}


def _table(raw: dict[str, Any]) -> dict[str, Any]:
    size = {
        name.removeprefix("table_"): raw[name]
        for name in ("table_x_mm", "table_y_mm", "table_load_kg")
        if name in raw
    }
    return {
        "kind": "table",
        "id": "table",
        **size,
        **_of(raw, TABLE),
        "rotaries": _rotaries(raw.get("rotary")),
    }


def _rotaries(table: dict[str, Any] | None) -> list[dict[str, Any]]:
    if table is None:
        return []
    clamp = {"clamp_s": table.get("clamp_s", 0.0)}
    tilt = {
        "name": "A",
        "about": "x",
        "low_deg": table.get("tilt_low_deg"),
        "high_deg": table.get("tilt_high_deg"),
        "speed_deg_s": table.get("tilt_speed_deg_s"),
        **clamp,
        "above_mm": table.get("tilt_axis_above_mm", 0.0),
    }
    turn = {"name": "C", "about": "z", "speed_deg_s": table.get("turn_speed_deg_s"), **clamp}
    return [tilt, turn]
