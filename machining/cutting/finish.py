"""What a finishing cut leaves: cusps of a ball, grooves of a turning tool."""

from __future__ import annotations

from math import sqrt

from machining.quantities.checks import positive, within
from machining.quantities.computed import formula
from machining.quantities.units import Millimetres


@formula(unit="mm", quantity="size")
def scallop_height(ball_radius: Millimetres, stepover: Millimetres) -> float:
    """h = R − √(R² − s²/4)

    Cusp a ball leaves between two passes on a flat. Raises OutOfRange for a step over 2R.
    Source: geometry.
    """
    radius = positive("ball_radius", ball_radius)
    half = within("stepover", stepover, 0.0, 2.0 * radius, low_open=True) / 2.0
    return half * half / (radius + sqrt(radius * radius - half * half))


@formula(unit="mm", quantity="size")
def scallop_step(ball_radius: Millimetres, height: Millimetres) -> float:
    """s = 2·√(2·R·h − h²)

    Step over that leaves a cusp of a height. Raises OutOfRange for a height over R.
    Source: geometry.
    """
    radius = positive("ball_radius", ball_radius)
    height = within("height", height, 0.0, radius, low_open=True)
    return 2.0 * sqrt(height * (2.0 * radius - height))


@formula(unit="µm", quantity="roughness")
def turned_roughness(feed_per_rev: Millimetres, nose_radius: Millimetres) -> float:
    """Rt = f²/(8·r)

    Depth of the groove a nose radius leaves at a feed. Raises OutOfRange for a feed over 2r.
    Source: geometry; good while the feed is well under the nose radius.
    """
    radius = positive("nose_radius", nose_radius)
    return 1000.0 * within("feed_per_rev", feed_per_rev, 0.0, 2.0 * radius, low_open=True) ** 2 / (8.0 * radius)
