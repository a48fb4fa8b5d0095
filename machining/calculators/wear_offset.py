from __future__ import annotations

from typing import Literal

from machining.cutting import correction

from .parameter import Over0
from .registry import Results, calculator


@calculator(
    "wear-offset",
    "Correct a measured size",
    group="Measure",
    asks=("It measures wrong: which way does the wear value go, and by how much?",),
    example={
        "measured_mm": 12.46,
        "target_mm": 12.5,
        "feature": "internal",
        "process": "milling",
        "compensation": "radius",
    },
    words={"walls": "2: both sides of the size are cut now; 1: one stands already"},
    serves=("finish_walls", "bore"),
)
def wear_offset(
    measured_mm: Over0,
    target_mm: Over0,
    feature: Literal["internal", "external"],
    process: Literal["milling", "turning"],
    compensation: Literal["radius", "diameter"],
    walls: Literal["2", "1"] = "2",
) -> Results:
    """The change of the wear value, with its sign; add it to what stands there. Know whether your
    control keeps radius or diameter.
    """
    return {
        "correction_mm": correction.wear_correction(
            measured_mm, target_mm, feature, process, compensation, int(walls)
        )
    }
