"""hold.covered: a clamp that lies over what is cut while it is on."""

from __future__ import annotations

from collections.abc import Collection, Iterator

from machining.facts.context import PlanFacts, Ready
from machining.facts.holdings.clamped import clamps_of
from machining.plan.clamped import Clamp
from machining.plan.proposal import Later, Proposal
from machining.quantities.said import Shown
from machining.ways.clamps import changed_before, elsewhere

from ..finding import Finding, of_operation


def covered(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    found = op.seen.in_holding
    if found is None or not found.over_cut:
        return
    clamps = clamps_at(op, found.every)

    def fixes() -> Iterator[Proposal]:
        yield from changed_before(op, clamps, facts)
        yield from elsewhere(op, clamps, facts)

    yield of_operation(
        op,
        "hold.covered",
        "stop",
        "{clamp} lies over what is cut here, and no change of clamps is planned before it.",
        {"clamp": Shown(found.name.capitalize() or "A clamp")},
        "",
        Later(fixes),
    )


def clamps_at(op: Ready, names: Collection[str]) -> list[Clamp]:
    """Those that bodies are called after."""
    return [clamp for k, clamp, _, _ in clamps_of(op.station) if f"clamp {k}" in names]
