"""How far over the work feeding starts, and a tool goes from cut to cut."""

from __future__ import annotations

from .context import PlanFacts, SetupFacts


def over_work(setup: SetupFacts, facts: PlanFacts) -> tuple[float, float]:
    """Both in mm: the second as the setup says, else as the shop does, never under the first."""
    own, settings = setup.planned.retract_mm, facts.library.settings
    near = settings.first_clearance_mm
    return near, settings.retract_mm if own is None else max(own, near)


def retract_of(setup: SetupFacts, facts: PlanFacts) -> float:
    return over_work(setup, facts)[1]
