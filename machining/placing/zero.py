"""Where a setup's zero is, and how part and stock lie in its frame."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property
from typing import Protocol

import numpy as np

from machining.geometry.frames import (
    DIRECTIONS,
    Direction,
    Pose,
    Vector,
    axis,
    is_square,
    named,
)
from machining.geometry.solids import Solid, bounds, posed
from machining.plan.document import Station
from machining.plan.zero import From, Of
from machining.quantities.errors import Missing, OutOfRange
from machining.world.feature import has_axis, is_plane
from machining.world.geometry import PartGeometry

UPRIGHT = 0.999
Corners = tuple[Vector, Vector]


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

    def looks(self, side: Direction) -> Direction | None:
        """Which way, in this frame, a side of the part looks; None for one that is at an angle."""
        return self._ways[side]

    @cached_property
    def up(self) -> Direction | None:
        """The side of the part that looks to the tool, None where none does squarely."""
        return named(self.pose.rotation[2])

    def turned(self, turn: Vector, solids: tuple[Solid, Solid] | None = None) -> Lie:
        """The same part, held as it is, turned about its zero. Part and stock as ``solids`` in this
        frame are needed for what is no quarter turn.
        """
        pose = Pose(turn @ self.pose.rotation, turn @ self.pose.origin)
        if solids is not None and not is_square(turn):
            about = Pose(turn, np.zeros(3))
            part, stock = (bounds(posed(each, about)) for each in solids)
            return Lie(pose, *part, *stock)
        part = rotated_bounds(turn, self.part_low, self.part_high)
        stock = rotated_bounds(turn, self.stock_low, self.stock_high)
        return Lie(pose, *part, *stock)

    @cached_property
    def _ways(self) -> dict[Direction, Direction | None]:
        return {side: named(self.pose.rotation @ axis(side)) for side in DIRECTIONS}


def rotated_bounds(rotation: Vector, low: Vector, high: Vector) -> Corners:
    """Bounds of an axis-parallel box after a rotation."""
    a, b = rotation * low, rotation * high
    return np.minimum(a, b).sum(axis=1), np.maximum(a, b).sum(axis=1)


def lie_of(
    station: Station,
    geometry: PartGeometry,
    stock_bounds: Corners,
    stands: Stands | None = None,
    stock_at_an_angle: Callable[[Vector], Corners] | None = None,
) -> Lie:
    """How the part lies in a station; stock bounds are those of the stock as it comes to it, in
    part coordinates. ``stands`` is what is known of how it is held, None where nothing is;
    ``stock_at_an_angle`` tells the stock's bounds after a rotation that is no quarter turn, those
    of the block it goes into without it.

    Raises Missing for a zero on a feature that isn't there, OutOfRange for one that an axis can't
    be taken from as the part lies.
    """
    turn = station.orientation.rotation
    part, stock = (rotated_bounds(turn, *each) for each in (geometry.bounds, stock_bounds))
    if not is_square(turn):
        part = bounds(posed(geometry.solid, Pose(turn, np.zeros(3))))
        stock = stock_at_an_angle(turn) if stock_at_an_angle is not None else stock
    if station.orientation.leans and station.zero.z.of == "seat":
        raise OutOfRange("Zero on the seat", "a vise that leans", "a place of the part")
    around = Around(turn, part, stock, geometry, stands)
    point = np.array([around.place(k, each) for k, each in enumerate(station.zero.taken)])
    return Lie(
        Pose(turn, -point), part[0] - point, part[1] - point, stock[0] - point, stock[1] - point
    )


class Stands(Protocol):
    """How a part is held, in the coordinates of the part as it is turned (mm)."""

    def against(self, of: Of, turn: Vector) -> tuple[int, float]:
        """The axis across the face of the fixed jaw, or of the stop, and where that is. Raises
        OutOfRange without one.
        """

    def table(self, stock: tuple[Vector, Vector]) -> Vector:
        """The middle of the table's top. Raises OutOfRange where parts stand at several places."""

    def spot(self, key: str, stock: tuple[Vector, Vector]) -> Vector:
        """A known place on it. Raises Missing too."""


@dataclass(frozen=True)
class Around:
    """All that a zero can be taken from; bounds are of the part as it is turned."""

    turn: Vector
    part: tuple[Vector, Vector]
    stock: tuple[Vector, Vector]
    geometry: PartGeometry
    stands: Stands | None

    def place(self, k: int, taken: From) -> float:
        """The coordinate of an axis of the zero."""
        return self._named(k, taken) + taken.off_mm

    def _named(self, k: int, taken: From) -> float:
        if taken.of in ("stock", "part"):
            low, high = self.part if taken.of == "part" else self.stock
            return float({"low": low, "middle": (low + high) / 2.0, "high": high}[taken.at][k])
        if taken.of == "hole":
            return self._of_hole(k, taken.feature)
        if taken.of == "face":
            return self._of_face(k, taken.feature)
        if taken.of == "seat":
            return float(self.stock[0][k])
        if self.stands is None:
            raise OutOfRange(f"Zero's {'XYZ'[k]}", taken.of, "a part that is held")
        if taken.of == "table":
            return float(self.stands.table(self.stock)[k])
        if taken.of == "spot":
            return float(self.stands.spot(taken.feature, self.stock)[k])
        across, at = self.stands.against(taken.of, self.turn)
        if across != k:
            raise OutOfRange(
                f"Zero's {'XYZ'[k]}",
                f"the {'fixed jaw' if taken.of == 'jaw' else taken.of}",
                f"of {'XYZ'[across]}, which that lies square to",
            )
        return at

    def _of_hole(self, k: int, id: str) -> float:
        hole = self.geometry.feature(id)
        if not has_axis(hole):
            raise Missing("Zero's hole", id)
        if abs((self.turn @ hole.direction)[2]) < UPRIGHT:
            raise OutOfRange(
                "Zero's hole", hole.id, "a hole whose axis stands upright in this setup"
            )
        return float((self.turn @ np.array(hole.point))[k])

    def _of_face(self, k: int, id: str) -> float:
        face = self.geometry.feature(id)
        if not is_plane(face):
            raise Missing("Zero's face", id)
        outwards = self.turn @ face.looks
        if abs(outwards[k]) < UPRIGHT:
            raise OutOfRange("Zero's face", face.id, f"a face that looks along {'XYZ'[k]} here")
        return float(outwards[k]) * face.out_mm
