"""Cut with the side of a mill: the top, and the outside roughed."""

from __future__ import annotations

from dataclasses import replace
from math import ceil

from shapely import box

from machining.cutting import engagement, entry
from machining.geometry.regions import Region, grown
from machining.geometry.solids import Solid
from machining.motion.path import Path
from machining.motion.paths import areas
from machining.motion.paths.areas import RUN_IN_MM
from machining.motion.paths.cleared import Level, cleared
from machining.motion.paths.entries import Entry
from machining.plan.operation import Face, FinishWalls, RoughOutside, RoughPocket
from machining.plan.places import Outside
from machining.quantities.computed import Given
from machining.world.tool import FACES, ROUGHS_SIDES

from .. import forces, metal, size
from ..context import PlanFacts, Ready
from ..feeds import blank_over
from ..place import Work
from ..removed import BEYOND_MM, all_round, down_to_floor
from .base import Ground, Kind, heights

FACE_WIDTH_SHARE = 0.7
OPEN_MM, OPEN_SHARE = 5.0, 10.0  # of the radius: how far beside the stock a tool is free
MILLS = ROUGHS_SIDES | FACES
# of its passes: they change neither what is gone afterwards nor what is swept in plan
PASSES = frozenset(
    {"step_down_mm", "peck_mm", "passes", "ramp_deg", "chain", "enter", "hole_at_mm", "lead"}
)
OVER = frozenset({"over_mm"})
SAME_STOCK = PASSES | {"step_over_mm", "width_mm"}


def same_trace(operation: object) -> frozenset[str]:
    return PASSES | {"width_mm"}


def no_deeper(op: Ready, step_down: float) -> float:
    """A step down (mm), no more than there is to cut."""
    return min(step_down, max(op.work.top - op.work.floor, 0.0))


# -- the top


def _face_work(operation: Face, ground: Ground) -> Work:
    floor, top = ground.part_top + operation.leave_mm, ground.stock_top + operation.over_mm
    return Work(region=ground.stock_outline, top=top, floor=floor, wall_height=top - floor)


def _face_removed(operation: Face, work: Work, ground: Ground) -> Solid | None:
    # no sliver is left at its rim
    return down_to_floor(work, grown(work.region, BEYOND_MM))


def face_step(operation: Face, diameter: float) -> float:
    """From one pass to the next, mm."""
    return operation.step_over_mm or FACE_WIDTH_SHARE * diameter


def face_runs(op: Ready[Face]) -> str:
    """Towards which way its first pass runs: x+, x-, y+ or y-."""
    return op.operation.towards or areas.runs(op.work.region)


def face_passes(op: Ready[Face], runs: str) -> tuple[int, float]:
    """How many there are where they run so, and over what width (mm)."""
    x0, y0, x1, y1 = op.work.region.bounds
    wide = y1 - y0 if runs.startswith("x") else x1 - x0
    return max(1, ceil(wide / face_step(op.operation, op.tool.diameter_mm) - 1e-9)), wide


def _face_path(op: Ready[Face], facts: PlanFacts) -> Path:
    kind, work, diameter = op.operation, op.work, op.tool.diameter_mm
    near, retract = heights(op, facts)
    if work.is_thin:
        return Path()
    return areas.raster(
        work.region,
        diameter / 2.0,
        face_step(kind, diameter),
        areas.levels(work.top, work.floor, kind.step_down_mm),
        work.top + near,
        retract,
        kind.ways == "one",
        kind.towards,
    )


def _face_width(op: Ready[Face]) -> float:
    return min(face_step(op.operation, op.tool.diameter_mm), op.tool.diameter_mm)


def _face_forces(op: Ready[Face], facts: PlanFacts) -> None:
    depth = no_deeper(op, op.operation.step_down_mm)
    forces.side_cut(op, facts, depth, _face_width(op), more_depth=blank_over(op))


def _face_worked(op: Ready[Face], facts: PlanFacts) -> None:
    if op.work.region.is_empty:
        return
    op.work_out(
        engagement.face_passes,
        "passes",
        width=Given(face_passes(op, face_runs(op))[1], "stock"),
        diameter=op.of_tool("diameter_mm"),
        step=Given(_face_width(op)),
    )
    op.work_out(
        entry.overrun,
        "overrun",
        radius=Given(op.tool.diameter_mm / 2.0, "half the tool"),
        clearance=Given(RUN_IN_MM, "practice"),
    )


# -- the outside


