"""Engraving with a pointed tool: by depth or by width, the other follows from the tool's angle."""

from __future__ import annotations

from dataclasses import replace
from math import ceil

from shapely import MultiLineString

from machining.cutting import engagement, pointed
from machining.geometry.lettering import written
from machining.geometry.solids import Solid, joined, prism
from machining.motion.path import Path
from machining.motion.paths import lines
from machining.plan.operation import Engrave
from machining.plan.places import Drawn, Lines, Text
from machining.quantities.computed import Given, Value
from machining.world.tool import Tool

from .. import forces, wording
from ..context import OperationFacts, PlanFacts, Ready
from ..place import Work
from ..wording import Named
from .base import Ground, Kind, Unsuited, cone_of, heights, included

STEP_MM, MOST_STEPS = 0.3, 4  # of a V that is shown in steps
ROUND_SEGMENTS = 4
OVER_MM = 0.05
SEEN_SHARE = 0.02  # of its width, that the edge of a line may be off in the stock


def deep_and_wide(operation: Engrave, tool: Tool | None) -> tuple[float, float]:
    """Depth and width (mm) of the line."""
    angle, tip = cone_of(tool)
    if operation.width_mm is not None:
        return (
            pointed.depth_for_width(max(operation.width_mm, tip + 1e-6), angle, tip),
            operation.width_mm,
        )
    assert operation.depth_mm is not None  # one of the two is given
    return operation.depth_mm, engagement.cone_diameter(operation.depth_mm, tip, angle)


def _work(operation: Engrave, ground: Ground) -> Work:
    on = operation.on
    assert isinstance(on, Text | Lines | Drawn)
    strokes, top = (
        (
            written(on.text, on.x_mm, on.y_mm, on.height_mm, on.angle_deg)
            if isinstance(on, Text)
            else on.placed
        ),
        on.top_mm,
    )
    depth, _ = deep_and_wide(operation, ground.tool)
    return Work(
        lines=tuple(tuple((x, y, top - depth) for x, y in stroke) for stroke in strokes),
        top=top,
        floor=top - depth,
        wall_height=depth,
    )


def _removed(operation: Engrave, work: Work, ground: Ground) -> Solid:
    """Its V in steps, each as wide as the V is in its middle, so that it is as large."""
    depth, width = deep_and_wide(operation, ground.tool)
    tip = cone_of(ground.tool)[1]
    count = min(max(ceil(depth / STEP_MM), 1), MOST_STEPS)
    lines = MultiLineString([[spot[:2] for spot in line] for line in work.lines])
    steps = []
    for k in range(count):
        wide = tip + (width - tip) * (k + 0.5) / count
        low, high = (work.floor + depth * each / count for each in (k, k + 1))
        region = lines.buffer(wide / 2.0, quad_segs=ROUND_SEGMENTS).simplify(SEEN_SHARE * wide)
        steps.append(prism(region, low, high + (OVER_MM if k == count - 1 else 0.0)))
    return joined(steps)


def _diameter(op: Ready[Engrave], facts: PlanFacts) -> Value:
    """The edge is fastest at the width of the line."""
    tip = op.of_tool("tip_diameter_mm")
    if op.operation.width_mm is not None:
        op.work_out(
            pointed.depth_for_width,
            "cone_depth",
            width=Given(op.operation.width_mm),
            included_angle=included(op),
            tip_flat=tip,
        )
        return Given(op.operation.width_mm)
    assert op.operation.depth_mm is not None  # one of the two is given
    return op.work_out(
        engagement.cone_diameter,
        "cutting_diameter",
        depth=Given(op.operation.depth_mm),
        tip=tip,
        included_angle=included(op),
    )


def _forces(op: Ready[Engrave], facts: PlanFacts) -> None:
    """A slot of the line's width; the V takes half the depth on average."""
    depth, width = deep_and_wide(op.operation, op.tool)
    op.seen = replace(op.seen, depth_mm=depth, width_mm=width)
    forces.milled(
        op,
        facts,
        Given(depth / 2.0, "half the depth, which the V takes on average"),
        Given(width, "width of the line"),
        diameter=Given(width, "width of the line"),
    )


def _section(op: Ready[Engrave]) -> float:
    depth, width = deep_and_wide(op.operation, op.tool)
    return depth * (width + op.tool.tip_diameter_mm) / 2.0


def _path(op: Ready, facts: PlanFacts) -> Path:
    near, retract = heights(op, facts)
    return lines.followed(op.work.lines, op.work.top + near, retract)


def _unsuited(operation: Engrave, work: Work, tool: Tool) -> Unsuited | None:
    _, width = deep_and_wide(operation, tool)
    if cone_of(tool)[1] < width <= tool.diameter_mm + 1e-9:
        return None
    return "From a tip of {tip} up to Ø {has} it can't leave a line {wanted} wide.", {
        "tip": tool.tip_diameter_mm,
        "has": tool.diameter_mm,
        "wanted": width,
    }


def _words(op: OperationFacts[Engrave], facts: PlanFacts) -> Named:
    on, count = op.operation.on, wording.places_of(op)
    if isinstance(on, Text):
        return wording.named(op, on.text.upper())
    drawn = on.file if isinstance(on, Drawn) else ""
    return wording.named(op, drawn or (f"{count} lines" if count > 1 else "a line"))


KINDS = {
    "engrave": Kind(
        "chamfer",
        frozenset({"engraver", "chamfer_mill"}),
        _work,
        _path,
        _forces,
        _removed,
        words=_words,
        unsuited=_unsuited,
        diameter=_diameter,
        section=_section,
        in_mouth=True,
        carried=True,
        edge=True,
    ),
}
