"""What is left of a chuck's grip at speed."""

from __future__ import annotations

from math import acos, cos, degrees, pi, radians, sqrt

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


@formula(unit="mm")
def travel_left(left: Millimetres, bored: Millimetres, gripped: Millimetres, way: Plain) -> float:
    """t = left − way·(D − d)/2, way 1 gripping outside, −1 inside

    How far a jaw bored to D, closed on its spacer with so much of its travel left, can still close
    once it is closed on a part of d; under 0 it comes to its end before. Raises OutOfRange for
    diameters not over 0.
    Source: geometry.
    """
    over = positive("bored", bored) - positive("gripped", gripped)
    return not_negative("left", left) - way * over / 2.0


@formula(unit="mm")
def opened_beside(travel: Millimetres, left: Millimetres) -> float:
    """a = travel − t

    How far each jaw opens away from a part on which it is closed with t of its travel left. Raises
    OutOfRange for a travel not over 0.
    Source: geometry.
    """
    return positive("travel", travel) - left


def touching_deg(radius_mm: float, looser_mm: float, half_deg: float, gives_mm: float) -> float:
    """How far each way from its middle (degrees) a jaw bored for a radius bears on one that is so
    much smaller, where the two give so much; no farther than it is wide.

    Source: geometry, gap (R − r)·(1 − cos φ).
    """
    if looser_mm * (1.0 - cos(radians(half_deg))) <= gives_mm:
        return half_deg
    return degrees(acos(1.0 - gives_mm / looser_mm))
