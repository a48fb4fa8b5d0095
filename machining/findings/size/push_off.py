"""size.push-off: a tool bent by its cut, over what a tolerance lets it take."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready
from machining.facts.size import push_off_at, tolerance_each_way
from machining.plan.edit import Change
from machining.plan.operation import FinishWalls
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown, length

from ..finding import Finding, Severity, of_operation


def push_off(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    pushed = op.figures.get("size_error") or op.figures.get("push_off")
    if pushed is None or not isinstance(op.operation, FinishWalls):
        return
    each_way, source = tolerance_each_way(op, facts)
    share = facts.library.settings.push_off_share
    if pushed.value <= each_way * share:
        return
    id, kind, wanted = op.operation.id, op.operation, each_way * share
    depth = kind.step_down_mm if op.seen.depth_mm is None else op.seen.depth_mm
    fixes: list[Proposal] = []
    if op.data is not None or kind.feed_typed:
        narrower = next(
            (
                w
                for k in range(1, 18)
                if (w := int(100 * kind.width_mm * (1.0 - 0.05 * k)) / 100) >= 0.05
                and push_off_at(op, facts, w, depth) <= wanted
            ),
            None,
        )
        lower = next(
            (
                d
                for k in range(1, 18)
                if (d := int(10 * depth * (1.0 - 0.05 * k)) / 10) >= 1.0
                and push_off_at(op, facts, kind.width_mm, d) <= wanted
            ),
            None,
        )
        if narrower is not None:
            fixes.append(
                Proposal(
                    "Leave {width} for it",
                    (Change(on=f"operation:{id}", fields={"width_mm": narrower}),),
                    {"width": Shown(narrower, "size")},
                )
            )
        if lower is not None:
            fixes.append(
                Proposal(
                    "Step down {step}",
                    (Change(on=f"operation:{id}", fields={"step_down_mm": lower}),),
                    {"step": length(lower)},
                )
            )
    fixes.append(
        Proposal(
            "Go round once more",
            (Change(on=f"operation:{id}", fields={"passes": kind.passes + 1}),),
            {},
        )
    )
    severity: Severity = "stop" if pushed.value > each_way else "look"
    yield of_operation(
        op,
        "size.push-off",
        severity,
        "The tool is pushed off {pushed}; the tolerance is {tolerance} each way ({source}).",
        {
            "pushed": Shown(pushed.value, "size"),
            "tolerance": Shown(each_way, "size"),
            "source": Shown(source),
        },
        "size_error" if kind.passes > 1 else "push_off",
        tuple(fixes),
    )
