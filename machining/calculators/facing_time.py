from __future__ import annotations

from machining.cutting import turning

from .parameter import From0, Over0
from .registry import Results, calculator


@calculator(
    "facing-time",
    "Time to face at constant cutting speed",
    group="Turning",
    asks=(
        "How long does facing take?",
        "From which diameter on does the spindle's limit hold it back?",
    ),
    uses=(turning.facing_time, turning.clamp_diameter),
    serves=("turn_face", "part_off"),
    fills={"cutting_speed_m_min": "cutting_speed_m_min", "feed_per_rev_mm": "feed_per_rev_mm"},
    example={
        "outer_mm": 80,
        "inner_mm": 10,
        "cutting_speed_m_min": 220,
        "feed_per_rev_mm": 0.2,
        "max_rpm": 3000,
    },
)
def facing_time(
    outer_mm: Over0,
    inner_mm: From0,
    cutting_speed_m_min: Over0,
    feed_per_rev_mm: Over0,
    max_rpm: Over0,
) -> Results:
    """Both are diameters. Inside the clamp diameter the spindle turns at its limit and the cutting
    speed falls.
    """
    return {
        "time_s": turning.facing_time(
            outer_mm, inner_mm, cutting_speed_m_min, feed_per_rev_mm, max_rpm
        ),
        "clamp_diameter_mm": turning.clamp_diameter(cutting_speed_m_min, max_rpm),
    }
