from __future__ import annotations

from machining.cutting import finish

from .parameter import Over0
from .registry import Results, calculator


@calculator(
    "scallop",
    "Cusp between two ball passes",
    group="Finish",
    asks=("How far apart may ball passes be?", "What cusp does this step leave?"),
    uses=(finish.scallop_height, finish.scallop_step),
    either=(("stepover_mm", "height_mm"),),
    example={"ball_radius_mm": 4, "stepover_mm": 0.5},
    serves=("slope", "finish_floor"),
)
def scallop(
    ball_radius_mm: Over0, stepover_mm: Over0 | None = None, height_mm: Over0 | None = None
) -> Results:
    """On a flat. On a slope the cusp stands square to the surface, and the step is measured along
    it.
    """
    if stepover_mm is not None:
        return {"height_mm": finish.scallop_height(ball_radius_mm, stepover_mm)}
    assert height_mm is not None
    return {"stepover_mm": finish.scallop_step(ball_radius_mm, height_mm)}
