from __future__ import annotations

from typing import Literal

from machining.holding import chuck

from .parameter import From0, Over0, Share, Whole
from .registry import Results, calculator


@calculator(
    "chuck-grip",
    "What is left of a chuck's grip at speed",
    group="Hold",
    asks=("How fast may this chuck turn?", "What torque does it still hold?"),
    uses=(chuck.centrifugal_force, chuck.grip_at_speed, chuck.chuck_torque, chuck.release_speed),
    serves=("turn_face", "turn_rough", "part_off"),
    example={
        "jaws": 3,
        "static_force_per_jaw_n": 12000,
        "jaw_mass_kg": 1.6,
        "jaw_radius_mm": 70,
        "rpm": 2500,
        "friction": 0.15,
        "grip_diameter_mm": 90,
    },
    words={
        "jaw_radius_mm": "to the jaw's centre of mass at this diameter",
        "grip": "external: jaws close on the outside",
    },
)
def chuck_grip(
    jaws: Whole,
    static_force_per_jaw_n: Over0,
    jaw_mass_kg: Over0,
    jaw_radius_mm: Over0,
    rpm: From0,
    friction: Share,
    grip_diameter_mm: Over0,
    grip: Literal["external", "internal"] = "external",
) -> Results:
    """Jaws that grip from outside are flung outwards and let go at the release speed; inside they
    grip harder. The chuck maker's limits come first: this is a planning aid.
    """
    flung, inside = chuck.centrifugal_force(jaw_mass_kg, jaw_radius_mm, rpm), grip == "internal"
    left = chuck.grip_at_speed(static_force_per_jaw_n, flung, float(inside))
    return {
        "centrifugal_per_jaw_n": flung,
        "dynamic_force_per_jaw_n": left,
        "torque_capacity_nm": chuck.chuck_torque(jaws, left, friction, grip_diameter_mm),
        "release_rpm": (
            None
            if inside
            else chuck.release_speed(static_force_per_jaw_n, jaw_mass_kg, jaw_radius_mm)
        ),
    }
