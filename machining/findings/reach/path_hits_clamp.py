"""reach.path-hits-clamp: an edge that comes closer to a clamp or a dowel than the shop allows."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready
from machining.quantities.said import Shown, length
from machining.ways.clamps import changed_before, elsewhere

from ..finding import Finding, of_operation
from ..hold.covered import clamps_at
from ..hold.jaw_in_cut import CLAMPS


def path_hits_clamp(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    found = op.seen.in_holding
    if found is None or found.over_cut or found.role not in CLAMPS:
        return
    clamps = clamps_at(op, found.every)
    fixes = (*elsewhere(op, clamps, facts), *changed_before(op, clamps, facts))
    yield of_operation(
        op,
        "reach.path-hits-clamp",
        "stop",
        "The cutter comes {deep} too low beside {what}; it must stay {margin} above it.",
        {
            "deep": length(found.deep_mm),
            "what": Shown(found.name or "a clamp"),
            "margin": length(facts.library.settings.jaw_margin_mm),
        },
        "",
        fixes,
    )
