"""Where the positions of a station stand on its table, all of them at once."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from machining.geometry.frames import Vector
from machining.placing import rotary
from machining.world.machine import Table

from . import index
from .around import tombstone_outline
from .context import StationFacts


@dataclass(frozen=True, slots=True)
class Carrier:
    """A tombstone under its parts: an outline in X and Z, from ``low`` to ``high`` along Y, mm from
    the middle of its table with the axes at 0.
    """

    corners: tuple[tuple[float, float], ...]
    low: float
    high: float


def stands(station: StationFacts) -> list[Vector]:
    """For each position the 3x4 matrix from its station's frame to the table's, with its axes at 0;
    none before a spindle, or where nobody knows on what it stands.
    """
    if not isinstance(station.place, Table):
        return []
    pivot = index.centre(station.place)
    found = []
    for k in range(station.planned.positions):
        turn = rotary.turn_about("y", -station.turned_deg(k))
        origin = rotary.carried_round(station.on_place(np.zeros(3), k), turn, pivot)
        found.append(np.column_stack([turn, origin]))
    return found


def carrier(station: StationFacts) -> Carrier | None:
    """The tombstone it stands on."""
    on, table = station.tombstone, station.place
    if on is None or not isinstance(table, Table) or table.surface_below_mm is None:
        return None
    low = -table.surface_below_mm
    corners = tuple((x, -y) for x, y in tombstone_outline(on).exterior.coords[:-1])
    return Carrier(corners, low, low + on.tall_mm)
