from __future__ import annotations

from machining.cutting import threads
from machining.placing import indicated

from .parameter import From0, Over0
from .registry import Results, calculator


@calculator(
    "pipe-taper",
    "Pipe thread that tapers",
    group="Threads",
    asks=(
        "How thick is a pipe thread at this depth?",
        "What angle do I tilt or program for a pipe taper?",
    ),
    uses=(threads.diameter_at_depth, threads.bore_at_depth),
    example={"major_mm": 20.955, "pitch_mm": 1.814, "depth_mm": 15},
    words={
        "major_mm": "major diameter at the mouth (the gauge plane)",
        "taper": "on diameter per length; a sixteenth for ISO 7-1",
        "height_share": "thread height over pitch: 0.640 at 55°, 0.8 at 60°",
    },
    serves=("mill_thread", "tap"),
)
def pipe_taper(
    major_mm: Over0,
    pitch_mm: Over0,
    depth_mm: From0,
    taper: Over0 = 0.0625,
    height_share: Over0 = 0.640327,
) -> Results:
    """The thread narrows from its mouth. A straight hole bored to its smallest minor diameter can
    be tapped; a bore with the taper of the thread leaves an even chip.
    """
    below = threads.diameter_at_depth(major_mm, taper, depth_mm)
    angle = (
        indicated.taper_angle(major_mm, depth_mm, below)
        if depth_mm > 0
        else indicated.taper_angle(1.0, 1.0, 1.0 - taper)
    )
    return {
        "diameter_mm": below,
        "bore_at_mouth_mm": threads.bore_at_depth(major_mm, pitch_mm, taper, 0.0, height_share),
        "bore_at_depth_mm": threads.bore_at_depth(
            major_mm, pitch_mm, taper, depth_mm, height_share
        ),
        "angle_deg": angle,
        "included_angle_deg": 2.0 * angle,
    }
