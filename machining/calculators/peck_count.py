from __future__ import annotations

from machining.cutting import drilling

from .parameter import Over0
from .registry import Results, calculator


@calculator(
    "peck-count",
    "Pecks of a deep hole",
    group="Holes",
    asks=("How often does the drill come back?",),
    uses=(drilling.pecks,),
    example={"depth_mm": 26, "peck_mm": 6.8},
    serves=("drill",),
    fills={"peck_mm": "peck_mm"},
)
def peck_count(depth_mm: Over0, peck_mm: Over0) -> Results:
    """The last peck is counted, however short it is."""
    return {"pecks": int(drilling.pecks(depth_mm, peck_mm))}
