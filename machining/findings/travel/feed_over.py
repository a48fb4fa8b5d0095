"""travel.feed-unreachable: a feed typed over what the machine feeds at."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown

from ..finding import Finding, of_operation


def feed_over(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    machine, wanted = op.machine, op.value("feed") if op.operation.feed_typed else None
    if wanted is None or wanted <= machine.max_feed_mm_min * (1.0 + 1e-9):
        return
    limit = machine.max_feed_mm_min
    yield of_operation(
        op,
        "travel.feed-unreachable",
        "look",
        "{wanted} is over the machine's largest feed, {limit}.",
        {"wanted": Shown(wanted, "feed"), "limit": Shown(limit, "feed")},
        "feed",
        (
            Proposal(
                "Feed {limit}",
                (Change(on=f"operation:{op.operation.id}", fields={"feed_mm_min": limit}),),
                {"limit": Shown(limit, "feed")},
            ),
        ),
    )
