"""Speed, feed, forces, power and torque of an operation, as cut and with the blank at its worst."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from machining.cutting import engagement, speeds, spindle, threads
from machining.quantities.computed import Computed, Given, Value
from machining.quantities.errors import OutOfRange
from machining.world.spindle import CurvePoint

from . import life
from .context import PlanFacts, Ready
from .feeds import MAX_THINNING, start_chip, thin_chip
from .kinds import goes_down_as_mill, kind_of
from .own_data import start_speed, started


def edges_per_turn(op: Ready) -> float:
    """Edges that share a turn's feed: a drill's or reamer's feed is per turn."""
    return 1.0 if kind_of(op.operation).on_axis else float(op.tool.flutes)


def speed_and_feed(op: Ready, facts: PlanFacts) -> None:
    """Figures rpm, feed, chip, plunge_feed and cutting_speed. Raises OutOfRange where data is
    missing.
    """
    tool, rig = op.tool, op.rig
    kind = kind_of(op.operation)
    diameter = kind.diameter(op, facts) if kind.diameter else op.of_tool("diameter_mm")
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
                f"missing for {kind.process} in {name} with {tool.material} tools",
                "in the library, or speed and feed typed in",
            )
        rpm = op.work_out(
            speeds.spindle_speed,
            "wanted_rpm",
            cutting_speed=start_speed(op, origin),
            diameter=diameter,
        )
    limit = min(tool.max_rpm or 1e6, op.holder.max_rpm or 1e6)
    held = op.work_out(
        speeds.limited_speed,
        "rpm" if typed else "limited_rpm",
        wanted=rpm,
        spindle_max=op.of_machine(rig.spindle.max_rpm) if not typed else rpm,
        tool_max=Given(limit, op.of_tool("diameter_mm").origin) if not typed else rpm,
    )
    if not typed:
        held = op.work_out(
            speeds.speed_in_steps, "rpm", wanted=held, step=facts.shop("speed_step_rpm")
        )
    speed = op.work_out(speeds.cutting_speed, "cutting_speed", rpm=held, diameter=diameter)
    life.of_edge(op, speed, origin)
    _feed(op, facts, held, origin, rig.machine.max_feed_mm_min)


def _feed(op: Ready, facts: PlanFacts, rpm: Computed, origin: str, machine_max: float) -> None:
    kind = kind_of(op.operation)
    edges = Given(edges_per_turn(op), op.of_tool("flutes").origin)
    if op.operation.feed_mm_min is not None:
        wanted: Value = Given(op.operation.feed_mm_min)
    else:
        chip, over = _chip_and_edges(op, origin, edges)
        wanted = op.work_out(speeds.feed, "wanted_feed", rpm=rpm, chip=chip, edges=over)
        if goes_down_as_mill(op.operation, op.tool) and not op.operation.feed_typed:
            share = facts.shop("plunge_share")
            wanted = op.work_out(speeds.straight_down, "plunge_feed", feed=wanted, share=share)
    follows = not op.operation.feed_typed
    as_it_is = not follows or kind.feed_per_turn is not None
    feed = op.work_out(
        speeds.limited_feed,
        "feed" if as_it_is else "limited_feed",
        wanted=wanted,
        machine_max=op.of_machine(machine_max) if follows else wanted,
    )
    if not as_it_is:
        feed = op.work_out(speeds.feed_in_steps, "feed", wanted=feed, step=facts.feed_step)
    op.work_out(speeds.chip_per_edge, "chip", feed=feed, rpm=rpm, edges=edges)
    inside = kind.inside(op)
    if inside is not None:
        op.work_out(
            threads.centre_feed_inside,
            "centre_feed",
            edge_feed=feed,
            hole=Given(inside, "operation"),
            tool=op.of_tool("diameter_mm"),
        )


def _chip_and_edges(op: Ready, origin: str, edges: Given) -> tuple[Value, Given]:
    """The chip (mm) that is asked for, and how many edges a turn take it."""
    kind = kind_of(op.operation)
    if op.operation.feed_per_tooth_mm is not None:
        return Given(op.operation.feed_per_tooth_mm), op.of_tool("flutes")
    if op.operation.feed_per_rev_mm is not None:
        return Given(op.operation.feed_per_rev_mm), Given(1.0)
    if kind.feed_per_turn is not None:
        return kind.feed_per_turn(op), Given(1.0)
    if op.data is None:
        raise OutOfRange("cutting data", "missing", "in the library, or speed and feed typed in")
    if goes_down_as_mill(op.operation, op.tool):
        return Given(start_chip(op.tool, op.data), origin), op.of_tool("flutes")
    return _thinned(op, started(op, start_chip(op.tool, op.data), origin)), edges


def _thinned(op: Ready, chip: Given) -> Value:
    """The chip of the library, opened up for a width under half the tool's."""
    width = kind_of(op.operation).width(op)
    if width is None or width >= op.tool.diameter_mm / 2.0:
        return chip
    opened_up = op.work_out(
        engagement.feed_for_chip,
        "thinned_feed_per_tooth",
        chip=Given(thin_chip(op.tool, float(chip)), chip.origin),
        width=Given(width),
        diameter=op.of_tool("diameter_mm"),
    )
    most = MAX_THINNING * float(chip)
    return opened_up if opened_up.value <= most else Given(most, chip.origin)


def force(op: Ready, facts: PlanFacts) -> None:
    """Figures power, torque, side_force, their limits, and the same at the worst blank. Needs
    speed_and_feed.
    """
    if not op.needs("rpm", "feed", "chip") or facts.material is None:
        return
    kind_of(op.operation).forces(op, facts)
    _limits(op)


def _limits(op: Ready) -> None:
    rpm, named = op.figures["rpm"], op.operation.spindle_range
    names = [each.name for each in op.rig.spindle.ranges]
    if named and named not in names:
        raise OutOfRange("spindle range", named, " or ".join(names))
    turning = spindle.range_for(op.rig.spindle, rpm.value)
    if turning is None:
        return  # a finding says that it does not turn so
    op.seen = replace(op.seen, spindle_range=turning.name)
    _available(op, rpm, turning.continuous, "power_limit", "torque_limit")
    if turning.short_time:
        _available(op, rpm, turning.short_time, "short_power_limit", "short_torque_limit")


def _available(
    op: Ready, rpm: Computed, curve: Sequence[CurvePoint], power: str, torque: str
) -> None:
    low, high = spindle.neighbours(curve, rpm.value)
    below, above = op.of_machine(low.rpm), op.of_machine(high.rpm)
    gives = op.work_out(
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
        power=gives,
    )
