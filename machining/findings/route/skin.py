"""route.skin: less stands on a raw side of the blank than it takes to clean up."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from machining.facts import allowance
from machining.facts.allowance import NOTHING_MM, RAW
from machining.facts.context import PlanFacts, StationFacts
from machining.geometry.frames import DIRECTIONS, Direction
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown, length
from machining.ways.zeros import by_what_holds_it, on_every_part
from machining.world.stock.base import SIDE_WORDS

from ..finding import Finding

SAME_MM = 1e-6


def skin(station: StationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """Said of the first station, where the blank is loaded: as ordered it is at its smallest. Of
    every one that measures from a raw top.
    """
    if station.number == 1:
        yield from _ordered(station, facts)
    yield from _from_the_top(station, facts)


def _from_the_top(station: StationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """The blank that Z is picked up on may be the largest, and one after it the smallest."""
    least, stands = station.figures.get("least_allowance"), allowance.over(station)
    if least is None or stands >= least.value - SAME_MM:
        return
    if stands < facts.library.settings.clean_up_mm - SAME_MM and station.number == 1:
        return  # no blank cleans up, however it is measured
    side = station.blank_sides["+z"]
    ways = [by_what_holds_it(station, (2,), facts.geometry), on_every_part(station)]
    field = facts.plan.stock.over_field(side)
    if field is not None:
        needed = round(least.value + _over(side, facts) - stands, 3)
        order = (Change(on="plan", fields={field: needed}),)
        ways.append(Proposal("Order it {over} over", order, {"over": Shown(needed, "size")}))
    yield Finding(
        "route.skin",
        "stop",
        station.setup.id,
        "",
        "Z is picked up on the {top} of the blank, {stands} over the part; the smallest blank"
        " cleans up from {least} on.",
        {"top": Shown(SIDE_WORDS[side]), "stands": length(stands), "least": length(least.value)},
        least.id,
        tuple(each for each in ways if each is not None),
        station=station.id,
        about="picked-up",
    )


def _ordered(station: StationFacts, facts: PlanFacts) -> Iterator[Finding]:
    stock, least = facts.plan.stock, facts.library.settings.clean_up_mm
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
