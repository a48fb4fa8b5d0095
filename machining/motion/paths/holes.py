"""Hole cycles: straight in, pecked, tapped."""

from __future__ import annotations

from collections.abc import Sequence
from math import ceil

from machining.motion.path import Path, Pen
from machining.quantities.errors import OutOfRange

Target = tuple[float, float, float, float]  # x, y, z of the mouth, z of the tip at the bottom
PECK_GAP_MM = 0.5
MOST_PECKS = 1000


def drilled(
    targets: Sequence[Target],
    near: float,
    retract: float,
    peck_mm: float | None = None,
    dwell_s: float = 0.0,
) -> Path:
    """Down at feed to each bottom, back at rapid; with a peck, out after each one and back to just
    above the last.
    """
    pen = Pen(retract_z=retract, near_z=near)
    for x, y, mouth, bottom in targets:
        top = max(mouth + near, bottom + near)
        pen.go_to(x, y, top)
        depth = mouth - bottom
        if peck_mm and depth / peck_mm > MOST_PECKS:
            raise OutOfRange(
                "peck_mm",
                f"{peck_mm:g}",
                f"at least {depth / MOST_PECKS:.3g}, for {MOST_PECKS} pecks or fewer",
            )
        count = ceil(depth / peck_mm - 1e-9) if peck_mm else 1
        for k in range(1, count + 1):
            pen.plunge(mouth - depth * k / count)
            pen.rapid_z(top)
            if k < count:
                pen.rapid_z(mouth - depth * k / count + PECK_GAP_MM)
    return pen.path(dwell_s * len(targets))


def there_and_back(
    targets: Sequence[Target], near: float, retract: float, dwell_s: float = 0.0
) -> Path:
    """In and out at feed, as for tapping, reaming and boring; the dwell is per hole."""
    pen = Pen(retract_z=retract, near_z=near)
    for x, y, mouth, bottom in targets:
        top = mouth + near
        pen.go_to(x, y, top)
        pen.plunge(bottom)
        pen.plunge(top)
    return pen.path(dwell_s * len(targets))
