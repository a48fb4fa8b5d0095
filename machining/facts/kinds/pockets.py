"""Pockets roughed, and their floors finished."""

from __future__ import annotations

from dataclasses import replace

from shapely import MultiLineString, Point, Polygon, unary_union
from shapely.geometry.polygon import orient
from shapely.ops import linemerge

from machining.cutting import entry, pointed, speeds
from machining.geometry.regions import ARC_STEPS, Region, grown, opened, polygons_of
from machining.geometry.solids import Solid, section
from machining.motion.path import Path
from machining.motion.paths import areas
from machining.motion.paths.cleared import Level
from machining.motion.paths.entries import Entry, middle_of
from machining.plan.operation import FinishFloor, RoughPocket
from machining.plan.places import DrawnArea, OnFeatures, Rectangle
from machining.quantities.computed import Given, Value
from machining.quantities.errors import OutOfRange
from machining.world.tool import ROUGHS_SIDES, Tool

from .. import forces, metal, size
from ..context import PlanFacts, Ready
from ..place import Area, Work, pocket_area
from ..removed import down_to_floor
from .base import Ground, Kind, heights
from .sides import (
    MILLS,
    SAME_STOCK,
    clears_open,
    metal_of,
    no_deeper,
    same_trace,
    stepped_over,
)

SAME_MM = 1e-6
WALL_MM = 0.05  # so near to a wall a side is one
SKIN_MM = 1.5  # thicker it is no skin for a finish
OUT_MM = 1.0  # past an open side
JUST_OVER_MM = 0.3  # over a pocket's floor, where a drill's point has been


def pocket_work(
    on: OnFeatures | Rectangle | DrawnArea,
    ground: Ground,
    leave: float = 0.0,
    above: float = 0.0,
    past: float = 0.0,
) -> tuple[Work, Area]:
    """What the tool reaches of a pocket; ``past`` is how far it goes below a window (mm), ``above``
    what it leaves on a floor.
    """
    area = pocket_area(on, ground.lie, ground.geometry)
    walls = Polygon() if area.closed else ground.stands_over(area.upright)
    left = _beside_walls(area, walls, ground, leave)
    floor = area.floor - past if area.through else area.floor
    region = opened(left, ground.radius) if ground.radius else left
    work = Work(
        region=region,
        kept=walls,
        top=_top(area, region, ground),
        floor=floor if area.through else floor + above,
        wall_height=area.top - floor,
        corner_radius=area.corner,
        passes_bottom=area.through,
    )
    return work, area


def _top(area: Area, region: Region, ground: Ground) -> float:
    if not area.as_it_stands or region.is_empty:
        return area.top
    stands = ground.before.top().highest_within(region)
    return area.floor if stands is None else max(area.floor, stands)


def _beside_walls(area: Area, walls: Region, ground: Ground, leave: float) -> Region:
    """A pocket but for what is left on its walls. Over its open sides it goes on as far as the tool
    needs to come out: there is nothing there.
    """
    if area.closed:
        return grown(area.region, -leave) if leave else area.region
    beyond = area.region.union(
        _drawn_out(area.region, walls, 2.0 * ground.radius + OUT_MM + _over_part(ground))
    )
    free = beyond.difference(grown(walls, leave))
    return unary_union([each for each in polygons_of(free) if each.intersects(area.region)])


def _over_part(ground: Ground) -> float:
    """How far (mm) the stock stands out over the part's outline: the tool begins beside it."""
    if ground.stock_outline.is_empty or ground.part_outline.is_empty:
        return 0.0
    (west, south, east, north), part = ground.stock_outline.bounds, ground.part_outline.bounds
    return float(max(part[0] - west, part[1] - south, east - part[2], north - part[3], 0.0))


def _drawn_out(region: Region, walls: Region, by: float) -> Region:
    """What lies beside a region's open sides, straight out by a length (mm)."""
    near, found = grown(walls, WALL_MM), list[Region]()
    for polygon in polygons_of(region):
        sides = orient(polygon).exterior.difference(near)
        sides = linemerge(sides) if isinstance(sides, MultiLineString) else sides
        for line in getattr(sides, "geoms", [sides]):
            if line.is_empty:
                continue
            if line.is_closed:
                found.append(grown(Polygon(line), by))
            else:
                found.append(line.buffer(-by, quad_segs=ARC_STEPS, single_sided=True))
    return unary_union(found)


def entered(region: Region, ground: Ground) -> None:
    """Raises OutOfRange for a tool that does not get into the pocket at all."""
    if not polygons_of(region):
        raise OutOfRange("tool diameter", 2 * ground.radius, "small enough to enter the pocket")


def _pocket_work(operation: RoughPocket, ground: Ground) -> Work:
    on = operation.on
    assert isinstance(on, OnFeatures | Rectangle | DrawnArea)
    work, _ = pocket_work(
        on, ground, operation.leave_mm, operation.leave_floor_mm, operation.past_mm
    )
    entered(work.region, ground)
    if work.kept.is_empty:
        return work
    stands = ground.before.top().highest_within(work.region)  # over a step under another
    return work if stands is None else replace(work, top=max(work.top, stands))


def _pocket_metal(op: Ready[RoughPocket]) -> tuple[Level, ...]:
    return metal_of(op, op.work.region)


def _shapes(operation: RoughPocket) -> frozenset[str]:
    """Rings far apart leave something between them."""
    return frozenset({"step_over_mm"} if operation.clears == "rings" else ())


