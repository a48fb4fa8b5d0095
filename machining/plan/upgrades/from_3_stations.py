"""Format 3 to 4: a setup has stations.

Each setup becomes one with one station, which takes what the one before it leaves; what was kept of
how the part is held stays with the station.
"""

from __future__ import annotations

from itertools import count
from typing import Any

OF_STATION = ("orientation", "holding", "zero", "work_offset")


def step(raw: dict[str, Any]) -> dict[str, Any]:
    setups = raw.get("setups", [])
    if not isinstance(setups, list | tuple) or not all(isinstance(each, dict) for each in setups):
        return {**raw, "format": 4}
    used, changed, before = _ids(raw), [], "blank"
    for setup in setups:
        id = next(name for k in count(1) if (name := f"st{k}") not in used)
        used.add(id)
        changed.append(_setup(setup, id, before))
        before = id
    return {**raw, "format": 4, "setups": changed}


def _setup(setup: dict[str, Any], id: str, takes: str) -> dict[str, Any]:
    kept = setup.get("kept", ())
    pairs = kept if isinstance(kept, list | tuple) else ()
    held = [pair for pair in pairs if _is_of_station(pair)]
    station = {"id": id, "takes": takes, **{n: setup[n] for n in OF_STATION if n in setup}}
    if held:
        station["kept"] = held
    rest = {name: value for name, value in setup.items() if name not in OF_STATION}
    if "kept" in setup and pairs:
        rest["kept"] = [pair for pair in pairs if pair not in held]
    return {**rest, "stations": [station]}


def _is_of_station(pair: Any) -> bool:
    named = isinstance(pair, list | tuple) and pair and isinstance(pair[0], str)
    return bool(named and pair[0].startswith(("hold.", "size.")))


def _ids(raw: dict[str, Any]) -> set[Any]:
    """All ids of setups, operations and tools."""
    places = [*raw["setups"], *_records(raw.get("tools"))] if "setups" in raw else []
    inside = [op for each in places for op in _records(each.get("operations"))]
    return {each.get("id") for each in (*places, *inside) if isinstance(each.get("id"), str)}


def _records(value: Any) -> list[dict[str, Any]]:
    rows = value if isinstance(value, list | tuple) else ()
    return [each for each in rows if isinstance(each, dict)]
