from __future__ import annotations

from typing import Literal

from machining.cutting import correction

from .parameter import Over0, Whole
from .registry import Results, calculator


@calculator(
    "correction-chain",
    "Cut, measure, correct, cut again",
    group="Measure",
    asks=("What should it measure before the last cut?", "How do I get to a close size in steps?"),
    example={
        "target_mm": 34,
        "wall_mm": 0.3,
        "cuts": 3,
        "measured_mm": 33.585,
        "feature": "internal",
        "compensation": "radius",
        "after_cut": 1,
    },
    words={
        "wall_mm": "left on each wall for all cuts together",
        "after_cut": "the cut that was just measured",
        "cuts": "alike, the last to size",
    },
    serves=("finish_walls",),
)
def correction_chain(
    target_mm: Over0,
    wall_mm: Over0,
    cuts: Whole,
    feature: Literal["internal", "external"],
    measured_mm: Over0,
    compensation: Literal["radius", "diameter"],
    after_cut: Whole = 1,
) -> Results:
    """All cuts take the same, so that the tool is pushed off alike in each; what the one before the
    last is off, the last would be off too. The correction is the change of the wear value before
    the next cut.
    """
    planned = correction.sizes_of_chain(target_mm, wall_mm, int(cuts), feature)
    expected = correction.size_after(planned, int(after_cut))
    return {
        "sizes_mm": planned,
        "expected_mm": expected,
        "off_mm": measured_mm - expected,
        "correction_mm": correction.wear_correction(
            measured_mm, expected, feature, "milling", compensation, 2
        ),
    }
