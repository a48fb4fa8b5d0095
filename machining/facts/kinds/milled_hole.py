"""Holes milled on a helix."""

from __future__ import annotations

from machining.cutting import entry
from machining.geometry.solids import Solid
from machining.motion.path import Path
from machining.motion.paths import rounds
from machining.plan.operation import MillHole
from machining.quantities.computed import Given
from machining.quantities.errors import OutOfRange
from machining.world.tool import ROUGHS_SIDES, Tool

from .. import forces, metal, wording
from ..context import OperationFacts, PlanFacts, Ready
from ..place import Work, hole_ends
from ..removed import round_holes
from ..wording import Named
from .base import Ground, Kind, Unsuited, heights

WIDENS_BY = 0.4  # of the tool's diameter, from one helix to the next
# of the tool's diameter: radius of the first helix in full material, which leaves no post
ENTERS_ON = 0.45
ENDS = ROUGHS_SIDES - {"high_feed_mill"}


def radii(hole: float, tool: float, open_already: float) -> list[float]:
    """Radii (mm) of the tool's middle, from the first helix to the last."""
    last = (hole - tool) / 2.0
    first = (
        ENTERS_ON * tool if open_already <= tool else (open_already - tool) / 2.0 + WIDENS_BY * tool
    )
    found = [min(first, last)]
    while found[-1] < last - 1e-9:
        found.append(min(found[-1] + WIDENS_BY * tool, last))
    return found


def _size_of(operation: MillHole, drawn: float) -> float:
    return (operation.diameter_mm or drawn) - 2.0 * operation.leave_mm


def _work(operation: MillHole, ground: Ground) -> Work:
    ends, drawn, through = hole_ends(operation.on, ground.lie, ground.geometry)  # type: ignore[arg-type]
    if _size_of(operation, drawn) <= 0:
        raise OutOfRange(
            "leave_mm",
            f"{operation.leave_mm:g}",
            f"under half the hole, {(operation.diameter_mm or drawn) / 2.0:g}",
        )
    full = [each and operation.depth_mm is None for each in through]
    bottoms = tuple(
        (
            x,
            y,
            mouth,
            (far if operation.depth_mm is None else mouth - operation.depth_mm)
            - (operation.past_mm if out else 0.0),
        )
        for (x, y, mouth, far), out in zip(ends, full, strict=True)
    )
    return Work(
        holes=bottoms,
        hole_diameter=_size_of(operation, drawn),
        hole_depth=operation.depth_mm or max(m - f for _, _, m, f in ends),
        passes_bottom=all(full),
    )


def _inside(op: Ready[MillHole]) -> float:
    return op.work.hole_diameter


def helix_figures(op: Ready, hole: float, pitch: float) -> None:
    op.work_out(
        entry.helix_angle,
        "helix_angle",
        pitch=Given(pitch),
        hole=Given(hole, "operation"),
        diameter=op.of_tool("diameter_mm"),
    )


def _path(op: Ready[MillHole], facts: PlanFacts) -> Path:
    near, retract = heights(op, facts)
    return rounds.milled(
        metal.from_metal(op),
        radii(op.work.hole_diameter, op.tool.diameter_mm, op.operation.from_diameter_mm),
        op.operation.step_down_mm,
        near,
        retract,
    )


def _forces(op: Ready[MillHole], facts: PlanFacts) -> None:
    hole, open_already, tool = (
        op.work.hole_diameter,
        op.operation.from_diameter_mm,
        op.tool.diameter_mm,
    )
    helix_figures(op, hole, op.operation.step_down_mm)
    widest = tool if open_already <= tool else WIDENS_BY * tool
    width = min(widest, max(hole - open_already, 0.01) / 2.0 if open_already else widest)
    forces.on_helix(
        op, facts, min(op.operation.step_down_mm, op.work.hole_depth), Given(width, "widest turn")
    )


def _large_for_hole(operation: MillHole, work: Work, tool: Tool) -> Unsuited | None:
    if tool.diameter_mm < work.hole_diameter - 1e-9:
        return None
    return "Ø {has} leaves no room to go round in Ø {hole}.", {
        "has": tool.diameter_mm,
        "hole": work.hole_diameter,
    }


def _round(operation: MillHole, work: Work, ground: Ground) -> Solid:
    return round_holes(work, ground.turns)


def _words(op: OperationFacts[MillHole], facts: PlanFacts) -> Named:
    size = op.work.hole_diameter if op.work else op.operation.diameter_mm or 0.0
    return wording.named(op, f"{wording.places_of(op)} × {{d}}", {"d": size})


KINDS = {
    "mill_hole": Kind(
        "rough",
        ENDS,
        _work,
        _path,
        _forces,
        _round,
        words=_words,
        metal=metal.over_mouths,
        no_stock=frozenset({"step_down_mm", "from_diameter_mm"}),
        inside=_inside,
        unsuited=_large_for_hole,
        carried=True,
        makes_hole=True,
        bench="hole-methods",
    ),
}
