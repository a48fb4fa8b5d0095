"""cut.simultaneous: rotary axes that move during a cut whose edges are all straight."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready
from machining.plan.edit import Change
from machining.plan.operation import Slope
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown

from ..finding import Finding, keep, of_operation


def simultaneous(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    kind = op.operation
    edges = op.seen.straight_edges
    if not isinstance(kind, Slope) or kind.axes != "live" or op.seen.rounds or edges is None:
        return
    on = f"operation:{kind.id}"
    lock = Proposal("Lock them for each edge", (Change(on=on, fields={"axes": "locked"}),))
    stay = keep(op, "cut.simultaneous", "live axes: the corners must blend")
    yield of_operation(
        op,
        "cut.simultaneous",
        "look",
        "The rotary axes move during the cut, and its {edges} edges are straight: clamped they hold"
        " still and carry more.",
        {"edges": Shown(float(edges), "count")},
        "waiting_time",
        (lock, stay),
    )
