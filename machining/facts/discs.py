"""A loaded tool as round pieces from its tip up to the spindle's end, with the room round them."""

from __future__ import annotations

from typing import Literal

from machining.motion.beside import Disc
from machining.plan.operation import Bore

from .context import PlanFacts, Ready

Who = Literal["tool", "holder", "head"]
Parts = list[tuple[Who, Disc]]


def discs(op: Ready, facts: PlanFacts) -> Parts:
    """The parts of its tool from the tip up, with the room the shop wants round them."""
    settings, tool, out = facts.library.settings, op.tool, op.loaded.stick_out_mm
    radius = (op.work.hole_diameter if isinstance(op.operation, Bore) else tool.diameter_mm) / 2.0
    beside, below = settings.side_margin_mm, settings.below_margin_mm
    found: Parts = [("tool", Disc(radius, 0.0, settings.jaw_margin_mm, 0.0))]
    shank = (tool.shank_diameter_mm or 0.0) / 2.0
    if shank > radius:
        found.append(("tool", Disc(shank, min(tool.usable_length_mm, out), beside, below)))
    for wider, above in op.holder.wider_steps:
        found.append(("holder", Disc(wider, out + above, beside, below)))
    for step in op.rig.spindle.nose:
        found.append(
            ("head", Disc(step.diameter_mm / 2.0, op.gauge_mm + step.above_mm, beside, below))
        )
    return found
