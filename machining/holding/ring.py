"""How jaws press a ring out of round."""

from __future__ import annotations

from math import pi, sin

from machining.quantities.checks import not_negative, positive
from machining.quantities.computed import formula
from machining.quantities.errors import OutOfRange
from machining.quantities.units import Millimetres, Newtons, Plain

HARMONICS = 40


@formula(unit="mm")
def out_of_round(
    per_jaw: Newtons,
    jaws: Plain,
    radius: Millimetres,
    modulus: Plain,
    inertia: Plain,
    bears: Plain,
) -> float:
    """u = 2·Σ z·F·R³·s/(π·E·I·(m² − 1)²) over m = z, 3z, 5z …, s = sin(m·φ)/(m·φ)

    Difference between the largest and the smallest radius of a ring of mean radius R that z jaws
    press with F each, each evenly over φ degrees both ways (0: along a line); E in GPa, I in mm⁴
    about its middle line. Raises OutOfRange for values that are not over 0, or jaws under 2.
    Source: thin ring bent without stretching, as a Fourier series (Timoshenko, Strength of
    Materials II); a thick ring and ends that carry give less.
    """
    if jaws < 2.0:
        raise OutOfRange("jaws", jaws, "2 or more")
    arc = not_negative("bears", bears) * pi / 180.0
    total = 0.0
    for k in range(1, 2 * HARMONICS, 2):
        m = k * jaws
        even = sin(m * arc) / (m * arc) if arc > 0.0 else 1.0
        total += even / (m * m - 1.0) ** 2
    bent = positive("modulus", modulus) * 1000.0 * positive("inertia", inertia)
    force = jaws * not_negative("per_jaw", per_jaw)
    return 2.0 * force * positive("radius", radius) ** 3 * total / (pi * bent)
