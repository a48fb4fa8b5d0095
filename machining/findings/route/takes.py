"""route.takes: a station that waits for what only a later setup leaves."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, StationFacts
from machining.plan.document import BLANK
from machining.plan.edit import MoveSetup
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown

from ..finding import Finding


def takes(station: StationFacts, facts: PlanFacts) -> Iterator[Finding]:
    if station.planned.takes == BLANK:
        return
    source, mine = facts.station(station.planned.takes).setup, station.setup
    if source.number <= mine.number:
        return
    last = source.number - 1
    values = {"setup": Shown(str(source.number)), "mine": Shown(str(mine.number))}
    yield Finding(
        "route.takes",
        "stop",
        mine.id,
        "",
        "It takes what setup {setup} leaves, and that comes after it.",
        values,
        "",
        (
            Proposal(
                "Put setup {mine} after setup {setup}",
                (MoveSetup(setup=mine.id, index=last),),
                values,
            ),
        ),
    )
