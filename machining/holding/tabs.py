"""What bridges left across a cut carry until they give."""

from __future__ import annotations

from math import sqrt

from machining.quantities.checks import not_negative, positive
from machining.quantities.computed import formula
from machining.quantities.units import Millimetres, Newtons, NewtonsPerSquareMillimetre, Plain


@formula(unit="N")
def tabs_shear(
    count: Plain, wide: Millimetres, high: Millimetres, proof: NewtonsPerSquareMillimetre
) -> float:
    """F = n·b·h·Rp/√3

    Force along the plate at which all tabs shear off together. Raises OutOfRange for values not
    over 0.
    Source: yield criterion of von Mises in pure shear.
    """
    section = positive("wide", wide) * positive("high", high)
    return positive("count", count) * section * positive("proof", proof) / sqrt(3.0)


@formula(unit="N")
def tabs_lift(
    count: Plain,
    wide: Millimetres,
    high: Millimetres,
    gap: Millimetres,
    proof: NewtonsPerSquareMillimetre,
) -> float:
    """F = n·b·h²·Rp/(2·g)

    Force square to the plate at which all tabs bend at both their ends. Raises OutOfRange for
    values not over 0.
    Source: plastic hinges of b·h²/4·Rp at both ends of a bridge as long as the cut is wide.
    """
    hinge = positive("wide", wide) * positive("high", high) ** 2 / 4.0 * positive("proof", proof)
    return 2.0 * positive("count", count) * hinge / positive("gap", gap)


@formula(unit="×")
def tabs_stand(side: Newtons, shear: Newtons, lifting: Newtons, lift: Newtons) -> float:
    """S = 1/(F/Fs + L/Fl)

    How many times the tabs stand a cut that pushes along the plate and lifts; both count together.
    Raises OutOfRange for capacities not over 0, or forces below it.
    Source: linear interaction, on the safe side of the yield surface.
    """
    along = not_negative("side", side) / positive("shear", shear)
    up = not_negative("lifting", lifting) / positive("lift", lift)
    return 1.0 / max(along + up, 1e-3)
