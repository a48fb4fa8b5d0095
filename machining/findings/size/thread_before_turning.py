"""size.order: a thread cut before the diameter under it is turned."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready
from machining.facts.kinds.turned import LEFT_MM
from machining.plan.turned import TurnFinish, TurnRough, TurnThread
from machining.quantities.said import Shown

from ..finding import Finding, of_operation
from ..tools import move_after


def thread_before_turning(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    kind = op.operation
    if not isinstance(kind, TurnThread):
        return
    high, low = kind.on.z_mm, kind.on.z_mm - kind.on.length_mm
    later = [
        other
        for other in op.setup.operations
        if other.number > op.number
        and isinstance(other.operation, TurnRough | TurnFinish)
        and other.operation.on.side == "outside"
        and other.operation.on.at_mm[0][0] > low + LEFT_MM
        and other.operation.on.at_mm[-1][0] < high - LEFT_MM
    ]
    if not later:
        return
    yield of_operation(
        op,
        "size.order",
        "stop",
        "It threads what operation {later} turns afterwards.",
        {"later": Shown(str(later[-1].number))},
        "",
        (move_after(op, later[-1]),),
    )
