from __future__ import annotations

from machining.cutting import speeds

from .parameter import Over0, Whole
from .registry import Results, calculator


@calculator(
    "milling-speeds",
    "Speed and feed of a cutter",
    group="Milling",
    asks=(
        "How fast should this cutter turn?",
        "What feed goes with it?",
        "What do I lose where the spindle or the feed ends?",
    ),
    uses=(speeds.spindle_speed, speeds.feed, speeds.cutting_speed, speeds.chip_per_edge),
    example={"diameter_mm": 12, "flutes": 3, "cutting_speed_m_min": 350, "feed_per_tooth_mm": 0.12},
    serves=(
        "face",
        "rough_outside",
        "rough_pocket",
        "finish_walls",
        "finish_floor",
        "chamfer",
        "mill_hole",
        "mill_thread",
        "undercut",
        "engrave",
        "round_edge",
        "slope",
    ),
    fills={"rpm": "rpm", "feed_mm_min": "feed_mm_min"},
)
def milling_speeds(
    diameter_mm: Over0,
    flutes: Whole,
    cutting_speed_m_min: Over0,
    feed_per_tooth_mm: Over0,
    max_rpm: Over0 | None = None,
    max_feed_mm_min: Over0 | None = None,
) -> Results:
    """A limit of the spindle keeps the feed per tooth, so chips stay as thick; a limit of the feed
    keeps the speed and makes them thinner. Both are named.
    """
    limited = []
    rpm, chip = speeds.spindle_speed(cutting_speed_m_min, diameter_mm), feed_per_tooth_mm
    if max_rpm is not None and rpm > max_rpm:
        rpm, limited = max_rpm, ["max_rpm"]
    feed = speeds.feed(rpm, chip, flutes)
    if max_feed_mm_min is not None and feed > max_feed_mm_min:
        feed = max_feed_mm_min
        chip = speeds.chip_per_edge(feed, rpm, flutes)
        limited.append("max_feed")
    return {
        "rpm": rpm,
        "feed_mm_min": feed,
        "cutting_speed_m_min": speeds.cutting_speed(rpm, diameter_mm),
        "feed_per_tooth_mm": chip,
        "limited_by": limited,
    }
