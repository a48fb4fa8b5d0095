"""Edges broken by a pointed tool: the part's outside, a pocket's rim, the mouths of holes."""

from __future__ import annotations

from dataclasses import replace
from math import radians, tan

import numpy as np

from machining.cutting import engagement
from machining.geometry.regions import grown
from machining.geometry.solids import Solid, joined, turned_at
from machining.motion.path import Path
from machining.motion.paths import areas, holes, rounds
from machining.plan.operation import Chamfer
from machining.plan.places import Drawn, Lines, OnFeatures, Top, TypedHoles
from machining.quantities.computed import Given, Value
from machining.world.feature import Hole
from machining.world.tool import POINTED, Tool

from .. import forces, wording
from ..context import OperationFacts, PlanFacts, Ready
from ..place import Work, hole_ends, pocket_area
from ..wording import Named
from . import bevels
from .base import Ground, Kind, Unsuited, cone_of, cone_radius, heights
from .sides import SAME_STOCK, same_trace
from .undercut import beside

SAME_MM, OVER_MM = 1e-9, 0.01
TOOLS = POINTED | {"spot_drill"}


def _work(operation: Chamfer, ground: Ground) -> Work:
    on, deep = operation.on, operation.size_mm + operation.below_mm
    if isinstance(on, Lines | Drawn):
        floor = on.top_mm - deep
        lines = tuple(tuple((x, y, floor) for x, y in line) for line in on.placed)
        return Work(lines=lines, top=on.top_mm, floor=floor, wall_height=operation.size_mm)
    if not isinstance(on, OnFeatures | TypedHoles):
        region, top = ground.top_outline(operation.size_mm), ground.part_top
    elif isinstance(on, TypedHoles) or _all_holes(on, ground):
        ends, diameter, _ = hole_ends(on, ground.lie, ground.geometry, "sink")
        deep, _ = _into_mouth(operation, diameter, ground.tool)
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


def _wide(operation: Chamfer, tool: Tool | None) -> float:
    """How wide the edge is taken off, seen from above (mm)."""
    return operation.size_mm * tan(radians(cone_of(tool)[0] / 2.0))


def _into_mouth(operation: Chamfer, hole: float, tool: Tool | None) -> tuple[float, float]:
    """How deep under a hole's mouth the tip comes, and how far it goes round beside the axis, mm:
    straight down where its flank is as wide as the mouth, else round it.
    """
    mouth, (angle, tip) = hole / 2.0 + _wide(operation, tool), cone_of(tool)
    if tool is None or tool.diameter_mm / 2.0 >= mouth - SAME_MM:
        return max(mouth - tip / 2.0, 0.0) / tan(radians(angle / 2.0)), 0.0
    aside = hole / 2.0 - cone_radius(tool, operation.below_mm)
    return operation.size_mm + operation.below_mm, max(aside, 0.0)


def _removed(operation: Chamfer, work: Work, ground: Ground) -> Solid | None:
    """The triangle an edge loses, or the ring a hole's mouth does."""
    high = operation.size_mm
    if ground.tool is not None and ground.tool.kind not in TOOLS:
        return None
    wide = _wide(operation, ground.tool)
    if work.holes:
        narrow = work.hole_diameter / 2.0
        cones = [(0.0, narrow), (high, narrow + wide), (high + OVER_MM, narrow + wide)]
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
    kind, work = op.operation, op.work
    near, retract = heights(op, facts)
    if work.holes:
        _, aside = _into_mouth(kind, work.hole_diameter, op.tool)
        if aside > 0:
            return rounds.round_mouths(work.holes, aside, near, retract)
        return holes.there_and_back(work.holes, near, retract)
    if work.is_thin:
        return Path()
    away = cone_radius(op.tool, kind.below_mm)  # of the flank's middle from the edge it leaves
    inside = isinstance(kind.on, OnFeatures)
    if isinstance(kind.on, Lines | Drawn):
        ways = [np.array(beside(line, kind.on.tool_side, away)) for line in kind.on.placed]
    else:
        ways = areas.contours_of(grown(work.region, -away if inside else away), inside)
    return areas.along_walls(
        ways,
        [work.floor],
        1,
        work.top + near,
        retract,
    )


def _diameter(op: Ready[Chamfer], facts: PlanFacts) -> Value:
    kind, work = op.operation, op.work
    if work.holes and _into_mouth(kind, work.hole_diameter, op.tool)[1] == 0:
        return Given(work.hole_diameter + 2.0 * _wide(kind, op.tool), "the chamfer's mouth")
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


def _forces(op: Ready[Chamfer], facts: PlanFacts) -> None:
    """The triangle along an edge; down into a mouth there is none to speak of."""
    section = _section(op)
    if section:
        op.seen = replace(
            op.seen, depth_mm=op.operation.size_mm, width_mm=_wide(op.operation, op.tool)
        )
        forces.of_section(op, facts, section)


def _section(op: Ready[Chamfer]) -> float | None:
    kind, work = op.operation, op.work
    if work.is_thin or (work.holes and _into_mouth(kind, work.hole_diameter, op.tool)[1] == 0):
        return None
    return kind.size_mm * _wide(kind, op.tool) / 2.0


def _unsuited(operation: Chamfer, work: Work, tool: Tool) -> Unsuited | None:
    tip = cone_of(tool)[1]
    if work.holes and tip >= work.hole_diameter:
        return "Its tip of Ø {has} does not go into the hole, Ø {hole}.", {
            "has": tip,
            "hole": work.hole_diameter,
        }
    if work.holes and _into_mouth(operation, work.hole_diameter, tool)[1] == 0:
        return None
    wanted = 2.0 * cone_radius(tool, operation.size_mm + operation.below_mm)
    if wanted <= tool.diameter_mm + SAME_MM:
        return None
    return "Its edge ends at Ø {has}; the chamfer asks for Ø {wanted} with the tip so far below.", {
        "has": tool.diameter_mm,
        "wanted": wanted,
    }


def _into_mouths(work: Work) -> bool:
    return bool(work.holes)


KINDS = {
    "chamfer": Kind(
        "chamfer",
        TOOLS,
        _work,
        _path,
        _forces,
        _removed,
        words=_words,
        unsuited=_unsuited,
        diameter=_diameter,
        section=_section,
        straight_down=_into_mouths,
        no_stock=SAME_STOCK,
        no_trace=same_trace,
        says_shape=False,
        in_mouth=True,
        carried=True,
        edge=True,
        bench="slope-methods",
    ),
}
