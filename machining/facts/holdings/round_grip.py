"""What a turned cut asks of whatever grips the part on a diameter."""

from __future__ import annotations

from machining.holding import chuck as chucks
from machining.quantities.computed import Computed, Given

from ..context import Ready


def asked_at_grip(op: Ready, at: float, diameter: float) -> Computed | None:
    """The figure force_at_grip: what a cut at a diameter (mm) asks of a grip at another. None where
    no force is known.
    """
    grip_at = Given(at, "stock in the jaws")
    if "cutting_force" in op.figures:
        return op.work_out(
            chucks.force_at_grip,
            "force_at_grip",
            force=op.figures["cutting_force"],
            cut_diameter=Given(diameter, "where it asks most"),
            grip_diameter=grip_at,
            axial=op.figures["feed_force"],
        )
    if "cutting_torque" in op.figures:
        twist = Given(2000.0 * op.figures["cutting_torque"].value / at, "torque at the grip")
        return op.work_out(
            chucks.force_at_grip,
            "force_at_grip",
            force=twist,
            cut_diameter=grip_at,
            grip_diameter=grip_at,
            axial=op.figures.get("thrust") or Given(0.0, "no thrust"),
        )
    return None
