"""Format 4 to 5: each axis of a zero is taken from a place of its own.

X and Y were both of the blank, of the part or on one hole; Z was its own already.
"""

from __future__ import annotations

from typing import Any

Z_ENDS = {"top": "high", "bottom": "low"}


def step(raw: dict[str, Any]) -> dict[str, Any]:
    setups = raw.get("setups", [])
    if not isinstance(setups, list | tuple):
        return {**raw, "format": 5}
    return {**raw, "format": 5, "setups": [_setup(each) for each in setups]}


def _setup(setup: Any) -> Any:
    stations = setup.get("stations") if isinstance(setup, dict) else None
    if not isinstance(stations, list | tuple):
        return setup
    return {**setup, "stations": [_station(each) for each in stations]}


def _station(station: Any) -> Any:
    zero = station.get("zero") if isinstance(station, dict) else None
    if not isinstance(zero, dict):
        return station
    of = zero.get("of", "stock")
    said = {"reason": zero["reason"]} if "reason" in zero else {}
    upright = {"of": zero.get("z_of", "part"), "at": _end(zero.get("z", "top"))}
    sideways = {axis: _sideways(zero, of, axis) for axis in ("x", "y")}
    return {**station, "zero": {**sideways, "z": upright, **said}}


def _sideways(zero: dict[str, Any], of: Any, axis: str) -> dict[str, Any]:
    if of == "hole":
        return {"of": "hole", "feature": zero.get("hole", "")}
    return {"of": of, "at": zero.get(axis, "middle")}


def _end(z: Any) -> Any:
    return Z_ENDS.get(z, z) if isinstance(z, str) else z
