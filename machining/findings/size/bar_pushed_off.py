"""size.push-off: a boring bar bent by its last cut."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready
from machining.facts.size import tolerance_each_way
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.plan.turned import TurnFinish
from machining.quantities.said import Shown, length

from ..finding import Finding, Severity, of_operation
from ..tools import other_tools


def bar_pushed_off(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    pushed, kind, loaded = (
        op.figures.get("size_error") or op.figures.get("push_off"),
        op.operation,
        op.loaded,
    )
    if pushed is None or not isinstance(kind, TurnFinish) or loaded is None:
        return
    each_way, source = tolerance_each_way(op, facts)
    if pushed.value <= each_way * facts.library.settings.push_off_share:
        return
    needed = op.value("stick_out_needed") or loaded.stick_out_mm
    bar = op.tool.shank_diameter_mm
    fixes = [
        Proposal(
            "Go over it once more",
            (Change(on=f"operation:{kind.id}", fields={"passes": kind.passes + 1}),),
            {},
        ),
        *other_tools(op, facts, lambda other: other.shank_diameter_mm > bar, loaded.stick_out_mm),
    ]
    shorter = float(int(needed) + 1)
    if shorter < loaded.stick_out_mm:
        fixes.insert(
            0,
            Proposal(
                "Set stick-out to {shorter}",
                (Change(on=f"tool:{loaded.id}", fields={"stick_out_mm": shorter}),),
                {"shorter": length(shorter)},
            ),
        )
    severity: Severity = "stop" if pushed.value > each_way else "look"
    yield of_operation(
        op,
        "size.push-off",
        severity,
        "The bar is pushed off {pushed}; the tolerance is {tolerance} each way ({source}).",
        {
            "pushed": Shown(pushed.value, "size"),
            "tolerance": Shown(each_way, "size"),
            "source": Shown(source),
        },
        "size_error" if kind.passes > 1 else "push_off",
        tuple(fixes),
    )
