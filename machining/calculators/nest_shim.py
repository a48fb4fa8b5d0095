from __future__ import annotations

from machining.placing import indicated

from .parameter import Over0
from .registry import Results, calculator


@calculator(
    "nest-shim",
    "Shim for another diameter in a nest",
    group="Setup",
    asks=("What shim does the smaller part need?",),
    uses=(indicated.nest_shim,),
    example={"first_diameter_mm": 50, "this_diameter_mm": 48},
)
def nest_shim(first_diameter_mm: Over0, this_diameter_mm: Over0) -> Results:
    """Per side, in a nest bored for the first diameter."""
    return {"shim_mm": indicated.nest_shim(first_diameter_mm, this_diameter_mm)}
