"""How a load of many parts is put on the table, and the zero of every position."""

from __future__ import annotations

from typing import Any

import numpy as np

from machining.drawing.load import load_drawing
from machining.facts import head
from machining.facts.beside import clear_height
from machining.facts.context import PlanFacts, SetupFacts, StationFacts
from machining.facts.loaded import LoadSeen, StationSeen, load_seen
from machining.world.rotary_axis import RotaryAxis

from .written import Written

SENSES = {
    "x": "raises the front to the tool",
    "y": "brings the right side to the tool",
    "z": "turns counter-clockwise, seen from the tool",
}
HEAD = {"x": "tilts the head: its tool comes from the front", "y": "tilts it to the right side"}
ORDERS = {
    "by tool": "Tool by tool: each tool works at all positions before the next one comes.",
    "by part": "Part by part: all tools work at a position before the next one begins.",
}
REFERENCES = {
    "machine": "Machine positions, no tool length in Z.",
    "first position": "Differences from the first position: set that one, then add these.",
    "": "",
}


def load(seen: SetupFacts, facts: PlanFacts, w: Written) -> dict[str, Any] | None:
    """The load from above, its offsets with room to write in what was measured, and the order;
    None where a single part stands on the table itself and no axis turns.
    """
    found = load_seen(seen, facts, seen.first.arrives.memo)
    if found is None:
        return None
    if len(found.offsets) < 2 and not (found.swings or found.plate or _tilts(seen)):
        return None
    rows, height = _rows(seen, found, w), clear_height(seen, facts)
    several = sum(each.planned.positions for each in seen.stations) > 1
    return {
        "drawing": load_drawing(found, f"Setup {seen.number}: the load from above", w.system),
        "rows": rows,
        "turned": any(row["index"] for row in rows),
        "senses": _senses(seen, found, w),
        "several": len(found.stations) > 1,
        "reference": REFERENCES[found.stations[0].spots[0].reference],
        "order": ORDERS[seen.planned.order] if several else "",
        "between": several
        and [
            f"{_codes(station)}: at Z {w.both(_over(each, height), 'length')} or higher"
            for station, each in zip(found.stations, seen.stations, strict=True)
        ],
        "check": "The common offset is taken to be 0: check it before the first tool.",
    }


def _senses(seen: SetupFacts, found: LoadSeen, w: Written) -> list[str]:
    """Which way each axis turns that is asked to, and what goes round with it."""
    lines = []
    place = seen.first.place
    for axis in place.rotaries if place is not None else ():
        round_ = next((each for each in found.swings if each.axis == axis.name), None)
        if round_ is not None:
            across = w.both(round_.across_mm, "length")
            lines.append(
                f"{axis.name}90 {SENSES[axis.about]}: confirm it at the machine before the first"
                f" turn. Ø {across} goes round about it; draw the tool back first."
            )
    for axis in _tilts(seen):
        lines.append(
            f"{axis.name}90 {HEAD[axis.about]}: confirm it before the first tilt, Z all the way up."
            " Offsets stay as they are; the program turns its plane."
        )
    if any(each.side for each in found.offsets):
        lines.append("Between positions of a turned side draw the tool back all the way too.")
    return lines


def _tilts(seen: SetupFacts) -> list[RotaryAxis]:
    """The axis of its machine's head, where an operation tilts it."""
    tilts = (head.tilt_of(op) for station in seen.stations for op in station.operations)
    return list({each[0].name: each[0] for each in tilts if each is not None}.values())


def _codes(station: StationSeen) -> str:
    codes = [spot.code for spot in station.spots if spot.code]
    return codes[0] if len(set(codes)) == 1 else f"{codes[0]} to {codes[-1]}"


def _over(station: StationFacts, height: float) -> float:
    """A height over the table (mm) as the station's own Z has it."""
    return height - float(station.on_place(np.zeros(3), 0)[2])


def _rows(seen: SetupFacts, found: LoadSeen, w: Written) -> list[dict[str, Any]]:
    """A zero a line; of positions that share an offset all but the first say how far on. On a
    tombstone the first alone: the rows of the drawing say where the others are.
    """
    rows, faces = [], found.tombstone is not None
    last = {(each.station, each.code): each.position for each in found.offsets}
    for each in found.offsets:
        if each.from_first and faces:
            continue
        to = last[each.station, each.code] if faces else each.position
        rows.append(
            {
                "station": each.station,
                "position": str(each.position) + (f" to {to}" if to > each.position else ""),
                "side": each.side,
                "code": "from the first" if each.from_first else each.code,
                "at": [_value(v, each.from_first, w) for v in each.at or (None, None, None)],
                "index": each.index,
            }
        )
    return rows


def _value(value: float | None, step: bool, w: Written) -> str:
    if value is None:
        return "–"
    return ("+" if step and value >= 0 else "") + w.n(value, "length")
