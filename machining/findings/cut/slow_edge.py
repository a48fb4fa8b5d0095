"""cut.effective-speed, cut.drill-slow: an edge slower than its material's band, by its place on the
tool or by the spindle.
"""

from __future__ import annotations

from collections.abc import Iterator
from math import ceil, pi, radians, tan

from machining.facts.context import PlanFacts, Ready
from machining.facts.kinds import kind_of
from machining.plan.edit import Change
from machining.plan.operation import Chamfer, Countersink, Drill, Engrave, Slope
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown

from ..finding import Finding, keep, of_operation
from ..tools import other_tools

SLOW_EDGE = "Where it works, at Ø {at}, its edge runs {speed}; the material wants {low}."
SLOW_SHARE = 0.8  # of the low end of a material's band


def slow_edge(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    speed, data, tool = op.value("cutting_speed"), op.data, op.tool
    if (
        speed is None
        or data is None
        or op.operation.speed_typed
        or kind_of(op.operation).turned
        or speed >= SLOW_SHARE * data.speed_low
    ):
        return
    values = {
        "speed": Shown(speed, "cutting_speed"),
        "low": Shown(data.speed_low, "cutting_speed"),
        "rpm": Shown(op.value("rpm") or 0.0, "spindle_speed"),
    }
    if isinstance(op.operation, Chamfer):
        at = op.value("cutting_diameter") or 0.0
        yield _near_its_middle(op, values, at, _lowered(op, data.speed_low))
    elif isinstance(op.operation, Engrave | Countersink | Slope):
        yield _near_its_middle(op, values, 1000.0 * speed / (pi * (op.value("rpm") or 1.0)), ())
    elif isinstance(op.operation, Drill):
        slower = other_tools(op, facts, lambda other: other.material != tool.material, None)
        yield of_operation(
            op,
            "cut.drill-slow",
            "look",
            "At {rpm} this drill cuts {speed}; the material wants {low} or more. Another way to"
            " make the hole may be quicker.",
            values,
            "cutting_speed",
            (*slower, keep(op, "cut.drill-slow", "the spindle ends here")),
        )


def _lower(op: Ready, wanted: float) -> float | None:
    """How far below the chamfer (mm) the tip must go for the edge to be as fast as wanted, None
    where the tool is too small.
    """
    tool, rpm = op.tool, op.value("rpm")
    assert isinstance(op.operation, Chamfer)
    if rpm is None or not tool.included_angle_deg:
        return None
    diameter = 1000.0 * wanted / (pi * rpm)
    if diameter > tool.diameter_mm:
        return None
    return (
        ceil(
            (
                (diameter - tool.tip_diameter_mm)
                / 2.0
                / tan(radians(tool.included_angle_deg) / 2.0)
                - op.operation.size_mm
            )
            * 10
        )
        / 10
    )


def _near_its_middle(
    op: Ready, values: dict[str, Shown], at: float, fixes: tuple[Proposal, ...]
) -> Finding:
    return of_operation(
        op,
        "cut.effective-speed",
        "look",
        SLOW_EDGE,
        {**values, "at": Shown(at, "length")},
        "cutting_speed",
        (*fixes, keep(op, "cut.effective-speed", "the spindle ends here")),
    )


def _lowered(op: Ready, wanted: float) -> tuple[Proposal, ...]:
    """The tip of a chamfer mill further down, so that what cuts is fast enough (m/min)."""
    below = _lower(op, wanted)
    if below is None:
        return ()
    change = Change(on=op.on, fields={"below_mm": below})
    return (Proposal("Lower the tip by {below}", (change,), {"below": Shown(below, "length")}),)
