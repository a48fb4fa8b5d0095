"""cut.dust-mist: told once of each hazard, at the first setup that has it."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, SetupFacts
from machining.facts.hazards import hazards
from machining.quantities.said import Shown

from ..finding import Finding


def dust_mist(seen: SetupFacts, facts: PlanFacts) -> Iterator[Finding]:
    """It stands on every sheet by itself."""
    known = [each for other in facts.setups[: seen.number - 1] for each in hazards(other, facts)]
    for place, hazard in enumerate(hazards(seen, facts)):
        if hazard in known or facts.material is None:
            continue
        yield Finding(
            "cut.dust-mist",
            "note",
            seen.planned.id,
            "",
            "{material}: " + hazard.sentence + " It stands on the sheet.",
            {"material": Shown(facts.material.name)},
            about=str(place),
        )
