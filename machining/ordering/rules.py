"""All reasons for the order of a setup's operations."""

from __future__ import annotations

from machining.facts.context import PlanFacts, SetupFacts

from .beside import beside
from .clamps import clamps
from .metal import metal
from .own import with_own
from .places import cut_out_last, places
from .practice import datum_first, rough_first
from .reason import Reason, Rule, one_each

# of two that say the same of a pair the first is told
RULES: tuple[Rule, ...] = (places, clamps, metal, beside, cut_out_last, datum_first, rough_first)


def reasons_of(setup: SetupFacts, facts: PlanFacts) -> list[Reason]:
    """Of every pair that has its order the reason, station by station, and the planner's own."""
    found = one_each(
        reason for station in setup.stations for rule in RULES for reason in rule(station, facts)
    )
    return with_own(setup, found)
