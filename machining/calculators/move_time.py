from __future__ import annotations

from machining.motion import timing

from .parameter import From0, Over0
from .registry import Results, calculator


@calculator(
    "move-time",
    "Time of one move",
    group="Time",
    asks=("Does this move reach its feed at all?", "How long does a short move take?"),
    example={"distance_mm": 10, "speed_mm_min": 20000, "acceleration_mm_s2": 3000},
)
def move_time(
    distance_mm: From0,
    speed_mm_min: Over0,
    acceleration_mm_s2: Over0,
    jerk_mm_s3: Over0 | None = None,
) -> Results:
    """From rest to rest. Without jerk the speed rises and falls in straight lines; with
    it in an S.
    """
    time, reached = timing.move_time(distance_mm, speed_mm_min, acceleration_mm_s2, jerk_mm_s3)
    return {"time_s": time, "reached_mm_min": reached}
