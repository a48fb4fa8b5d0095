from __future__ import annotations

from machining.placing import indicated

from .parameter import Acute, From0, Over0
from .registry import Results, calculator


@calculator(
    "taper",
    "Ends and angle of a taper",
    group="Measure",
    asks=("What is the small end of this taper?", "What angle per side is it?"),
    uses=(indicated.small_end, indicated.taper_angle),
    either=(("angle_deg", "small_diameter_mm"),),
    example={"large_diameter_mm": 20, "length_mm": 50, "angle_deg": 2},
    words={"angle_deg": "per side; the included angle is twice that"},
)
def taper(
    large_diameter_mm: Over0,
    length_mm: Over0,
    angle_deg: Acute | None = None,
    small_diameter_mm: From0 | None = None,
) -> Results:
    """The angle is per side. Pipe threads taper 1 in 16 on the diameter: 1.790° per side."""
    if angle_deg is not None:
        return {"small_diameter_mm": indicated.small_end(large_diameter_mm, length_mm, angle_deg)}
    assert small_diameter_mm is not None
    return {"angle_deg": indicated.taper_angle(large_diameter_mm, length_mm, small_diameter_mm)}
