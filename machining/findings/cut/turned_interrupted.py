"""cut.interrupted: corners, flats and holes that a turned cut leaves and comes back to
every turn.
"""

from __future__ import annotations

from collections.abc import Iterator
from math import floor

from machining.facts.context import PlanFacts, Ready
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.plan.turned import TurnThread
from machining.quantities.said import Shown, length

from ..finding import Finding, keep, of_operation

BROKEN_MM, BROKEN_SHARE = 0.2, 0.6  # thinner is no blow; and of the feed, where each turn strikes


def turned_interrupted(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    kind, broken, feed = op.operation, op.seen.broken_mm, op.value("chip")
    if (
        isinstance(kind, TurnThread)
        or not isinstance(broken, float)
        or broken < BROKEN_MM
        or feed is None
    ):
        return
    if kind.feed_typed:
        return
    slower = floor(1000.0 * BROKEN_SHARE * feed) / 1000.0
    on = f"operation:{kind.id}"
    yield of_operation(
        op,
        "cut.interrupted",
        "look",
        "The stock is not round where it cuts: every turn the edge leaves it and comes back to"
        " {deep} at this feed.",
        {"deep": length(broken)},
        "per_turn",
        (
            Proposal(
                "Feed {feed} a turn",
                (Change(on=on, fields={"feed_per_rev_mm": slower}),),
                {"feed": Shown(slower, "feed_per_tooth")},
            ),
            keep(op, "cut.interrupted", "tough insert for the interrupted cut"),
        ),
    )
