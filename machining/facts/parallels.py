"""What a part stands on in a vise: the bed, the step of soft jaws, or parallels, which a shop has
in so many heights.
"""

from __future__ import annotations

from machining.plan.in_vise import Holding
from machining.world.workholding import Vise

SAME_MM = 0.05


def owned(vise: Vise, height: float) -> bool:
    return any(abs(each - height) <= SAME_MM for each in vise.parallels_mm)


def nearest(vise: Vise, height: float) -> tuple[float | None, float | None]:
    """The highest pair (mm) under a height and the lowest above it."""
    lower, higher = (
        [each for each in vise.parallels_mm if each < height],
        [each for each in vise.parallels_mm if each > height],
    )
    return max(lower, default=None), min(higher, default=None)


def grips(vise: Vise) -> list[float]:
    """Depths of grip (mm) that the shop's parallels and the bed give, the shallowest first."""
    return sorted(
        vise.jaw_height_mm - each for each in (0.0, *vise.parallels_mm) if each < vise.jaw_height_mm
    )


def grip_at_least(vise: Vise, least: float) -> float:
    """The shallowest of those grips that is deep enough, or what is asked where none is or the jaws
    are soft.
    """
    if vise.jaws == "soft" or not vise.parallels_mm:
        return least
    return next((grip for grip in grips(vise) if grip >= least - SAME_MM), least)


def usual_hold(vise: Vise, letter: str, least: float) -> Holding:
    """How a vise usually holds: on parallels that are there, at six tenths of its most."""
    return Holding(
        vise=vise.key,
        fixed=f"+{letter}",
        grip_depth_mm=grip_at_least(vise, least + 1.0),
        torque_nm=round(0.6 * vise.max_torque_nm),
    )  # type: ignore[arg-type]
