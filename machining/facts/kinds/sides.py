"""Cut with the side of a mill: the top, the outside and pockets roughed, floors finished."""

from __future__ import annotations

from dataclasses import replace

from shapely import Point

from machining.cutting import engagement, entry, speeds
from machining.cutting.data import constant
from machining.geometry.regions import Region, grown, opened, polygons_of
from machining.geometry.solids import Solid, section
from machining.motion.path import Path
from machining.motion.paths import areas
from machining.motion.paths.areas import RUN_IN_MM, middle_of
from machining.plan.operation import Face, FinishFloor, FinishWalls, RoughOutside, RoughPocket
from machining.plan.places import OnFeatures, Outside, Rectangle
from machining.quantities.computed import Given
from machining.quantities.errors import OutOfRange
from machining.world.tool import FACES, ROUGHS_SIDES, Tool

from .. import forces, size
from ..context import PlanFacts, Ready
from ..feeds import blank_over
from ..place import Area, Work, pocket_area
from ..removed import BEYOND_MM, all_round, down_to_floor
from .base import Ground, Kind, heights

FACE_WIDTH_SHARE = 0.7
JUST_OVER_MM = 0.3  # over a pocket's floor, where a drill's point has been
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
    )


def _face_width(op: Ready[Face]) -> float:
    return min(face_step(op.operation, op.tool.diameter_mm), op.tool.diameter_mm)


def _face_forces(op: Ready[Face], facts: PlanFacts) -> None:
    depth = no_deeper(op, op.operation.step_down_mm)
    forces.side_cut(op, facts, depth, _face_width(op), more_depth=blank_over(op))


