from __future__ import annotations

from math import ceil

from machining.motion import batch

from .parameter import From0, Over0, Whole
from .registry import Results, calculator


@calculator(
    "bar-yield",
    "Parts from bars",
    group="Time",
    asks=("How many bars does this batch take?", "How long is the remnant?"),
    example={
        "bar_length_mm": 3000,
        "part_length_mm": 42,
        "cutoff_mm": 3,
        "face_allowance_mm": 0.5,
        "min_remnant_mm": 120,
        "quantity": 250,
    },
)
def bar_yield(
    bar_length_mm: Over0,
    part_length_mm: Over0,
    cutoff_mm: From0,
    face_allowance_mm: From0,
    min_remnant_mm: From0,
    quantity: Whole,
) -> Results:
    """Each part takes its length, the cut-off and what is faced. The remnant is that of
    a full bar.
    """
    pull, parts, left = batch.bar_yield(
        bar_length_mm, part_length_mm, cutoff_mm, face_allowance_mm, min_remnant_mm
    )
    return {
        "pull_mm": pull,
        "parts_per_bar": parts,
        "bars": ceil(quantity / parts),
        "remnant_mm": left,
    }
