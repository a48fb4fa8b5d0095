"""Pointed, ball and slanted edges: how deep, how wide, how tilted."""

from __future__ import annotations

from math import cos, radians, sin, sqrt, tan

from machining.quantities.checks import listed, not_negative, positive, within
from machining.quantities.computed import formula
from machining.quantities.errors import OutOfRange
from machining.quantities.units import Degrees, Millimetres, Plain


def _half(field: str, included: float) -> float:
    return radians(within(field, included, 0.0, 180.0, low_open=True, high_open=True)) / 2.0


@formula(unit="mm", quantity="size")
def depth_for_width(width: Millimetres, included_angle: Degrees, tip_flat: Millimetres) -> float:
    """z = (w − t)/(2·tan(ε/2))

    Depth at which a pointed tool cuts a width. Raises OutOfRange for a width not over the flat of
    its tip.
    Source: geometry.
    """
    half = _half("included_angle", included_angle)
    return (
        within("width", width, not_negative("tip_flat", tip_flat), 1e9, low_open=True) - tip_flat
    ) / (2.0 * tan(half))


@formula(unit="mm", quantity="size")
def ball_diameter_at(depth: Millimetres, diameter: Millimetres) -> float:
    """De = 2·√(ap·(D − ap))

    Diameter a ball cuts at, at a depth up to its radius; D from there on. Raises OutOfRange for a
    depth not over 0.
    Source: geometry.
    """
    depth = positive("depth", depth)
    return (
        diameter
        if depth >= positive("diameter", diameter) / 2.0
        else 2.0 * sqrt(depth * (diameter - depth))
    )


@formula(unit="mm", quantity="size")
def bull_diameter_at(
    depth: Millimetres, diameter: Millimetres, corner_radius: Millimetres
) -> float:
    """De = D − 2·RE + 2·√(ap·(2·RE − ap)) up to ap = RE, then D

    Diameter a corner radius cuts at, at a depth. Raises OutOfRange for a radius over half the
    diameter.
    Source: geometry.
    """
    depth, radius = (
        positive("depth", depth),
        within("corner_radius", corner_radius, 0.0, positive("diameter", diameter) / 2.0),
    )
    return (
        diameter
        if depth >= radius
        else diameter - 2.0 * radius + 2.0 * sqrt(depth * (2.0 * radius - depth))
    )


def ball_in_cone(ball: float, cone_angle: float, mouth: float) -> tuple[float, float, str]:
    """Contact diameter, height of the ball's top above the mouth (mm), and whether it seats in the
    cone or on its rim.

    Raises OutOfRange for a ball that falls through, or an included angle outside (0, 180).
    Source: geometry.
    """
    half, radius = _half("cone_angle", cone_angle), positive("ball", ball) / 2.0
    contact = 2.0 * radius * cos(half)
    if contact <= positive("mouth", mouth):
        return contact, radius / sin(half) + radius - mouth / 2.0 / tan(half), "cone"
    return mouth, radius + sqrt(radius * radius - mouth * mouth / 4.0), "rim"


def tilted_edge(
    tool_half_angle: float, surface_angle: float, contact_offset: float, tip_flat: float
) -> tuple[float, float]:
    """Tilt from Z (degrees) that lays a slanted edge on a surface, and the shift along the axis
    (mm) to its contact.

    The surface's angle is from the plane square to Z. Raises OutOfRange for angles outside (0, 90)
    and for a contact inside the tip.
    Source: geometry: the axis stands at the half angle to the surface.
    """
    alpha = within("tool_half_angle", tool_half_angle, 0.0, 90.0, low_open=True, high_open=True)
    beta = within("surface_angle", surface_angle, 0.0, 90.0, low_open=True, high_open=True)
    if contact_offset < not_negative("tip_flat", tip_flat) / 2.0:
        raise OutOfRange(
            "contact_offset",
            f"{contact_offset:g}",
            f"at least half the flat of the tip, {tip_flat / 2.0:g}",
        )
    return abs(90.0 - alpha - beta), (contact_offset - tip_flat / 2.0) / tan(radians(alpha))


@formula(unit="deg")
def lean(surface_angle: Degrees, half_angle: Degrees) -> float:
    """τ = β − (90° − α)

    How far a tool leans out for its slanted edge to lie on a slope: β is the slope's angle from the
    face, α the edge's from the tool's axis
    (90° for the bottom of an end mill). Under 0 it leans over the part. Raises OutOfRange for
    angles outside (0, 90].
    Source: geometry.
    """
    beta = within("surface_angle", surface_angle, 0.0, 90.0, low_open=True)
    return beta - (90.0 - within("half_angle", half_angle, 0.0, 90.0, low_open=True))


