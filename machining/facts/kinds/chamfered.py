"""Edges broken by a pointed tool: the part's outside, a pocket's rim, the mouths of holes."""

from __future__ import annotations

from math import radians, tan

import numpy as np

from machining.cutting import engagement
from machining.geometry.solids import Solid, joined, turned_at
from machining.motion.path import Path
from machining.motion.paths import areas, holes
from machining.plan.operation import Chamfer
from machining.plan.places import Drawn, Lines, OnFeatures, Points, Top
from machining.quantities.computed import Given, Value
from machining.world.feature import Hole
from machining.world.tool import POINTED

from .. import wording
from ..context import OperationFacts, PlanFacts, Ready
from ..place import Work, hole_ends, pocket_area
from ..wording import Named
from . import bevels
from .base import Ground, Kind, cone_of, heights
from .sides import SAME_STOCK, same_trace

TOOLS = POINTED | {"spot_drill"}


def _work(operation: Chamfer, ground: Ground) -> Work:
    on, deep = operation.on, operation.size_mm + operation.below_mm
    if isinstance(on, Lines | Drawn):
        floor = on.top_mm - deep
        lines = tuple(tuple((x, y, floor) for x, y in line) for line in on.placed)
        return Work(lines=lines, top=on.top_mm, floor=floor, wall_height=operation.size_mm)
    if not isinstance(on, OnFeatures | Points):
        region, top = ground.top_outline(operation.size_mm), ground.part_top
    elif isinstance(on, Points) or _all_holes(on, ground):
        ends, diameter, _ = hole_ends(on, ground.lie, ground.geometry, "sink")
        return Work(
            holes=tuple((x, y, mouth, mouth - deep) for x, y, mouth, _ in ends),
            hole_diameter=diameter,
            hole_depth=operation.size_mm,
        )
    else:
        wanted = "one pocket, or holes of one diameter"
        area = pocket_area(on, ground.lie, ground.geometry, wanted)
        region, top = area.region, area.top
    return Work(region=region, top=top, floor=top - deep, wall_height=operation.size_mm)


def _removed(operation: Chamfer, work: Work, ground: Ground) -> Solid | None:
    """The triangle an edge loses, or the ring a hole's mouth does."""
    high = operation.size_mm
    if ground.tool is not None and ground.tool.kind not in TOOLS:
        return None
    wide = high * tan(radians(cone_of(ground.tool)[0] / 2.0))
    if work.holes:
        cones = [(0.0, work.hole_diameter / 2.0), (high, work.hole_diameter / 2.0 + wide)]
        return joined([turned_at(cones, x, y, mouth - high) for x, y, mouth, _ in work.holes])
    if isinstance(operation.on, Lines | Drawn):
        return bevels.off_lines(operation.on, bevels.sloped(wide, high))
    if work.is_thin:
        return None
    inside = isinstance(operation.on, OnFeatures)
    return bevels.off_region(work.region, inside, bevels.sloped(wide, high), work.top)


def _all_holes(on: OnFeatures, ground: Ground) -> bool:
    return all(
        isinstance(found, Hole)
        for id in on.ids
        if (found := ground.geometry.feature(id)) is not None
    )


def _path(op: Ready[Chamfer], facts: PlanFacts) -> Path:
    work = op.work
    near, retract = heights(op, facts)
    if work.holes:
        return holes.there_and_back(work.holes, near, retract)
    if work.is_thin:
        return Path()
    lines = [np.array(line)[:, :2] for line in work.lines]
    return areas.along_walls(
        lines or areas.contours_of(work.region, inside=isinstance(op.operation.on, OnFeatures)),
        [work.floor],
        1,
        work.top + near,
        retract,
    )


def _diameter(op: Ready[Chamfer], facts: PlanFacts) -> Value:
    return op.work_out(
        engagement.cone_diameter,
        "cutting_diameter",
        depth=Given(op.operation.size_mm + op.operation.below_mm),
        tip=op.of_tool("tip_diameter_mm"),
        included_angle=Given(op.tool.included_angle_deg or 90.0, op.tool_origin),
    )


def _words(op: OperationFacts[Chamfer], facts: PlanFacts) -> Named:
    size = {"s": op.operation.size_mm}
    if isinstance(op.operation.on, Top):
        return wording.named(op, "{s}", size)
    if (pocket := wording.pocket_size(op, facts)) is not None:
        return wording.named(op, "{s} round {l} × {w}", {**size, "l": pocket[0], "w": pocket[1]})
    if (found := wording.holes_of(op, facts)) is not None:
        return wording.named(op, f"{{s}} on {found[0]} holes", size)
    return wording.named(op)


def _into_mouths(work: Work) -> bool:
    return bool(work.holes)


KINDS = {
    "chamfer": Kind(
        "chamfer",
        TOOLS,
        _work,
        _path,
        removed=_removed,
        words=_words,
        diameter=_diameter,
        straight_down=_into_mouths,
        no_stock=SAME_STOCK,
        no_trace=same_trace,
        says_shape=False,
        in_mouth=True,
        bench="slope-methods",
    ),
}
