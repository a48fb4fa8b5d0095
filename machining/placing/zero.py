"""Where a setup's zero is, and how part and stock lie in its frame."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from machining.geometry.frames import (
    DIRECTIONS,
    Direction,
    Pose,
    Vector,
    axis,
    named,
    orientation,
)
from machining.plan.document import Orientation, Station, Zero
from machining.quantities.errors import Missing, OutOfRange
from machining.world.feature import Hole
from machining.world.geometry import PartGeometry


@dataclass(frozen=True)
class Lie:
    """``pose`` maps part coordinates to the setup frame, whose origin is the work zero. Bounds are
    in that frame.
    """

    pose: Pose
    part_low: Vector
    part_high: Vector
    stock_low: Vector
    stock_high: Vector

    @cached_property
    def key(self) -> tuple[float, ...]:
        return (*self.pose.rotation.ravel().tolist(), *np.round(self.pose.origin, 9).tolist())

    def looks(self, side: Direction) -> Direction:
        """Which way, in this frame, a side of the part looks."""
        return self._ways[side]

    @cached_property
    def _ways(self) -> dict[Direction, Direction]:
        ways: dict[Direction, Direction] = {}
        for side in DIRECTIONS:
            way = named(self.pose.rotation @ axis(side))
            assert way is not None  # a part lies along the machine's axes
            ways[side] = way
        return ways


def aimed(lie: Lie, aim: Direction) -> Lie:
    """The same part, held as it is, with another side of it turned to the tool about its zero."""
    turn = orientation(aim, 0)
    from_here = turn @ lie.pose.rotation.T
    part = rotated_bounds(from_here, lie.part_low, lie.part_high)
    stock = rotated_bounds(from_here, lie.stock_low, lie.stock_high)
    return Lie(Pose(turn, from_here @ lie.pose.origin), *part, *stock)


def rotated_bounds(rotation: Vector, low: Vector, high: Vector) -> tuple[Vector, Vector]:
    """Bounds of an axis-parallel box after an axis-aligned rotation."""
    a, b = rotation @ low, rotation @ high
    return np.minimum(a, b), np.maximum(a, b)


def lie_of(station: Station, geometry: PartGeometry, stock_bounds: tuple[Vector, Vector]) -> Lie:
    """How the part lies in a station; stock bounds are those of the stock as it comes to it, in
    part coordinates.

    Raises Missing for a zero on a hole that isn't there, OutOfRange for one whose axis doesn't
    stand upright.
    """
    turn = _rotation(station.orientation)
    part = rotated_bounds(turn, *geometry.bounds)
    stock = rotated_bounds(turn, *stock_bounds)
    point = resolve(station.zero, turn, part, stock, geometry)
    return Lie(
        Pose(turn, -point), part[0] - point, part[1] - point, stock[0] - point, stock[1] - point
    )


def _rotation(of: Orientation) -> Vector:
    return orientation(of.up, of.turn)


def resolve(
    zero: Zero,
    turn: Vector,
    part: tuple[Vector, Vector],
    stock: tuple[Vector, Vector],
    geometry: PartGeometry,
) -> Vector:
    """The zero as a point in the turned part's coordinates."""
    low, high = part if zero.of != "stock" else stock
    places = {"low": low, "middle": (low + high) / 2.0, "high": high}
    x, y = float(places[zero.x][0]), float(places[zero.y][1])
    if zero.of == "hole":
        hole = geometry.feature(zero.hole)
        if not isinstance(hole, Hole):
            raise Missing("Zero's hole", zero.hole)
        direction = turn[:, "xyz".index(hole.axis[1])]
        if abs(direction[2]) < 0.999:
            raise OutOfRange(
                "Zero's hole", hole.id, "a hole whose axis stands upright in this setup"
            )
        x, y, _ = (turn @ np.array(hole.point)).tolist()
    z_low, z_high = part if zero.z_of == "part" else stock
    return np.array([x, y, float((z_high if zero.z == "top" else z_low)[2])])


def in_words(zero: Zero, turned: bool = False) -> tuple[str, str]:
    """XY and Z of a zero as a person says them; on a lathe X is on the spindle's axis."""
    names = {"stock": "the blank", "part": "the finished part"}
    if turned:
        sideways = "X on the spindle’s axis"
    elif zero.of == "hole":
        sideways = "X Y on the axis of the hole"
    elif (zero.x, zero.y) == ("middle", "middle"):
        sideways = f"X Y middle of {names[zero.of]}"
    else:
        x = {"low": "left end", "middle": "middle", "high": "right end"}[zero.x]
        y = {"low": "front side", "middle": "middle", "high": "back side"}[zero.y]
        sideways = f"X {x}, Y {y} of {names[zero.of]}"
    ends = ("free end", "end in the chuck") if turned else ("top", "bottom")
    return sideways, f"Z {ends[zero.z == 'bottom']} of {names[zero.z_of]}"
