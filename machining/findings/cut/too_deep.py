"""cut.slot-deep, cut.one-pass: the depth of a side cut at the width of a slot."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready
from machining.plan.edit import Change
from machining.plan.operation import RoughOutside, RoughPocket
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown

from ..finding import Finding, of_operation

# of the diameter: from this width on it is a slot, and this deep is enough
SLOT_WIDTH, SLOT_DEPTH = 0.8, 1.0
SIDE_WIDTH, SIDE_DEPTH = 0.25, 2.0


def too_deep(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    if not isinstance(op.operation, RoughOutside | RoughPocket) or op.tool is None:
        return
    depth, width, diameter = op.seen.depth_mm, op.seen.width_mm, op.tool.diameter_mm
    if not isinstance(depth, float) or not isinstance(width, float):
        return
    values = {
        "depth": Shown(depth, "length"),
        "width": Shown(width, "length"),
        "times": Shown(depth / diameter, "factor"),
    }
    if width >= SLOT_WIDTH * diameter and depth > SLOT_DEPTH * diameter:
        shallower, sentence, id = (
            SLOT_DEPTH * diameter,
            "It cuts {width} wide, nearly its whole diameter, at {depth}: the depth of a side cut.",
            "cut.slot-deep",
        )
    elif width >= SIDE_WIDTH * diameter and depth > SIDE_DEPTH * diameter:
        shallower, sentence, id = (
            depth / 2.0,
            "{depth} at {width} wide is {times} its diameter in one pass; the depth wants several.",
            "cut.one-pass",
        )
    else:
        return
    lower = float(int(shallower * 10)) / 10 or shallower
    on = f"operation:{op.operation.id}"
    narrower = round(0.1 * diameter, 2)
    yield of_operation(
        op,
        id,
        "look",
        sentence,
        values,
        "",
        (
            Proposal(
                "Step down {step}",
                (Change(on=on, fields={"step_down_mm": lower}),),
                {"step": Shown(lower, "length")},
            ),
            Proposal(
                "Step over {step}",
                (Change(on=on, fields={"step_over_mm": narrower}),),
                {"step": Shown(narrower, "length")},
            ),
        ),
    )
