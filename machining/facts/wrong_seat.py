"""Where a part comes to lie that is put in turned: down on its seats, pushed against what locates
it.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass

import numpy as np
from shapely import box
from shapely.affinity import translate

from machining.geometry.frames import Pose, Vector
from machining.geometry.regions import Region, grown
from machining.geometry.solids import Solid, above, below, bounds, outline, posed
from machining.holding.contacts import Contact
from machining.plan.clamped import Clamped
from machining.world.clamping import ScrewDown
from machining.world.gear import Gear

from . import hold
from .context import StationFacts
from .holdings import travel_of_jaws
from .state import State

SEEN_MM, SEEN_SHARE = 3.0, 0.05  # so much larger or smaller is seen by who puts it in
UPRIGHT, NEAR_MM, IN_MM = 0.99, 0.05, 0.2
LEAST_WIDE_MM, SOME_MM2 = 0.5, 1.0
PUSHES = 3  # one way and the other: what it touches depends on where it lies along that


@dataclass(frozen=True, slots=True, eq=False)
class Seat:
    """How a part lies that was turned: its pose from where it should lie, how far it was pushed
    (mm) from lying in the middle of that; or ``why_not``.
    """

    pose: Pose
    pushed: tuple[float, float] = (0.0, 0.0)
    why_not: str = ""


@dataclass(frozen=True, slots=True)
class _Side:
    """An upright face that touches the part: across which axis, which way towards it, where, and
    what of it in plan along and in height.
    """

    body: str
    k: int
    sign: float
    at: float
    along: tuple[float, float]
    high: tuple[float, float]
    presses: bool


class Seats:
    """What a part lies on and against as it should."""

    def __init__(self, station: StationFacts, stock: State) -> None:
        self.station, self.stock = station, stock
        self.low = float(stock.bounds()[0][2])
        every, _ = next(iter(hold.layers(station))).touches(stock)
        self.touched = list(dict.fromkeys(each.body for each in every))
        self.sides = [] if station.turns else list(_sides(every))

    def turned_about(self, turn: Vector) -> Pose:
        """A turn about its middle."""
        low, high = self.stock.bounds()
        middle = (low + high) / 2.0
        return Pose(turn, middle - turn @ middle)

    def other_size(self, turn: Vector) -> str:
        """Along which axis it is larger or smaller most, where that is seen by who puts it in."""
        low, high = self.stock.bounds()
        size = high - low
        off = np.abs(turn) @ size - size
        if (np.abs(off) <= np.minimum(SEEN_MM, SEEN_SHARE * size)).all():
            return ""
        k = int(np.abs(off).argmax())
        return f"{'longer' if off[k] > 0 else 'shorter'} along {'XYZ'[k]}"

    def of(self, turn: Vector) -> Seat:
        """Where it comes to lie after a turn."""
        pose = self.turned_about(turn)
        turned = posed(self.stock.solid, pose)
        down = self.low - float(bounds(turned)[0][2])
        x, y = self._pushed(turned)
        by = np.array([x, y, down])
        return Seat(pose.moved(by), (x, y), self._why_not(turned.translate(by), pose.moved(by)))

    def _pushed(self, turned: Solid) -> tuple[float, float]:
        """As far as it goes towards each side it should touch, the longest first."""
        firm = defaultdict[tuple[int, float], list[_Side]](list)
        for each in self.sides:
            if not each.presses:
                firm[each.k, each.sign].append(each)
        longest = sorted(firm.values(), key=lambda sides: -_long(sides))
        at, bands = [0.0, 0.0], {each: _band(turned, each.high) for each in self.sides}
        for _ in range(PUSHES):
            for sides in longest:
                gaps = [_gap(bands[each], each, at) for each in sides]
                known = [gap for gap in gaps if gap is not None]
                if known and abs(least := min(known)) > NEAR_MM:
                    at[sides[0].k] += sides[0].sign * least
        return round(at[0], 3), round(at[1], 3)

    def _why_not(self, turned: Solid, pose: Pose) -> str:
        lying = self._state(turned, pose)
        if why := travel_of_jaws.refuses(self.station, lying):
            return why
        if not self.station.turns and (why := self._in_the_way(turned)):
            return why
        missing = [each for each in self.touched if each not in self._bodies(lying)]
        missing = [each for each in missing if not self._closes_on(each, turned, pose)]
        return f"nothing at {missing[0]}" if missing else ""

    def _closes_on(self, body: str, turned: Solid, pose: Pose) -> bool:
        """Does what presses from beside come a little farther, and touch it then?"""
        for each in self.sides:
            gap = _gap(_band(turned, each.high), each, (0.0, 0.0)) if each.body == body else None
            if gap is not None and each.presses and NEAR_MM < gap <= SEEN_MM:
                by = gap * each.sign * np.eye(3)[each.k]
                return body in self._bodies(self._state(turned.translate(by), pose.moved(by)))
        return False

    def _in_the_way(self, turned: Solid) -> str:
        """What stands there and does not give way."""
        for body in self.station.stand.bodies:
            if not body.moves and body.top > self.low + NEAR_MM:
                band = _band(turned, (max(body.bottom, self.low), body.top))
                if band.intersection(grown(body.region, -IN_MM)).area > SOME_MM2:
                    return f"{body.name or body.of or body.role} in its way"
        for name, shank in _shanks(self.station):
            if outline(turned).intersection(shank).area > SOME_MM2:
                return f"no hole for {name}"
        return ""

    def _state(self, solid: Solid, pose: Pose) -> State:
        key = f"{self.stock.key}/{pose.rotation.tolist()}/{pose.origin.round(3).tolist()}"
        return State(lambda: solid, key, self.stock.memo, self.stock.lie)

    def _bodies(self, state: State) -> set[str]:
        every, _ = next(iter(hold.layers(self.station))).touches(state)
        return {each.body for each in every}


def _sides(every: Iterable[Contact]) -> Iterator[_Side]:
    by = defaultdict[tuple[str, int, float, bool], list[Contact]](list)
    for each in every:
        k = int(np.abs(each.normal).argmax())
        if k < 2 and abs(each.normal[k]) > UPRIGHT:
            by[each.body, k, -np.sign(each.normal[k]), each.group is not None].append(each)
    for (body, k, sign, presses), found in by.items():
        at = np.array([each.at for each in found])
        low, high = at.min(axis=0), at.max(axis=0)
        middle, half = (low + high) / 2.0, np.maximum(high - low, LEAST_WIDE_MM) / 2.0
        along, up = ((float(middle[i] - half[i]), float(middle[i] + half[i])) for i in (1 - k, 2))
        yield _Side(body, k, sign, float(sign * (sign * at[:, k]).max()), along, up, presses)


def _long(sides: list[_Side]) -> float:
    return sum(each.along[1] - each.along[0] for each in sides)


def _band(solid: Solid, high: tuple[float, float]) -> Region:
    """What of it stands between two heights, in plan."""
    return outline(above(below(solid, high[1]), high[0]))


def _gap(band: Region, side: _Side, pushed: Sequence[float]) -> float | None:
    """How far (mm) it goes towards a side until it touches, under 0 where it has to come back; None
    where nothing of it stands before that.
    """
    (first, last), far = side.along, 1e4
    edges = (-far, first, far, last) if side.k == 0 else (first, -far, last, far)
    met = translate(band, *pushed).intersection(box(*edges))
    if met.is_empty:
        return None
    ends = met.bounds[side.k], met.bounds[side.k + 2]
    return side.sign * side.at - max(side.sign * each for each in ends)


def _shanks(station: StationFacts) -> Iterator[tuple[str, Region]]:
    """Of screws through the part, in plan."""
    held, gear = station.planned.holding, station.item
    if not isinstance(held, Clamped) or not isinstance(gear, Gear):
        return
    for body in station.stand.of("clamp"):
        number = body.name.removeprefix("clamp ")
        item = gear.clamps[held.clamps[int(number) - 1].clamp] if number.isdigit() else None
        if isinstance(item, ScrewDown):
            yield body.name, body.region.centroid.buffer(item.thread_mm / 2.0 - IN_MM)
