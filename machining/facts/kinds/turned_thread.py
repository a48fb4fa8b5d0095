"""Threads turned outside, in passes of equal section."""

from __future__ import annotations

from dataclasses import replace

from shapely import box

from machining.cutting import specific_force, speeds, threads, turning
from machining.cutting.data import constant
from machining.geometry.contours import FAR_MM
from machining.motion.path import Path
from machining.motion.paths import turned as paths
from machining.plan.turned import TurnThread
from machining.quantities.computed import Given, Value
from machining.quantities.names import thread_name
from machining.world.tool import Tool

from .. import wording
from ..context import OperationFacts, PlanFacts, Ready
from ..place import Work
from ..tables import Table, infeed_table
from ..wording import Named
from .base import Ground, Kind, Unsuited
from .turned import (
    LEFT_MM,
    SLIVER_MM,
    asked,
    asks,
    at_edge,
    data_given,
    feed_kept,
    home_of,
    near_of,
    rpm_typed,
    taken,
)


def thread_depth(kind: TurnThread) -> float:
    return threads.turned_depth(kind.pitch_mm, constant("thread_depth", "outside"))


def infeeds_of(kind: TurnThread) -> list[float]:
    """Depth (mm) after each pass, spring passes at full depth."""
    depth = thread_depth(kind)
    return threads.equal_section_infeeds(depth, kind.passes) + [depth] * kind.spring_passes


def _work(operation: TurnThread, ground: Ground) -> Work:
    on = operation.on
    return Work(
        top=on.z_mm,
        floor=on.z_mm - on.length_mm,
        wall_height=thread_depth(operation),
    )


def _path(op: Ready[TurnThread], facts: PlanFacts) -> Path:
    kind, lead = op.operation, op.operation.pitch_mm * op.operation.starts
    run_in, out = (
        op.value("run_in") or 0.0,
        constant("turning", "open_end") * kind.pitch_mm * kind.starts,
    )
    high, low = kind.on.z_mm, kind.on.z_mm - kind.on.length_mm
    pulled = min(lead, kind.on.length_mm) if kind.ends == "pulled" else 0.0
    past = 0.0 if pulled else out
    start, end = (
        (high + run_in, low - past) if kind.towards == "chuck" else (low - run_in, high + past)
    )
    return paths.threaded(
        kind.diameter_mm / 2.0,
        infeeds_of(kind),
        start,
        end,
        pulled,
        near_of(facts),
        home_of(op, facts),
    )


def _speed(op: Ready[TurnThread], facts: PlanFacts) -> None:
    """One speed all along: feed and spindle go together. Figures rpm, cutting_speed, chip, feed and
    run_in.
    """
    kind, at = op.operation, Given(op.operation.diameter_mm, "thread")
    data_given(op, facts)
    if kind.rpm is not None:
        rpm = rpm_typed(op, kind.rpm)
    else:
        speed, top, limit = asked(op, facts)
        wanted = op.work_out(speeds.spindle_speed, "wanted_rpm", cutting_speed=speed, diameter=at)
        held_back = op.work_out(
            speeds.limited_speed, "limited_rpm", wanted=wanted, spindle_max=top, tool_max=limit
        )
        rpm = op.work_out(
            speeds.speed_in_steps, "rpm", wanted=held_back, step=facts.shop("speed_step_rpm")
        )
    at_edge(op, facts, rpm, at)
    lead = Given(kind.pitch_mm * kind.starts, "thread")
    wanted_feed = op.work_out(speeds.feed, "wanted_feed", rpm=rpm, chip=lead, edges=Given(1.0))
    feed_kept(op, wanted_feed, wanted_feed)
    if kind.run_in_mm is None:
        op.work_out(
            threads.run_in,
            "run_in",
            lead=lead,
            rpm=rpm,
            acceleration=op.of_machine(op.rig.carrier.acceleration.z),
            settle=op.of_machine(op.machine.jerk_time_s),
        )
    _room(op, kind)


def _room(op: Ready[TurnThread], kind: TurnThread) -> None:
    """Notes room_before_mm and room_after_mm: how far the tool can go past the thread's ends at its
    depth.
    """
    if not op.turns:
        return
    core = kind.diameter_mm / 2.0 - thread_depth(kind)
    standing = op.before.half_section().intersection(box(core + LEFT_MM, -FAR_MM, FAR_MM, FAR_MM))
    high, low = kind.on.z_mm, kind.on.z_mm - kind.on.length_mm
    above, below = (
        taken(standing.intersection(box(0.0, high, FAR_MM, FAR_MM))),
        taken(standing.intersection(box(0.0, -FAR_MM, FAR_MM, low))),
    )
    free_above = FAR_MM if above.is_empty else max(float(above.bounds[1]) - high, 0.0)
    free_below = FAR_MM if below.is_empty else max(low - float(below.bounds[3]), 0.0)
    before, after = (
        (free_above, free_below) if kind.towards == "chuck" else (free_below, free_above)
    )
    op.seen = replace(op.seen, room_before_mm=before, room_after_mm=after)


def _forces(op: Ready[TurnThread], facts: PlanFacts) -> None:
    kind = op.operation
    depth = op.work_out(
        threads.turned_depth,
        "thread_depth",
        pitch=Given(kind.pitch_mm),
        share=Given(constant("thread_depth", "outside"), "data:thread_depth.outside"),
    )
    passes = Given(float(kind.passes))
    first = op.work_out(threads.deepest_infeed, "infeed", depth=depth, passes=passes)
    chip = op.work_out(
        turning.turning_chip,
        "mean_chip",
        feed_per_rev=first,
        edge_angle=Given(30.0, "half of 60°, each flank"),
    )
    kc = op.work_out(
        specific_force.specific_force,
        "specific_force",
        kc11=facts.of_material("kc11_n_mm2"),
        mc=facts.of_material("mc"),
        chip=chip,
    )
    force = op.work_out(
        threads.force_of_pass,
        "cutting_force",
        kc=kc,
        depth=depth,
        passes=passes,
        included_angle=Given(60.0, "the thread"),
    )
    asks(op, force)


def _thread_tool(operation: TurnThread, work: Work, tool: Tool) -> Unsuited | None:
    """A full profile cuts one pitch; its tip has that pitch's root."""
    if tool.pitch_mm is None or abs(tool.pitch_mm - operation.pitch_mm) < SLIVER_MM:
        return None
    return "It cuts a pitch of {has}, not {wanted}.", {
        "has": tool.pitch_mm,
        "wanted": operation.pitch_mm,
    }


def _table(op: Ready[TurnThread]) -> Table:
    return infeed_table(infeeds_of(op.operation), op.operation.diameter_mm, -2.0)


def _words(op: OperationFacts[TurnThread], facts: PlanFacts) -> Named:
    kind = op.operation
    return wording.named(
        op,
        thread_name(kind.diameter_mm, kind.pitch_mm)
        + (f", {kind.starts} starts" if kind.starts > 1 else "")
        + (" left" if kind.hand == "left" else ""),
    )


def _pitch(op: Ready[TurnThread]) -> Value:
    return Given(op.operation.pitch_mm * op.operation.starts, "thread")


KINDS = {
    "turn_thread": Kind(
        "thread",
        frozenset({"turning_thread"}),
        _work,
        _path,
        _forces,
        table=_table,
        words=_words,
        unsuited=_thread_tool,
        feed_per_turn=_pitch,
        speed=_speed,
        turned=True,
        thin_chips=True,
    ),
}
