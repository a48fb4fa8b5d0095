"""Screws as clamps."""

from __future__ import annotations

from machining.quantities.checks import positive
from machining.quantities.computed import formula
from machining.quantities.units import Millimetres, NewtonMetres, Plain


@formula(unit="N")
def screw_force(torque: NewtonMetres, screw_diameter: Millimetres, nut_factor: Plain) -> float:
    """F = 1000·T/(K·d)

    Force of a tightened screw. The nut factor spreads by a quarter either way with lubrication.
    Raises OutOfRange for values not over 0.
    Source: VDI 2230, short form; K = 0.2 dry steel.
    """
    return (
        1000.0
        * positive("torque", torque)
        / (positive("nut_factor", nut_factor) * positive("screw_diameter", screw_diameter))
    )
