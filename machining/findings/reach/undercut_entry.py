"""reach.entry: an undercut's line that starts or ends inside the stock, where its tool can neither
go down nor come up.
"""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready
from machining.facts.kinds.undercut import out_to
from machining.plan.edit import Change
from machining.plan.operation import Undercut
from machining.plan.places import Lines
from machining.plan.proposal import Proposal

from ..finding import Finding, of_operation
from ..tools import tool_name


def undercut_entry(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    kind = op.operation
    if (
        not isinstance(kind, Undercut)
        or not isinstance(kind.on, Lines)
        or not op.seen.enters_inside
    ):
        return
    longer = tuple(
        tuple((round(x, 3), round(y, 3)) for x, y in out_to(line, op)) for line in kind.on.at_mm
    )
    yield of_operation(
        op,
        "reach.entry",
        "stop",
        "{tool} is wider than its neck: it can't go down or come up inside the stock, and its line"
        " ends there.",
        {"tool": tool_name(op)},
        "overrun",
        (
            Proposal(
                "Draw the line out to the stock's edges",
                (Change(on=f"operation:{kind.id}", fields={"on.at_mm": longer, "past_mm": None}),),
                {},
            ),
        ),
    )
