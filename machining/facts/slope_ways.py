"""The ways to a chamfer at any angle with the tools of a library on one of its machines."""

from __future__ import annotations

from math import inf

from machining.cutting.slope_methods import Edge, Ranking, Slope, Special, rank
from machining.quantities.errors import OutOfRange
from machining.world.library import Library
from machining.world.machine import Machine
from machining.world.material import Material

from .cut import start_chip

_KINDS = frozenset({"end_mill", "chamfer_mill"})


def slope_ways(slope: Slope, material: Material, machine: Machine, library: Library, cost: float, days: int) -> Ranking:
    """Every way ranked; the special tool's price and days are the planner's. Raises OutOfRange without cutting data for edges."""
    data = material.data_for("chamfer", "carbide")
    if data is None:
        raise OutOfRange("cutting data", f"missing for chamfers in {material.name}", "in the library")
    return rank(slope, edges(material, library), Special(cost, days, data.chip_at_10_mm, data.speed_start), machine)


def edges(material: Material, library: Library) -> list[Edge]:
    """The assembled tools that could cut a slope, with the material's data for them."""
    found = []
    for assembly in library.assemblies.values():
        tool, holder = library.tools.get(assembly.tool), library.holders.get(assembly.holder)
        data = material.data_for("chamfer", tool.material) if tool is not None else None
        if tool is None or data is None or tool.kind not in _KINDS or tool.order_days is not None:
            continue
        limit = min(tool.max_rpm or inf, (holder.max_rpm if holder else None) or inf)
        found.append(Edge(
            tool.name, tool.kind, tool.diameter_mm, tool.flutes, start_chip(tool, data), data.speed_start, tool.corner_radius_mm, tool.included_angle_deg or 0.0, tool.tip_diameter_mm, limit,
        ))
    return found