def _removed(operation: RoughPocket, work: Work, ground: Ground) -> Solid | None:
    """All of it; in plain rings what they sweep: far apart they leave posts in corners."""
    if operation.clears == "open" or not ground.radius:
        return down_to_floor(work, work.region)
    rings = areas.nested(grown(work.region, -ground.radius), operation.step_over_mm, ground.radius)
    lines = [ring for _, each in rings for ring in each]
    return down_to_floor(work, areas.swept(lines, ground.radius).intersection(work.region))


def _pocket_path(op: Ready[RoughPocket], facts: PlanFacts) -> Path:
    kind, work = op.operation, op.work
    near, retract = heights(op, facts)
    if work.is_thin:
        return Path()
    entry = Entry(kind.enter, kind.ramp_deg, kind.hole_at_mm)
    if kind.clears == "open":
        reach = grown(work.region, -op.tool.diameter_mm / 2.0)
        return clears_open(op, facts, reach, kind.step_over_mm, entry)
    return areas.out_of_pocket(
        work.region,
        op.tool.diameter_mm / 2.0,
        kind.step_over_mm,
        work.top,
        areas.levels(work.top, work.floor, kind.step_down_mm),
        entry,
        near,
        retract,
    )


def _pocket_forces(op: Ready[RoughPocket], facts: PlanFacts) -> None:
    forces.side_cut(op, facts, no_deeper(op, op.operation.step_down_mm), stepped_over(op))


def _pocket_size(op: Ready[RoughPocket], facts: PlanFacts) -> None:
    size.pulled_in_slot(op, facts)
    size.roughed_wall(op, facts)


def _pocket_worked(op: Ready[RoughPocket], facts: PlanFacts) -> None:
    kind = op.operation
    if kind.enter in ("plunge", "hole") and "feed" in op.figures:
        op.work_out(
            speeds.straight_down,
            "plunge_feed",
            feed=op.figures["feed"],
            share=facts.shop("plunge_share"),
        )
    if kind.enter == "hole":
        op.seen = replace(op.seen, entry_open_mm=open_at(op))
    ramps = any(leg.kind == "ramp" for leg in op.path.legs)
    if kind.enter == "ramp" and kind.ramp_deg < 90 and ramps:
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


def _down_from_stock(operation: object, work: Work, ground: Ground) -> Solid | None:
    """All there is over its floor: whatever stands there the tool cuts too."""
    top = max(work.top, ground.stock_top)
    return down_to_floor(replace(work, top=top), work.region)


def _floor_work(operation: FinishFloor, ground: Ground) -> Work:
    on = operation.on
    assert isinstance(on, OnFeatures | Rectangle | DrawnArea)
    work, area = pocket_work(on, ground)
    if area.through:
        raise OutOfRange("features", ", ".join(getattr(on, "ids", ())), "a pocket with a floor")
    top = area.floor + operation.depth_mm
    region = _off_what_stands(work.region, (top + max(area.top, top)) / 2.0, ground)
    return replace(work, region=region, top=top, wall_height=operation.depth_mm)


def _off_what_stands(region: Region, height: float, ground: Ground) -> Region:
    """A region without the skin that a roughing left on its walls, which is the walls' own finish
    to take; all of it where more than a skin stands.
    """
    left = section(ground.before.solid, height).intersection(region)
    if left.is_empty or 2.0 * left.area > SKIN_MM * left.length:
        return region
    free = region.difference(grown(left, WALL_MM))
    return opened(free, ground.radius) if ground.radius else free


def _floor_metal(op: Ready[FinishFloor]) -> tuple[Level, ...]:
    work = op.work
    return () if work.is_thin else metal.levels(op.before, work.region, work.top, [work.floor])


def _floor_path(op: Ready[FinishFloor], facts: PlanFacts) -> Path:
    reach = grown(op.work.region, -op.tool.diameter_mm / 2.0)
    return clears_open(op, facts, reach, op.operation.step_over_mm, Entry())


def _floor_forces(op: Ready[FinishFloor], facts: PlanFacts) -> None:
    forces.side_cut(op, facts, op.operation.depth_mm, stepped_over(op))


def _floor_diameter(op: Ready[FinishFloor], facts: PlanFacts) -> Value:
    """A ball or bull nose that takes less than its corner cuts on less than its diameter."""
    tool, depth = op.tool, op.operation.depth_mm
    if tool.corner_radius_mm <= 0 or depth >= tool.corner_radius_mm:
        return op.of_tool("diameter_mm")
    given = {"depth": Given(depth), "diameter": op.of_tool("diameter_mm")}
    if tool.diameter_mm - 2.0 * tool.corner_radius_mm < SAME_MM:
        return op.work_out(pointed.ball_diameter_at, "cutting_diameter", **given)
    corner = op.of_tool("corner_radius_mm")
    return op.work_out(pointed.bull_diameter_at, "cutting_diameter", corner_radius=corner, **given)


def _floor_size(op: Ready[FinishFloor], facts: PlanFacts) -> None:
    size.scallop(op, op.operation.step_over_mm)


def _drawn_size(operation: object) -> float:
    return 0.0


KINDS = {
    "rough_pocket": Kind(
        "rough",
        ROUGHS_SIDES,
        _pocket_work,
        _pocket_path,
        _pocket_forces,
        _removed,
        _pocket_size,
        _pocket_worked,
        width=stepped_over,
        metal=_pocket_metal,
        no_stock=SAME_STOCK,
        shapes=_shapes,
        no_trace=same_trace,
        says_shape=False,
        carried=True,
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
        _down_from_stock,
        _floor_size,
        diameter=_floor_diameter,
        width=stepped_over,
        metal=_floor_metal,
        leaves_mm=_drawn_size,
        no_stock=SAME_STOCK,
        no_trace=same_trace,
        says_shape=False,
        carried=True,
        covers_region=True,
        finishes=True,
    ),
}
