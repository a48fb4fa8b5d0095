"""How long a turned path takes: at a speed kept at the edge, or at one speed of the spindle."""

from __future__ import annotations

import numpy as np

from machining.cutting.turning import feed_time

from .path import Path, PathTime
from .timing import Drive, rapid_time


def turned_time(
    path: Path, cutting_speed: float | None, feed_per_rev: float, max_rpm: float, drive: Drive
) -> PathTime:
    """Seconds in cut and in rapid. ``cutting_speed`` None turns at ``max_rpm`` all along.

    The feed follows the spindle; that the axes reach it is taken for granted, and the spindle is
    taken to follow at once.
    """
    cutting, rapids, way = 0.0, 0.0, 0.0
    for leg in path.legs:
        for a, b in zip(leg.points[:-1], leg.points[1:], strict=True):
            if leg.kind == "rapid":
                rapids += rapid_time(a, b, drive)
                continue
            length = float(np.linalg.norm(b - a))
            way += length
            start, end = 2.0 * max(float(a[0]), 0.0), 2.0 * max(float(b[0]), 0.0)
            if cutting_speed is None:
                cutting += 60.0 * length / (feed_per_rev * max_rpm)
            elif length > 0:
                cutting += feed_time(length, start, end, cutting_speed, feed_per_rev, max_rpm)
    return PathTime(cutting, rapids, path.dwell_s, cutting, way)