def undercut_widths(total_width: float, passes: int, equal: str) -> list[float]:
    """Width reached after each pass of an undercut (mm): equal steps, or equal loads.

    An undercut's section is a triangle, so equal loads mean x_k = X·√(k/N). Raises OutOfRange for
    fewer than one pass.
    Source: geometry.
    """
    listed("passes", passes)
    width = positive("total_width", total_width)
    return [
        width * (k / passes if equal == "step" else sqrt(k / passes)) for k in range(1, passes + 1)
    ]


@formula(unit="mm", quantity="size")
def equal_step(width: Millimetres, passes: Plain) -> float:
    """s = X/N

    Step of an undercut in equal steps. Raises OutOfRange for fewer than one pass.
    Source: geometry.
    """
    return positive("width", width) / within("passes", passes, 1.0, 1e6)


@formula(unit="mm", quantity="size")
def last_even_step(width: Millimetres, passes: Plain) -> float:
    """s = X·(1 − √((N − 1)/N))

    Last and smallest step of an undercut whose passes all take the same section. Raises OutOfRange
    for fewer than one pass.
    Source: the section of a triangle grows with the square of its width.
    """
    return positive("width", width) * (
        1.0 - sqrt((within("passes", passes, 1.0, 1e6) - 1.0) / passes)
    )


@formula(unit="mm", quantity="size")
def engaged_height(reached: Millimetres, step: Millimetres, half_angle: Degrees) -> float:
    """h = (2·x − s)/(2·tan α)

    Mean height of what a slanted edge takes on its way from x − s to x. Raises OutOfRange for a
    step over the width reached.
    Source: geometry of a trapezium.
    """
    alpha = radians(within("half_angle", half_angle, 0.0, 90.0, low_open=True, high_open=True))
    return (
        2.0 * positive("reached", reached)
        - within("step", step, 0.0, reached * (1.0 + 1e-9), low_open=True)
    ) / (2.0 * tan(alpha))


@formula(unit="mm", quantity="size")
def flank_in_cut(reached: Millimetres, half_angle: Degrees) -> float:
    """l = x/sin α

    Length of a slanted edge in the cut when an undercut has reached a width. Raises OutOfRange for
    a width not over 0.
    Source: geometry.
    """
    return positive("reached", reached) / sin(
        radians(within("half_angle", half_angle, 0.0, 90.0, low_open=True, high_open=True))
    )


@formula(unit="mm", quantity="size")
def slope_contact_diameter(
    diameter: Millimetres, corner_radius: Millimetres, surface_angle: Degrees
) -> float:
    """De = D − 2·RE + 2·RE·sin β

    Diameter at which a ball or bull nose touches a surface at an angle from the face. Raises
    OutOfRange for a radius over half the diameter.
    Source: geometry.
    """
    radius = within("corner_radius", corner_radius, 0.0, positive("diameter", diameter) / 2.0)
    return (
        diameter
        - 2.0 * radius
        + 2.0 * radius * sin(radians(within("surface_angle", surface_angle, 0.0, 90.0)))
    )


@formula(unit="mm", quantity="size")
def slope_length(size: Millimetres, surface_angle: Degrees) -> float:
    """l = w/cos β

    Length of a chamfer's surface from its width on the face. Raises OutOfRange for an angle outside
    [0, 90).
    Source: geometry.
    """
    return positive("size", size) / cos(
        radians(within("surface_angle", surface_angle, 0.0, 90.0, high_open=True))
    )


@formula(unit="mm", quantity="size")
def behind_offset(
    hole: Millimetres,
    size: Millimetres,
    diameter: Millimetres,
    below: Millimetres,
    half_angle: Degrees,
) -> float:
    """e = Dh/2 + s − D/2 + b·tan α

    How far aside the tool's middle goes to chamfer the far edge of a hole, its widest edge b below
    the far face.
    Raises OutOfRange for a tool not under the hole.
    Source: geometry.
    """
    within("diameter", diameter, 0.0, positive("hole", hole), low_open=True, high_open=True)
    return (
        hole / 2.0
        + positive("size", size)
        - diameter / 2.0
        + not_negative("below", below) * tan(_half("half_angle", 2.0 * half_angle))
    )


@formula(unit="mm", quantity="size")
def ball_top_over_mouth(ball: Millimetres, cone_angle: Degrees, mouth: Millimetres) -> float:
    """t = r/sin(ε/2) + r − (m/2)/tan(ε/2) in the cone, r + √(r² − (m/2)²) on its rim

    Height of a ball's top over the mouth it sits in. Raises OutOfRange for a ball that falls
    through.
    Source: geometry.
    """
    return ball_in_cone(ball, cone_angle, mouth)[1]
