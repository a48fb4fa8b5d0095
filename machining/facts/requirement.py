"""How many times its cutting force a cut asks its holding to stand: more while what was built for
the part has not held one, and under a tool that may grab.
"""

from __future__ import annotations

from typing import Literal

from machining.cutting.data import constants
from machining.holding import grip
from machining.memo import digest
from machining.plan.document import Ran
from machining.quantities.computed import Given

from .context import PlanFacts, Ready, StationFacts
from .holdings import kind_of

PUSHES = {"worn_force", "worn_torque"}
LESS = 0.95  # of the factor it ran with: under that it is asked more than it has held
First = Literal["never", "otherwise", "ran"]


def asked(op: Ready, facts: PlanFacts) -> float:
    """The factor a cut is held to."""
    more = op.value("holding_asked")
    return facts.library.settings.holding_factor if more is None else more


def figure(op: Ready, facts: PlanFacts) -> None:
    """Figure holding_asked, where more is asked than usual: of jaws that keep nothing too."""
    settings, factor = facts.library.settings, op.value("holding")
    if factor is None and op.seen.let_go:
        factor = 0.0
    if factor is None:
        return
    fresh, may_grab = is_first(op.station, factor), grabs(op)
    first = Given(settings.first_run_factor if fresh else 0.0, "it has not held a part like this")
    grabbing = Given(settings.grab_factor if may_grab else 0.0, "a tool that may grab")
    if max(first.value, grabbing.value) > settings.holding_factor:
        usual = facts.shop("holding_factor")
        op.work_out(
            grip.asked_factor, "holding_asked", usual=usual, first_run=first, grabs=grabbing
        )


def grabs(op: Ready) -> bool:
    """May its tool dig in: teeth that are buried, a blade, a helix that lifts?"""
    known = constants()["grab"]
    turned = op.tool.kind in known["turned"] and op.turns
    steep = op.tool.kind in known["mills"] and op.tool.helix_deg >= known["helix_deg"]
    return turned or steep or op.tool.kind in known["buried"]


def fixture(station: StationFacts) -> bool:
    """Is it held in what was built for this part?"""
    held, item = station.planned.holding, station.item
    return held is not None and item is not None and kind_of(held).built(held, item)


def is_first(station: StationFacts, factor: float) -> bool:
    """Has what was built for it not held it like this yet, or only with more to spare?"""
    return fixture(station) and (
        state(station) != "ran" or factor < LESS * _ran(station).factor  # heavier than it ran
    )


def state(station: StationFacts) -> First:
    """Whether its holding has run as it is planned now."""
    if station.planned.ran is None:
        return "never"
    return "ran" if station.planned.ran.holding == told(station) else "otherwise"


def _ran(station: StationFacts) -> Ran:
    assert station.planned.ran is not None
    return station.planned.ran


def told(station: StationFacts) -> str:
    """Equal for a part of one shape and size that lies in the same holding the same way."""
    planned = station.planned
    held = planned.holding.model_dump(mode="json", exclude={"reason"}) if planned.holding else None
    lies = planned.orientation.model_dump(mode="json", exclude={"reason"})
    size = (station.lie.stock_high - station.lie.stock_low).round(1).tolist()
    return digest(held, lies, station.setup.planned.machine, station.geometry.key, size)


def least(station: StationFacts) -> float | None:
    """The least factor of its operations that push or twist, None while one is not known."""
    pushed = [op for op in station.operations if PUSHES & op.figures.keys()]
    known = [each for op in pushed if (each := op.value("holding")) is not None]
    return min(known, default=None) if len(known) == len(pushed) else None
