from __future__ import annotations

from machining.cutting import speeds, threads

from .parameter import Over0, Whole
from .registry import Results, calculator


@calculator(
    "thread-turning",
    "Turning a thread",
    group="Threads",
    asks=("How deep is each threading pass?", "What feed does the slide run?"),
    uses=(speeds.feed,),
    serves=("turn_thread",),
    fills={"pitch_mm": "pitch_mm", "passes": "passes", "rpm": "rpm", "starts": "starts"},
    example={"pitch_mm": 1.5, "thread_depth_mm": 0.92, "passes": 6, "rpm": 800},
)
def thread_turning(
    pitch_mm: Over0, thread_depth_mm: Over0, passes: Whole, rpm: Over0, starts: Whole = 1
) -> Results:
    """Equal chip sections: each pass goes to h·√(i/N), radially. The lead is the pitch times the
    starts.
    """
    lead = pitch_mm * starts
    return {
        "feed_per_rev_mm": lead,
        "feed_mm_min": speeds.feed(rpm, lead, 1.0),
        "cumulative_infeed_mm": threads.equal_section_infeeds(thread_depth_mm, int(passes)),
    }
