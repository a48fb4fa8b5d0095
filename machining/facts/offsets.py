"""Which work offset each position keeps its zero in, and where that zero is: one for each side that
is turned to the tool, unless the control carries a zero round.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import count
from typing import Literal

import numpy as np

from machining.world.machine import Machine, Table

from . import index
from .context import PlanFacts, SetupFacts, StationFacts

Reference = Literal["machine", "first position", ""]


@dataclass(frozen=True, slots=True)
class Offset:
    """The zero of a position (counted from 1): ``at`` is where the machine's tool, of no length,
    stands on it (x, y, z), mm. From the ``reference``: the machine's own zero, or the first
    position on the same table where nobody has measured where the table is. Before a spindle that
    turns the part nothing is known of it. ``angles`` are those of the rotary axes it is taken at,
    by the axis's letter, degrees, with its ``side`` turned to the tool, None for what is up there.
    ``code`` is empty where the machine has no offset left for it.
    """

    setup: SetupFacts
    station: StationFacts
    position: int
    code: str
    reference: Reference
    at: tuple[float, float, float] | None
    angles: dict[str, float]
    side: index.Aim | None = None


def codes_of(station: StationFacts) -> list[str]:
    """The offset of each position as it stands; empty where the machine has none left."""
    return all_codes(station)[: station.planned.positions]


def all_codes(station: StationFacts) -> list[str]:
    """Of each position as it stands, then with each of its sides turned to the tool."""
    wanted = _wanted(station)
    following = _from(station.planned.work_offset, station.machine)
    codes = [code for _, code in zip(range(max(wanted) + 1), following, strict=False)]
    return [codes[k] if k < len(codes) else "" for k in wanted]


def _wanted(station: StationFacts) -> list[int]:
    """The same as numbers, counted from its first."""
    each = station.planned.offset_each
    apart = [*range(station.planned.positions)] if each else _by_face(station)
    views = 1 + len(_sides(station))
    return [view * (max(apart) + 1) + k for view in range(views) for k in apart]


def _sides(station: StationFacts) -> dict[index.Aim, index.Turned]:
    """Those with a zero of their own: none where the control carries one round, or the work turns
    about its zero. A head leaves them alone: of sides the work is turned alike for, the first.
    """
    if station.turns or _is_carried(station.machine):
        return {}
    found, known = dict[index.Aim, index.Turned](), set[tuple[float, ...]]()
    for side, way in index.sides(station).items():
        at = tuple(round(to, 4) for _, to in way.of_work)
        if any(at) and at not in known:
            known.add(at)
            found[side] = way
    return found


def offsets_wanted(station: StationFacts) -> int:
    """How many its positions keep their zeros in, whether the machine has them or not."""
    return max(_wanted(station)) + 1


def _by_face(station: StationFacts) -> list[int]:
    """Positions that look to the tool together share an offset: the program goes by their pitch."""
    faces = [station.turned_deg(k) for k in range(station.planned.positions)]
    if _is_carried(station.machine):
        return [0] * len(faces)
    order = dict(zip(dict.fromkeys(faces), count(), strict=False))
    return [order[each] for each in faces]


def _is_carried(machine: Machine | None) -> bool:
    """Does its control carry a zero round with its axes?"""
    return machine is not None and machine.carries_zero


def _from(code: str, machine: Machine | None) -> Iterator[str]:
    known = machine.work_offsets if machine is not None else ()
    yield code
    if code in known:
        yield from known[known.index(code) + 1 :]


def offsets_of(facts: PlanFacts) -> Iterator[Offset]:
    """Of every position, setup by setup; those of turned sides after those that stand."""
    for setup in facts.setups:
        first = dict[str, np.ndarray]()
        for station in setup.stations:
            yield from _of_station(setup, station, first)


def _of_station(
    setup: SetupFacts, station: StationFacts, first: dict[str, np.ndarray]
) -> Iterator[Offset]:
    place, codes = station.place, all_codes(station)
    if not isinstance(place, Table):
        for k, code in enumerate(codes_of(station)):
            yield Offset(setup, station, k + 1, code, "", None, {})
        return
    reference: Reference = "first position" if place.middle is None else "machine"
    views = [(None, None), *_sides(station).items()]
    each_code = iter(codes)
    for side, way in views:
        stand = index.origins_of(station, None if way is None else way.of_work_rotation)
        for k, stands in enumerate(stand):
            from_first = stands - first.setdefault(place.id, stands)
            at = from_first if place.middle is None else stands + place.middle
            x, y, z = (float(each) for each in at)
            to = index.angles_of(station, k, way) or {}
            angles = {e.name.lower()[:1]: to[e.name] for e in place.turning if e.name in to}
            code = next(each_code)
            yield Offset(setup, station, k + 1, code, reference, (x, y, z), angles, side)
