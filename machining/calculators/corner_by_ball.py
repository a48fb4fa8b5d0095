from __future__ import annotations

from machining.cutting import finish

from .parameter import Over0
from .registry import Results, calculator


@calculator(
    "corner-by-ball",
    "Rounding a corner with a ball",
    group="Finish",
    asks=("No form tool for this radius: how many ball passes round it?",),
    uses=(finish.round_passes, finish.scallop_on_round),
    example={"corner_radius_mm": 2, "ball_radius_mm": 3, "height_mm": 0.01},
    serves=("round_edge",),
)
def corner_by_ball(corner_radius_mm: Over0, ball_radius_mm: Over0, height_mm: Over0) -> Results:
    """A quarter round outside corner, the ball stepping along it. Compare with a form tool: one
    pass, its price and its days.
    """
    passes = int(finish.round_passes(corner_radius_mm, ball_radius_mm, height_mm))
    return {
        "passes": passes,
        "step_deg": 90.0 / passes,
        "height_mm": finish.scallop_on_round(corner_radius_mm, ball_radius_mm, 90.0 / passes),
    }
