"""What grips a part on a diameter: what it meets there, and what a turned cut asks of it."""

from __future__ import annotations

from collections.abc import Sequence
from math import atan2, cos, degrees, hypot, radians, sin

from shapely import LineString, Polygon
from shapely.affinity import rotate

from machining.geometry.regions import Region
from machining.quantities.errors import OutOfRange

# of the width gripped: how far beside the middle of a jaw is looked, how much stock may fall off
# there before it is an edge, and how unevenly jaws may meet it
BESIDE, EDGE, UNEVEN = 0.05, 0.01, 0.02


def meets(shadow: Region, angles: Sequence[float], what: str) -> None:
    """Do jaws that come from these angles (degrees) towards the axis all meet the stock, seen along
    the axis, at once and on a face? Raises OutOfRange where they don't.
    """
    wide = float(max(abs(each) for each in shadow.bounds))
    found = [_met(shadow, angle, wide) for angle in angles]
    reaches = [middle for middle, _ in found]
    if max(reaches) - min(reaches) > UNEVEN * wide:
        raise OutOfRange(
            f"reach of {what}",
            f"{min(reaches):.1f} to {max(reaches):.1f} mm from the axis",
            "the same for all, on stock that is as wide each way",
        )
    if any(middle - beside > EDGE * 2.0 * wide for middle, beside in found):
        raise OutOfRange(
            f"place of {what}", "on an edge of the stock", "on a flat or round: turn the part"
        )


def _met(shadow: Region, angle: float, wide: float) -> tuple[float, float]:
    """How far out (mm) the stock is at an angle, and the less of that a little beside it."""
    turned = rotate(shadow, -angle, origin=(0.0, 0.0))

    def out(beside: float) -> float:
        line = LineString([(0.0, beside), (2.0 * wide, beside)]).intersection(turned)
        return 0.0 if line.is_empty else float(line.bounds[2])

    step = 2.0 * BESIDE * wide
    return out(0.0), min(out(step), out(-step))


def round_or_flats(shadow: Region, angle: float) -> float:
    """Diameter (mm) of round stock, or across the flats that are met at an angle (degrees)."""
    low, _, high, _ = shadow.bounds
    if is_round(shadow):
        return float(high - low)
    wide = float(max(abs(each) for each in shadow.bounds))
    return round(2.0 * _met(shadow, angle, wide)[0], 6)


def is_round(shadow: Region) -> bool:
    """Is stock, seen along its axis, as wide from every direction?"""
    hull = shadow.convex_hull
    if not isinstance(hull, Polygon):
        return False  # nothing is there, or next to nothing
    radii = [
        max(cos(turn) * x + sin(turn) * y for x, y in hull.exterior.coords)
        for turn in (radians(7.5 * k) for k in range(48))
    ]
    return max(radii) - min(radii) <= EDGE * max(radii)


def flat_at(shadow: Region) -> float:
    """Where (degrees) the stock's widest flat lies, seen along the axis."""
    corners = list(shadow.convex_hull.exterior.coords)  # type: ignore[attr-defined]
    sides = zip(corners[:-1], corners[1:], strict=True)
    (x0, y0), (x1, y1) = max(
        sides, key=lambda ends: hypot(ends[1][0] - ends[0][0], ends[1][1] - ends[0][1])
    )
    return degrees(atan2((y0 + y1) / 2.0, (x0 + x1) / 2.0))
