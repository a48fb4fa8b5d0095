"""Tapping: torque and the pilot hole."""

from __future__ import annotations

from machining.quantities.checks import positive, within
from machining.quantities.computed import formula
from machining.quantities.units import Millimetres, NewtonsPerSquareMillimetre, Plain


@formula(unit="mm", quantity="feed_per_tooth")
def tap_chip(pitch: Millimetres, flutes: Plain, chamfer_threads: Plain) -> float:
    """h = 0.613·p/(z·threads)

    Chip of one edge of a tap's chamfer. Raises OutOfRange for values not over 0.
    Source: thread height of ISO 68-1 shared among the cutting edges.
    """
    return (
        0.613
        * positive("pitch", pitch)
        / (positive("flutes", flutes) * positive("chamfer_threads", chamfer_threads))
    )


@formula(unit="N·m")
def tap_torque(
    kc: NewtonsPerSquareMillimetre,
    pitch: Millimetres,
    diameter: Millimetres,
    friction_factor: Plain,
) -> float:
    """M = c·p²·D·kc/8000

    Torque of a tap, with a factor for wear and friction. Raises OutOfRange for values not over 0.
    Source: common planning formula; factor in machining/data/cutting.toml.
    """
    return (
        positive("friction_factor", friction_factor)
        * positive("pitch", pitch) ** 2
        * positive("diameter", diameter)
        * positive("kc", kc)
        / 8000.0
    )


@formula(unit="mm", quantity="size")
def tap_drill(major: Millimetres, pitch: Millimetres, thread_share: Plain) -> float:
    """d = D − 1.299·p·s

    Pilot hole for a share of full thread. Raises OutOfRange for a share outside (0, 1].
    Source: thread height of ISO 68-1.
    """
    return positive("major", major) - 1.299 * positive("pitch", pitch) * within(
        "thread_share", thread_share, 0.0, 1.0, low_open=True
    )


@formula(unit="", quantity="percent")
def thread_share(major: Millimetres, pitch: Millimetres, drill: Millimetres) -> float:
    """s = (D − d)/(1.299·p)

    Share of full thread a pilot hole leaves. Raises OutOfRange for a pilot outside (0, major].
    Source: thread height of ISO 68-1.
    """
    return (positive("major", major) - within("drill", drill, 0.0, major, low_open=True)) / (
        1.299 * positive("pitch", pitch)
    )
