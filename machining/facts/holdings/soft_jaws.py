"""Soft jaws of a chuck, bored in their place for a part: what they touch of it, what they are
closed on meanwhile, how far they still close and open.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from math import asin, ceil, degrees, floor

import numpy as np
from shapely import box

from machining.geometry.contours import FAR_MM
from machining.geometry.solids import below, outline, section
from machining.holding import chuck as chucks
from machining.holding.contacts import Contact
from machining.holding.patch import INWARDS, Patch
from machining.plan.holding import InChuck
from machining.quantities.computed import Given
from machining.world.workholding import Chuck

from ..context import StationFacts
from ..state import State
from .chuck_bodies import bored, jaw_angles, land
from .round_contacts import arcs
from .round_grip import is_round

NEAR_MM = 0.05  # what lies so far over a step is touched by it
GIVES_MM = 0.02  # soft jaw and part together, under their force: wider gaps stay open
NARROW_DEG = 2.0  # a place no wider than this is a line
CORNER_MM = 0.5  # that jaws stay away from a shoulder
STEP_MM, END_MM = 4.0, 3.0  # of a step, across; of a part's end, looked at for its diameter


def unasked(chuck: Chuck) -> frozenset[str]:
    """What only soft jaws are asked."""
    return frozenset(("bored_mm", "spacer_mm", "left_mm") if chuck.jaw_kind != "soft" else ())


@dataclass(frozen=True, slots=True)
class Fit:
    """How bored jaws fit what they close on: ``looser_mm`` in diameter, under 0 where they are
    tighter; each touches so far (degrees) both ways from its middle, or ``at_edges`` alone, and
    reaches ``half_deg`` both ways.
    """

    looser_mm: float
    touches_deg: float
    half_deg: float
    at_edges: bool

    @property
    def share(self) -> float:
        """Of the jaw's width that bears."""
        return 0.0 if self.at_edges else self.touches_deg / self.half_deg


def fit(station: StationFacts, holding: InChuck, chuck: Chuck) -> Fit | None:
    """None where the jaws are not bored, or grip flats."""
    stand = station.stand
    if not bored(holding, chuck) or holding.bored_mm is None or stand.flat or not stand.grips_at:
        return None
    sign = 1.0 if holding.grips == "outside" else -1.0
    looser = sign * (holding.bored_mm - stand.grips_at)
    half = degrees(asin(min(chuck.jaw_width_mm / stand.grips_at, 1.0)))
    apart = abs(looser) / 2.0
    touches = chucks.touching_deg(stand.grips_at / 2.0, apart, half, GIVES_MM)
    return Fit(looser, touches, half, looser < 0.0 and touches < half)


def contacts(station: StationFacts, holding: InChuck, chuck: Chuck, group: str) -> list[Contact]:
    """Along arcs where they fit; bored too large in their middle, too small at their edges."""
    how, stand = fit(station, holding, chuck), station.stand
    if how is None:
        return []
    beside = [-INWARDS * how.touches_deg, 0.0, INWARDS * how.touches_deg]
    if how.at_edges:
        beside = [-how.half_deg, how.half_deg]
    elif how.touches_deg < NARROW_DEG:
        beside = [0.0]
    of = (stand.grips_at, stand.along, chuck.friction, group, stand.inside)
    return arcs(jaw_angles(holding, chuck), beside, *of)


def on_steps(station: StationFacts, chuck: Chuck, state: State) -> Iterator[Contact]:
    """Where the part sits on the steps of its jaws."""
    steps = station.stand.of("step")
    if not steps:
        return
    end, unit = section(state.solid, steps[0].top + NEAR_MM), np.eye(3)
    for each in steps:
        touched = end.intersection(each.region)
        patch = Patch(touched, each.top * unit[2], unit[0], unit[1], unit[2])
        yield from patch.contacts(chuck.friction, f"step of {each.of}")


def figures(station: StationFacts, holding: InChuck, chuck: Chuck) -> None:
    """Figures jaws_close and jaws_open, where all that they come of is known."""
    how, stand = fit(station, holding, chuck), station.stand
    if how is None or holding.bored_mm is None or chuck.jaw_travel_mm is None:
        return
    left = holding.left_mm
    if holding.spacer_mm is None:
        left = 0.0  # at the end of their travel
    if left is None:
        return
    on_spacer = "entered" if holding.spacer_mm is not None else "no spacer: closed to their end"
    closed = station.work_out(
        chucks.travel_left,
        "jaws_close",
        left=Given(left, on_spacer),
        bored=Given(holding.bored_mm),
        gripped=Given(stand.grips_at, "stock"),
        way=Given(1.0 if holding.grips == "outside" else -1.0, "holding"),
    )
    station.work_out(
        chucks.opened_beside,
        "jaws_open",
        travel=Given(chuck.jaw_travel_mm, f"chuck:{chuck.name}"),
        left=closed,
    )


def as_bored(holding: InChuck, chuck: Chuck, station: StationFacts) -> InChuck:
    """The same with soft jaws bored for the end of the part that goes into them, on a spacer that
    leaves a step, in the middle of their travel; as it is where they are hard, or the end is not
    round.
    """
    if chuck.jaw_kind != "soft":
        return holding
    low, half = float(station.lie.stock_low[2]), station.arrives.half_section()
    outside, top = holding.grips == "outside", low + holding.grip_mm
    end = half.intersection(box(0.0, low, FAR_MM, min(low + END_MM, top)))
    if end.is_empty or not is_round(outline(below(station.arrives.solid, low + END_MM))):
        return holding
    radius = float(end.bounds[2] if outside else end.bounds[0])
    if radius <= 0.0:
        return holding
    along = land(half, radius, (low, top), -1.0 if outside else 1.0)
    ends = along[1] < top  # the part is wider or narrower from there on
    most = max(along[1] - low - CORNER_MM * ends, min(END_MM, holding.grip_mm))
    return holding.model_copy(
        update={
            "grip_mm": round(min(holding.grip_mm, floor(10.0 * most) / 10.0), 1),
            "bored_mm": round(2.0 * radius, 2),
            "spacer_mm": usual_spacer(2.0 * radius, holding),
            "left_mm": usual_left(chuck),
        }
    )


def usual_spacer(diameter: float, holding: InChuck) -> float | None:
    """What jaws bored to a diameter are closed on meanwhile (mm), None where nothing fits."""
    if holding.grips == "inside":
        return float(ceil(diameter + 2.0 * STEP_MM))
    spacer = floor(diameter - 2.0 * min(STEP_MM, diameter / 4.0))
    return float(spacer) if spacer > 0 else None


def usual_left(chuck: Chuck) -> float | None:
    """In the middle of their travel, mm."""
    return round(chuck.jaw_travel_mm / 2.0, 1) if chuck.jaw_travel_mm is not None else None
