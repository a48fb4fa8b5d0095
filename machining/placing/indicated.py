"""What an indicator, a sine bar and a nest ask for."""

from __future__ import annotations

from math import atan, degrees, radians, sin, tan

from machining.quantities.checks import positive, within
from machining.quantities.computed import formula
from machining.quantities.errors import OutOfRange
from machining.quantities.units import Degrees, Millimetres


@formula(unit="mm", quantity="size")
def sine_stack(angle: Degrees, sine_length: Millimetres) -> float:
    """h = L·sin α

    Gauge blocks under a sine bar. Raises OutOfRange for an angle outside (0, 90).
    Source: geometry.
    """
    return positive("sine_length", sine_length) * sin(
        radians(within("angle", angle, 0.0, 90.0, low_open=True, high_open=True))
    )


@formula(unit="mm", quantity="size")
def small_end(large_diameter: Millimetres, length: Millimetres, angle: Degrees) -> float:
    """d = D − 2·L·tan α

    Small end of a taper of an angle per side. Raises OutOfRange where the taper runs to a point
    before its end.
    Source: geometry.
    """
    small = positive("large_diameter", large_diameter) - 2.0 * positive("length", length) * tan(
        radians(within("angle", angle, 0.0, 90.0, low_open=True, high_open=True))
    )
    if small < 0:
        raise OutOfRange(
            "length",
            f"{length:g}",
            f"up to {large_diameter / 2.0 / tan(radians(angle)):g}, where the taper comes to a"
            " point",
        )
    return small


@formula(unit="deg")
def taper_angle(
    large_diameter: Millimetres, length: Millimetres, small_diameter: Millimetres
) -> float:
    """α = atan((D − d)/(2·L))

    Angle per side of a taper. Raises OutOfRange for a small end outside [0, large).
    Source: geometry.
    """
    small = within(
        "small_diameter",
        small_diameter,
        0.0,
        positive("large_diameter", large_diameter),
        high_open=True,
    )
    return degrees(atan((large_diameter - small) / (2.0 * positive("length", length))))


@formula(unit="mm", quantity="size")
def squareness_over_part(
    reading: Millimetres, face_diameter: Millimetres, part_diameter: Millimetres
) -> float:
    """e = reading·D part/D face

    What a face runs out over the part, from a reading at another diameter. Raises OutOfRange for
    diameters not over 0.
    Source: geometry.
    """
    return (
        reading
        * positive("part_diameter", part_diameter)
        / positive("face_diameter", face_diameter)
    )


@formula(unit="mm", quantity="size")
def nest_shim(first_diameter: Millimetres, this_diameter: Millimetres) -> float:
    """s = (D first − D this)/2

    Shim per side for a smaller part in a nest cut for a larger one. Raises OutOfRange for a part
    larger than the nest.
    Source: geometry.
    """
    return (
        positive("first_diameter", first_diameter)
        - within("this_diameter", this_diameter, 0.0, first_diameter, low_open=True)
    ) / 2.0
