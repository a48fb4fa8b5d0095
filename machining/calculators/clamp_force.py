from __future__ import annotations

from machining.holding import screw

from .parameter import Over0
from .registry import Results, calculator


@calculator(
    "clamp-force",
    "Force of a clamping screw",
    group="Hold",
    asks=("How hard does this screw clamp?",),
    uses=(screw.screw_force,),
    example={"torque_nm": 40, "screw_diameter_mm": 12},
)
def clamp_force(torque_nm: Over0, screw_diameter_mm: Over0, nut_factor: Over0 = 0.2) -> Results:
    """A planning aid: the nut factor spreads by a quarter either way with lubrication and wear."""
    return {"force_n": screw.screw_force(torque_nm, screw_diameter_mm, nut_factor)}
