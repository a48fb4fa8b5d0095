from __future__ import annotations

from machining.cutting import pointed

from .parameter import Included, Over0
from .registry import Results, calculator


@calculator(
    "ball-in-cone",
    "A ball in a cone",
    group="Measure",
    asks=("How do I measure a countersink?", "Where does a ball rest in a cone?"),
    example={"ball_diameter_mm": 12, "cone_angle_deg": 60, "mouth_diameter_mm": 9},
    serves=("countersink",),
)
def ball_in_cone(
    ball_diameter_mm: Over0, cone_angle_deg: Included, mouth_diameter_mm: Over0
) -> Results:
    """The angle is the included one. A ball too large for the mouth rests on the rim, where it says
    nothing of the angle.
    """
    contact, top, seats = pointed.ball_in_cone(ball_diameter_mm, cone_angle_deg, mouth_diameter_mm)
    return {"contact_diameter_mm": contact, "ball_top_above_mouth_mm": top, "seats": seats}
