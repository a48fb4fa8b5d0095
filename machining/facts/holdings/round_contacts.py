"""Where jaws or a collet touch a part on a diameter."""

from __future__ import annotations

from collections.abc import Sequence
from math import cos, radians, sin

from machining.holding.contacts import Contact
from machining.holding.patch import INWARDS

END = (1.0 - INWARDS) / 2.0  # of a length, from its ends


def lines(
    angles: Sequence[float],
    diameter: float,
    along: tuple[float, float],
    friction: float,
    group: str,
    inside: bool = False,
) -> list[Contact]:
    """A line along the spindle at each angle (degrees), from a low to a high end (mm), by two
    points, a sixth in.
    """
    low, high = along
    ends = (low + END * (high - low), high - END * (high - low))
    found = []
    for k, angle in enumerate(angles):
        c, s = cos(radians(angle)), sin(radians(angle))
        way = 1.0 if inside else -1.0
        for z in ends:
            at = (diameter / 2.0 * c, diameter / 2.0 * s, z)
            found.append(Contact(at, (way * c, way * s, 0.0), friction, str(k + 1), group))
    return found


def arcs(
    angles: Sequence[float],
    beside: Sequence[float],
    diameter: float,
    along: tuple[float, float],
    friction: float,
    group: str,
    inside: bool = False,
) -> list[Contact]:
    """The same of jaws that touch at several places, so many degrees from their middle."""
    found = []
    for k, angle in enumerate(angles):
        at = [angle + each for each in beside]
        own = lines(at, diameter, along, friction, group, inside)
        found += [Contact(each.at, each.normal, each.friction, str(k + 1), group) for each in own]
    return found


def flats(
    angles: Sequence[float],
    wide: float,
    across: float,
    along: tuple[float, float],
    friction: float,
    group: str,
) -> list[Contact]:
    """The same of jaws or a collet on flats (mm across), so wide: by four corners."""
    found, aside = [], INWARDS * wide / 2.0
    for each in lines(angles, across, along, friction, group):
        x, y, z = each.at
        nx, ny, _ = each.normal
        for by in (-aside, aside):
            at = (x - by * ny, y + by * nx, z)
            found.append(Contact(at, each.normal, friction, each.body, group))
    return found
