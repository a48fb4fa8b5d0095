"""The ways to make a hole with the tools of a library on one of its machines."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import replace
from math import inf

from machining.cutting import speeds
from machining.cutting.hole_methods import Method, Ranking, rank
from machining.cutting.hole_steps import Bit, Ground, Hole
from machining.quantities.said import Said, length
from machining.world.capability import Rig
from machining.world.library import Library
from machining.world.material import Material, Process
from machining.world.settings import Settings
from machining.world.tool import Tool

_PROCESS: dict[str, Process] = {
    "drill": "drill",
    "insert_drill": "drill",
    "boring_head": "bore",
    "end_mill": "rough",
    "roughing_end_mill": "rough",
}


def hole_ways(
    hole: Hole, material: Material, rig: Rig, library: Library, loaded: Collection[str] = ()
) -> Ranking:
    """Every method ranked, with assembled tools that fit the machine; ``loaded`` are assemblies
    that need no pocket of their own.
    """
    return rank(
        hole,
        bits(material, rig, library, loaded),
        Ground(material.kc11_n_mm2, material.mc, rig, library.settings.power_share),
    )


def bits(material: Material, rig: Rig, library: Library, loaded: Collection[str] = ()) -> list[Bit]:
    found = []
    for assembly in library.assemblies.values():
        tool, holder = library.tools.get(assembly.tool), library.holders.get(assembly.holder)
        if tool is None or holder is None or tool.kind not in _PROCESS:
            continue
        data = material.data_for(_PROCESS[tool.kind], tool.material)
        if data is None:
            continue
        reach, chip = (
            min(tool.usable_length_mm, assembly.stick_out_mm),
            data.chip_mm(tool.diameter_mm),
        )
        found.append(
            Bit(
                assembly.key,
                assembly.name,
                tool.kind,
                tool.diameter_mm,
                tool.flutes,
                reach,
                chip,
                data.speed_start,
                data.speed_low,
                tool.point_angle_deg or 180.0,
                min(tool.max_rpm or inf, holder.max_rpm or inf),
                tool.max_ramp_deg,
                tool.centre_cutting,
                tool.edge_radius_mm,
                tool.max_chip_mm or inf,
                assembly.key in loaded,
                _misfit(tool, assembly.stick_out_mm + holder.length_mm, rig),
            )
        )
    return found


def _misfit(tool: Tool, reach: float, rig: Rig) -> Said | None:
    longest, widest = rig.carrier.max_tool_length_mm, rig.carrier.max_tool_diameter_mm
    if reach > longest:
        return Said(
            f"is too long for {rig.machine.name}: {{length}} of {{most}}",
            {"length": length(reach), "most": length(longest)},
        )
    if tool.diameter_mm > widest:
        return Said(
            f"is too wide for {rig.machine.name}: {{size}} of {{most}}",
            {"size": length(tool.diameter_mm), "most": length(widest)},
        )
    return None


def in_shop_steps(ranking: Ranking, settings: Settings) -> Ranking:
    """The ranking with speeds and feeds as a shop types them, down to its steps, and the times they
    take.

    Order and crossing stay those of the exact figures; torque and power too, which the rounded ones
    do not reach.
    """
    return replace(ranking, methods=tuple(_rounded(method, settings) for method in ranking.methods))


def _rounded(method: Method, settings: Settings) -> Method:
    steps = []
    for step in method.steps:
        rpm, feed = shop_speed(step.rpm, step.feed, settings)
        steps.append(replace(step, rpm=rpm, feed=feed, seconds=step.seconds * step.feed / feed))
    longer = sum(
        after.seconds - before.seconds for before, after in zip(method.steps, steps, strict=True)
    )
    return replace(method, steps=tuple(steps), seconds=method.seconds + longer)


def shop_speed(rpm: float, feed: float, settings: Settings) -> tuple[float, float]:
    """Speed and feed down to a shop's steps, the chip no thicker than before."""
    turns = speeds.speed_in_steps(rpm, settings.speed_step_rpm)
    return turns, speeds.feed_in_steps(feed * turns / rpm, settings.feed_step())
