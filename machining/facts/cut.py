"""Speed, feed, forces, power and torque of an operation, as cut and with the blank at its worst."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from math import radians, sin

from machining.cutting import engagement, speeds, spindle
from machining.plan.operation import (
    ROTATES_IN_PLACE,
    Chamfer,
    Face,
    FinishFloor,
    FinishWalls,
    RoughOutside,
    RoughPocket,
)
from machining.quantities.computed import Computed, Given, Value
from machining.quantities.errors import OutOfRange
from machining.world.machine import CurvePoint
from machining.world.material import CuttingData, Process
from machining.world.tool import TURNS_ON_AXIS, Tool

from . import life, loads
from .context import PlanFacts, Ready
from .kinds import HANDLERS

PROCESS: dict[str, Process] = {
    "face": "face",
    "rough_outside": "rough",
    "rough_pocket": "rough",
    "finish_walls": "finish",
    "finish_floor": "finish",
    "drill": "drill",
    "ream": "ream",
    "tap": "tap",
    "bore": "bore",
    "chamfer": "chamfer",
    **{kind: handler.process for kind, handler in HANDLERS.items()},
}
MAX_THINNING = 2.0
FINE_TEETH = frozenset({"undercut_mill", "slot_mill", "engraver", "corner_rounder", "thread_mill"})
FACE_WIDTH_SHARE = 0.7


def edges_per_turn(op: Ready) -> float:
    """Edges that share a turn's feed: a drill's or reamer's feed is per turn."""
    return 1.0 if op.operation.kind in ROTATES_IN_PLACE else float(op.tool.flutes)


def speed_and_feed(op: Ready, facts: PlanFacts) -> None:
    """Figures rpm, feed, chip, plunge_feed and cutting_speed. Raises OutOfRange where data is
    missing.
    """
    tool, machine = op.tool, op.machine
    diameter: Value = op.of_tool("diameter_mm")
    handler = HANDLERS.get(op.operation.kind)
    if handler is not None and handler.diameter is not None:
        diameter = handler.diameter(op, facts)
    if isinstance(op.operation, Chamfer):
        diameter = op.work_out(
            engagement.cone_diameter,
            "cutting_diameter",
            depth=Given(op.operation.size_mm + op.operation.below_mm),
            tip=op.of_tool("tip_diameter_mm"),
            included_angle=Given(tool.included_angle_deg or 90.0, op.of_tool("diameter_mm").origin),
        )
    origin = f"material:{facts.material.name if facts.material else ''}"
    typed = op.operation.speed_typed
    if op.operation.rpm is not None:
        rpm: Value = Given(op.operation.rpm)
    elif op.operation.cutting_speed_m_min is not None:
        rpm = op.work_out(
            speeds.spindle_speed,
            "wanted_rpm",
            cutting_speed=Given(op.operation.cutting_speed_m_min),
            diameter=diameter,
        )
    else:
        if op.data is None:
            name = facts.material.name if facts.material else "no material"
            raise OutOfRange(
                "cutting data",
                f"missing for {PROCESS[op.operation.kind]} in {name} with {tool.material} tools",
                "in the library, or speed and feed typed in",
            )
        rpm = op.work_out(
            speeds.spindle_speed,
            "wanted_rpm",
            cutting_speed=Given(op.data.speed_start, origin),
            diameter=diameter,
        )
    limit = min(tool.max_rpm or 1e6, op.holder.max_rpm or 1e6)
    held = op.work_out(
        speeds.limited_speed,
        "rpm" if typed else "limited_rpm",
        wanted=rpm,
        spindle_max=op.of_machine(machine.max_rpm) if not typed else rpm,
        tool_max=Given(limit, op.of_tool("diameter_mm").origin) if not typed else rpm,
    )
    if not typed:
        held = op.work_out(
            speeds.speed_in_steps, "rpm", wanted=held, step=facts.shop("speed_step_rpm")
        )
    speed = op.work_out(speeds.cutting_speed, "cutting_speed", rpm=held, diameter=diameter)
    life.of_edge(op, speed, origin)
    _feed(op, facts, held, origin, machine.max_feed_mm_min)


def _feed(op: Ready, facts: PlanFacts, rpm: Computed, origin: str, machine_max: float) -> None:
    tool = op.tool
    edges = Given(edges_per_turn(op), op.of_tool("flutes").origin)
    if op.operation.feed_mm_min is not None:
        wanted: Value = Given(op.operation.feed_mm_min)
    elif op.operation.feed_per_tooth_mm is not None:
        wanted = op.work_out(
            speeds.feed,
            "wanted_feed",
            rpm=rpm,
            chip=Given(op.operation.feed_per_tooth_mm),
            edges=op.of_tool("flutes"),
        )
    elif op.operation.feed_per_rev_mm is not None:
        wanted = op.work_out(
            speeds.feed,
            "wanted_feed",
            rpm=rpm,
            chip=Given(op.operation.feed_per_rev_mm),
            edges=Given(1.0),
        )
    elif op.operation.kind == "tap":
        wanted = op.work_out(
            speeds.feed, "wanted_feed", rpm=rpm, chip=op.of_tool("pitch_mm"), edges=Given(1.0)
        )
    else:
        if op.data is None:
            raise OutOfRange(
                "cutting data", "missing", "in the library, or speed and feed typed in"
            )
        chip: Value = Given(start_chip(tool, op.data), origin)
        width = _width(op)
        if width is not None and width < tool.diameter_mm / 2.0:
            opened_up = op.work_out(
                engagement.feed_for_chip,
                "thinned_feed_per_tooth",
                chip=chip,
                width=Given(width),
                diameter=op.of_tool("diameter_mm"),
            )
            chip = (
                opened_up
                if opened_up.value <= MAX_THINNING * float(chip)
                else Given(MAX_THINNING * float(chip), origin)
            )
        wanted = op.work_out(speeds.feed, "wanted_feed", rpm=rpm, chip=chip, edges=edges)
    follows = not op.operation.feed_typed
    as_it_is = not follows or op.operation.kind == "tap"  # a tap's feed is its pitch
    feed = op.work_out(
        speeds.limited_feed,
        "feed" if as_it_is else "limited_feed",
        wanted=wanted,
        machine_max=op.of_machine(machine_max) if follows else wanted,
    )
    if not as_it_is:
        feed = op.work_out(
            speeds.feed_in_steps, "feed", wanted=feed, step=facts.shop("feed_step_mm_min")
        )
    op.work_out(speeds.chip_per_edge, "chip", feed=feed, rpm=rpm, edges=edges)


