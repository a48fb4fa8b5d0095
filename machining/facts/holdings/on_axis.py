"""A chuck stands on the axis it closes about: before a spindle that is the frame's own, on a table
the middle of the stock that it holds.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace

import numpy as np
from shapely.affinity import translate

from machining.geometry.frames import Pose, Vector
from machining.holding.contacts import Contact
from machining.placing.zero import Lie

from ..context import StationFacts
from ..stand import Body


def axis_of(station: StationFacts) -> Vector:
    """Where the axis is in the station's frame (3,), mm; its height is the frame's."""
    if station.turns:
        return np.zeros(3)
    middle: Vector = (station.lie.stock_low + station.lie.stock_high) / 2.0
    return np.array([middle[0], middle[1], 0.0])


def centred(station: StationFacts) -> StationFacts:
    """The same in a frame whose origin lies on the axis."""
    if station.turns:
        return station
    by, lie = -axis_of(station), station.lie
    there = Lie(
        Pose(lie.pose.rotation, lie.pose.origin + by),
        lie.part_low + by,
        lie.part_high + by,
        lie.stock_low + by,
        lie.stock_high + by,
    )
    return replace(station, lie=there, arrives=station.arrives.seen_in(there))


def bodies_back(station: StationFacts, bodies: Iterable[Body]) -> tuple[Body, ...]:
    """Bodies round the axis, in the station's frame."""
    x, y, _ = axis_of(station)
    return tuple(replace(each, region=translate(each.region, x, y)) for each in bodies)


def contacts_back(station: StationFacts, every: Iterable[Contact]) -> list[Contact]:
    """Contacts round the axis, in the station's frame."""
    x, y, _ = (float(each) for each in axis_of(station))
    return [replace(c, at=(c.at[0] + x, c.at[1] + y, c.at[2])) for c in every]
