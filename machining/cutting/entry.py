"""Ways down into full material: a straight ramp, a helix."""

from __future__ import annotations

from math import atan, degrees, pi, radians, tan

from machining.quantities.checks import not_negative, positive, within
from machining.quantities.computed import formula
from machining.quantities.units import Degrees, Millimetres


def _slope(ramp: float) -> float:
    return tan(radians(within("ramp", ramp, 0.0, 90.0, low_open=True, high_open=True)))


@formula(unit="mm", quantity="length")
def ramp_length(depth: Millimetres, ramp: Degrees) -> float:
    """l = z/tan α

    Way along the surface that a ramp takes to a depth. Raises OutOfRange for an angle outside (0,
    90).
    Source: geometry.
    """
    return positive("depth", depth) / _slope(ramp)


@formula(unit="mm", quantity="size")
def helix_pitch(hole: Millimetres, diameter: Millimetres, ramp: Degrees) -> float:
    """p = π·(Dh − D)·tan α

    How deep one turn of a helix goes at a ramp angle. Raises OutOfRange for a hole not over the
    tool.
    Source: geometry.
    """
    within("hole", hole, positive("diameter", diameter), 1e9, low_open=True)
    return pi * (hole - diameter) * _slope(ramp)


@formula(unit="mm", quantity="size")
def smallest_helix_hole(diameter: Millimetres, core: Millimetres) -> float:
    """Dh = D + d, with d the part of the tool's middle that does not cut

    Smallest hole a helix makes without its uncut core meeting the tool. Raises OutOfRange for a
    core not under the diameter.
    Source: geometry.
    """
    return positive("diameter", diameter) + within(
        "core", not_negative("core", core), 0.0, diameter, high_open=True
    )


@formula(unit="mm", quantity="size")
def largest_helix_hole(diameter: Millimetres) -> float:
    """Dh = 2·D

    Largest hole a helix makes in one go without leaving a post. Raises OutOfRange for a diameter
    not over 0.
    Source: geometry.
    """
    return 2.0 * positive("diameter", diameter)


@formula(unit="deg")
def helix_angle(pitch: Millimetres, hole: Millimetres, diameter: Millimetres) -> float:
    """α = atan(p/(π·(Dh − D)))

    Ramp angle of the tool's centre on a helix. Raises OutOfRange for a hole not over the tool.
    Source: geometry.
    """
    within("hole", hole, positive("diameter", diameter), 1e9, low_open=True)
    return degrees(atan(positive("pitch", pitch) / (pi * (hole - diameter))))


@formula(unit="mm", quantity="length")
def overrun(radius: Millimetres, clearance: Millimetres) -> float:
    """l = r + c

    How far the tool's middle goes past an edge so that the whole tool has left the cut. Raises
    OutOfRange for negative values.
    Source: geometry.
    """
    return not_negative("radius", radius) + not_negative("clearance", clearance)
