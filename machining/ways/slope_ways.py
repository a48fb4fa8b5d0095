"""The ways to a chamfer at any angle with the tools of a library on one of its machines."""

from __future__ import annotations

from dataclasses import replace
from math import inf

from machining.cutting.slope_methods import Edge, Ranking, Slope, Special, Way, rank
from machining.facts.feeds import start_chip
from machining.quantities.errors import OutOfRange
from machining.world.capability import Rig
from machining.world.library import Library
from machining.world.material import Material
from machining.world.settings import Settings

from .hole_ways import shop_speed

_KINDS = frozenset({"end_mill", "chamfer_mill"})


def slope_ways(
    slope: Slope, material: Material, rig: Rig, library: Library, cost: float, days: int
) -> Ranking:
    """Every way ranked; the special tool's price and days are the planner's. Raises OutOfRange
    without cutting data for edges.
    """
    data = material.data_for("chamfer", "carbide")
    if data is None:
        raise OutOfRange(
            "cutting data", f"missing for chamfers in {material.name}", "in the library"
        )
    return rank(
        slope,
        edges(material, library),
        Special(cost, days, data.chip_at_10_mm, data.speed_start),
        rig,
    )


def in_shop_steps(ranking: Ranking, rig: Rig, settings: Settings) -> Ranking:
    """The ranking with speeds and feeds as a shop types them, and the times and costs they make;
    order and break-even stay those of the exact figures.
    """
    return replace(
        ranking,
        ways=tuple(_rounded(way, rig, settings) if way.works else way for way in ranking.ways),
    )


def _rounded(way: Way, rig: Rig, settings: Settings) -> Way:
    rpm, feed = shop_speed(way.rpm, way.feed, settings)
    seconds = way.seconds * way.feed / feed
    return replace(
        way,
        rpm=rpm,
        feed=feed,
        seconds=seconds,
        per_part=way.per_part + (seconds - way.seconds) / 3600.0 * rig.machine.hourly_cost,
    )


def edges(material: Material, library: Library) -> list[Edge]:
    """The assembled tools that could cut a slope, with the material's data for them."""
    found = []
    for assembly in library.assemblies.values():
        tool, holder = library.tools.get(assembly.tool), library.holders.get(assembly.holder)
        data = material.data_for("chamfer", tool.material) if tool is not None else None
        if tool is None or data is None or tool.kind not in _KINDS or tool.order_days is not None:
            continue
        limit = min(tool.max_rpm or inf, (holder.max_rpm if holder else None) or inf)
        found.append(
            Edge(
                tool.name,
                tool.kind,
                tool.diameter_mm,
                tool.flutes,
                start_chip(tool, data),
                data.speed_start,
                tool.corner_radius_mm,
                tool.included_angle_deg or 0.0,
                tool.tip_diameter_mm,
                limit,
            )
        )
    return found
