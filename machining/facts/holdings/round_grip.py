"""What grips a part on a diameter: what it meets there, and what a turned cut asks of it."""

from __future__ import annotations

from collections.abc import Sequence
from math import atan2, cos, degrees, hypot, radians, sin

import numpy as np
from shapely import LineString
from shapely.affinity import rotate

from machining.geometry.regions import Region
from machining.holding import chuck as chucks
from machining.quantities.computed import Computed, Given
from machining.quantities.errors import OutOfRange

from .. import turning
from ..context import Ready

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
    radii = [
        max(cos(turn) * x + sin(turn) * y for x, y in hull.exterior.coords)  # type: ignore[attr-defined]
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


def _farthest_cut(op: Ready) -> tuple[float, float, float]:
    """How far (mm) from the axis it cuts, how far beside it and how far along the spindle."""
    fed = [leg for leg in op.path.legs if leg.kind != "rapid"]
    cuts = [leg for leg in fed if leg.kind == "cut"] or fed
    if not cuts:
        return 0.0, 0.0, 0.0
    x, y, z = (np.concatenate([leg.points for leg in cuts]) @ turning.spindle_s(op).T).T
    return float(np.hypot(x, y).max()), float(np.abs(y).max()), float(z.max())


def _from_beside(op: Ready, grip: Given) -> Computed | None:
    """What a driven tool across the spindle asks of the grip; None where no force is known."""
    side = op.figures.get("worst_side_force") or op.figures.get("side_force")
    push = side or op.figures.get("thrust")
    if push is None:
        return None
    out, aside, far = _farthest_cut(op)
    low = float(op.station.lie.stock_low[2])
    middle = (low + (op.station.stand.top or low)) / 2.0
    return op.work_out(
        chucks.force_across_at_grip,
        "force_at_grip",
        force=push,
        cut_radius=Given(out if side else aside, "path"),
        lever=Given(max(far - middle, 0.0), "path, from the middle of the grip"),
        grip_diameter=grip,
    )


def asked_at_grip(op: Ready, at: float, diameter: float) -> Computed | None:
    """The figure force_at_grip: what a cut at a diameter (mm) asks of a grip at another. None where
    no force is known.
    """
    grip_at = Given(at, "stock in the jaws")
    if op.aimed is not None:
        return _from_beside(op, grip_at)
    side = op.figures.get("worst_side_force") or op.figures.get("side_force")
    if side is not None and not op.turns:
        return op.work_out(
            chucks.side_force_at_grip,
            "force_at_grip",
            force=side,
            cut_radius=Given(_farthest_cut(op)[0], "path"),
            grip_diameter=grip_at,
        )
    if "cutting_force" in op.figures:
        return op.work_out(
            chucks.force_at_grip,
            "force_at_grip",
            force=op.figures["cutting_force"],
            cut_diameter=Given(diameter, "where it asks most"),
            grip_diameter=grip_at,
            axial=op.figures["feed_force"],
        )
    if "cutting_torque" in op.figures:
        twist = Given(2000.0 * op.figures["cutting_torque"].value / at, "torque at the grip")
        return op.work_out(
            chucks.force_at_grip,
            "force_at_grip",
            force=twist,
            cut_diameter=grip_at,
            grip_diameter=grip_at,
            axial=op.figures.get("thrust") or Given(0.0, "no thrust"),
        )
    return None
