"""Whether depth and material want a drill's chip broken."""

from __future__ import annotations

from machining.plan.operation import Drill

from .context import PlanFacts, Ready

LIGHT_METAL = 1.75  # light metals let a drill go deeper before its chips want breaking


def times_deep(op: Ready) -> float:
    return op.work.hole_depth / op.tool.diameter_mm


def peck_wanted(op: Ready, facts: PlanFacts) -> float | None:
    """Every how many mm a drill should come out; None where it need not, or is none."""
    if not isinstance(op.operation, Drill) or facts.material is None:
        return None
    light = LIGHT_METAL if facts.material.iso_group == "N" else 1.0
    if times_deep(op) <= facts.library.settings.peck_from * light:
        return None
    return round(op.tool.diameter_mm, 1)
