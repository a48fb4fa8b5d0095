from __future__ import annotations

from machining.cutting import entry

from .parameter import Acute, Over0
from .registry import Results, calculator


@calculator(
    "ramp",
    "Getting down by a ramp or a helix",
    group="Milling",
    asks=(
        "How long is the ramp to this depth?",
        "How large must the hole be for a helix?",
        "How deep does one turn go?",
    ),
    uses=(
        entry.ramp_length,
        entry.helix_pitch,
        entry.smallest_helix_hole,
        entry.largest_helix_hole,
    ),
    example={"depth_mm": 9, "ramp_deg": 3, "diameter_mm": 12, "hole_diameter_mm": 20},
    serves=("rough_pocket", "mill_hole"),
    fills={"ramp_deg": "ramp_deg"},
)
def ramp(
    depth_mm: Over0,
    ramp_deg: Acute,
    diameter_mm: Over0,
    hole_diameter_mm: Over0 | None = None,
    core_mm: Over0 | None = None,
) -> Results:
    """The core is what the tool's middle does not cut; leave it empty for a tool that cuts over its
    centre. A hole smaller than the least leaves a core that meets the tool; one larger than twice
    the diameter leaves a post.
    """
    hole = hole_diameter_mm
    return {
        "length_mm": entry.ramp_length(depth_mm, ramp_deg),
        "pitch_mm": None if hole is None else entry.helix_pitch(hole, diameter_mm, ramp_deg),
        "turns": (
            None if hole is None else depth_mm / entry.helix_pitch(hole, diameter_mm, ramp_deg)
        ),
        "smallest_hole_mm": entry.smallest_helix_hole(diameter_mm, core_mm or 0.0),
        "largest_hole_mm": entry.largest_helix_hole(diameter_mm),
    }
