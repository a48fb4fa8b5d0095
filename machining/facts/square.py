"""What axes that are not square to each other add to a distance between two holes."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from machining.geometry.frames import named
from machining.placing.stack_up import Link
from machining.quantities.said import Said, Shown
from machining.world.feature import Hole
from machining.world.part import Requirement
from machining.world.trued import Pair

from .context import PlanFacts
from .made import Ends, Made

PAIRS: dict[str, tuple[Pair, ...]] = {"x": ("x y", "x z"), "y": ("y z",)}  # what leans along it


def out_of_square(
    asked: Requirement, made: Ends, later: Made, k: int, facts: PlanFacts
) -> Iterator[Link]:
    """Along an axis of the part: of holes that lie apart across it or, in one holding, for which
    the spindle stands at other heights, where the machine of the later one was found out of square:
    so much on each mm.

    Source: a shear x + γy changes a distance by γ·Δx·Δy over it, to the first order. Y stands as it
    stands, and X leans from square to it; Z leans from square to both.
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
    if way is None:
        return
    apart = turn @ (np.array(second.point) - np.array(first.point))
    apart[2] = _slide(made) + apart[2] if made[0].station is made[1].station else 0.0
    for of in PAIRS.get(way[1], ()):
        one, other = of.upper().split()
        across = abs(float(apart["XYZ".index(other)]))
        reading = station.machine.stands_square(of)
        if reading is None or across < 1e-6:
            continue
        yield Link(
            f"square:{station.machine.key}" + (of.replace(" ", "") if other == "Z" else ""),
            Said(
                f"{one} and {other} of {station.machine.name} out of square, over"
                f" {{across}} of {other}",
                {"across": Shown(across, "length")},
            ),
            reading.slope * across,
            f"machine:{station.machine.name}",
        )


def _slide(made: Ends) -> float:
    """By how much the tool of the second is longer than that of the first, mm."""
    first, second = (_gauge(each) for each in made)
    return 0.0 if first is None or second is None else second - first


def _gauge(made: Made) -> float | None:
    op = made.op
    if op is None or op.loaded is None or op.kit is None:
        return None
    return op.loaded.stick_out_mm + op.kit.holder.length_mm