def _face_worked(op: Ready[Face], facts: PlanFacts) -> None:
    if op.work.region.is_empty:
        return
    x0, y0, x1, y1 = op.work.region.bounds
    op.work_out(
        engagement.face_passes,
        "passes",
        width=Given(min(x1 - x0, y1 - y0), "stock"),
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


def _outside_path(op: Ready[RoughOutside], facts: PlanFacts) -> Path:
    kind, work = op.operation, op.work
    near, retract = heights(op, facts)
    if work.is_thin:
        return Path()
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


# -- pockets


def pocket_work(
    on: OnFeatures | Rectangle, ground: Ground, leave: float = 0.0, above: float = 0.0
) -> tuple[Work, Area]:
    """What the tool reaches of a pocket."""
    area = pocket_area(on, ground.lie, ground.geometry)
    left = grown(area.region, -leave) if leave else area.region
    work = Work(
        region=opened(left, ground.radius) if ground.radius else left,
        top=area.top,
        floor=area.floor + above,
        wall_height=area.top - area.floor,
        corner_radius=area.corner,
    )
    return work, area


def entered(region: Region, ground: Ground) -> None:
    """Raises OutOfRange for a tool that does not get into the pocket at all."""
    if not polygons_of(region):
        raise OutOfRange("tool diameter", 2 * ground.radius, "small enough to enter the pocket")


def _pocket_work(operation: RoughPocket, ground: Ground) -> Work:
    on = operation.on
    assert isinstance(on, OnFeatures | Rectangle)
    work, _ = pocket_work(on, ground, operation.leave_mm, operation.leave_floor_mm)
    entered(work.region, ground)
    return work


def _all_of_it(operation: object, work: Work, ground: Ground) -> Solid | None:
    return down_to_floor(work, work.region)


def _pocket_path(op: Ready[RoughPocket], facts: PlanFacts) -> Path:
    kind, work = op.operation, op.work
    near, retract = heights(op, facts)
    if work.is_thin:
        return Path()
    return areas.out_of_pocket(
        work.region,
        op.tool.diameter_mm / 2.0,
        kind.step_over_mm,
        work.top,
        areas.levels(work.top, work.floor, kind.step_down_mm),
        areas.Entry(kind.enter, kind.ramp_deg, kind.hole_at_mm),
        near,
        retract,
    )


def _pocket_forces(op: Ready[RoughPocket], facts: PlanFacts) -> None:
    forces.side_cut(op, facts, no_deeper(op, op.operation.step_down_mm), stepped_over(op))


def _pocket_size(op: Ready[RoughPocket], facts: PlanFacts) -> None:
    size.pulled_in_slot(op, facts)
    size.roughed_wall(op, facts)


def _pocket_worked(op: Ready[RoughPocket], facts: PlanFacts) -> None:
    kind, work = op.operation, op.work
    if kind.enter in ("plunge", "hole") and "feed" in op.figures:
        op.work_out(
            speeds.straight_down,
            "plunge_feed",
            feed=op.figures["feed"],
            share=Given(constant("plunge", "share"), "data:plunge.share"),
        )
    if kind.enter == "hole":
        op.seen = replace(op.seen, entry_open_mm=open_at(op))
    if kind.enter == "ramp" and kind.ramp_deg < 90 and work.top > work.floor:
        op.work_out(
            entry.ramp_length,
            "ramp_length",
            depth=Given(no_deeper(op, kind.step_down_mm)),
            ramp=Given(kind.ramp_deg),
        )


def entry_spot(operation: RoughPocket, work: Work, tool: Tool) -> tuple[float, float]:
    """Where the tool goes down into a hole."""
    if operation.hole_at_mm is not None:
        return operation.hole_at_mm
    reachable = polygons_of(grown(work.region, -tool.diameter_mm / 2.0))
    if not reachable:
        return 0.0, 0.0
    x, y, _ = middle_of(max(reachable, key=lambda each: float(each.area)))
    return x, y


def open_at(op: Ready[RoughPocket]) -> float:
    """Diameter (mm) that stands open where the tool goes down, half-way to the floor; 0 where the
    floor's middle is still full.
    """
    work = op.work
    spot = Point(entry_spot(op.operation, work, op.tool))
    floor, top = work.floor, work.top
    if section(op.before.solid, floor + JUST_OVER_MM).distance(spot) <= 0:
        return 0.0
    return 2.0 * float(section(op.before.solid, (floor + top) / 2.0).distance(spot))


# -- floors


def _floor_work(operation: FinishFloor, ground: Ground) -> Work:
    on = operation.on
    assert isinstance(on, OnFeatures | Rectangle)
    work, area = pocket_work(on, ground)
    return replace(work, top=area.floor + operation.depth_mm, wall_height=operation.depth_mm)


def _floor_path(op: Ready[FinishFloor], facts: PlanFacts) -> Path:
    work = op.work
    near, retract = heights(op, facts)
    if work.is_thin:
        return Path()
    return areas.out_of_pocket(
        work.region,
        op.tool.diameter_mm / 2.0,
        op.operation.step_over_mm,
        work.top,
        [work.floor],
        areas.Entry(),
        near,
        retract,
    )


def _floor_forces(op: Ready[FinishFloor], facts: PlanFacts) -> None:
    forces.side_cut(op, facts, op.operation.depth_mm, stepped_over(op))


def _floor_size(op: Ready[FinishFloor], facts: PlanFacts) -> None:
    size.scallop(op, op.operation.step_over_mm)


def _drawn_size(operation: object) -> float:
    return 0.0


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
        no_stock=SAME_STOCK,
        no_trace=same_trace,
        says_shape=False,
        in_air=OVER,
        side_by_side=True,
        meets="sides",
        roughs=True,
        roughs_walls=True,
    ),
    "rough_pocket": Kind(
        "rough",
        ROUGHS_SIDES,
        _pocket_work,
        _pocket_path,
        _pocket_forces,
        _all_of_it,
        _pocket_size,
        _pocket_worked,
        width=stepped_over,
        no_stock=SAME_STOCK,
        no_trace=same_trace,
        says_shape=False,
        covers_region=True,
        roughs=True,
        roughs_walls=True,
        makes_hole=True,
    ),
    "finish_floor": Kind(
        "finish",
        MILLS,
        _floor_work,
        _floor_path,
        _floor_forces,
        _all_of_it,
        _floor_size,
        width=stepped_over,
        leaves_mm=_drawn_size,
        no_stock=SAME_STOCK,
        no_trace=same_trace,
        says_shape=False,
        covers_region=True,
        finishes=True,
    ),
}
