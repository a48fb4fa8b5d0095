"""What lies in a hole or pocket of the part."""

from __future__ import annotations

from math import radians, tan

import numpy as np
from numpy.typing import NDArray
from shapely import Polygon, contains_xy

from machining.geometry.frames import Vector, opposite
from machining.geometry.regions import Region

from .feature import Hole, Pocket

NEAR_MM = 0.15  # of its walls: what chords of meshes are off
Holds = NDArray[np.bool_]


def holds(feature: Hole | Pocket, points: Vector, near: float = NEAR_MM) -> Holds:
    """Of each point (n, 3) in part coordinates, whether it is in it or that near to its walls (mm).
    The cones at a hole's ends are of the hole.
    """
    if isinstance(feature, Hole):
        return _in_hole(feature, points, near)
    return _in_pocket(feature, points, near)


def _in_hole(hole: Hole, points: Vector, near: float) -> Holds:
    along = "xyz".index(hole.axis[1])
    across = [k for k in range(3) if k != along]
    away = np.hypot(*(points[:, across] - np.array(hole.point)[across]).T)
    deep = points[:, along] - hole.point[along]
    radius, long = hole.diameter_mm / 2.0, hole.length_mm
    # what closes it may be the cone of a drill's point
    low, high = (0.0 if side in hole.opens else radius for side in (opposite(hole.axis), hole.axis))
    within: Holds = (away <= radius + near) & (deep >= -near - low) & (deep <= long + near + high)
    for sink in hole.sinks:
        beyond = deep - long if sink.at == hole.axis else -deep
        mouth = sink.diameter_mm / 2.0
        reach = (mouth - radius) / tan(radians(sink.angle_deg / 2.0))
        within |= (away <= mouth + near) & (beyond >= -near) & (beyond <= reach + near)
    return within


def _in_pocket(pocket: Pocket, points: Vector, near: float) -> Holds:
    along = "xyz".index(pocket.opens[1])
    across = [k for k in range(3) if k != along]
    floor = float(pocket.loops[0][0][along])
    deep = (points[:, along] - floor) * (1.0 if pocket.opens[0] == "+" else -1.0)
    lean = pocket.depth_mm * tan(radians(pocket.draft_deg))
    plan = between_loops(pocket, across, near + lean)
    inside: Holds = contains_xy(plan, points[:, across[0]], points[:, across[1]])
    return inside & (deep >= -near) & (deep <= pocket.depth_mm + near)


def between_loops(pocket: Pocket, across: list[int], wider: float) -> Region:
    """A pocket in plan, its walls and its islands' further off by so much (mm)."""
    outer, *islands = (Polygon(np.array(loop)[:, across]) for loop in pocket.loops)
    plan = outer.buffer(wider, join_style="mitre")
    for island in islands:
        plan = plan.difference(island.buffer(-wider, join_style="mitre"))
    return plan
