"""reach.undercut-lip: a straight tool that would cut a lip of the part on its way to what lies
under it.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from machining.facts.context import PlanFacts, Ready
from machining.facts.stations import part_outline
from machining.facts.under_lip import lip_over, open_above
from machining.geometry.regions import polygons_of
from machining.plan.edit import Change
from machining.plan.places import Rectangle
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown, length

from ..finding import Finding, of_operation
from ..tools import other_tools, tool_name

AT_RIM_MM = 0.05
RECTANGULAR = 0.99  # of the box round it, and it is a rectangle


def undercut_lip(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    gouge = op.compared.gouge if op.compared is not None else None
    over = lip_over(op, gouge, facts) if gouge is not None and not gouge.share else None
    if gouge is None or over is None:
        return
    x, y, _ = gouge.at
    yield of_operation(
        op,
        "reach.undercut-lip",
        "stop",
        "The tip of {tool} is free at X {x}, Y {y}, Z {z}, but the part closes over it from {over}"
        " up: a straight tool takes {volume} of that lip.",
        {
            "tool": tool_name(op),
            "x": length(x),
            "y": length(y),
            "z": length(op.work.floor),
            "over": length(round(over, 2)),
            "volume": Shown(gouge.volume, "volume"),
        },
        "",
        tuple(_fixes(op, facts)),
    )


def _fixes(op: Ready, facts: PlanFacts) -> Iterator[Proposal]:
    """Only where it is open from above; what lies under the lip is for an undercutting tool."""
    on = op.operation.on
    if isinstance(on, Rectangle):
        yield from _only_the_opening(op, facts)
    smaller = op.tool.diameter_mm
    yield from other_tools(op, facts, lambda tool: tool.diameter_mm < smaller, None)


def _on_out(
    inside: Sequence[float], most: Sequence[float], facts: PlanFacts, op: Ready
) -> tuple[float, ...]:
    """Sides at the part's edge go on as far as the region does."""
    rim = part_outline(facts.geometry, op.lie, op.after.memo).bounds
    return tuple(
        float(there if abs(here - edge) < AT_RIM_MM else here)
        for here, there, edge in zip(inside, most, rim, strict=True)
    )


def _only_the_opening(op: Ready, facts: PlanFacts) -> Iterator[Proposal]:
    for free in sorted(polygons_of(open_above(op, facts)), key=lambda each: -each.area)[:1]:
        inside, most = free.bounds, op.work.region.bounds
        if free.area < RECTANGULAR * (inside[2] - inside[0]) * (inside[3] - inside[1]):
            continue
        west, south, east, north = _on_out(inside, most, facts, op)
        long, wide = east - west, north - south
        fields = {
            "on.x_mm": round((west + east) / 2.0, 3),
            "on.y_mm": round((south + north) / 2.0, 3),
            "on.length_mm": round(long, 3),
            "on.width_mm": round(wide, 3),
        }
        yield Proposal(
            "Only the opening, {long} × {wide}; under the lip with an undercutting tool",
            (Change(on=op.on, fields=fields),),
            {"long": length(long), "wide": length(wide)},
        )
