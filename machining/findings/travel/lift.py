"""travel.lift: a part that is heavy for one person to put in."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, StationFacts
from machining.quantities.said import Shown

from ..finding import Finding


def lift(station: StationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """As it comes into the station, by the shop's own limit."""
    mass, most = station.put_in_kg(facts), facts.library.settings.lift_kg
    if mass is not None and mass > most:
        yield Finding(
            "travel.lift",
            "note",
            station.setup.id,
            "",
            "It weighs {mass} as it is put in; the shop lets one person lift {most}: a hoist, or"
            " two people.",
            {"mass": Shown(mass, "mass"), "most": Shown(most, "mass")},
            station=station.id,
        )
