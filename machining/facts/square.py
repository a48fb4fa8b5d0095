"""What axes that are not square to each other add to a distance between two holes."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from machining.geometry.frames import named
from machining.placing.stack_up import Link
from machining.quantities.said import Said, Shown
from machining.world.feature import Hole
from machining.world.part import Requirement

from .context import PlanFacts
from .made import Made


def out_of_square(asked: Requirement, later: Made, k: int, facts: PlanFacts) -> Iterator[Link]:
    """Along an axis of the part: of holes that lie apart across it, where the machine of the later
    one was found out of square: so much on each mm.

    Source: a shear x + γy changes a distance by γ·Δx·Δy over it, to the first order.
    """
    ends = [facts.geometry.feature(id) for id in (asked.feature, asked.datum) if id]
    station = later.station
    if station is None or station.machine is None or station.turns or len(ends) != 2:
        return
    first, second = ends
    if not isinstance(first, Hole) or not isinstance(second, Hole):
        return
    turn = station.lie.pose.rotation
    way = named(turn @ np.eye(3)[k])
    if way is None or way[1] != "x":
        return  # Y stands as it stands, and X leans from square to it
    apart = turn @ (np.array(second.point) - np.array(first.point))
    across = abs(float(apart[1]))
    reading = station.machine.stands_square
    if reading is None or across < 1e-6:
        return
    yield Link(
        f"square:{station.machine.key}",
        Said(
            f"X and Y of {station.machine.name} out of square, over {{across}} of Y",
            {"across": Shown(across, "length")},
        ),
        reading.slope * across,
        f"machine:{station.machine.name}",
    )
