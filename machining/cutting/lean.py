"""What a face mill leaves where its spindle does not stand square to the table."""

from __future__ import annotations

from math import sqrt


def ridge(slope: float, diameter_mm: float, step_mm: float, along: bool) -> float:
    """What stands between passes a step apart (mm), of a circle of tips that leans by a slope (mm
    per mm).

    ``along`` the lean each pass leaves the hollow of a tilted circle: slope × (R − √(R² − (s/2)²))
    at the middle between two. Across it each leaves a plane that leans, and a step of slope × s.
    """
    step = min(step_mm, diameter_mm)
    if not along:
        return slope * step
    radius = diameter_mm / 2.0
    return slope * (radius - sqrt(radius * radius - step * step / 4.0))
