"""size.push-off: a tool bent by its cut, over what a tolerance lets it take."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready
from machining.facts.roughed import leaves
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
    kind = op.operation
    once_more = Change(on=op.on, fields={"passes": kind.passes + 1})
    fixes = (
        *(_lighter(op, kind, facts, each_way * share) if op.data or kind.feed_typed else ()),
        Proposal("Go round once more", (once_more,), {}),
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
        fixes,
    )


def _lighter(op: Ready, kind: FinishWalls, facts: PlanFacts, wanted: float) -> Iterator[Proposal]:
    """The first narrower and the first lower cut that push it off no more than wanted (mm)."""
    depth = kind.step_down_mm if op.seen.depth_mm is None else op.seen.depth_mm
    shares = [1.0 - 0.05 * k for k in range(1, 18)]
    for width in (int(100 * kind.width_mm * share) / 100 for share in shares):
        if width >= 0.05 and push_off_at(op, facts, width, depth) <= wanted:
            edits = (*leaves(op, width), Change(on=op.on, fields={"width_mm": width}))
            yield Proposal("Leave {width} for it", edits, {"width": Shown(width, "size")})
            break
    for step in (int(10 * depth * share) / 10 for share in shares):
        if step >= 1.0 and push_off_at(op, facts, kind.width_mm, step) <= wanted:
            change = Change(on=op.on, fields={"step_down_mm": step})
            yield Proposal("Step down {step}", (change,), {"step": length(step)})
            break
