from __future__ import annotations

from machining.placing import indicated

from .parameter import From0, Over0
from .registry import Results, calculator


@calculator(
    "runout",
    "What an indicator says",
    group="Measure",
    asks=("How far off centre is it?", "How far out of square is the face over the part?"),
    uses=(indicated.squareness_over_part,),
    example={"indicator_reading_mm": 0.04, "face_diameter_mm": 60, "part_diameter_mm": 90},
)
def runout(
    indicator_reading_mm: From0,
    face_diameter_mm: Over0 | None = None,
    part_diameter_mm: Over0 | None = None,
) -> Results:
    """The reading is over a full turn, lowest to highest; the axis is off by half of it."""
    squareness = None
    if face_diameter_mm is not None and part_diameter_mm is not None:
        squareness = indicated.squareness_over_part(
            indicator_reading_mm, face_diameter_mm, part_diameter_mm
        )
    return {"eccentricity_mm": indicator_reading_mm / 2.0, "squareness_mm": squareness}
