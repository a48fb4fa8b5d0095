"""Parts cut out of a plate: round the outline at the width of the tool, with tabs that carry the
part until it is taken out.
"""

from __future__ import annotations

from shapely import box, unary_union
from shapely.geometry.polygon import orient

from machining.geometry.regions import Region, grown, polygons_of
from machining.geometry.solids import Solid, joined, prism
from machining.motion.path import Leg, Path, Pen
from machining.motion.paths import areas, tabs
from machining.motion.paths.slots import along_slot
from machining.plan.operation import CutOut
from machining.plan.places import Outside
from machining.quantities.errors import OutOfRange
from machining.world.tool import ROUGHS_SIDES, Tool

from .. import forces, size
from ..context import PlanFacts, Ready
from ..place import Work
from ..removed import BEYOND_MM, down_to_floor
from .base import Ground, Kind, Unsuited, heights
from .sides import PASSES, no_deeper
from .slots import ramped

LEAST_MM = 0.5  # half a tool that is not chosen yet
AROUND = "outline to cut round"


def _work(operation: CutOut, ground: Ground) -> Work:
    """Its middle goes clockwise, so that the edge cuts with the feed."""
    on, radius = operation.on, ground.radius or LEAST_MM
    assert isinstance(on, Outside)
    outline = box(*ground.part_outline.bounds) if on.along == "block" else ground.part_outline
    kept = grown(grown(outline, operation.leave_mm + radius), -radius)
    way = grown(kept, radius)
    bottom = ground.part_top - on.depth_mm
    floor = bottom - operation.past_mm
    lines = [orient(each, -1.0).exterior for each in polygons_of(way)]
    if not lines:
        raise OutOfRange(AROUND, "nothing", "the part's, seen from above")
    return Work(
        region=unary_union([line.buffer(radius) for line in lines]),
        kept=kept,
        top=ground.stock_top,
        floor=floor,
        wall_height=on.depth_mm,
        passes_bottom=operation.past_mm > 0.0,
        lines=tuple(tuple((x, y, floor) for x, y in line.coords) for line in lines),
        across=2.0 * radius,
    )


def raised(operation: CutOut, work: Work) -> list[tabs.Raised]:
    """Of each of its lines, where it goes over tabs. Raises OutOfRange where they would meet."""
    found, count = [], operation.tabs  # each piece has its own
    height = work.floor + operation.past_mm + operation.tab_high_mm
    for line in work.lines:
        plan = [(x, y) for x, y, _ in line]
        try:
            stretches = tabs.spread(plan, count, operation.tab_mm + work.across) if count else ()
        except ValueError as problem:
            raise OutOfRange("tabs", str(problem), "so few that they stand apart") from problem
        length = sum(
            ((bx - ax) ** 2 + (by - ay) ** 2) ** 0.5
            for (ax, ay), (bx, by) in zip(plan, plan[1:], strict=False)
        )
        found.append(tabs.Raised(stretches, height, length))
    return found


def _removed(operation: CutOut, work: Work, ground: Ground) -> Solid | None:
    if not operation.tabs:
        return down_to_floor(work, work.region)
    if work.floor >= work.top:
        return None
    over = raised(operation, work)
    height = min(over[0].height, work.top)
    low = unary_union(
        [
            piece.buffer(work.across / 2.0)
            for line, each in zip(work.lines, over, strict=True)
            for piece in tabs.between([(x, y) for x, y, _ in line], each.stretches)
        ]
    )
    upper: Region = work.region
    return joined(
        [
            prism(upper, height, work.top + BEYOND_MM),
            prism(low.intersection(upper), work.floor, height + BEYOND_MM),
        ]
    )


def _path(op: Ready[CutOut], facts: PlanFacts) -> Path:
    if op.work.is_thin:
        return Path()
    kind, work = op.operation, op.work
    near, retract = heights(op, facts)
    levels = areas.levels(work.top, work.floor, kind.step_down_mm)
    legs = list[Leg]()
    for line, over in zip(work.lines, raised(kind, work), strict=True):
        pen = Pen(retract, work.top + near)
        along_slot(pen, [(x, y) for x, y, _ in line], work.top, levels, kind.ramp_deg, over)
        legs += pen.path().legs
    return Path(tuple(legs))


def _width(op: Ready[CutOut]) -> float:
    return op.tool.diameter_mm


def _forces(op: Ready[CutOut], facts: PlanFacts) -> None:
    forces.side_cut(op, facts, no_deeper(op, op.operation.step_down_mm), _width(op))


def _unsuited(operation: CutOut, work: Work, tool: Tool) -> Unsuited | None:
    """Behind a tab it goes straight down again."""
    if operation.tabs and not tool.centre_cutting:
        return "Ø {has} doesn’t cut over its middle: it can’t go down behind a tab.", {
            "has": tool.diameter_mm
        }
    return None


def _no_trace(operation: CutOut) -> frozenset[str]:
    return PASSES


KINDS = {
    "cut_out": Kind(
        "rough",
        ROUGHS_SIDES - {"high_feed_mill"},
        _work,
        _path,
        _forces,
        _removed,
        size.roughed_wall,
        ramped,
        unsuited=_unsuited,
        width=_width,
        no_stock=PASSES,
        no_trace=_no_trace,
        carried=True,
        meets="sides",
        roughs=True,
        roughs_walls=True,
    ),
}
