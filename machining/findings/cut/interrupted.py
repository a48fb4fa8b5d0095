"""cut.interrupted: a hole whose wall is open on a side on its way down."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown

from ..finding import Finding, keep, of_operation


def interrupted(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    at, feed = op.seen.interrupted_mm, op.value("feed")
    if not isinstance(at, float) or feed is None or op.operation.feed_typed:
        return
    slower = float(int(feed / 20.0) * 10) or feed / 2.0
    on = f"operation:{op.operation.id}"
    fix = Proposal(
        "Feed {feed}",
        (Change(on=on, fields={"feed_mm_min": slower}),),
        {"feed": Shown(slower, "feed")},
    )
    stay = keep(
        op, "cut.interrupted", "cross hole: feed by hand through the break on the first part"
    )
    yield of_operation(
        op,
        "cut.interrupted",
        "look",
        "{at} down the wall of the hole is open on one side: the edge comes out of the cut and back"
        " into it at this feed.",
        {"at": Shown(at, "length")},
        "feed",
        (stay,) if op.operation.kind == "tap" else (fix, stay),
    )
