"""How far a tool must stand out of its holder, from tip to the holder's front face."""

from __future__ import annotations

from machining.quantities.checks import not_negative, positive
from machining.quantities.computed import formula
from machining.quantities.units import Millimetres


@formula(unit="mm")
def needed_stick_out(
    obstacle_above_tip: Millimetres, section_above_face: Millimetres, margin: Millimetres
) -> float:
    """L = obstacle + margin − section

    Stick-out with which a holder section, that high above the holder's face, stays clear of the
    highest thing beside the tool while the tip is at its lowest. Raises OutOfRange for a negative
    margin.
    Source: geometry; margin is shop.below_margin_mm.
    """
    return (
        obstacle_above_tip
        + not_negative("margin", margin)
        - not_negative("section_above_face", section_above_face)
    )


@formula(unit="mm")
def spare_stick_out(stick_out: Millimetres, needed: Millimetres) -> float:
    """ΔL = L − L needed

    How much shorter the tool could be; negative where it is too short. Raises OutOfRange for a
    stick-out not over 0.
    Source: definition.
    """
    return positive("stick_out", stick_out) - needed


@formula(unit="mm")
def longest_stick_out(overall: Millimetres, grip: Millimetres) -> float:
    """L = OAL − grip

    Longest stick-out that leaves enough shank in the holder. Raises OutOfRange for values not over
    0.
    Source: holder data.
    """
    return positive("overall", overall) - positive("grip", grip)


@formula(unit="×", quantity="factor")
def slenderness(stick_out: Millimetres, diameter: Millimetres) -> float:
    """λ = L/D

    Stick-out over diameter. Raises OutOfRange for values not over 0.
    Source: definition.
    """
    return positive("stick_out", stick_out) / positive("diameter", diameter)
