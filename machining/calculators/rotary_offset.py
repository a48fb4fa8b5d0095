from __future__ import annotations

from machining.placing import rotary

from .parameter import Any_
from .registry import Results, calculator


@calculator(
    "rotary-offset",
    "Where a zero goes when the table turns",
    group="Setup",
    asks=("Where is this zero after an index?",),
    example={
        "centre_x_mm": 0,
        "centre_z_mm": -180,
        "offset_x_mm": 0,
        "offset_z_mm": 20,
        "angle_deg": 90,
    },
    words={"angle_deg": "physical turn of the work, right-handed about +Y"},
)
def rotary_offset(
    centre_x_mm: Any_, centre_z_mm: Any_, offset_x_mm: Any_, offset_z_mm: Any_, angle_deg: Any_
) -> Results:
    """All in machine coordinates. Confirm the sense of the axis at the machine before the first
    index.
    """
    x, z = rotary.turned_about_y((centre_x_mm, centre_z_mm), (offset_x_mm, offset_z_mm), angle_deg)
    return {"x_mm": x, "z_mm": z}
