"""cut.values-source: speed and feed from a supplier that nobody in the shop has tried."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready
from machining.facts.kinds import kind_of
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown

from ..finding import Finding, of_operation


def values_source(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    if (
        op.data is None
        or op.data.kept_by != "supplier"
        or (op.operation.speed_typed and op.operation.feed_typed)
    ):
        return
    rpm, feed = op.value("rpm"), op.value("feed")
    own = Proposal(
        "Make {rpm} and {feed} the shop's own",
        (Change(on=f"operation:{op.operation.id}", fields={"rpm": rpm, "feed_mm_min": feed}),),
        {"rpm": Shown(rpm or 0.0, "spindle_speed"), "feed": Shown(feed or 0.0, "feed")},
    )
    yield of_operation(
        op,
        "cut.values-source",
        "note",
        "Speed and chip are a supplier's ({source}), not proven here.",
        {"source": Shown(op.data.source)},
        "",
        (own,) if rpm and feed and not kind_of(op.operation).turned else (),
    )
