"""hold.family-shim: another diameter in a nest without the shim it wants."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, StationFacts
from machining.facts.nest import nested
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown, length

from ..finding import Finding


def family_shim(station: StationFacts, facts: PlanFacts) -> Iterator[Finding]:
    found = nested(station, facts)
    if found is None or found.right:
        return
    wants = Shown(round(found.wants, 3), "size")
    yield Finding(
        "hold.family-shim",
        "stop",
        station.setup.id,
        "",
        "Ø{diameter} in a nest made for Ø{nest} wants a shim of {wants} at each dowel and has"
        " {has}: its middle lies {off} off.",
        {
            "diameter": length(found.diameter),
            "nest": length(found.diameter + 2.0 * found.wants),
            "wants": wants,
            "has": Shown(found.has, "size"),
            "off": Shown(found.off, "size"),
        },
        station.figures["shim"].id,
        (
            Proposal(
                "Shim {wants} at each dowel",
                (Change(on=station.on, fields={"holding.shim_mm": round(found.wants, 3)}),),
                {"wants": wants},
            ),
        ),
        station=station.id,
    )
