from __future__ import annotations

from machining.cutting import engagement

from .parameter import Over0
from .registry import Results, calculator


@calculator(
    "face-passes",
    "Passes to face a width",
    group="Milling",
    asks=("How many passes does this face take?",),
    uses=(engagement.face_passes,),
    example={"width_mm": 90, "diameter_mm": 50, "step_mm": 35},
    serves=("face",),
    fills={"step_mm": "step_over_mm"},
)
def face_passes(width_mm: Over0, diameter_mm: Over0, step_mm: Over0) -> Results:
    """The first pass covers the cutter's diameter, each further one the step between two passes."""
    return {"passes": int(engagement.face_passes(width_mm, diameter_mm, step_mm))}
