from __future__ import annotations

from machining.cutting import engagement

from .parameter import Included, Over0
from .registry import Results, calculator


@calculator(
    "chip-thinning",
    "Feed that keeps the chip",
    group="Milling",
    asks=(
        "How much faster may I feed with a light width of cut?",
        "What chip do I really make?",
        "How far does the cutter wrap?",
    ),
    uses=(
        engagement.engagement_angle,
        engagement.peak_chip,
        engagement.feed_for_chip,
        engagement.mean_chip,
    ),
    example={"diameter_mm": 12, "radial_width_mm": 1.2, "max_chip_mm": 0.08},
    serves=("face", "rough_outside", "rough_pocket", "finish_walls"),
)
def chip_thinning(
    diameter_mm: Over0, radial_width_mm: Over0, max_chip_mm: Over0, edge_angle_deg: Included = 90.0
) -> Results:
    """Under half the diameter the tooth leaves before its chip is as thick as its feed; a slanted
    edge thins it too.
    """
    feed = engagement.feed_for_chip(max_chip_mm, radial_width_mm, diameter_mm, edge_angle_deg)
    return {
        "feed_per_tooth_mm": feed,
        "factor": feed / max_chip_mm,
        "engagement_deg": engagement.engagement_angle(radial_width_mm, diameter_mm),
        "mean_chip_mm": engagement.mean_chip(feed, radial_width_mm, diameter_mm, edge_angle_deg),
    }
