"""size.order: a thread cut before the diameter under it is turned."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import OperationFacts, PlanFacts, Ready
from machining.facts.kinds.turned import LEFT_MM
from machining.plan.turned import TurnFinish, TurnRough, TurnThread
from machining.quantities.said import Shown

from ..finding import Finding, keep, of_operation
from ..tools import move_after

ID = "size.order"
BURR_MM3 = 1.0  # more is no cleaning pass: its place was not turned to size before


def thread_before_turning(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    kind = op.operation
    if not isinstance(kind, TurnThread):
        return
    turns = [other for other in op.setup.operations if turns_under(other, kind)]
    later = [other for other in turns if other.number > op.number]
    if not later:
        return
    before = any(other.number < op.number for other in turns)
    if before and all((other.seen.cut_mm3 or 0.0) <= BURR_MM3 for other in later):
        yield of_operation(
            op,
            ID,
            "look",
            "Operation {later} turns over the thread again: a light pass takes the burr off its"
            " crests.",
            {"later": Shown(str(later[-1].number))},
            "",
            (
                keep(op, "size.order", "turned again to take the burr off"),
                move_after(op, later[-1]),
            ),
        )
        return
    yield of_operation(
        op,
        ID,
        "stop",
        "It threads what operation {later} turns afterwards.",
        {"later": Shown(str(later[-1].number))},
        "",
        (move_after(op, later[-1]),),
    )


def turns_under(other: OperationFacts, thread: TurnThread) -> bool:
    """Does it turn some of the outside that is threaded?"""
    high, low = thread.on.z_mm, thread.on.z_mm - thread.on.length_mm
    kind = other.operation
    return (
        isinstance(kind, TurnRough | TurnFinish)
        and kind.on.side == "outside"
        and kind.on.at_mm[0][0] > low + LEFT_MM
        and kind.on.at_mm[-1][0] < high - LEFT_MM
    )
