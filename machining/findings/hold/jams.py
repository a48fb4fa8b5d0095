"""hold.jams: what the part lies on and against can wedge it by friction alone."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready, StationFacts
from machining.quantities.said import Shown

from ..finding import Finding


def jams(station: StationFacts, facts: PlanFacts) -> Iterator[Finding]:
    for op in station.operations:
        held = op.seen.held if isinstance(op, Ready) else None
        if held is None or not held.jams:
            continue
        bears = dict.fromkeys(e.body for e in held.contacts.every if e.group is None)
        yield Finding(
            "hold.jams",
            "note",
            station.setup.id,
            "",
            "What it lies on and against ({bodies}) can wedge it by friction alone: a part that"
            " goes in askew sticks. Friction there is not counted.",
            {"bodies": Shown(", ".join(bears))},
            "",
            (),
            station=station.id,
        )
        return
