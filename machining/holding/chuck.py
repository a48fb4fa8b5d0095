"""What is left of a chuck's grip at speed."""

from __future__ import annotations

from math import pi, sqrt

from machining.quantities.checks import not_negative, positive
from machining.quantities.computed import formula
from machining.quantities.units import Millimetres, Newtons, Plain, Rpm


@formula(unit="N")
def centrifugal_force(jaw_mass: Plain, jaw_radius: Millimetres, rpm: Rpm) -> float:
    """Fz = m·r·ω²

    Centrifugal force of one jaw; r is to its centre of mass at this diameter. Raises OutOfRange for
    negative values.
    Source: mechanics.
    """
    return (
        not_negative("jaw_mass", jaw_mass)
        * not_negative("jaw_radius", jaw_radius)
        / 1000.0
        * (2.0 * pi * not_negative("rpm", rpm) / 60.0) ** 2
    )


@formula(unit="N")
def grip_at_speed(at_rest: Newtons, centrifugal: Newtons, inside: Plain) -> float:
    """F = F rest − Fz gripping outside, + Fz gripping inside; 0 once the jaws have let go

    Force of one jaw on the part at speed. Raises OutOfRange for values not over 0.
    Source: mechanics; the maker's chart comes first.
    """
    return (
        positive("at_rest", at_rest) + centrifugal
        if inside
        else max(0.0, positive("at_rest", at_rest) - centrifugal)
    )


@formula(unit="N·m")
def chuck_torque(
    jaws: Plain, per_jaw: Newtons, friction: Plain, grip_diameter: Millimetres
) -> float:
    """M = z·F·μ·D/2000

    Torque a chuck holds by friction. Raises OutOfRange for a friction not over 0.
    Source: Coulomb friction.
    """
    return (
        positive("jaws", jaws)
        * not_negative("per_jaw", per_jaw)
        * positive("friction", friction)
        * positive("grip_diameter", grip_diameter)
        / 2000.0
    )


@formula(unit="rpm")
def release_speed(at_rest: Newtons, jaw_mass: Plain, jaw_radius: Millimetres) -> float:
    """n = 30/π·√(F rest/(m·r))

    Speed at which jaws that grip from outside let go. Raises OutOfRange for values not over 0.
    Source: mechanics.
    """
    return (
        30.0
        / pi
        * sqrt(
            positive("at_rest", at_rest)
            / (positive("jaw_mass", jaw_mass) * positive("jaw_radius", jaw_radius) / 1000.0)
        )
    )
