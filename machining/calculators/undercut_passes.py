from __future__ import annotations

from typing import Literal

from machining.cutting import pointed

from .parameter import Over0, Whole
from .registry import Results, calculator


@calculator(
    "undercut-passes",
    "Passes of an undercut",
    group="Milling",
    asks=("How wide is each pass of a dovetail?", "Which pass loads the cutter most?"),
    example={"total_width_mm": 6, "flank_length_mm": 8, "passes": 4, "equal": "load"},
    words={"equal": "equal steps, or equal removed area a pass"},
    serves=("undercut",),
)
def undercut_passes(
    total_width_mm: Over0,
    flank_length_mm: Over0,
    passes: Whole,
    equal: Literal["step", "load"] = "load",
) -> Results:
    """The engaged flank grows with the width, so equal steps load the last pass most; equal loads
    start wide and end narrow.
    """
    widths = pointed.undercut_widths(total_width_mm, int(passes), equal)
    steps = [b - a for a, b in zip([0.0, *widths], widths, strict=False)]
    return {
        "cumulative_width_mm": widths,
        "step_mm": steps,
        "engaged_flank_mm": [flank_length_mm * width / total_width_mm for width in widths],
    }
