"""Which positions of a load stand beside which, how far apart and turned how, as one's tool sees
it."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from machining.geometry.frames import Vector
from machining.memo import Memo
from machining.placing import rotary

from . import around, index
from .context import PlanFacts, Ready, StationFacts

UPRIGHT = np.eye(3)


@dataclass(frozen=True, slots=True)
class Pairs:
    """Pairs of positions (mine, theirs) that are turned alike: which, the other's turn as it looks
    to the tool, how far it is (mine, theirs, 3), mm, and a number equal for those equally far.
    """

    alike: NDArray[np.bool_]
    turn: Vector
    off: Vector
    far: NDArray[np.intp]

    def within(self, near: NDArray[np.bool_]) -> list[list[int]]:
        """Of those near the first of each that are equally far, in the order of positions."""
        mine, theirs = np.nonzero(near & self.alike)
        first = np.unique(self.far[mine, theirs], return_index=True)[1]
        first.sort()
        found: list[list[int]] = np.column_stack([mine[first], theirs[first]]).tolist()
        return found


def pairs_of(op: Ready, there: StationFacts, facts: PlanFacts, memo: Memo) -> list[Pairs]:
    aim, pivot = around.aim_of(op), index.centre(op.station.place)

    def made() -> list[Pairs]:
        mine, stand, found = index.origins(op), index.origins_of(there), list[Pairs]()
        for which, of_face in alike(op.station, there):
            turn = aim @ of_face
            off = rotary.carried_round(stand, turn, pivot)[None, :, :] - mine[:, None, :]
            found.append(Pairs(which, turn, off, _equally_far(off)))
        return found

    key = ("pairs", facts.key, op.station.key, there.key, op.lie.key, aim.tobytes())
    return memo.get(key, made)


def _equally_far(off: Vector) -> NDArray[np.intp]:
    """A number for each pair of positions, equal where they are as far from each other and as much
    earlier or later.
    """
    mine, theirs = off.shape[:2]
    later = np.sign(np.arange(theirs)[None, :] - np.arange(mine)[:, None])
    apart = np.concatenate([off.round(4), later[:, :, None]], axis=2).reshape(-1, 4)
    seen = dict[tuple[float, ...], int]()
    numbers = [seen.setdefault(tuple(each), len(seen)) for each in apart.tolist()]
    return np.array(numbers).reshape(mine, theirs)


def alike(here: StationFacts, there: StationFacts) -> Iterator[tuple[NDArray[np.bool_], Vector]]:
    """Which pairs of positions (mine, theirs) are turned alike, and how theirs is turned where mine
    looks to the tool.
    """
    mine, theirs = (
        np.array([each.turned_deg(k) for k in range(each.planned.positions)])
        for each in (here, there)
    )
    off = np.round((mine[:, None] - theirs[None, :]) % 360.0, 6)
    for each in np.unique(off):
        yield off == each, rotary.turn_about("y", float(each)) if each else UPRIGHT
