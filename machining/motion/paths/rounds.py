"""Round about a hole's axis: helixes for holes and threads, one turn behind a hole. The tool goes
round the way that climbs.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import partial
from math import ceil, pi

import numpy as np

from machining.geometry.frames import Vector
from machining.motion.path import Path, Pen
from machining.quantities.errors import OutOfRange

from .holes import Target

STEPS = 36  # corners of one turn
MOST_TURNS = 1000


def helix(
    x: float,
    y: float,
    radius: Callable[[Vector], Vector],
    z_from: float,
    z_to: float,
    pitch: float,
    sense: int = 1,
) -> Vector:
    """Corners from z to z, round by ``sense`` (1 counter-clockwise seen from the spindle); the
    radius may change with height.

    Raises OutOfRange for more turns than anybody would wait for.
    """
    turns = abs(z_to - z_from) / pitch
    if turns > MOST_TURNS:
        raise OutOfRange(
            "pitch",
            f"{pitch:g}",
            f"at least {pitch * turns / MOST_TURNS:.3g}, for {MOST_TURNS} turns or fewer",
        )
    count = max(2, ceil(turns * STEPS) + 1)
    around, height = (
        np.linspace(0.0, 2.0 * pi * turns * sense, count),
        np.linspace(z_from, z_to, count),
    )
    away = radius(height)
    return np.column_stack([x + away * np.cos(around), y + away * np.sin(around), height])


def turn(x: float, y: float, radius: float, z: float) -> Vector:
    """Once round at one height."""
    around = np.linspace(0.0, 2.0 * pi, STEPS + 1)
    return np.column_stack(
        [x + radius * np.cos(around), y + radius * np.sin(around), np.full(STEPS + 1, z)]
    )


def _narrowing(radius: float, mouth: float, taper: float, z: Vector) -> Vector:
    """Radius of a tapered helix at heights z: half the taper less for each mm under the mouth."""
    return np.maximum(radius - (mouth - z) * taper / 2.0, 0.0)


def milled(
    targets: Sequence[Target], radii: Sequence[float], pitch: float, near: float, retract: float
) -> Path:
    """Each hole down a helix, once round its floor, and again at each wider radius."""
    pen = Pen(retract, near)
    for x, y, mouth, bottom in targets:
        pen.go_to(x, y, mouth + near)
        for radius in radii:
            pen.cut(np.array([[x + radius, y, mouth + near]]))
            straight = partial(np.full_like, fill_value=radius)
            pen.cut(helix(x, y, straight, mouth + near, bottom, pitch))
            pen.cut(turn(x, y, radius, bottom))
            pen.cut(np.array([[x, y, bottom]]))
            pen.rapid_z(mouth + near)
    return pen.path()


def threaded(
    targets: Sequence[Target],
    radii: Sequence[float],
    turns: float,
    pitch: float,
    taper: float,
    upwards: bool,
    right_hand: bool,
    near: float,
    retract: float,
) -> Path:
    """Each thread in from the middle, along its helix and out to the middle, once for each radius
    (at the mouth).

    A right-hand thread climbs counter-clockwise.
    """
    pen = Pen(retract, near)
    sense = 1 if right_hand == upwards else -1
    for x, y, mouth, bottom in targets:
        pen.go_to(x, y, mouth + near)
        start, end = (
            (bottom, bottom + turns * pitch) if upwards else (bottom + turns * pitch, bottom)
        )
        for radius in radii:
            pen.rapid_z(start)
            narrowing = partial(_narrowing, radius, mouth, taper)
            pen.cut(helix(x, y, narrowing, start, end, pitch, sense))
            pen.cut(np.array([[x, y, end]]))
        pen.rapid_z(mouth + near)
    return pen.path()


def round_mouths(targets: Sequence[Target], offset: float, near: float, retract: float) -> Path:
    """Down into each hole on its axis, aside, once round and back, out."""
    pen = Pen(retract, near)
    for x, y, mouth, tip in targets:
        pen.go_to(x, y, mouth + near)
        pen.plunge(tip)
        pen.cut(turn(x, y, offset, tip))
        pen.cut(np.array([[x, y, tip]]))
        pen.rapid_z(mouth + near)
    return pen.path()


def behind(targets: Sequence[Target], offset: float, near: float, retract: float) -> Path:
    """Through each hole on its axis, aside below it, once round, back to the middle and out."""
    pen = Pen(retract, near)
    for x, y, mouth, tip in targets:
        pen.go_to(x, y, mouth + near)
        pen.rapid_z(tip - near)
        pen.cut(np.array([[x + offset, y, tip - near], [x + offset, y, tip]]))
        pen.cut(turn(x, y, offset, tip))
        pen.cut(np.array([[x + offset, y, tip - near], [x, y, tip - near]]))
    return pen.path()
