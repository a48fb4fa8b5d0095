"""What a shop runs on a machine to time it: each long enough for a watch held in a hand."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from math import ceil
from typing import Literal

import numpy as np

from machining.geometry.frames import Vector
from machining.quantities.checks import within
from machining.world.capability import Rig

from ..timing import Drive, path_time, rapid_time
from .values import Values, axis_of, bar_feed_s, pallet_change_s

LONG_ENOUGH_S = 20.0
MOST_REPEATS = 400
LONG_SHARE, MOST_LONG_MM = 0.6, 400.0
SHORT_MM, MIDDLE_MM, SIDE_MM = 2.0, 25.0, 3.0
FAR_DEG, NEAR_DEG = 180.0, 5.0
SIDES = 24  # of what is nearly round: its corners hold back most where they are blunt
BLOCK_MM, LINE_MM = 0.1, 40.0
FEED_SHARE = 0.5  # of its highest feed, round the squares
AXES = "XYZ"

Kind = Literal["rapid", "feed", "spindle", "change", "codes", "turn", "pallet", "probe", "bar"]
# what is one value each, and takes as long every time
SIMPLE: dict[str, Callable[[Values], float]] = {
    "change": lambda values: values.change_s,
    "pallet": lambda values: values.pallet_s,
    "probe": lambda values: values.probe_s,
    "bar": lambda values: values.bar_s,
}


@dataclass(frozen=True, slots=True, eq=False)
class Run:
    """``points`` (n, 3) from where it starts, there and back or once round, at a feed (mm/min), or
    so many ``degrees`` of an axis there and back, so many times without a pause. ``what`` says it
    in words.
    """

    id: str
    what: str
    kind: Kind
    repeats: int
    points: Vector
    feed: float = 0.0
    degrees: float = 0.0

    def seconds(self, values: Values, like: Drive) -> float:
        """What it takes on a machine of these values."""
        if self.kind == "spindle":
            return self.repeats * 2.0 * values.start_s
        if self.kind in SIMPLE:
            return self.repeats * SIMPLE[self.kind](values)
        if self.kind == "codes":
            return self.repeats * 2.0 * values.code_s
        if self.kind == "turn":
            way = self.degrees / values.turn_deg_s + values.clamp_s
            return self.repeats * 2.0 * way
        drive = values.drive(like)
        if self.kind == "rapid":
            ways = zip(self.points[:-1], self.points[1:], strict=True)
            return self.repeats * sum(rapid_time(a, b, drive) for a, b in ways)
        once = path_time(self.path(1), self.feed, drive)
        if self.repeats == 1:
            return once
        twice = path_time(self.path(2), self.feed, drive)
        return twice + (self.repeats - 2) * (twice - once)  # every further round is like the second

    def path(self, times: int) -> Vector:
        """So often what is fed along without a stop."""
        again = [self.points[1:]] * (times - 1)
        return np.concatenate([self.points, *again])


@dataclass(frozen=True, slots=True)
class Timed:
    """What a run took by the watch. Raises OutOfRange for none from half a second to an hour."""

    run: str
    seconds: float

    def __post_init__(self) -> None:
        within(f"time of {self.run}", self.seconds, 0.5, 3600.0)


def runs_for(rig: Rig) -> tuple[Run, ...]:
    """Those that tell a machine's values apart, for its own travel: as often as its record expects
    a watch to need, or as they were timed before.
    """
    values, drive, travel = Values.of(rig), Drive.of(rig), rig.carrier.travel
    found = list[Run]()
    for k, most in enumerate((travel.x, travel.y, travel.z)):
        if most <= 0.0:
            continue
        long = float(int(min(LONG_SHARE * most, MOST_LONG_MM) / 10.0) * 10)
        for name, way in (("long", long), ("middle", MIDDLE_MM), ("short", SHORT_MM)):
            out = np.zeros((3, 3))
            out[1, k] = way
            what = f"{AXES[k]} {way:g} mm there and back by rapid"
            found.append(
                _enough(f"{AXES[k].lower()}-{name}", what, "rapid", out, 0.0, drive, values)
            )
    found += _fed(rig, drive, values)
    none = np.zeros((1, 3))
    if rig.spindle.turns == "tool":
        what = f"spindle from rest to {rig.spindle.max_rpm:g} rpm and back"
        found.append(_enough("spindle", what, "spindle", none, 0.0, drive, values))
    what = "change between two short tools, from chip to chip"
    found.append(_enough("change", what, "change", none, 0.0, drive, values))
    found += _beside(rig, drive, values)
    known = {each.run: each.repeats for each in rig.machine.timed}
    return tuple(replace(each, repeats=known.get(each.id, each.repeats)) for each in found)


def _beside(rig: Rig, drive: Drive, values: Values) -> list[Run]:
    """Codes, an axis that turns the work, pallets, a probe, a bar that is fed, where they are."""
    none = np.zeros((1, 3))
    what = "coolant on and off again, with nothing between"
    found = [_enough("codes", what, "codes", none, 0.0, drive, values)]
    axis = axis_of(rig)
    if axis is not None:
        far = min(FAR_DEG, axis.high_deg)
        for name, way in (("far", far), ("near", NEAR_DEG)):
            what = f"{axis.name} {way:g}° there and back by rapid, each position clamped"
            found.append(
                _enough(f"turn-{name}", what, "turn", none, 0.0, drive, values, degrees=way)
            )
    if pallet_change_s(rig) is not None:
        what = "pallets changed, empty, from the machine's own buttons"
        found.append(_enough("pallet", what, "pallet", none, 0.0, drive, values))
    if rig.carrier.probe_touch_s:
        what = "one place probed by a cycle of the control, from over it and back"
        found.append(_enough("probe", what, "probe", none, 0.0, drive, values))
    if bar_feed_s(rig):
        what = "bar fed on by a cycle of the machine, clamped again"
        found.append(_enough("bar", what, "bar", none, 0.0, drive, values))
    return found


def _fed(rig: Rig, drive: Drive, values: Values) -> list[Run]:
    """Round squares and along tiny blocks, at feeds that its corners and its control hold back."""
    k = 1 if rig.carrier.travel.y > 0.0 else 2
    feed = round(FEED_SHARE * rig.machine.max_feed_mm_min, -2)
    what = f"round a square of {SIDE_MM:g} mm at {feed:g} mm/min"
    blunt = f"round {SIDES} sides of {SIDE_MM:g} mm at {feed:g} mm/min"
    steps = np.zeros((2 * round(LINE_MM / BLOCK_MM) + 1, 3))
    there = np.arange(round(LINE_MM / BLOCK_MM) + 1) * BLOCK_MM
    steps[:, 0] = np.concatenate([there, there[-2::-1]])
    fast = rig.machine.max_feed_mm_min
    tiny = f"X {LINE_MM:g} mm there and back in blocks of {BLOCK_MM:g} mm at {fast:g} mm/min"
    return [
        _enough("squares", what, "feed", _round(4, k), feed, drive, values),
        _enough("rounds", blunt, "feed", _round(SIDES, k), feed, drive, values),
        _enough("blocks", tiny, "feed", steps, fast, drive, values),
    ]


def _round(sides: int, k: int) -> Vector:
    """Once round sides of one length, along X first."""
    ways = np.arange(sides) * 2.0 * np.pi / sides
    points = np.zeros((sides + 1, 3))
    points[1:, 0] = np.cumsum(SIDE_MM * np.cos(ways))
    points[1:, k] = np.cumsum(SIDE_MM * np.sin(ways))
    return points.round(4)


def _enough(
    id: str,
    what: str,
    kind: Kind,
    points: Vector,
    feed: float,
    drive: Drive,
    values: Values,
    degrees: float = 0.0,
) -> Run:
    once = Run(id, what, kind, 1, points, feed, degrees)
    repeats = min(max(ceil(LONG_ENOUGH_S / once.seconds(values, drive)), 1), MOST_REPEATS)
    return replace(once, repeats=repeats)
