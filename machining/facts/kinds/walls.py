"""Walls finished: the outside's or a pocket's, in passes, measured on the way where asked."""

from __future__ import annotations

from collections.abc import Callable

from shapely import contains_xy

from machining.cutting.correction import measured_chain
from machining.geometry.frames import Vector
from machining.geometry.regions import Region, asked_often, grown
from machining.geometry.solids import Solid
from machining.motion.path import Leg, Path
from machining.motion.paths import areas
from machining.plan.operation import FinishWalls
from machining.plan.places import DrawnArea, OnFeatures, Outside, Rectangle

from .. import forces, size, wording
from ..context import OperationFacts, PlanFacts, Ready
from ..place import Work
from ..removed import all_round, down_to_floor
from ..tables import Table
from ..wording import Named
from .base import Ground, Kind, heights
from .pockets import entered, pocket_work
from .sides import PASSES, SAME_STOCK, outside_work

LEAD_SHARE = 0.25  # of the diameter


def _work(operation: FinishWalls, ground: Ground) -> Work:
    on = operation.on
    if isinstance(on, Outside):
        return outside_work(operation, ground, 0.0, 0.0)
    assert isinstance(on, OnFeatures | Rectangle | DrawnArea)
    work, _ = pocket_work(on, ground, past=operation.past_mm)
    entered(work.region, ground)
    return work


def _removed(operation: FinishWalls, work: Work, ground: Ground) -> Solid | None:
    """What the tool sweeps beside its walls; all there is, while none is chosen."""
    outside = isinstance(operation.on, Outside)
    if not ground.radius:
        return (
            all_round(work, ground.stock_outline) if outside else down_to_floor(work, work.region)
        )
    swept = areas.swept(
        (
            line
            for stands in measured_chain(operation.width_mm, operation.chain)
            for line in _contours(operation, work, ground.radius, stands)
            if len(line) > 1
        ),
        ground.radius,
    )
    beside = swept.difference(work.kept) if outside else swept.intersection(work.region)
    return down_to_floor(work, beside)


def _contours(kind: FinishWalls, work: Work, radius: float, stands: float) -> list[Vector]:
    """Where the tool's middle goes in the pass after which so much stands (mm) on its walls."""
    outside, away = isinstance(kind.on, Outside), radius + stands
    area = _beside(kind, work, away)
    contours = areas.contours_of(area, inside=not outside)
    if not outside and not work.kept.is_empty:  # where it is open there is no wall
        return areas.beside(contours, work.kept, away)
    return contours


def _beside(kind: FinishWalls, work: Work, away: float) -> Region:
    """What lies within the way of a tool so far (mm) from its walls, or outside of it."""
    return grown(work.kept, away) if isinstance(kind.on, Outside) else grown(work.region, -away)


def _path(op: Ready[FinishWalls], facts: PlanFacts) -> Path:
    kind, work, radius = op.operation, op.work, op.tool.diameter_mm / 2.0
    near, retract = heights(op, facts)
    if work.is_thin:
        return Path()
    levels = areas.levels(work.floor + work.wall_height, work.floor, kind.step_down_mm)
    legs: list[Leg] = []
    for stands in measured_chain(kind.width_mm, kind.chain):
        area = _beside(kind, work, radius + stands)
        legs += areas.along_walls(
            _contours(kind, work, radius, stands),
            levels,
            kind.passes,
            work.top + near,
            retract,
            kind.lead,
            _free(area, isinstance(kind.on, Outside)) if kind.lead != "straight" else None,
            LEAD_SHARE * op.tool.diameter_mm,
        ).legs
    return Path(tuple(legs))


def _free(area: Region, outside: bool) -> Callable[[float, float], bool]:
    """May the tool's middle stand at a place beside the contour of ``area``?"""
    asked = asked_often(area)
    return lambda x, y: bool(contains_xy(asked, x, y)) != outside


def _width(op: Ready[FinishWalls]) -> float:
    return min(op.operation.width_mm / op.operation.chain, op.tool.diameter_mm)


def _forces(op: Ready[FinishWalls], facts: PlanFacts) -> None:
    depth = min(op.operation.step_down_mm, op.work.wall_height)
    forces.side_cut(op, facts, depth, _width(op))


def _size(op: Ready[FinishWalls], facts: PlanFacts) -> None:
    size.pulled_in_slot(op, facts)
    size.finished_wall(op, facts, op.operation.width_mm / op.operation.chain, op.operation.passes)


def _table(op: Ready[FinishWalls]) -> Table | None:
    if op.operation.chain == 1:
        return None
    left = measured_chain(op.operation.width_mm, op.operation.chain)
    return Table(
        (("Cut", "count"), ("Stands on each wall", "size"), ("A width measures over", "size")),
        tuple((float(k), stands, 2.0 * stands) for k, stands in enumerate(left, 1)),
    )


def _words(op: OperationFacts[FinishWalls], facts: PlanFacts) -> Named:
    if isinstance(op.operation.on, Outside):
        passes = op.operation.passes
        return "Finish outside", f"{passes} passes" if passes > 1 else "", {}
    verb, detail, sizes = wording.of_place(op, facts)
    return "Finish pocket" if wording.pocket_size(op, facts) else verb, detail, sizes


def _drawn_size(operation: FinishWalls) -> float:
    return 0.0


def _no_trace(operation: FinishWalls) -> frozenset[str]:
    """The last cut's width is no part of its path, unless it is taken in several."""
    return PASSES if operation.chain > 1 else PASSES | {"width_mm"}


def _shapes(operation: FinishWalls) -> frozenset[str]:
    """In several cuts their width says how far in the first one goes."""
    return frozenset({"width_mm"} if operation.chain > 1 else ())


KINDS = {
    "finish_walls": Kind(
        "finish",
        frozenset({"end_mill", "roughing_end_mill", "shell_mill"}),
        _work,
        _path,
        _forces,
        _removed,
        _size,
        table=_table,
        words=_words,
        width=_width,
        leaves_mm=_drawn_size,
        no_stock=SAME_STOCK,
        shapes=_shapes,
        no_trace=_no_trace,
        says_shape=False,
        carried=True,
        finishes=True,
    ),
}