def start_chip(tool: Tool, data: CuttingData) -> float:
    """Feed per edge (mm) the data give a tool; a high-feed mill's slanted edge turns a thin chip
    into a long feed.

    The fine teeth of form tools take what their maker allows, whatever the material would.
    """
    plain = data.chip_mm(tool.diameter_mm)
    if tool.kind in FINE_TEETH and tool.max_chip_mm is not None:
        plain = min(plain, tool.max_chip_mm)
    return plain / sin(radians(tool.edge_angle_deg)) if tool.kind == "high_feed_mill" else plain


def chip_at(op: Ready, width: float) -> float:
    """Feed per tooth (mm) the material's data give this tool at a width of cut, opened up where the
    chip thins.
    """
    assert op.data is not None  # a width is only changed where the data gave its feed
    plain, diameter = start_chip(op.tool, op.data), op.tool.diameter_mm
    return (
        min(engagement.feed_for_chip(plain, width, diameter), MAX_THINNING * plain)
        if width < diameter / 2.0
        else plain
    )


def _width(op: Ready) -> float | None:
    """Radial width of cut, None where it is no side cut."""
    kind, tool = op.operation, op.tool
    if isinstance(kind, Face):
        return min(kind.step_over_mm or FACE_WIDTH_SHARE * tool.diameter_mm, tool.diameter_mm)
    if isinstance(kind, RoughOutside | RoughPocket | FinishFloor):
        return min(kind.step_over_mm, tool.diameter_mm)
    if isinstance(kind, FinishWalls):
        return min(kind.width_mm / kind.chain, tool.diameter_mm)
    return None


def _depth(op: Ready) -> float:
    kind, work = op.operation, op.work
    height = max(work.top - work.floor, 0.0)
    if isinstance(kind, FinishFloor):
        return kind.depth_mm
    if isinstance(kind, FinishWalls):
        return min(kind.step_down_mm, work.wall_height)
    return min(getattr(kind, "step_down_mm", height), height)


def load(op: Ready, facts: PlanFacts) -> None:
    """Figures power, torque, side_force, their limits, and the same at the worst blank. Needs
    speed_and_feed.
    """
    if not op.needs("rpm", "feed", "chip") or facts.material is None:
        return
    if handler := HANDLERS.get(op.operation.kind):
        handler.load(op, facts)
    elif op.tool.kind in TURNS_ON_AXIS:
        loads.on_axis(op, facts)
    elif op.operation.kind != "chamfer":
        _load_milling(op, facts)
    _limits(op)


def _load_milling(op: Ready, facts: PlanFacts) -> None:
    width, depth = _width(op), _depth(op)
    if width is None or depth <= 0:
        return
    op.seen = replace(op.seen, depth_mm=depth, width_mm=width)
    loads.milled(op, facts, Given(depth), Given(width))
    extra = sawn_over(op, facts)
    if extra > 0:
        worst_depth = depth + extra if isinstance(op.operation, Face) else depth
        worst_width = (
            min(width + extra, op.tool.diameter_mm)
            if isinstance(op.operation, RoughOutside)
            else width
        )
        op.seen = replace(op.seen, worst_depth_mm=worst_depth, worst_width_mm=worst_width)
        loads.milled(
            op,
            facts,
            Given(worst_depth, "blank at its largest"),
            Given(worst_width, "blank at its largest"),
            "worst_",
        )


def sawn_over(op: Ready, facts: PlanFacts) -> float:
    """How much more (mm) a cut can meet than its passes are laid out for, where the blank is sawn
    at its largest.
    """
    if not op.seen.meets_sawn:
        return 0.0
    return max(facts.plan.stock.saw_tolerance_mm - getattr(op.operation, "over_mm", 0.0), 0.0)


def _limits(op: Ready) -> None:
    machine, rpm = op.machine, op.figures["rpm"]
    turning = spindle.range_for(machine, rpm.value)
    if turning is None:
        return
    op.seen = replace(op.seen, spindle_range=turning.name)
    _available(op, rpm, turning.continuous, "power_limit", "torque_limit")
    if turning.short_time:
        _available(op, rpm, turning.short_time, "short_power_limit", "short_torque_limit")


def _available(
    op: Ready, rpm: Computed, curve: Sequence[CurvePoint], power: str, torque: str
) -> None:
    low, high = spindle.neighbours(curve, rpm.value)
    below, above = op.of_machine(low.rpm), op.of_machine(high.rpm)
    op.work_out(
        spindle.available_power,
        power,
        rpm=rpm,
        rpm_below=below,
        power_below=op.of_machine(low.power_kw),
        rpm_above=above,
        power_above=op.of_machine(high.power_kw),
    )
    op.work_out(
        spindle.available_torque,
        torque,
        rpm=rpm,
        rpm_below=below,
        torque_below=op.of_machine(low.torque_nm),
        rpm_above=above,
        torque_above=op.of_machine(high.torque_nm),
    )
