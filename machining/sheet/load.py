"""How a load of many parts is put on the table, and the zero of every position."""

from __future__ import annotations

from typing import Any

import numpy as np

from machining.drawing.load import load_drawing
from machining.facts.beside import clear_height
from machining.facts.context import PlanFacts, SetupFacts, StationFacts
from machining.facts.loaded import LoadSeen, StationSeen, load_seen

from .written import Written

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
    None where a single part stands there.
    """
    if sum(each.planned.positions for each in seen.stations) < 2:
        return None
    found = load_seen(seen, facts, seen.first.arrives.memo)
    if found is None:
        return None
    rows, height = _rows(seen, found, w), clear_height(seen, facts)
    return {
        "drawing": load_drawing(found, f"Setup {seen.number}: the load from above", w.system),
        "rows": rows,
        "several": len(found.stations) > 1,
        "reference": REFERENCES[found.stations[0].spots[0].reference],
        "order": ORDERS[seen.planned.order],
        "between": [
            f"{_codes(station)}: at Z {w.both(_over(each, height), 'length')} or higher"
            for station, each in zip(found.stations, seen.stations, strict=True)
        ],
        "check": "The common offset is taken to be 0: check it before the first tool.",
    }


def _codes(station: StationSeen) -> str:
    codes = [spot.code for spot in station.spots if spot.code]
    return codes[0] if len(set(codes)) == 1 else f"{codes[0]} to {codes[-1]}"


def _over(station: StationFacts, height: float) -> float:
    """A height over the table (mm) as the station's own Z has it."""
    return height - float(station.on_place(np.zeros(3), 0)[2])


def _rows(seen: SetupFacts, found: LoadSeen, w: Written) -> list[dict[str, Any]]:
    """A position a line; of positions that share an offset all but the first say how far on."""
    rows = []
    for number, (station, planned) in enumerate(
        zip(found.stations, (each.planned for each in seen.stations), strict=True), 1
    ):
        first = station.spots[0].at
        for k, spot in enumerate(station.spots):
            shared = k > 0 and not planned.offset_each and first is not None
            at = spot.at
            values = [None] * 3 if at is None else at
            if shared and first is not None and at is not None:
                values = [value - begun for value, begun in zip(at, first, strict=True)]
            rows.append(
                {
                    "station": number,
                    "position": k + 1,
                    "code": "from the first" if shared else spot.code,
                    "at": [
                        "–" if v is None else ("+" if shared and v >= 0 else "") + w.n(v, "length")
                        for v in values
                    ],
                }
            )
    return rows
