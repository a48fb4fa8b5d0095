"""What a turning tool sweeps: how high over its tip its edge lies at each radius."""

from __future__ import annotations

from dataclasses import dataclass, replace
from math import radians, tan

import numpy as np

from machining.geometry.frames import Vector
from machining.geometry.solids import AS_ROUND, ROUND_STEPS, Solid, swept
from machining.world.tool import DRILLS, Tool

SAMPLES, PROFILE_EACH = 128, 16
HIGH_MM = 200.0  # higher than any tool cuts
THREAD_DEG = 60.0
ABOVE = 1e6  # nothing of the tool ends there: all over its edge is swept


@dataclass(frozen=True, slots=True)
class Shape:
    """Out to ``radius`` (mm) it sweeps from ``lower`` to ``upper`` over its tip, both (n,) at even
    radii from the axis to the edge. A ``flat`` one is level with its tip all over. The same stands
    ``rows`` times over each other, a ``pitch`` (mm) apart.
    """

    radius: float
    lower: Vector
    upper: Vector
    flat: bool
    rows: int = 1
    pitch: float = 0.0

    @property
    def undercuts(self) -> bool:
        """Does material stay over its edge?"""
        return bool((self.upper < ABOVE).any())

    def shrunk(self, sideways: float, upwards: float) -> Shape | None:
        """The same smaller all round by so much (mm); None where nothing is left."""
        left = self.radius - sideways
        if left <= 0:
            return None
        at = np.linspace(0.0, self.radius, len(self.lower))
        inner = np.linspace(sideways, self.radius, len(self.lower))
        lower = np.interp(inner, at, self.lower) + upwards
        upper = np.where(self.upper < ABOVE, self.upper - upwards, self.upper)
        return replace(self, radius=left, lower=lower, upper=np.interp(inner, at, upper))

    def along(self, points: Vector) -> Solid:
        """What it sweeps along a line (n, 3) where its edge rises outwards in no hollow."""
        at = np.linspace(0.0, self.radius, len(self.lower))[::PROFILE_EACH] * AS_ROUND
        edge = zip(self.lower[::PROFILE_EACH], at, strict=True)
        widest = self.radius * AS_ROUND
        outside = [(float(self.lower[-1]), widest), (HIGH_MM, widest)]
        return swept([*((float(z), float(r)) for z, r in edge), *outside], points, ROUND_STEPS)


def shape_of(tool: Tool, diameter: float | None = None) -> Shape:
    """The shape of a milling tool, drill or reamer; ``diameter`` where it bores another (mm)."""
    radius = (diameter or tool.diameter_mm) / 2.0
    at = np.linspace(0.0, radius, SAMPLES)
    lower, upper = np.zeros(SAMPLES), np.full(SAMPLES, ABOVE)
    if tool.kind in DRILLS or tool.kind == "spot_drill":
        lower = _cone(at, tool.tip_diameter_mm, tool.point_angle_deg or 180.0)
    elif tool.kind in ("chamfer_mill", "engraver"):
        lower = _cone(at, tool.tip_diameter_mm, tool.included_angle_deg or 90.0)
    elif tool.kind == "corner_rounder":
        tip = tool.tip_diameter_mm / 2.0 or radius - tool.corner_radius_mm
        lower = _quarter(at, tip, tool.corner_radius_mm)
    elif tool.kind == "high_feed_mill":
        slope = tan(radians(tool.edge_angle_deg))
        lower = np.maximum(at - (radius - tool.cutting_depth_mm / slope), 0.0) * slope
    elif tool.corner_radius_mm > 0:
        lower = _round(at, radius, tool.corner_radius_mm)
    if tool.kind == "slot_mill" and tool.insert_width_mm:
        upper = _headed(at, tool.behind_flutes_mm / 2.0, tool.insert_width_mm)
    elif tool.kind == "undercut_mill":
        leans = tan(radians((tool.included_angle_deg or 90.0) / 2.0))
        upper = np.where(at > tool.behind_flutes_mm / 2.0, (radius - at) / leans, ABOVE)
    elif tool.kind == "thread_mill" and tool.pitch_mm:
        return _toothed(at, tool.pitch_mm, tool.included_angle_deg or THREAD_DEG, tool.rows)
    return Shape(radius, lower, upper, bool((lower == 0).all() and (upper == ABOVE).all()))


def _cone(at: Vector, tip: float, included: float) -> Vector:
    return (
        np.maximum(at - tip / 2.0, 0.0) / tan(radians(included) / 2.0) if included < 180 else 0 * at
    )


def _round(at: Vector, radius: float, corner: float) -> Vector:
    """Level inside, then up a quarter of a circle to the edge."""
    out = np.maximum(at - (radius - corner), 0.0)
    return corner - np.sqrt(np.maximum(corner**2 - out**2, 0.0))


def _quarter(at: Vector, inside: float, corner: float) -> Vector:
    """The hollow of a corner rounder: its tip inside, up a quarter of a circle round a middle
    outside.
    """
    out = np.clip(at - inside, 0.0, corner)
    return np.sqrt(np.maximum(corner**2 - (corner - out) ** 2, 0.0))


def _toothed(at: Vector, pitch: float, angle: float, rows: int) -> Shape:
    """Rows of teeth on a core: each an eighth of the pitch high at its end, and between the lowest
    and the highest it could be for a thread without a gap. What is nearer to the axis is the core.
    """
    high = np.minimum(pitch / 16.0 + (at[-1] - at) * tan(radians(angle) / 2.0), pitch / 2.0)
    core = np.where(high < pitch / 2.0, pitch / 2.0 + high, ABOVE)
    return Shape(float(at[-1]), pitch / 2.0 - high, core, False, rows, pitch)


def _headed(at: Vector, neck: float, height: float) -> Vector:
    return np.where(at > neck, height, ABOVE)
