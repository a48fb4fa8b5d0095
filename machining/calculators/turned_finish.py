from __future__ import annotations

from machining.cutting import finish

from .parameter import Over0
from .registry import Results, calculator


@calculator(
    "turned-finish",
    "Roughness of a turned face",
    group="Finish",
    asks=("What finish does this feed leave?",),
    uses=(finish.turned_roughness,),
    example={"feed_per_rev_mm": 0.1, "nose_radius_mm": 0.4},
    serves=("turn_finish",),
    fills={"feed_per_rev_mm": "feed_per_rev_mm"},
)
def turned_finish(feed_per_rev_mm: Over0, nose_radius_mm: Over0) -> Results:
    """The height of the groove from peak to valley; the mean roughness Ra is about a
    quarter of it.
    """
    return {"rt_um": finish.turned_roughness(feed_per_rev_mm, nose_radius_mm)}
