from __future__ import annotations

from machining.cutting import engagement, pointed, speeds

from .parameter import From0, Included, Over0
from .registry import Results, calculator


@calculator(
    "engrave-width",
    "Width of an engraved line",
    group="Milling",
    asks=("How deep for this line width?", "How fast does the point really cut?"),
    uses=(engagement.cone_diameter, pointed.depth_for_width, speeds.cutting_speed),
    either=(("depth_mm", "width_mm"),),
    example={"depth_mm": 0.4, "included_angle_deg": 60, "tip_flat_mm": 0.1, "rpm": 12000},
    serves=("engrave",),
)
def engrave_width(
    included_angle_deg: Included,
    depth_mm: Over0 | None = None,
    width_mm: Over0 | None = None,
    tip_flat_mm: From0 = 0.0,
    rpm: Over0 | None = None,
) -> Results:
    """The cutting speed is at the width, the fastest point of the edge; towards the tip it falls to
    nothing.
    """
    if depth_mm is not None:
        width = engagement.cone_diameter(depth_mm, tip_flat_mm, included_angle_deg)
        found = {"width_mm": width}
    else:
        assert width_mm is not None
        width = width_mm
        found = {"depth_mm": pointed.depth_for_width(width_mm, included_angle_deg, tip_flat_mm)}
    return {
        **found,
        "cutting_speed_m_min": None if rpm is None else speeds.cutting_speed(rpm, width),
    }
