"""hold.brace-gone: what carried a thin wall or bar is cut away before the wall is finished."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.braced import brace_of
from machining.facts.context import PlanFacts, Ready
from machining.plan.edit import MoveOperation
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown

from ..finding import Finding, of_operation
from .slender import said


def brace_gone(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    found = brace_of(op, facts)
    if found is None:
        return
    other, worst = found
    number, setup = Shown(str(other.number)), op.setup.planned
    places = [each.id for each in setup.operations]
    later = MoveOperation(operation=other.id, setup=setup.id, index=places.index(op.id))
    sooner = MoveOperation(operation=op.id, setup=setup.id, index=places.index(other.id))
    yield of_operation(
        op,
        "hold.brace-gone",
        "stop",
        "What carried the wall it cuts on is gone: operation {number} took it away, and {thick}"
        " stands {far} from what carries it now, {ratio} its thickness; this cut bends it {bends}.",
        {**said(worst), "number": number},
        "wall_bends",
        (
            Proposal("Move operation {number} after it", (later,), {"number": number}),
            Proposal("Move it before operation {number}", (sooner,), {"number": number}),
        ),
    )