def outside_work(
    operation: RoughOutside | FinishWalls, ground: Ground, leave: float, over: float
) -> Work:
    """Round the part down to a depth, as near as the tool's radius gets into inner corners."""
    on, radius = operation.on, ground.radius
    assert isinstance(on, Outside)
    if on.along == "block":
        west, south, east, north = ground.part_outline.bounds
        kept = box(west - leave, south - leave, east + leave, north + leave)
    else:
        kept = grown(grown(ground.part_outline, leave + radius), -radius)
    outline = ground.stock_outline
    return Work(
        region=(grown(outline, over) if over else outline).difference(kept),
        kept=kept,
        top=ground.stock_top,
        floor=ground.part_top - on.depth_mm,
        wall_height=on.depth_mm,
    )


def _outside_work(operation: RoughOutside, ground: Ground) -> Work:
    return outside_work(operation, ground, operation.leave_mm, operation.over_mm)


def _outside_removed(operation: RoughOutside, work: Work, ground: Ground) -> Solid | None:
    return all_round(work, ground.stock_outline)


def _outside_metal(op: Ready[RoughOutside]) -> tuple[Level, ...]:
    """With what may stand over the blank as drawn, where it is cut as if it did."""
    found = metal_of(op, op.work.region)
    if not op.operation.over_mm:
        return found
    beside = op.work.region.difference(op.before.outline())
    return tuple(replace(each, metal=each.metal.union(beside)) for each in found)


def metal_of(op: Ready[RoughOutside] | Ready[RoughPocket], region: Region) -> tuple[Level, ...]:
    kind, work = op.operation, op.work
    if work.is_thin or kind.clears == "rings":
        return ()
    heights = areas.levels(work.top, work.floor, kind.step_down_mm)
    opens = isinstance(kind, RoughPocket) and not work.kept.is_empty
    radius = op.tool.diameter_mm / 2.0 if opens else 0.0
    return metal.levels(op.before, region, work.top, heights, radius)


def clears_open(op: Ready, facts: PlanFacts, reach: Region, step: float, entry: Entry) -> Path:
    """What stands of its metal, from what is open on."""
    near, retract = heights(op, facts)
    return cleared(
        reach,
        op.metal,
        op.tool.diameter_mm / 2.0,
        step,
        entry,
        near,
        retract,
        metal.lifts_to(op, facts),
        op.before.outline(),
    )


def _outside_path(op: Ready[RoughOutside], facts: PlanFacts) -> Path:
    kind, work = op.operation, op.work
    near, retract = heights(op, facts)
    if work.is_thin:
        return Path()
    if kind.clears == "open":
        radius, beside = op.tool.diameter_mm / 2.0, grown(work.region.union(work.kept), OPEN_MM)
        reach = grown(beside, OPEN_SHARE * radius).difference(grown(work.kept, radius))
        return clears_open(op, facts, reach, kind.step_over_mm, Entry())
    return areas.round_outside(
        work.kept,
        work.region.union(work.kept),
        op.tool.diameter_mm / 2.0,
        kind.step_over_mm,
        areas.levels(work.top, work.floor, kind.step_down_mm),
        work.top + near,
        retract,
    )


def stepped_over(op: Ready) -> float:
    """Its step over (mm), no more than the tool is wide."""
    return min(float(getattr(op.operation, "step_over_mm", 0.0)), op.tool.diameter_mm)


def _outside_forces(op: Ready[RoughOutside], facts: PlanFacts) -> None:
    depth = no_deeper(op, op.operation.step_down_mm)
    forces.side_cut(op, facts, depth, stepped_over(op), more_width=blank_over(op))


KINDS = {
    "face": Kind(
        "face",
        MILLS,
        _face_work,
        _face_path,
        _face_forces,
        _face_removed,
        worked=_face_worked,
        width=_face_width,
        no_stock=SAME_STOCK,
        no_trace=same_trace,
        says_shape=False,
        carried=True,
        in_air=OVER,
        in_mouth=True,
        side_by_side=True,
        meets="top",
        roughs=True,
    ),
    "rough_outside": Kind(
        "rough",
        MILLS,
        _outside_work,
        _outside_path,
        _outside_forces,
        _outside_removed,
        size.roughed_wall,
        width=stepped_over,
        metal=_outside_metal,
        no_stock=SAME_STOCK,
        no_trace=same_trace,
        says_shape=False,
        carried=True,
        in_air=OVER,
        side_by_side=True,
        meets="sides",
        roughs=True,
        roughs_walls=True,
    ),
}
