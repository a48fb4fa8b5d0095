"""A nest of pins that stand for one diameter, and what another one in it asks for."""

from __future__ import annotations

from dataclasses import dataclass
from math import sqrt

import numpy as np

from machining.placing import indicated
from machining.plan.clamped import Clamped, Dowel
from machining.quantities.computed import Given
from machining.world.gear import Gear

from . import hold
from .context import PlanFacts, StationFacts
from .holdings.nest import SAME_MM, across

STEPS = 12  # of its middle towards where it touches all pins


@dataclass(frozen=True, slots=True)
class Nested:
    """The part's diameter, the shim it wants and has, and how far off (mm) its middle lies."""

    diameter: float
    wants: float
    has: float
    off: float

    @property
    def right(self) -> bool:
        return abs(self.wants - self.has) <= SAME_MM


def nested(station: StationFacts, facts: PlanFacts) -> Nested | None:
    """None where no nest holds it. Fills the figure shim."""
    held = station.planned.holding
    contacts = hold.as_it_comes(station, facts)
    if not isinstance(held, Clamped) or held.nest_mm is None or contacts is None:
        return None
    has = across(station, held)
    wants = station.work_out(
        indicated.nest_shim,
        "shim",
        first_diameter=Given(held.nest_mm, "entered"),
        this_diameter=Given(min(has, held.nest_mm), "stock"),
    ).value
    return Nested(has, wants, held.shim_mm, _off(station, held, has))


def _off(station: StationFacts, held: Clamped, diameter: float) -> float:
    """How far its middle lies from the nest's, against pins that stand for another diameter."""
    radius = station.item.base.dowel_mm / 2.0 if isinstance(station.item, Gear) else 0.0
    stands, lies = ((held.nest_mm or 0.0) / 2.0 + radius, diameter / 2.0 + held.shim_mm + radius)
    pins = np.array([_pin(each, stands) for each in held.dowels]).reshape(-1, 2)
    middle = np.zeros(2)
    for _ in range(STEPS if len(pins) else 0):
        away = middle - pins
        far = np.linalg.norm(away, axis=1)
        middle = middle + np.linalg.lstsq(away / far[:, None], lies - far, rcond=None)[0]
    return round(float(np.hypot(*middle)), 3)


def _pin(dowel: Dowel, stands: float) -> list[float]:
    """Where it stands from the nest's middle."""
    k, sign = "xy".index(dowel.side[1]), 1.0 if dowel.side[0] == "+" else -1.0
    spot = [0.0, 0.0]
    spot[1 - k] = dowel.at_mm
    spot[k] = sign * sqrt(max(stands**2 - dowel.at_mm**2, 0.0))
    return spot
