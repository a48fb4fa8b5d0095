"""How long a turned path takes: at a speed kept at the edge, or at one speed of the spindle."""

from __future__ import annotations

import numpy as np

from .path import Path, PathTime
from .spin import Kept, Spin, fed
from .timing import Drive, rapid_time


def turned_time(
    path: Path,
    cutting_speed: float | None,
    feed_per_rev: float,
    max_rpm: float,
    drive: Drive,
    spin: Spin,
) -> PathTime:
    """Seconds in cut, in rapid and waited for the spindle. ``cutting_speed`` None turns at
    ``max_rpm`` all along.

    The feed follows the spindle, which speeds up and slows down no faster than it can: a feed
    begins once it has come to its speed, a rapid does not wait. That the axes reach the feed is
    taken for granted, and so is that the work weighs nothing.
    """
    if cutting_speed is None:
        return _at_one_speed(path, feed_per_rev, max_rpm, drive)
    kept = Kept(cutting_speed, feed_per_rev, max_rpm)
    cutting, rapids, waited, way, since, waits = 0.0, 0.0, 0.0, 0.0, 0.0, 0
    now: float | None = None  # the spindle is started for the first cut
    for leg in path.legs:
        for a, b in zip(leg.points[:-1], leg.points[1:], strict=True):
            if leg.kind == "rapid":
                taken = rapid_time(a, b, drive)
                rapids, since = rapids + taken, since + taken
                continue
            length = float(np.linalg.norm(b - a))
            if length <= 0:
                continue
            start, end = 2.0 * max(float(a[0]), 0.0), 2.0 * max(float(b[0]), 0.0)
            if now is None or since > 0.0:
                first = kept.rpm(start)
                wait = spin.between(now, first) - since if now is not None else 0.0
                if wait > 0.0:
                    waits, waited = waits + 1, waited + wait
                now, since = first, 0.0
            taken, now = fed(length, start, end, kept, spin, now)
            cutting, way = cutting + taken, way + length
    dwell = path.dwell_s + waited
    return PathTime(cutting, rapids, dwell, cutting, way, waits=waits, waited_s=waited)


def _at_one_speed(path: Path, feed_per_rev: float, rpm: float, drive: Drive) -> PathTime:
    rapids = sum(
        rapid_time(a, b, drive)
        for leg in path.legs
        if leg.kind == "rapid"
        for a, b in zip(leg.points[:-1], leg.points[1:], strict=True)
    )
    way = path.cutting_mm
    cutting = 60.0 * way / (feed_per_rev * rpm)
    return PathTime(cutting, rapids, path.dwell_s, cutting, way)
