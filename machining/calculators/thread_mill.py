from __future__ import annotations

from machining.cutting import speeds, threads

from .parameter import Over0, Whole
from .registry import Results, calculator


@calculator(
    "thread-mill",
    "Milling an internal thread",
    group="Threads",
    asks=("What feed does the control need for a thread mill?", "How long is its helix?"),
    uses=(
        speeds.spindle_speed,
        speeds.feed,
        threads.centre_feed_inside,
        threads.thread_mill_turns,
        threads.helix_length,
    ),
    example={
        "hole_diameter_mm": 8,
        "tool_diameter_mm": 5.8,
        "flutes": 3,
        "pitch_mm": 1.25,
        "depth_mm": 16,
        "cutting_speed_m_min": 120,
        "feed_per_tooth_mm": 0.04,
    },
    words={
        "hole_diameter_mm": "major diameter of the thread",
        "tool_rows": "rows of teeth; 1 = one row",
    },
    serves=("mill_thread",),
)
def thread_mill(
    hole_diameter_mm: Over0,
    tool_diameter_mm: Over0,
    flutes: Whole,
    pitch_mm: Over0,
    depth_mm: Over0,
    cutting_speed_m_min: Over0,
    feed_per_tooth_mm: Over0,
    tool_rows: Whole = 1,
) -> Results:
    """The edge runs round the major diameter, the centre round a smaller circle: its feed is lower
    by as much. One row climbs the whole depth; a full form tool makes whole turns, with a little
    added for running in and out.
    """
    rpm = speeds.spindle_speed(cutting_speed_m_min, tool_diameter_mm)
    edge = speeds.feed(rpm, feed_per_tooth_mm, flutes)
    centre = threads.centre_feed_inside(edge, hole_diameter_mm, tool_diameter_mm)
    turns = threads.thread_mill_turns(depth_mm, pitch_mm, tool_rows)
    return {
        "rpm": rpm,
        "edge_feed_mm_min": edge,
        "centre_feed_mm_min": centre,
        "helix_mm": threads.helix_length(turns, hole_diameter_mm - tool_diameter_mm, pitch_mm),
    }
