"""Spindle speed and feed, and the limit that binds them."""

from __future__ import annotations

from math import floor, pi

from machining.quantities.checks import positive, within
from machining.quantities.computed import formula
from machining.quantities.units import (
    MetresPerMinute,
    Millimetres,
    MillimetresPerMinute,
    Plain,
    Rpm,
    Seconds,
)


@formula(unit="rpm")
def spindle_speed(cutting_speed: MetresPerMinute, diameter: Millimetres) -> float:
    """n = 1000·vc/(π·D)

    Spindle speed that gives a cutting speed at a diameter. Raises OutOfRange for values not over 0.
    Source: ISO 3002-1, cutting speed.
    """
    return 1000.0 * positive("cutting_speed", cutting_speed) / (pi * positive("diameter", diameter))


@formula(unit="m/min")
def cutting_speed(rpm: Rpm, diameter: Millimetres) -> float:
    """vc = π·D·n/1000

    Speed of the cutting edge past the work. Raises OutOfRange for values not over 0.
    Source: ISO 3002-1, cutting speed.
    """
    return pi * positive("diameter", diameter) * positive("rpm", rpm) / 1000.0


@formula(unit="m/min")
def own_speed(speed: MetresPerMinute, share: Plain) -> float:
    """vc = vc₀·k

    Speed at which a form tool starts, as a share of what the material's data say for its process.
    Raises OutOfRange for a share outside (0, 1].
    Source: machining/data/cutting.toml, form_speed.
    """
    return positive("speed", speed) * within("share", share, 0.0, 1.0, low_open=True)


@formula(unit="mm", quantity="feed_per_tooth")
def own_chip(chip: Millimetres, share: Plain) -> float:
    """h = h₀·k

    Chip at which a form tool starts, as a share of what the material's data say for its process.
    Raises OutOfRange for a share outside (0, 1].
    Source: machining/data/cutting.toml, form_chip.
    """
    return positive("chip", chip) * within("share", share, 0.0, 1.0, low_open=True)


@formula(unit="rpm")
def limited_speed(wanted: Rpm, spindle_max: Rpm, tool_max: Rpm) -> float:
    """n = min(n wanted, n spindle, n tool and holder)

    Spindle speed inside the limits of spindle, tool and holder. Raises OutOfRange for values not
    over 0.
    Source: shop practice.
    """
    return min(
        positive("wanted", wanted),
        positive("spindle_max", spindle_max),
        positive("tool_max", tool_max),
    )


@formula(unit="mm/min")
def feed(rpm: Rpm, chip: Millimetres, edges: Plain) -> float:
    """vf = n·fz·z

    Feed that gives a chip per edge; for drills and reamers the chip is per turn and z is 1.
    Raises OutOfRange for values not over 0.
    Source: ISO 3002-3, feed speed.
    """
    return positive("rpm", rpm) * positive("chip", chip) * positive("edges", edges)


@formula(unit="mm/min")
def limited_feed(wanted: MillimetresPerMinute, machine_max: MillimetresPerMinute) -> float:
    """vf = min(vf wanted, vf machine)

    Feed inside the machine's limit. Raises OutOfRange for values not over 0.
    Source: shop practice.
    """
    return min(positive("wanted", wanted), positive("machine_max", machine_max))


@formula(unit="mm", quantity="feed_per_tooth")
def chip_per_edge(feed: MillimetresPerMinute, rpm: Rpm, edges: Plain) -> float:
    """fz = vf/(n·z)

    Feed per edge that a feed and a speed give. Raises OutOfRange for values not over 0.
    Source: ISO 3002-3, feed speed.
    """
    return positive("feed", feed) / (positive("rpm", rpm) * positive("edges", edges))


@formula(unit="mm/min")
def straight_down(feed: MillimetresPerMinute, share: Plain) -> float:
    """vz = vf·k

    Feed straight down of a milling cutter, as a share of its feed sideways. Raises OutOfRange for a
    share outside (0, 1].
    Source: shop practice.
    """
    return positive("feed", feed) * within("share", share, 0.0, 1.0, low_open=True)


@formula(unit="rpm")
def speed_in_steps(wanted: Rpm, step: Rpm) -> float:
    """n = ⌊n wanted/s⌋·s

    Spindle speed in a shop's steps, downwards, so that no limit is crossed; what is under one step
    stays. Raises OutOfRange for values not over 0.
    Source: shop practice.
    """
    return _in_steps(positive("wanted", wanted), positive("step", step))


@formula(unit="mm/min")
def feed_in_steps(wanted: MillimetresPerMinute, step: MillimetresPerMinute) -> float:
    """vf = ⌊vf wanted/s⌋·s

    Feed in a shop's steps, downwards, so that no limit is crossed; what is under ten steps stays,
    for a step would be much of it.
    Raises OutOfRange for values not over 0.
    Source: shop practice.
    """
    return (
        wanted
        if positive("wanted", wanted) < 10.0 * positive("step", step)
        else _in_steps(wanted, step)
    )


def _in_steps(wanted: float, step: float) -> float:
    return wanted if wanted < step else floor(wanted / step + 1e-9) * step


@formula(unit="mm/min")
def link_feed(machine_max: MillimetresPerMinute, share: Plain) -> float:
    """vl = vf machine·k

    Feed of a link past the work, where the tool cuts nothing. Raises OutOfRange for a share outside
    (0, 1].
    Source: shop practice.
    """
    return positive("machine_max", machine_max) * within("share", share, 0.0, 1.0, low_open=True)


@formula(unit="mm/min")
def reached_feed(path: Millimetres, time: Seconds) -> float:
    """v = 60·l/t

    Feed that a path reaches on average, with its corners and short moves. Raises OutOfRange for
    values not over 0.
    Source: kinematics.
    """
    return 60.0 * positive("path", path) / positive("time", time)
