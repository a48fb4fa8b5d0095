"""size.order: work on what was parted off before."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, StationFacts
from machining.plan.edit import MoveOperation
from machining.plan.proposal import Proposal
from machining.plan.turned import PartOff
from machining.quantities.said import Shown

from ..finding import Finding


def parted_off(station: StationFacts, facts: PlanFacts) -> Iterator[Finding]:
    operations = station.operations
    off = next((op for op in operations if isinstance(op.operation, PartOff)), None)
    if off is None or off is operations[-1]:
        return
    last = operations[-1]
    at = [each.id for each in station.setup.planned.operations].index(last.id)
    yield Finding(
        "size.order",
        "stop",
        station.setup.id,
        off.id,
        "It parts off, and operation {later} works on the same part afterwards.",
        {"later": Shown(str(last.number))},
        "",
        (
            Proposal(
                "Part off after operation {later}",
                (MoveOperation(operation=off.id, setup=station.setup.id, index=at),),
                {"later": Shown(str(last.number))},
            ),
        ),
    )
