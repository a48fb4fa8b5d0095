"""reach.wrong-floor: an operation that takes nothing away."""

from __future__ import annotations

from collections.abc import Iterator
from math import isfinite

from machining.facts.context import PlanFacts, Ready
from machining.facts.kinds import kind_of
from machining.facts.kinds.base import unmarked
from machining.facts.observed import NOTHING_MM3
from machining.plan.edit import RemoveOperation
from machining.plan.proposal import Proposal
from machining.quantities.said import length

from ..finding import Finding, of_operation


def wrong_floor(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    cut = op.seen.cut_mm3
    if kind_of(op.operation).removed is unmarked or not isinstance(cut, float) or cut > NOTHING_MM3:
        return
    out = (Proposal("Take the operation out", (RemoveOperation(operation=op.operation.id),)),)
    top = float(op.before.bounds()[1][2])
    lowest = min((hole[3] for hole in op.work.holes), default=op.work.floor)
    if not isfinite(top):
        yield of_operation(
            op,
            "reach.wrong-floor",
            "stop",
            "Nothing is left of the blank here: nothing is cut.",
            {},
            "",
            out,
        )
    elif lowest >= top - 1e-6 and not kind_of(op.operation).turned:
        yield of_operation(
            op,
            "reach.wrong-floor",
            "stop",
            "The stock ends {gap} below the floor of this cut: nothing is cut.",
            {"gap": length(max(lowest - top, 0.0))},
            "",
            out,
        )
    else:
        yield of_operation(
            op,
            "reach.wrong-floor",
            "look",
            "Nothing is left to cut here: what it takes is gone already.",
            {},
            "",
            out,
        )
