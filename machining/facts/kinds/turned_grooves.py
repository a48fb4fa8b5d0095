"""Grooves into rounds and faces, and parting off."""

from __future__ import annotations

from dataclasses import replace

from shapely import box

from machining.cutting import turning
from machining.cutting.data import constant
from machining.geometry.contours import FAR_MM
from machining.geometry.solids import Solid, revolved
from machining.motion.path import Path
from machining.motion.paths import turned as paths
from machining.plan.turned import Groove, PartOff, Plane, RingGroove, TurnGroove
from machining.quantities.computed import Given
from machining.world.tool import Tool

from .. import wording
from ..context import OperationFacts, PlanFacts, Ready
from ..place import Work
from ..wording import Named
from .base import Ground, Kind, Unsuited
from .turned import (
    cut_force,
    data_given,
    gone,
    home_of,
    near_of,
    speed_and_feed,
    stands_at,
    taken,
    turned_work,
    widest_and_narrowest,
)


def plunge_step(kind: TurnGroove, wide: float) -> float:
    """From one plunge to the next (mm), as typed or a share of the insert's width."""
    return min(kind.step_mm or constant("turning", "groove_step") * wide, wide)


def _groove_work(operation: TurnGroove, ground: Ground) -> Work:
    stock, on = ground.section, operation.on
    if isinstance(on, RingGroove):
        region = taken(
            stock.intersection(
                box(
                    on.outer_diameter_mm / 2.0 - on.width_mm,
                    on.z_mm - on.depth_mm,
                    on.outer_diameter_mm / 2.0,
                    FAR_MM,
                )
            )
        )
        return turned_work(
            region,
            deep=(
                float(region.bounds[3]) - on.z_mm + on.depth_mm
                if not region.is_empty
                else on.depth_mm
            ),
        )
    region = taken(
        stock.intersection(box(on.diameter_mm / 2.0, on.z_mm - on.width_mm, FAR_MM, on.z_mm))
    )
    return turned_work(
        region, deep=float(region.bounds[2] - region.bounds[0]) if not region.is_empty else 0.0
    )


def _part_work(operation: PartOff, ground: Ground) -> Work:
    stock, on = ground.section, operation.on
    wide = (ground.tool.insert_width_mm if ground.tool else None) or 3.0
    region = taken(
        stock.intersection(box(on.to_diameter_mm / 2.0, on.z_mm - wide, FAR_MM, on.z_mm))
    )
    return turned_work(
        region, deep=float(region.bounds[2] - region.bounds[0]) if not region.is_empty else 0.0
    )


def _groove_path(op: Ready[TurnGroove], facts: PlanFacts) -> Path:
    kind, work, near, home = op.operation, op.work, near_of(facts), home_of(op, facts)
    if work.turned.is_empty:
        return Path()
    high = float(work.turned.bounds[3])
    wide, on = op.tool.insert_width_mm or 1.0, kind.on
    count = int(turning.plunges(on.width_mm, wide, plunge_step(kind, wide)))
    first, span = wide / 2.0, on.width_mm - wide
    offsets = [first + span * k / max(count - 1, 1) for k in range(count)]
    if isinstance(on, RingGroove):
        return paths.grooved_in_face(
            high,
            on.z_mm - on.depth_mm,
            [on.outer_diameter_mm / 2.0 - away for away in offsets],
            near,
            home,
        )
    middles = [on.z_mm - away for away in offsets]
    return paths.grooved(
        [
            (z, stands_at(work.turned, z - wide / 2.0, z + wide / 2.0) or on.diameter_mm / 2.0)
            for z in middles
        ],
        on.diameter_mm / 2.0,
        near,
        home,
    )


def _part_path(op: Ready[PartOff], facts: PlanFacts) -> Path:
    on, work = op.operation.on, op.work
    if work.turned.is_empty:
        return Path()
    inner, _, outer, _ = (float(v) for v in work.turned.bounds)
    half = (op.tool.insert_width_mm or 0.0) / 2.0
    to = on.to_diameter_mm / 2.0 or max(inner - constant("turning", "face_past_mm"), 0.0)
    return paths.grooved([(on.z_mm - half, outer)], to, near_of(facts), home_of(op, facts))


def _forces(op: Ready, facts: PlanFacts) -> None:
    """All of the insert's width cuts."""
    if not op.work.turned.is_empty:
        op.seen = replace(op.seen, width_mm=op.tool.insert_width_mm or 0.0)
        cut_force(op, facts, op.of_tool("insert_width_mm"))


def _groove_worked(op: Ready[TurnGroove], facts: PlanFacts) -> None:
    if "cutting_force" in op.figures:
        wide = op.tool.insert_width_mm or 0.0
        op.work_out(
            turning.plunges,
            "plunges",
            width=Given(op.operation.on.width_mm),
            insert=op.of_tool("insert_width_mm"),
            step=Given(plunge_step(op.operation, wide)),
        )


def _part_removed(operation: PartOff, work: Work, ground: Ground) -> Solid | None:
    if operation.on.to_diameter_mm == 0 and not work.turned.is_empty:
        # what stays in the chuck is no part any more
        return revolved(box(0.0, -FAR_MM, FAR_MM, operation.on.z_mm))
    return gone(operation, work, ground)


def _speed(op: Ready, facts: PlanFacts) -> None:
    large, small = widest_and_narrowest(op)
    data_given(op, facts)
    speed_and_feed(op, facts, large, small)


def _groove_tool(operation: TurnGroove | PartOff, work: Work, tool: Tool) -> Unsuited | None:
    wide, deep = tool.insert_width_mm or 0.0, tool.cutting_depth_mm
    on: Groove | RingGroove | Plane = operation.on
    if isinstance(on, RingGroove) != (tool.kind == "face_groove"):
        return (
            "It grooves rounds, not faces."
            if isinstance(on, RingGroove)
            else "It grooves faces, not rounds."
        ), {}
    if isinstance(on, Groove | RingGroove) and wide > on.width_mm + 1e-9:
        return "Its edge is {has} wide, the groove {wanted}.", {"has": wide, "wanted": on.width_mm}
    if work.wall_height > deep + 1e-9:
        return "It goes {has} deep, not {wanted}.", {"has": deep, "wanted": work.wall_height}
    return None


def _groove_words(op: OperationFacts[TurnGroove], facts: PlanFacts) -> Named:
    return wording.named(op, "{w} wide", {"w": op.operation.on.width_mm})


def _part_words(op: OperationFacts[PartOff], facts: PlanFacts) -> Named:
    return wording.named(op)


KINDS = {
    "turn_groove": Kind(
        "groove",
        frozenset({"turning_groove", "face_groove", "part_off"}),
        _groove_work,
        _groove_path,
        _forces,
        gone,
        worked=_groove_worked,
        no_stock=frozenset({"step_mm"}),
        words=_groove_words,
        unsuited=_groove_tool,
        speed=_speed,
        turned=True,
    ),
    "part_off": Kind(
        "groove",
        frozenset({"part_off", "turning_groove"}),
        _part_work,
        _part_path,
        _forces,
        _part_removed,
        words=_part_words,
        unsuited=_groove_tool,
        speed=_speed,
        turned=True,
    ),
}
