"""The nominal path of an operation and the time it takes."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from shapely import contains_xy, prepare

from machining.cutting import speeds
from machining.cutting.correction import measured_chain
from machining.cutting.data import constant
from machining.geometry.regions import Region, grown
from machining.motion.path import Leg, Path, PathTime, time_of
from machining.motion.paths import areas, holes
from machining.motion.timing import Drive, spindle_time
from machining.plan.operation import (
    ROTATES_IN_PLACE,
    Chamfer,
    Drill,
    Face,
    FinishFloor,
    FinishWalls,
    RoughOutside,
    RoughPocket,
)
from machining.quantities.computed import Given

from .context import PlanFacts, Ready
from .cut import FACE_WIDTH_SHARE

LEAD_SHARE = 0.25  # of the diameter
STRAIGHT_DOWN = ROTATES_IN_PLACE | {"countersink"}


def draw(op: Ready, facts: PlanFacts) -> Path:
    """The nominal path in the setup frame; needs the operation's work and tool."""
    kind, work, tool = op.operation, op.work, op.tool
    settings = facts.library.settings
    near, above = settings.first_clearance_mm, settings.retract_mm
    top = max(float(op.setup.lie.stock_high[2]), work.top)
    retract, radius = top + above, tool.diameter_mm / 2.0
    if work.holes:
        if isinstance(kind, Drill):
            return holes.drilled(work.holes, near, retract, kind.peck_mm)
        return holes.there_and_back(work.holes, near, retract)
    if work.top - work.floor < 1e-6:
        return Path()
    if isinstance(kind, Face):
        step = kind.step_over_mm or FACE_WIDTH_SHARE * tool.diameter_mm
        return areas.raster(
            work.region,
            radius,
            step,
            areas.levels(work.top, work.floor, kind.step_down_mm),
            work.top + near,
            retract,
            kind.ways == "one",
        )
    if isinstance(kind, RoughOutside) and not work.kept.is_empty:
        stock = work.region.union(work.kept)
        return areas.round_outside(
            work.kept,
            stock,
            radius,
            kind.step_over_mm,
            areas.levels(work.top, work.floor, kind.step_down_mm),
            work.top + near,
            retract,
        )
    if isinstance(kind, RoughPocket):
        way_down = areas.Entry(kind.enter, kind.ramp_deg, kind.hole_at_mm)
        return areas.out_of_pocket(
            work.region,
            radius,
            kind.step_over_mm,
            work.top,
            areas.levels(work.top, work.floor, kind.step_down_mm),
            way_down,
            near,
            retract,
        )
    if isinstance(kind, FinishFloor):
        return areas.out_of_pocket(
            work.region,
            radius,
            kind.step_over_mm,
            work.top,
            [work.floor],
            areas.Entry(),
            near,
            retract,
        )
    if isinstance(kind, FinishWalls):
        heights = areas.levels(work.floor + work.wall_height, work.floor, kind.step_down_mm)
        legs: list[Leg] = []
        for stands in measured_chain(kind.width_mm, kind.chain):
            area = (
                grown(work.kept, radius + stands)
                if not work.kept.is_empty
                else grown(work.region, -radius - stands)
            )
            free = _free(area, not work.kept.is_empty) if kind.lead != "straight" else None
            legs += areas.along_walls(
                areas.contours_of(area),
                heights,
                kind.passes,
                work.top + near,
                retract,
                kind.lead,
                free,
                LEAD_SHARE * tool.diameter_mm,
            ).legs
        return Path(tuple(legs))
    assert isinstance(kind, Chamfer)
    return areas.along_walls(
        areas.contours_of(work.region), [work.floor], 1, work.top + near, retract
    )


def _free(area: Region, outside: bool) -> Callable[[float, float], bool]:
    """May the tool's middle stand at a place beside the contour of ``area``?"""
    prepare(area)
    return lambda x, y: bool(contains_xy(area, x, y)) != outside


def timed(op: Ready, facts: PlanFacts) -> None:
    """Fill the operation's time from its path, feed and machine; figures link_feed and
    reached_feed.
    """
    machine = op.machine
    feed = op.value("centre_feed") or op.figures["feed"].value
    links = any(leg.kind == "link" for leg in op.path.legs)
    if links:
        op.work_out(
            speeds.link_feed,
            "link_feed",
            machine_max=op.of_machine(machine.max_feed_mm_min),
            share=facts.shop("link_share"),
        )
    op.time = time_at(op, feed)
    if op.time.sideways_s > 0:
        op.work_out(
            speeds.reached_feed,
            "reached_feed",
            path=Given(op.time.sideways_mm, "path"),
            time=Given(op.time.sideways_s, "path and machine"),
        )
    if op.operation.kind == "tap":
        reversal = 2.0 * spindle_time(
            op.figures["rpm"].value, machine.max_rpm, machine.base_rpm, machine.spindle_start_s
        )
        op.time = replace(op.time, dwell_s=op.time.dwell_s + 2.0 * reversal * len(op.work.holes))


def time_at(op: Ready, feed: float) -> PathTime:
    """What the operation's path takes at a feed (mm/min), all else as planned."""
    down = feed if straight_down(op) else feed * constant("plunge", "share")
    return time_of(op.path, feed, down, Drive.of(op.machine), op.value("link_feed"))


def straight_down(op: Ready) -> bool:
    """Does the tool cut on its way down, at its whole feed?"""
    return op.operation.kind in STRAIGHT_DOWN or (
        op.operation.kind == "chamfer" and bool(op.work.holes)
    )
