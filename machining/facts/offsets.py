"""Which work offset each position keeps its zero in, and where that zero is."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

import numpy as np

from machining.world.machine import Machine, Table

from .context import PlanFacts, SetupFacts, StationFacts

Reference = Literal["machine", "first position", ""]


@dataclass(frozen=True, slots=True)
class Offset:
    """The zero of a position (counted from 1): ``at`` is where the machine's tool, of no length,
    stands on it (x, y, z), mm. From the ``reference``: the machine's own zero, or the first
    position on the same table where nobody has measured where the table is. Before a spindle that
    turns the part nothing is known of it. ``angles`` are those of the rotary axes it is taken at,
    by the axis's letter, degrees. ``code`` is empty where the machine has no offset left for it.
    """

    setup: SetupFacts
    station: StationFacts
    position: int
    code: str
    reference: Reference
    at: tuple[float, float, float] | None
    angles: dict[str, float]


def codes_of(station: StationFacts) -> list[str]:
    """The offset of each position; empty where the machine has none left."""
    planned, machine = station.planned, station.machine
    if not planned.offset_each:
        return [planned.work_offset] * planned.positions
    following = [*_from(planned.work_offset, machine)][: planned.positions]
    return following + [""] * (planned.positions - len(following))


def _from(code: str, machine: Machine | None) -> Iterator[str]:
    known = machine.work_offsets if machine is not None else ()
    yield code
    if code in known:
        yield from known[known.index(code) + 1 :]


def offsets_of(facts: PlanFacts) -> Iterator[Offset]:
    """Of every position, setup by setup."""
    for setup in facts.setups:
        first = dict[str, np.ndarray]()
        for station in setup.stations:
            place = station.place
            for k, code in enumerate(codes_of(station)):
                if not isinstance(place, Table):
                    yield Offset(setup, station, k + 1, code, "", None, {})
                    continue
                stands = station.on_place(np.zeros(3), k)
                from_first = stands - first.setdefault(place.id, stands)
                at = from_first if place.middle is None else stands + place.middle
                x, y, z = (float(each) for each in at)
                reference: Reference = "first position" if place.middle is None else "machine"
                angles = {axis.name.lower()[:1]: 0.0 for axis in place.rotaries}
                yield Offset(setup, station, k + 1, code, reference, (x, y, z), angles)
