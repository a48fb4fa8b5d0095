"""size.finish: feed marks of a turned surface over the roughness the drawing asks."""

from __future__ import annotations

from collections.abc import Iterator
from math import floor, sqrt

from machining.facts.context import PlanFacts, Ready
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.plan.turned import TurnFinish
from machining.quantities.said import Shown, length

from ..finding import Finding, of_operation
from ..tools import other_tools


def turned_finish(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    rough, kind = op.figures.get("turned_finish"), op.operation
    asked = min(
        (
            r.finish_um
            for r in facts.plan.part.requirements
            if r.finish_um is not None and r.feature in ("", "outside")
        ),
        default=None,
    )
    if rough is None or asked is None or not isinstance(kind, TurnFinish) or rough.value <= asked:
        return
    feed = floor(1000.0 * sqrt(8.0 * op.tool.corner_radius_mm * asked / 1000.0)) / 1000.0
    blunter = other_tools(
        op,
        facts,
        lambda other: (
            (op.value("chip") or 0.0) ** 2 / (8.0 * other.corner_radius_mm) * 1000.0 <= asked
            if other.corner_radius_mm
            else False
        ),
        None,
    )
    values = {
        "feed": Shown(op.value("chip") or 0.0, "feed_per_tooth"),
        "nose": length(op.tool.corner_radius_mm),
        "rough": Shown(rough.value, "roughness"),
        "asked": Shown(asked, "roughness"),
    }
    yield of_operation(
        op,
        "size.finish",
        "look",
        "At {feed} a turn a nose of {nose} leaves {rough}; the drawing asks {asked}.",
        values,
        "turned_finish",
        (
            Proposal(
                "Feed {feed} a turn",
                (Change(on=f"operation:{kind.id}", fields={"feed_per_rev_mm": feed}),),
                {"feed": Shown(feed, "feed_per_tooth")},
            ),
            *blunter,
        ),
    )
