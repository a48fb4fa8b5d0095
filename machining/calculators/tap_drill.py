from __future__ import annotations

from machining.cutting import tapping

from .parameter import Over0, Percent
from .registry import Results, calculator


@calculator(
    "tap-drill",
    "Pilot hole of a thread",
    group="Threads",
    asks=("Which drill for this tap?", "How much thread does this drill leave?"),
    uses=(tapping.tap_drill, tapping.thread_share),
    either=(("thread_percent", "drill_mm"),),
    example={"major_mm": 8, "pitch_mm": 1.25, "thread_percent": 75},
    serves=("tap", "drill"),
)
def tap_drill(
    major_mm: Over0,
    pitch_mm: Over0,
    thread_percent: Percent | None = None,
    drill_mm: Over0 | None = None,
) -> Results:
    """Full thread is 1.299 of the pitch on the diameter. Less thread taps easier and holds nearly
    as well.
    """
    if thread_percent is not None:
        return {"drill_mm": tapping.tap_drill(major_mm, pitch_mm, thread_percent / 100.0)}
    assert drill_mm is not None
    return {"thread_percent": 100.0 * tapping.thread_share(major_mm, pitch_mm, drill_mm)}
