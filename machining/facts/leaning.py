"""A holding that stands at an angle on the table, over a sine plate: what it holds lies square in
it, and all of it leans.
"""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from machining.geometry.frames import Pose, raising
from machining.geometry.solids import posed
from machining.placing.zero import Lie

from .context import StationFacts
from .stand import Stand


def leans(station: StationFacts) -> bool:
    """Does what holds its part stand at an angle, with the part square in it?"""
    return station.planned.orientation.leans


def as_held(station: StationFacts) -> StationFacts:
    """The same as it lies in what holds it, before that leans; what is worked out of it is the
    station's.
    """
    orientation = station.planned.orientation
    back = raising(orientation.raised, orientation.raised_deg).T
    solids = posed(station.geometry.solid, station.lie.pose), station.arrives.solid
    lie = _square(station.lie.turned(back, solids), orientation.square)
    flat = orientation.model_copy(update={"raised_deg": 0.0})
    return replace(
        station,
        planned=station.planned.model_copy(update={"orientation": flat}),
        lie=lie,
        arrives=station.arrives.seen_in(lie),
    )


def _square(lie: Lie, rotation: np.ndarray) -> Lie:
    """Without what a turn and back leaves of a rounding."""
    return replace(lie, pose=Pose(rotation, lie.pose.origin))


def leant(held: StationFacts, station: StationFacts, plate_mm: float) -> None:
    """Fill how it stands, and how high: on a plate as large as its bed, ``plate_mm`` thick, which
    touches the table with its lowest edge.
    """
    orientation = station.planned.orientation
    turn = raising(orientation.raised, orientation.raised_deg)
    plates = (
        replace(each, role="plate", bottom=each.bottom - plate_mm, top=each.bottom)
        for each in held.stand.of("bed")
    )
    upright = (*held.stand.bodies, *plates)
    bodies = tuple(piece for each in upright for piece in each.turned(turn))
    key = (*held.stand.key, orientation.raised, orientation.raised_deg, plate_mm)
    vise = station.planned.in_vise
    # about an axis across the jaws what touches them stays where it is along that
    still = vise is not None and vise.fixed[1] != orientation.raised[1]
    gripped = held.stand.gripped if still else None
    station.stand = Stand(bodies, key, gripped=gripped, upright=upright, turn=turn, lie=held.lie)
    lowest = min((each.bottom for each in bodies), default=float(station.lie.stock_low[2]))
    station.seat_mm = float(station.lie.stock_low[2]) - lowest
