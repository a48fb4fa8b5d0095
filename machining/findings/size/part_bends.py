"""size.push-off: a turned part bent aside by its last cut."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready
from machining.facts.size import tolerance_each_way
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.plan.turned import TurnFinish
from machining.quantities.said import Shown
from machining.ways.carried import tailstock

from ..finding import Finding, Severity, of_operation


def part_bends(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    bent, kind = op.value("part_bends"), op.operation
    if bent is None or not isinstance(kind, TurnFinish):
        return
    each_way, source = tolerance_each_way(op, facts)
    if bent <= each_way * facts.library.settings.push_off_share:
        return
    severity: Severity = "stop" if bent > each_way else "look"
    yield of_operation(
        op,
        "size.push-off",
        severity,
        "The part bends {bent} aside under the cut where it gives most, and comes out thicker"
        " there; the tolerance is {tolerance} each way ({source}).",
        {
            "bent": Shown(bent, "size"),
            "tolerance": Shown(each_way, "size"),
            "source": Shown(source),
        },
        "part_bends",
        (
            *tailstock(op),
            Proposal(
                "Go over it once more", (Change(on=op.on, fields={"passes": kind.passes + 1}),)
            ),
        )
        if kind.passes == 1
        else tuple(tailstock(op)),
    )
