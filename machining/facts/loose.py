"""What hangs together of the stock, and what of it comes loose in a cut."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from machining.geometry.frames import Vector
from machining.geometry.solids import Solid, block, bounds, pieces, posed, volume
from machining.world.geometry import PartGeometry

from .context import Ready
from .state import State

SOME_MM3, THICK_MM = 20.0, 0.3  # less is a film that the facets of a cut leave
NEAR_MM = 0.1
MOSTLY = 0.5


@dataclass(frozen=True, slots=True)
class Loose:
    """A piece that nothing clamps, by its size (mm); ``part`` says whether it is the part."""

    size: tuple[float, float, float]
    part: bool


def apart(state: State) -> list[Solid]:
    """Its pieces that are worth a look, the largest first; one where it hangs together."""

    def found() -> list[Solid]:
        every = pieces(state.solid)
        if len(every) < 2:
            return every
        seen = sorted(every, key=volume, reverse=True)
        return [seen[0], *(each for each in seen[1:] if _is_some(each))]

    return state.memo.get(("pieces", state.key), found)


def _is_some(piece: Solid) -> bool:
    has = volume(piece)
    return has > SOME_MM3 and 2.0 * has / float(piece.surface_area()) > THICK_MM


def of_the_part(state: State, geometry: PartGeometry) -> State:
    """The piece that becomes the part, as it lies there."""
    every = apart(state)
    if len(every) < 2 or state.lie is None:
        return state
    pose = state.lie.pose

    def share(piece: Solid) -> float:
        return volume(piece ^ posed(geometry.solid, pose))

    which = int(np.argmax([share(each) for each in every]))
    return State(lambda: every[which], f"{state.key}/{which}", state.memo, state.lie)


def loose(op: Ready, geometry: PartGeometry) -> tuple[Loose, ...]:
    """Pieces that no clamp touches once the cut is done, and that hung together with others
    before it.
    """
    held = op.seen.held
    if op.turns or held is None or op.before is op.after:
        return ()
    station = op.station
    after = op.after.seen_in(station.stand.lie or station.lie)
    every = apart(after)
    if len(every) <= max(1, len(apart(op.before))):
        return ()
    points = [
        np.array(each.at) + NEAR_MM * np.array(each.normal)
        for each in held.contacts.every
        if each.group is not None
    ]
    part = posed(geometry.solid, after.lie.pose) if after.lie is not None else geometry.solid
    whole = volume(part)
    return tuple(
        Loose(_size(each), volume(each ^ part) > MOSTLY * whole)
        for each in every
        if not any(_holds(each, point) for point in points)
    )


def _holds(piece: Solid, point: Vector) -> bool:
    """Is a point in it, or at its surface?"""
    low, high = bounds(piece)
    if np.any(point < low - NEAR_MM) or np.any(point > high + NEAR_MM):
        return False
    return not (piece ^ block(point - NEAR_MM, point + NEAR_MM)).is_empty()


def _size(piece: Solid) -> tuple[float, float, float]:
    low, high = bounds(piece)
    x, y, z = (round(float(each), 3) for each in high - low)
    return x, y, z
