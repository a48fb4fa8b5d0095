from __future__ import annotations

from machining.cutting import pointed

from .parameter import From0, Included, Over0
from .registry import Results, calculator


@calculator(
    "spot-depth",
    "How deep to spot",
    group="Holes",
    asks=("How deep does a spot drill go for this countersink?",),
    uses=(pointed.depth_for_width,),
    example={"cone_diameter_mm": 9, "point_angle_deg": 90},
    serves=("spot", "countersink"),
)
def spot_depth(
    cone_diameter_mm: Over0, point_angle_deg: Included, tip_flat_mm: From0 = 0.0
) -> Results:
    """The angle is the included one; half of it stands on each side of the axis."""
    return {"depth_mm": pointed.depth_for_width(cone_diameter_mm, point_angle_deg, tip_flat_mm)}
