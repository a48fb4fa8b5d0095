"""Other ways a part goes into what holds it, and what the cut would do to it then."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cache, cached_property
from itertools import product
from typing import get_args

import numpy as np
from shapely import maximum_inscribed_circle

from machining.geometry.columns import NOTHING, Columns, Grid, columns_of, common
from machining.geometry.frames import (
    DIRECTIONS,
    FLIPS,
    Pose,
    Turn,
    Vector,
    flip_in_words,
    orientation,
)
from machining.geometry.mesh import Mesh
from machining.geometry.regions import Region, grown, polygons_of
from machining.geometry.solids import Solid, posed, section
from machining.plan.clamped import Clamped

from .context import PlanFacts, StationFacts
from .wrong_seat import Seats

ACROSS = 120  # columns along the longest side
OTHER_MM3, OTHER_SHARE, SAME_SHARE = 5.0, 0.002, 0.0002  # less of it is how facets lie
PIN_MM, PIN_ROOM_MM, PIN_HIGH_MM = 3.0, 0.5, 4.0


@dataclass(frozen=True, slots=True)
class Pin:
    """One that keeps a part out that lies wrong: where it stands, how thick and how high over the
    seat (mm).
    """

    at: tuple[float, float]
    diameter: float
    high: float


@dataclass(frozen=True, slots=True, eq=False)
class Wrong:
    """A ``turn`` from how the part should lie, in words; where it goes in like that, what of the
    finished part is cut away (mm³) round a place (3,), and a pin against it. ``pushed`` is how far
    (mm along X and Y) it lies from the middle of where it should, against what locates it.
    ``why_not`` says why it does not go in, ``same`` that nobody can tell and it does no harm.
    """

    turn: Vector
    words: str
    why_not: str = ""
    same: bool = False
    pushed: tuple[float, float] = (0.0, 0.0)
    spoils_mm3: float = 0.0
    at: tuple[float, float, float] = (0.0, 0.0, 0.0)
    pin: Pin | None = None

    @property
    def harms(self) -> bool:
        return self.spoils_mm3 > 0.0


def every_way(station: StationFacts, facts: PlanFacts) -> tuple[Wrong, ...] | None:
    """The 23 others (before a spindle that turns it the one end for end), those that go in and do
    harm first; None where nobody knows: nothing holds it, it lies at an angle, or nothing is cut.
    """
    stand, memo = station.stand, station.arrives.memo
    known = stand.bodies and stand.lie is None and stand.wedge is None
    if not known or station.lie.up is None or station.leaves is station.arrives:
        return None
    key = ("every-way", facts.key, station.key, station.arrives.key, station.leaves.key)
    return memo.get(key, lambda: _every_way(station, facts))


def _every_way(station: StationFacts, facts: PlanFacts) -> tuple[Wrong, ...]:
    right = _Right(station, facts)
    turns = [FLIPS["x"]] if station.turns else _turns()
    found = [right.against(turn) for turn in turns]
    return tuple(sorted(found, key=lambda e: (not e.harms, bool(e.why_not), -e.spoils_mm3)))


@cache
def _turns() -> list[Vector]:
    """The 23 rotations by quarter turns that are not none."""
    every = [orientation(up, turn) for up, turn in product(DIRECTIONS, get_args(Turn))]
    return [each for each in every if not np.allclose(each, np.eye(3))]


class _Right:
    """A station's part as it should lie; what of it is asked more than once. Volumes are told in
    columns, at the same places however it lies.
    """

    def __init__(self, station: StationFacts, facts: PlanFacts) -> None:
        # as it is loaded: clamps that are put on later hold nothing yet
        self.station = station.during(station.stand.during.get("", station.stand))
        self.facts, self.lie = facts, station.lie
        self.stock = station.arrives.seen_in(self.lie)
        self.low, self.high = self.stock.bounds()
        self.seats = Seats(self.station, self.stock)
        self.grid = Grid.over(self.low, self.high, float((self.high - self.low).max()) / ACROSS)

    def _columns(self, mesh: Mesh, pose: Pose | None = None) -> Columns:
        return columns_of(mesh if pose is None else mesh.posed(pose), self.grid)

    @cached_property
    def arrives(self) -> Columns:
        return self._columns(self.stock.mesh())

    @cached_property
    def leaves(self) -> Columns:
        return self._columns(self.station.leaves.seen_in(self.lie).mesh())

    @cached_property
    def removed(self) -> float:
        return self.arrives.volume() - self.leaves.volume()

    def _cut_of(self, part: Columns) -> float:
        """How much of a part is cut away (mm³)."""
        return common(part, self.arrives).volume() - common(part, self.leaves).volume()

    @cached_property
    def always_cut(self) -> float:
        """The same however it lies: how facets lie, or a gouge of its own."""
        return self._cut_of(self._columns(self.facts.geometry.mesh, self.lie.pose))

    def against(self, turn: Vector) -> Wrong:
        found = Wrong(turn, flip_in_words(turn, self.station.turns))
        if why := self.seats.other_size(turn):
            return replace(found, why_not=why)
        wrong = self._columns(self.stock.mesh(), self.seats.turned_about(turn))
        right = self.arrives
        apart = wrong.volume() + right.volume() - 2.0 * common(wrong, right).volume()
        if apart <= max(OTHER_MM3, SAME_SHARE * right.volume()):
            return replace(found, same=True)
        seat = self.seats.of(turn)
        found = replace(found, why_not=seat.why_not, pushed=seat.pushed)
        if seat.why_not:
            return found
        lies = self._columns(self.facts.geometry.mesh, self.lie.pose.then(seat.pose))
        gone = self._cut_of(lies) - self.always_cut
        if gone <= max(OTHER_MM3, OTHER_SHARE * self.removed):
            return found
        return replace(found, spoils_mm3=gone, at=self._where(lies), pin=self._pin(seat.pose))

    def _where(self, part: Columns) -> tuple[float, float, float]:
        """The middle of what is cut of it in the column where that is most."""
        met, left = common(part, self.arrives), common(part, self.leaves)
        lost = (met.tops - met.lows).sum(axis=2) - (left.tops - left.lows).sum(axis=2)
        i, j = np.unravel_index(int(lost.argmax()), lost.shape)
        x, y = self.grid.places()
        kept = float(left.tops[i, j].max(initial=NOTHING))
        high = float(met.tops[i, j].max(initial=NOTHING))
        low = max(kept, high - float(lost[i, j]))
        return round(float(x[i, j]), 1), round(float(y[i, j]), 1), round((high + low) / 2.0, 1)

    def _pin(self, pose: Pose) -> Pin | None:
        """Where it lies on a plate or a table that one can stand in."""
        if not isinstance(self.station.planned.holding, Clamped):
            return None
        return _pin(self.stock.solid, posed(self.stock.solid, pose), float(self.low[2]))


def _pin(right: Solid, wrong: Solid, seat: float) -> Pin | None:
    """The thickest that stands clear of the part as it should lie, and in the way otherwise."""
    here = grown(_low(right, seat), PIN_ROOM_MM)
    free: Region = _low(wrong, seat).difference(here)
    spots = [maximum_inscribed_circle(each, tolerance=0.2) for each in polygons_of(free)]
    best = max(spots, key=lambda line: line.length, default=None)
    if best is None or 2.0 * best.length < PIN_MM:
        return None
    x, y = (round(each, 1) for each in best.coords[0])
    return Pin((x, y), float(int(2.0 * best.length)), PIN_HIGH_MM)


def _low(solid: Solid, seat: float) -> Region:
    """What of it stands over the seat as high as a pin."""
    levels = [section(solid, seat + share * PIN_HIGH_MM) for share in (0.1, 0.5, 1.0)]
    found = levels[0]
    for each in levels[1:]:
        found = found.union(each)
    return found
