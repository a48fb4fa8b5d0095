from __future__ import annotations

from machining.cutting import pointed

from .parameter import Acute, From0, Over0
from .registry import Results, calculator


@calculator(
    "tilted-chamfer",
    "A chamfer no stock tool has",
    group="Milling",
    asks=("How far do I tilt a chamfer tool for an odd angle?", "How much does the tip shift?"),
    example={"tool_half_angle_deg": 30, "surface_angle_deg": 25, "contact_offset_mm": 1},
    words={
        "tool_half_angle_deg": "half of the tool's included angle",
        "surface_angle_deg": "from the plane square to Z",
        "contact_offset_mm": "from the tool's axis",
    },
    serves=("slope",),
)
def tilted_chamfer(
    tool_half_angle_deg: Acute,
    surface_angle_deg: Acute,
    contact_offset_mm: Over0,
    tip_flat_mm: From0 = 0.0,
) -> Results:
    """The axis stands at the tool's half angle to the surface it cuts. Angles are half angles here:
    included is twice that.
    """
    tilt, shift = pointed.tilted_edge(
        tool_half_angle_deg, surface_angle_deg, contact_offset_mm, tip_flat_mm
    )
    return {
        "axis_to_surface_deg": tool_half_angle_deg,
        "axis_to_normal_deg": 90.0 - tool_half_angle_deg,
        "tilt_from_z_deg": tilt,
        "axial_shift_mm": shift,
    }
