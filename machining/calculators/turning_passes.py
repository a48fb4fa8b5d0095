from __future__ import annotations

from machining.cutting import turning

from .parameter import From0, Over0
from .registry import Results, calculator


@calculator(
    "turning-passes",
    "Roughing passes to a diameter",
    group="Turning",
    asks=("How many roughing passes?", "Which diameters do they leave?"),
    example={
        "start_diameter_mm": 60,
        "finish_diameter_mm": 42,
        "max_depth_mm": 2.5,
        "finish_allowance_mm": 0.3,
    },
    serves=("turn_rough",),
    fills={"depth_mm": "depth_mm"},
    words={"max_depth_mm": "per side", "finish_allowance_mm": "per side"},
)
def turning_passes(
    start_diameter_mm: Over0,
    finish_diameter_mm: Over0,
    max_depth_mm: Over0,
    finish_allowance_mm: From0,
) -> Results:
    """Equal passes no deeper than asked. The list holds the rough diameters, then the finish."""
    depth, diameters = turning.rough_diameters(
        start_diameter_mm, finish_diameter_mm, max_depth_mm, finish_allowance_mm
    )
    return {"rough_passes": len(diameters) - 1, "depth_mm": depth, "diameters_mm": diameters}
