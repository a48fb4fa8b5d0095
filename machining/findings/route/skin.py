"""route.skin: less stands on a raw side of the blank than it takes to clean up."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from machining.facts.context import PlanFacts, StationFacts
from machining.geometry.frames import DIRECTIONS, Direction
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown, length
from machining.world.stock.base import SIDE_WORDS

from ..finding import Finding

RAW, SAME_MM = frozenset({"sawn", "rolled"}), 1e-6
NOTHING_MM = 1e-3  # a side that is the part's own: nothing is cut there


def skin(station: StationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """Said of the first station, where the blank is loaded: as ordered it is at its smallest."""
    stock, least = facts.plan.stock, facts.library.settings.clean_up_mm
    if station.number > 1:
        return
    for side in DIRECTIONS:
        over = _over(side, facts)
        field = stock.over_field(side)
        if field is None or stock.skin(side) not in RAW or not NOTHING_MM < over < least - SAME_MM:
            continue
        change = Change(on="plan", fields={field: least})
        yield Finding(
            "route.skin",
            "stop",
            station.setup.id,
            "",
            "On its {side} {over} stands over the part, {skin} as it is: that does not clean up.",
            {
                "side": Shown(SIDE_WORDS[side]),
                "over": length(over),
                "skin": Shown(stock.skin(side)),
            },
            "",
            (Proposal("Order it {over} over", (change,), {"over": Shown(least, "size")}),),
            about=side,
        )


def _over(side: Direction, facts: PlanFacts) -> float:
    """How much (mm) of the blank stands on a side over the part."""
    k, high = "xyz".index(side[1]), side[0] == "+"
    part, blank = facts.geometry.bounds, (facts.blank.low, facts.blank.high)
    return float(np.abs(blank[high][k] - part[high][k]))
