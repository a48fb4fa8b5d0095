"""hold.none-chosen: a setup in which nothing holds the part yet."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, StationFacts
from machining.facts.holdings import KINDS
from machining.plan.edit import RemoveSetup
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown

from ..finding import Finding

NO_VISE = ", and no vise of the library opens far enough"
NO_CHUCK = ", and no chuck of the library closes on it"


def none_chosen(station: StationFacts, facts: PlanFacts) -> Iterator[Finding]:
    if station.planned.holding is not None or not station.operations:
        return
    turns = station.turns
    none, numbered = NO_CHUCK if turns else NO_VISE, {"setup": Shown(str(station.number))}
    fixes = [
        each
        for kind in KINDS.values()
        if kind.turns == turns
        for each in kind.offers(station, facts)
    ]
    words = "Nothing says how the part is held in setup {setup}"
    if not fixes:
        gone = RemoveSetup(setup=station.setup.id)
        fixes = [Proposal("Take setup {setup} out", (gone,), numbered)]
        words += none
    yield Finding(
        "hold.none-chosen",
        "look",
        station.setup.id,
        "",
        words + ".",
        numbered,
        "",
        tuple(fixes[:3]),
    )
