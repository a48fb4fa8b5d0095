"""How a person turns a part on its way from one station to the next, and the corner whose mark
tells whether it was put in right.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from machining.geometry.frames import Vector
from machining.plan.document import BLANK

from .context import PlanFacts, StationFacts
from .once import once
from .tabs import hands_on

Corner = tuple[int, int, int]  # low (-1) or high (1) along X, Y and Z of the machine
MARKED: Corner = (-1, -1, 1)  # what is at hand, and seen while it is marked


@dataclass(frozen=True, slots=True)
class Flip:
    """``size`` is the stock's as it lay (mm), ``turn`` the rotation from how it lay to how it lies,
    ``square`` the same before it was raised at an angle. What lay at an angle is taken as it lay
    before that.
    """

    size: tuple[float, float, float]
    turn: Vector
    square: Vector

    @property
    def lies(self) -> Corner:
        """Where the marked corner is now."""
        x, y, z = (round(each) for each in self.square @ np.array(MARKED))
        return x, y, z


def flip_of(station: StationFacts, facts: PlanFacts) -> Flip | None:
    """None for a blank, for what lies as it did, and before or after a spindle that turns it."""
    return once(facts, ("flip", station.id), lambda: _flip_of(station, facts), station)


def _flip_of(station: StationFacts, facts: PlanFacts) -> Flip | None:
    if station.planned.takes == BLANK or station.turns:
        return None
    before = facts.station(station.planned.takes)
    lay = before.planned.orientation.square
    turn = station.lie.pose.rotation @ lay.T
    changed = station.lie.pose.rotation @ before.lie.pose.rotation.T
    if before.turns or any(np.allclose(each, np.eye(3), atol=1e-6) for each in (turn, changed)):
        return None
    low, high = hands_on(before, facts.geometry).in_part().bounds_turned(lay)
    x, y, z = (float(each) for each in high - low)
    return Flip((x, y, z), turn, station.planned.orientation.square @ lay.T)


def corner_words(corner: Corner) -> str:
    """As somebody before the machine calls it."""
    x, y, z = corner
    side, depth = "left" if x < 0 else "right", "front" if y < 0 else "back"
    return f"{side} {depth} corner {'on top' if z > 0 else 'at the bottom'}"
