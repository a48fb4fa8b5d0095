"""A slot at the tool's own width: down on a slope to and fro, then once along its whole length."""

from __future__ import annotations

from collections.abc import Sequence
from math import radians, tan

import numpy as np

from machining.motion.path import Path, Pen

from .areas import counted

Spot = tuple[float, float]


def along_slot(
    ends: tuple[Spot, Spot],
    top: float,
    heights: Sequence[float],
    ramp_deg: float,
    near: float,
    retract: float,
) -> Path:
    """From a slot's ``top`` down to each height (mm) in turn, no steeper than the ramp; at each the
    whole length is cut flat. Raises OutOfRange for a ramp so flat that the moves can't be counted.
    """
    pen, (a, b) = Pen(retract, near), (np.array(end) for end in ends)
    length = float(np.hypot(*(b - a)))
    pen.go_to(*a)
    pen.plunge(top)
    at, z = 0.0, top
    for low in heights:
        counted("ramp_deg", ramp_deg, (z - low) / (length * tan(radians(ramp_deg))))
        spots = []
        while z - low > 1e-9:
            end = length if at < length / 2.0 else 0.0
            run = min(abs(end - at), (z - low) / tan(radians(ramp_deg)))
            at += run if end > at else -run
            z -= run * tan(radians(ramp_deg))
            z = low if z - low < 1e-9 else z
            spots.append((at, z))
            if z <= low:
                spots.append((end, low))
                at = end
        other = 0.0 if at > length / 2.0 else length
        spots.append((other, low))
        at = other
        pen.cut(np.array([(*(a + (b - a) * (s / length)), height) for s, height in spots]))
    return pen.path()
