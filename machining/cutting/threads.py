"""Threads by milling and by turning."""

from __future__ import annotations

from math import ceil, pi, radians, sqrt, tan

from machining.quantities.checks import listed, not_negative, positive, within
from machining.quantities.computed import formula
from machining.quantities.units import (
    Degrees,
    Millimetres,
    MillimetresPerMinute,
    MillimetresPerSecond2,
    NewtonsPerSquareMillimetre,
    Plain,
    Rpm,
    Seconds,
)


@formula(unit="mm/min")
def centre_feed_inside(
    edge_feed: MillimetresPerMinute, hole: Millimetres, tool: Millimetres
) -> float:
    """vc = ve·(D − d)/D

    Feed of the tool's centre that gives a feed at its edge inside a bore. Raises OutOfRange for a
    tool not under the bore.
    Source: geometry.
    """
    return (
        positive("edge_feed", edge_feed)
        * (positive("hole", hole) - within("tool", tool, 0.0, hole, low_open=True, high_open=True))
        / hole
    )


@formula(unit="mm/min")
def centre_feed_outside(
    edge_feed: MillimetresPerMinute, boss: Millimetres, tool: Millimetres
) -> float:
    """vc = ve·(D + d)/D

    Feed of the tool's centre that gives a feed at its edge round a boss. Raises OutOfRange for
    values not over 0.
    Source: geometry.
    """
    return (
        positive("edge_feed", edge_feed) * (positive("boss", boss) + positive("tool", tool)) / boss
    )


@formula(unit="", quantity="number")
def thread_mill_turns(depth: Millimetres, pitch: Millimetres, rows: Plain) -> float:
    """N = L/p with one row, ⌈L/(rows·p)⌉ with several

    Turns of the helix that cut a thread to depth. Raises OutOfRange for fewer than one row.
    Source: geometry.
    """
    turns = positive("depth", depth) / (
        within("tool_rows", rows, 1.0, 1e6) * positive("pitch", pitch)
    )
    return turns if rows == 1 else float(ceil(turns - 1e-9))


@formula(unit="mm", quantity="length")
def helix_length(turns: Plain, helix_diameter: Millimetres, pitch: Millimetres) -> float:
    """l = N·√((π·D)² + p²)

    Path of the tool's centre. Raises OutOfRange for values not over 0.
    Source: geometry.
    """
    return positive("turns", turns) * sqrt(
        (pi * positive("helix_diameter", helix_diameter)) ** 2 + positive("pitch", pitch) ** 2
    )


def equal_section_infeeds(thread_depth: float, passes: int) -> list[float]:
    """Depth (mm) after each pass of a thread turned with equal chip sections: h·√(i/N), radial.

    Raises OutOfRange for values not over 0.
    Source: the section of a V grows with the square of its depth.
    """
    listed("passes", passes)
    depth = positive("thread_depth", thread_depth)
    return [depth * sqrt(i / passes) for i in range(1, passes + 1)]


@formula(unit="mm", quantity="size")
def thread_depth(major: Millimetres, hole: Millimetres) -> float:
    """h = (D − D1)/2

    Depth of an internal thread from the hole it starts in. Raises OutOfRange for a hole not under
    the major diameter.
    Source: ISO 68-1.
    """
    return (
        positive("major", major) - within("hole", hole, 0.0, major, low_open=True, high_open=True)
    ) / 2.0


@formula(unit="mm", quantity="size")
def deepest_infeed(depth: Millimetres, passes: Plain) -> float:
    """h1 = h/√N

    First and deepest infeed of N radial passes that take the same section. Raises OutOfRange for
    fewer than one pass.
    Source: the section of a V grows with the square of its depth.
    """
    return positive("depth", depth) / sqrt(within("passes", passes, 1.0, 1e6))


