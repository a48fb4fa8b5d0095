"""cut.rubs, cut.chip-over: a chip thinner or thicker than the edge takes."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready
from machining.facts.kinds import kind_of
from machining.plan.base import FEED_TYPED
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown

from ..finding import Finding, of_operation
from ..tools import feed_change

NEARLY = 0.95


def chip(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    per_edge, tool = op.value("chip"), op.tool
    if per_edge is None or kind_of(op.operation).thin_chips:
        return
    thickest = op.value("peak_chip") or per_edge
    if tool.max_chip_mm is not None and thickest > tool.max_chip_mm * (1.0 + 1e-9):
        yield of_operation(
            op,
            "cut.chip-over",
            "stop",
            "A chip of {chip} is over what this tool takes, {most}.",
            {
                "chip": Shown(thickest, "feed_per_tooth"),
                "most": Shown(tool.max_chip_mm, "feed_per_tooth"),
            },
            "peak_chip" if "peak_chip" in op.figures else "chip",
            _other_feed(op, NEARLY * tool.max_chip_mm / thickest),
        )
    elif per_edge < tool.edge_radius_mm:
        yield of_operation(
            op,
            "cut.rubs",
            "look",
            "A chip of {chip} is thinner than the edge is sharp, {edge}: it rubs.",
            {
                "chip": Shown(per_edge, "feed_per_tooth"),
                "edge": Shown(tool.edge_radius_mm, "feed_per_tooth"),
            },
            "chip",
            _other_feed(op, tool.edge_radius_mm / NEARLY / per_edge),
        )


def _other_feed(op: Ready, times: float) -> tuple[Proposal, ...]:
    """Follow the data where the feed was typed; and the feed that brings the chip just inside its
    limit.
    """
    on, feed = f"operation:{op.operation.id}", op.value("feed") or 0.0
    wanted = float(f"{feed * times:.3g}")
    typed = [name for name in FEED_TYPED if getattr(op.operation, name) is not None]
    fixes = (
        [Proposal("Follow the material's data", (Change(on=on, fields=dict.fromkeys(typed)),))]
        if typed
        else []
    )
    return (*fixes, feed_change(op, wanted))
