"""Push-off: bending of a stepped tool held at its holder's face."""

from __future__ import annotations

from collections.abc import Sequence
from math import pi

from machining.quantities.checks import not_negative, positive, within
from machining.quantities.computed import formula
from machining.quantities.units import Millimetres, Newtons, Plain


def stepped_deflection(
    force: float, sections: Sequence[tuple[float, float, float]], acting_at: float = 0.0
) -> float:
    """Deflection in mm at the point of a side force on a stepped cantilever.

    ``sections`` run from the tip to the holder as (length mm, diameter mm, modulus GPa); the force
    (N) acts at ``acting_at`` mm from the tip. Raises OutOfRange for a section that can't be, or a
    force beyond the holder.
    Source: Castigliano, δ = F·Σ (b³ − a³)/(3·E·I) with a, b measured from the force.
    """
    not_negative("force", force)
    total = sum(length for length, _, _ in sections)
    within("acting_at", acting_at, 0.0, total, high_open=True)
    at, sag = 0.0, 0.0
    for length, diameter, modulus in sections:
        near, far = max(0.0, at - acting_at), max(0.0, at + positive("length", length) - acting_at)
        inertia = pi * positive("diameter", diameter) ** 4 / 64.0
        sag += (far**3 - near**3) / (3.0 * positive("modulus", modulus) * 1000.0 * inertia)
        at += length
    return force * sag


@formula(unit="mm", quantity="size")
def tool_push_off(
    force: Newtons,
    stick_out: Millimetres,
    flute_length: Millimetres,
    cutting_diameter: Millimetres,
    neck_length: Millimetres,
    neck_diameter: Millimetres,
    shank_diameter: Millimetres,
    modulus: Plain,
    flute_share: Plain,
    acting_at: Millimetres,
    compliance: Plain,
) -> float:
    """δ = F·(Σ (b³ − a³)/(3·E·I) + c)

    Bending of flutes (as a cylinder of a share of the diameter), neck and shank from the holder's
    face, plus the give of holder and machine. ``neck_length`` is from the tip; the force acts at
    half the cutting depth. Raises OutOfRange for values not over 0.
    Source: beam theory; share and modulus in machining/data/cutting.toml.
    """
    fluted = min(flute_length, stick_out)
    sections = [(fluted, cutting_diameter * flute_share, modulus)]
    necked = min(max(neck_length, fluted), stick_out)
    if necked > fluted:
        sections.append((necked - fluted, neck_diameter, modulus))
    if stick_out > necked:
        sections.append((stick_out - necked, shank_diameter, modulus))
    return (
        stepped_deflection(force, sections, min(acting_at, stick_out * 0.99))
        + force * not_negative("compliance", compliance) / 1000.0
    )


@formula(unit="mm", quantity="size")
def bar_push_off(
    force: Newtons, stick_out: Millimetres, diameter: Millimetres, modulus: Plain, compliance: Plain
) -> float:
    """δ = F·(64·l³/(3·π·E·d⁴) + c)

    Bending of a plain round bar from the face that grips it, plus the give of holder and machine.
    Raises OutOfRange for values not over 0.
    Source: beam theory.
    """
    return (
        stepped_deflection(force, [(stick_out, diameter, modulus)])
        + force * not_negative("compliance", compliance) / 1000.0
    )
