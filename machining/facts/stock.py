"""The blank before the first cut, and what an operation takes away."""

from __future__ import annotations

import numpy as np

from machining.geometry.frames import Pose, Vector
from machining.geometry.mesh import Mesh
from machining.geometry.regions import Region, grown
from machining.geometry.solids import ROUND_STEPS, Solid, bar, block, joined, prism, to_mesh
from machining.world.geometry import PartGeometry
from machining.world.part import Stock

from .context import PlanFacts
from .place import Work

BEYOND_MM = 2.0


def blank_bounds(geometry: PartGeometry, stock: Stock) -> tuple[Vector, Vector]:
    """Corners of the blank as ordered, in part coordinates."""
    low, high = geometry.bounds
    if stock.form != "round":
        return (
            low - np.array([stock.x_low_mm, stock.y_low_mm, stock.z_low_mm]),
            high + np.array([stock.x_high_mm, stock.y_high_mm, stock.z_high_mm]),
        )
    along = "xyz".index(stock.round_axis)
    middle, radius = (low + high) / 2.0, (stock.round_diameter_mm or 0.0) / 2.0
    lower, upper = middle - radius, middle + radius
    lower[along] = low[along] - getattr(stock, f"{stock.round_axis}_low_mm")
    upper[along] = high[along] + getattr(stock, f"{stock.round_axis}_high_mm")
    return lower, upper


def blank_solid(geometry: PartGeometry, stock: Stock) -> Solid:
    """The blank as a solid in part coordinates. Raises OutOfRange where it has no volume."""
    low, high = blank_bounds(geometry, stock)
    if stock.form != "round":
        return block(low, high)
    along = "xyz".index(stock.round_axis)
    radius = (stock.round_diameter_mm or 0.0) / 2.0
    upright = Solid.cylinder(float(high[along] - low[along]), radius, radius, 2 * ROUND_STEPS)
    turned = upright.rotate([0, 90, 0] if along == 0 else [-90, 0, 0] if along == 1 else [0, 0, 0])
    middle = (low + high) / 2.0
    middle[along] = low[along]
    return turned.translate(middle.tolist())


def down_to_floor(work: Work, region: Region) -> Solid | None:
    """All of a region down to the work's floor; None where there is nothing over it."""
    if work.floor >= work.top:
        return None
    return prism(region, work.floor, work.top + BEYOND_MM)


def all_round(work: Work, stock_outline: Region) -> Solid | None:
    """The stock round what is kept, down to the work's floor."""
    return down_to_floor(work, grown(stock_outline, BEYOND_MM).difference(work.kept))


def round_holes(work: Work) -> Solid:
    """All holes of a work, with the cone of the drill's point."""
    return joined([_hole(hole, work) for hole in work.holes])


def _hole(hole: tuple[float, float, float, float], work: Work) -> Solid:
    x, y, mouth, bottom = hole
    radius = work.hole_diameter / 2.0
    tip = min(work.point_height, mouth - bottom)
    return bar(x, y, radius, bottom + tip, mouth + 0.01, tip)


def two_skins(stock: Solid, facts: PlanFacts, pose: Pose) -> Mesh:
    """A stock's mesh in the setup frame whose triangles know their skin: 0 as sawn, 1 as cut."""
    mesh = to_mesh(stock)
    corners = pose.inverse().apply(mesh.vertices)[mesh.triangles]
    sawn = np.zeros(len(corners), dtype=bool)
    for bound in blank_bounds(facts.geometry, facts.plan.stock):
        for i in range(3):
            sawn |= (np.abs(corners[:, :, i] - bound[i]) < 1e-3).all(axis=1)
    return Mesh(mesh.vertices, mesh.triangles, np.where(sawn, 0, 1).astype(np.int32))