@formula(unit="mm", quantity="length")
def teeth_height(
    engaged: Millimetres, pitch: Millimetres, infeed: Millimetres, included_angle: Degrees
) -> float:
    """d = L/p·(p/8 + h·tan(ε/2))

    How high the teeth along a length are together, on average over their infeed. Raises OutOfRange
    for values not over 0.
    Source: ISO 68-1, a groove an eighth of the pitch wide at its ground; geometry.
    """
    half = (
        radians(within("included_angle", included_angle, 0.0, 180.0, low_open=True, high_open=True))
        / 2.0
    )
    of_pitch = positive("pitch", pitch)
    high = min(of_pitch / 8.0 + positive("infeed", infeed) * tan(half), of_pitch)
    return positive("engaged", engaged) / of_pitch * high


@formula(unit="mm", quantity="size")
def diameter_at_depth(mouth: Millimetres, taper: Plain, depth: Millimetres) -> float:
    """d = D − T·z

    Diameter of a taper thread at a depth below its mouth; the taper is on diameter. Raises
    OutOfRange where nothing is left of it.
    Source: geometry; ISO 7-1 has T = 1/16.
    """
    left = positive("mouth", mouth) - not_negative("taper", taper) * not_negative("depth", depth)
    return within("diameter", left, 0.0, mouth, low_open=True)


@formula(unit="mm", quantity="length")
def run_out_room(pitch: Millimetres, threads: Plain) -> float:
    """l = p·n

    Room a tap's chamfer needs under the last full thread. Raises OutOfRange for values not over 0.
    Source: shop practice; a tap cuts full threads only behind its chamfer.
    """
    return positive("pitch", pitch) * positive("threads", threads)


@formula(unit="mm", quantity="size")
def bore_at_depth(
    mouth: Millimetres, pitch: Millimetres, taper: Plain, depth: Millimetres, height_share: Plain
) -> float:
    """d1 = D − T·z − 2·k·p

    Bore under a taper thread at a depth below its mouth. Raises OutOfRange where nothing is left of
    it.
    Source: ISO 7-1 (k = 0.640327 at 55°).
    """
    left = diameter_at_depth(mouth, taper, depth) - 2.0 * positive(
        "height_share", height_share
    ) * positive("pitch", pitch)
    return within("bore", left, 0.0, mouth, low_open=True)


@formula(unit="mm", quantity="size")
def turned_depth(pitch: Millimetres, share: Plain) -> float:
    """h = k·p

    Depth of a turned 60° thread from its crest: k is 0.61343 outside, where the root is rounded,
    0.54127 inside. Raises OutOfRange for values not over 0.
    Source: ISO 68-1, 17/24 and 5/8 of H = 0.86603·p.
    """
    return positive("pitch", pitch) * positive("share", share)


@formula(unit="N")
def force_of_pass(
    kc: NewtonsPerSquareMillimetre, depth: Millimetres, passes: Plain, included_angle: Degrees
) -> float:
    """F = kc·h²·tan(ε/2)/N

    Cutting force of each of N passes that take the same section of a V. Raises OutOfRange for fewer
    than one pass.
    Source: geometry and Kienzle's law.
    """
    half = (
        radians(within("included_angle", included_angle, 0.0, 180.0, low_open=True, high_open=True))
        / 2.0
    )
    return (
        positive("kc", kc)
        * positive("depth", depth) ** 2
        * tan(half)
        / within("passes", passes, 1.0, 1e6)
    )


@formula(unit="mm", quantity="length")
def run_in(
    lead: Millimetres, rpm: Rpm, acceleration: MillimetresPerSecond2, settle: Seconds
) -> float:
    """l = v²/(2·a) + v·τ, v = P·n/60

    Way an axis needs before a thread to run at its lead, with the time it takes to build up its
    acceleration. Raises OutOfRange for values not over 0.
    Source: kinematics; the maker's table of approach lengths comes first.
    """
    speed = positive("lead", lead) * positive("rpm", rpm) / 60.0
    return speed**2 / (2.0 * positive("acceleration", acceleration)) + speed * not_negative(
        "settle", settle
    )
