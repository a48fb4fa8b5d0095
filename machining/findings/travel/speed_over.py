"""travel.speed-over: a speed typed over what spindle, tool or holder turns."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown

from ..finding import Finding, of_operation


def speed_over(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    spindle, wanted = op.rig.spindle, op.operation.rpm or op.value("rpm")
    if wanted is None:
        return
    limit = min(
        spindle.max_rpm,
        op.tool.max_rpm or 1e9,
        op.holder.max_rpm or 1e9,
    )
    if wanted > limit:
        yield of_operation(
            op,
            "travel.speed-over",
            "stop",
            "{wanted} is faster than machine, tool and holder allow, {limit}.",
            {"wanted": Shown(wanted, "spindle_speed"), "limit": Shown(limit, "spindle_speed")},
            "rpm",
            (
                Proposal(
                    "Turn at {limit}",
                    (Change(on=f"operation:{op.operation.id}", fields={"rpm": limit}),),
                    {"limit": Shown(limit, "spindle_speed")},
                ),
            ),
        )
    elif wanted < spindle.min_rpm:
        yield of_operation(
            op,
            "travel.speed-over",
            "stop",
            "{wanted} is slower than the spindle turns, {limit}.",
            {
                "wanted": Shown(wanted, "spindle_speed"),
                "limit": Shown(spindle.min_rpm, "spindle_speed"),
            },
            "rpm",
            (
                Proposal(
                    "Turn at {limit}",
                    (Change(on=f"operation:{op.operation.id}", fields={"rpm": spindle.min_rpm}),),
                    {"limit": Shown(spindle.min_rpm, "spindle_speed")},
                ),
            ),
        )
