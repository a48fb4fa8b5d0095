"""travel.feed-unreachable: corners and moves so short that the axes never get up to the feed."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready
from machining.facts.paths import time_at
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown

from ..finding import Finding, keep, of_operation

WORTH_A_LOOK_S = 3.0


def feed_not_reached(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    reached, asked, share = (
        op.value("reached_feed"),
        op.value("centre_feed") or op.value("feed"),
        facts.library.settings.reached_share,
    )
    if (
        reached is None
        or asked is None
        or reached >= share * asked
        or op.time.sideways_s < WORTH_A_LOOK_S
    ):
        return
    on = f"operation:{op.operation.id}"
    stay = keep(op, "travel.feed-unreachable", "short moves: the feed is only a limit")
    slower = _reachable(op, asked, 1.05 * share, facts)
    fixes = (
        []
        if slower is None
        else [
            Proposal(
                "Feed {feed}",
                (Change(on=on, fields={"feed_mm_min": slower}),),
                {"feed": Shown(slower, "feed")},
            )
        ]
    )
    yield of_operation(
        op,
        "travel.feed-unreachable",
        "look",
        "Its moves are too short for {asked}: on average the axes reach {reached}, and the chip is"
        " thinner than it looks.",
        {"asked": Shown(asked, "feed"), "reached": Shown(reached, "feed")},
        "reached_feed",
        (*fixes, stay),
    )


def _reachable(op: Ready, asked: float, share: float, facts: PlanFacts) -> float | None:
    """The largest feed (mm/min at the edge) of which the path reaches a share on average, None
    where none does.
    """
    at_edge = (op.value("feed") or asked) / asked
    for k in range(19, 1, -1):
        middle = asked * k / 20.0
        time = time_at(op, middle, facts)
        if 60.0 * time.sideways_mm / time.sideways_s > share * middle:
            return float(f"{middle * at_edge:.2g}")
    return None
