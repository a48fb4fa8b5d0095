"""size.spring-pass: push-off that one more round would take out, under what push-off itself is a
finding for.
"""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready
from machining.plan.edit import Change
from machining.plan.operation import FinishWalls
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown

from ..finding import Finding, keep, of_operation
from ..sizes import drawn_of

SPRING_SHARE = 0.6  # of the share of a tolerance that push-off may take


def spring_pass(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    pushed, each_way = op.figures.get("push_off"), drawn_of(op, facts)
    if (
        pushed is None
        or each_way is None
        or not isinstance(op.operation, FinishWalls)
        or op.operation.passes > 1
    ):
        return
    share = facts.library.settings.push_off_share
    if not SPRING_SHARE * share * each_way < pushed.value <= share * each_way:
        return
    on = f"operation:{op.operation.id}"
    yield of_operation(
        op,
        "size.spring-pass",
        "look",
        "{pushed} of push-off is much of {tolerance} each way; a spring pass takes it out, with"
        " this tool or one a size smaller.",
        {"pushed": Shown(pushed.value, "size"), "tolerance": Shown(each_way, "size")},
        "push_off",
        (
            Proposal("Go round once more", (Change(on=on, fields={"passes": 2}),)),
            keep(op, "size.spring-pass", "no spring pass: measured on the first part"),
        ),
    )
