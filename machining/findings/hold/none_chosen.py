"""hold.none-chosen: a setup in which nothing holds the part yet."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from machining.facts.context import PlanFacts, StationFacts
from machining.facts.holdings import KINDS, HoldingKind
from machining.facts.holdings.round_grip import is_round
from machining.plan.edit import RemoveSetup
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown

from ..finding import Finding

NO_VISE = ", and no vise of the library opens far enough"
NO_CHUCK = ", and no chuck of the library closes on it"


def _goes(kind: HoldingKind[Any, Any], station: StationFacts) -> bool:
    """Can it hold a part there at all?"""
    machine, place = station.machine, station.place
    if machine is None or place is None or station.turns:
        return kind.turns == station.turns
    return kind.fits(machine, place) is None


def none_chosen(station: StationFacts, facts: PlanFacts) -> Iterator[Finding]:
    if station.planned.holding is not None or not station.operations:
        return
    turns = station.turns
    first = not turns and is_round(station.arrives.outline())  # chucks
    none, numbered = NO_CHUCK if turns else NO_VISE, {"setup": Shown(str(station.number))}
    fixes = [
        each
        for kind in sorted(KINDS.values(), key=lambda kind: first and not kind.turns)
        if _goes(kind, station)
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
