"""How a round milling tool meets the work: arc, thickest and mean chip, thinning."""

from __future__ import annotations

from math import acos, ceil, degrees, radians, sin, sqrt, tan

from machining.quantities.checks import not_negative, positive, within
from machining.quantities.computed import formula
from machining.quantities.units import (
    CubicCentimetresPerMinute,
    Degrees,
    Millimetres,
    MillimetresPerMinute,
)


def _width(width: float, diameter: float) -> float:
    return within("width", width, 0.0, positive("diameter", diameter), low_open=True)


def _angle(edge_angle: float) -> float:
    return within("edge_angle", edge_angle, 0.0, 180.0, low_open=True, high_open=True)


@formula(unit="deg")
def engagement_angle(width: Millimetres, diameter: Millimetres) -> float:
    """φ: cos φ = 1 − 2·ae/D

    Arc of contact of a side cut. Raises OutOfRange for a width outside (0, diameter].
    Source: Altintas, Manufacturing Automation, ch. 2.
    """
    return degrees(acos(1.0 - 2.0 * _width(width, diameter) / diameter))


@formula(unit="mm", quantity="feed_per_tooth")
def peak_chip(
    feed_per_tooth: Millimetres,
    width: Millimetres,
    diameter: Millimetres,
    edge_angle: Degrees = 90.0,
) -> float:
    """h = fz·sin κ·sin φ, with cos φ = 1 − 2·ae/D, and sin φ = 1 from half the diameter on

    Thickest chip of a side cut. Raises OutOfRange for a width outside (0, diameter].
    Source: Altintas, Manufacturing Automation, ch. 2.
    """
    ratio = _width(width, diameter) / diameter
    thinning = 1.0 if ratio >= 0.5 else 2.0 * sqrt(ratio * (1.0 - ratio))
    return positive("feed_per_tooth", feed_per_tooth) * sin(radians(_angle(edge_angle))) * thinning


@formula(unit="mm", quantity="feed_per_tooth")
def mean_chip(
    feed_per_tooth: Millimetres,
    width: Millimetres,
    diameter: Millimetres,
    edge_angle: Degrees = 90.0,
) -> float:
    """hm = fz·sin κ·(2·ae/D)/φ

    Mean chip over the arc of a side cut. Raises OutOfRange for a width outside (0, diameter].
    Source: Altintas, Manufacturing Automation, ch. 2.
    """
    arc = radians(engagement_angle(width, diameter))
    return (
        positive("feed_per_tooth", feed_per_tooth)
        * sin(radians(_angle(edge_angle)))
        * 2.0
        * width
        / diameter
        / arc
    )


@formula(unit="mm", quantity="feed_per_tooth")
def feed_for_chip(
    chip: Millimetres, width: Millimetres, diameter: Millimetres, edge_angle: Degrees = 90.0
) -> float:
    """fz = h/(sin κ·sin φ)

    Feed per tooth that makes the thickest chip as wanted. Raises OutOfRange for a width outside (0,
    diameter].
    Source: Altintas, Manufacturing Automation, ch. 2.
    """
    return positive("chip", chip) / peak_chip(1.0, width, diameter, edge_angle)


@formula(unit="mm")
def found_depth(height: Millimetres) -> float:
    """ap = Σ h²·A/Σ h·A

    Depth of a cut as found: how high the columns of stock stand that a step of the path takes, each
    by its share of the volume, over a tenth of a second. Raises OutOfRange for a height not over 0.
    Source: definition.
    """
    return positive("height", height)


@formula(unit="mm")
def found_width(
    removal: CubicCentimetresPerMinute,
    depth: Millimetres,
    feed: MillimetresPerMinute,
    diameter: Millimetres,
) -> float:
    """ae = min(Q/(ap·vf), D)

    Width of a cut as found, from the volume its path takes in a tenth of a second. Raises
    OutOfRange for values not over 0.
    Source: definition.
    """
    section = positive("removal", removal) * 1000.0 / positive("feed", feed)
    return min(section / positive("depth", depth), positive("diameter", diameter))


@formula(unit="mm")
def cone_diameter(depth: Millimetres, tip: Millimetres, included_angle: Degrees) -> float:
    """De = d + 2·ap·tan(ε/2)

    Diameter a pointed tool cuts at, at its working depth. Raises OutOfRange for an angle outside
    (0, 180).
    Source: geometry.
    """
    half = (
        radians(within("included_angle", included_angle, 0.0, 180.0, low_open=True, high_open=True))
        / 2.0
    )
    return not_negative("tip", tip) + 2.0 * positive("depth", depth) * tan(half)


@formula(unit="", quantity="count")
def face_passes(width: Millimetres, diameter: Millimetres, step: Millimetres) -> float:
    """N = 1 + ⌈(B − D)/s⌉, and 1 where the cutter covers it

    Passes of a face mill over a width. Raises OutOfRange for a step over the diameter.
    Source: geometry.
    """
    step = within("step", step, 0.0, positive("diameter", diameter), low_open=True)
    return 1.0 + max(0.0, float(ceil((positive("width", width) - diameter) / step - 1e-9)))
