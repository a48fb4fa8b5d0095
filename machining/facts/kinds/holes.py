"""Mouths and walls of holes: spot, countersink, counterbore, spot face, chamfer behind, holes
milled on a helix.
"""

from __future__ import annotations

from math import radians, tan

from machining.cutting import entry, pointed, threads
from machining.geometry.solids import ROUND_STEPS, Solid, joined, swept
from machining.motion.path import Path
from machining.motion.paths import holes, rounds
from machining.plan.operation import BackChamfer, Counterbore, Countersink, MillHole, Spot, SpotFace
from machining.quantities.computed import Given, Value
from machining.quantities.errors import OutOfRange
from machining.world.tool import ROUGHS_SIDES, Tool

from .. import loads
from ..context import PlanFacts, Ready
from ..place import Work, hole_ends
from ..stock import round_holes
from .base import Ground, Handler, Unsuited, cone_of, half_angle, heights, included

WIDENS_BY = 0.4  # of the tool's diameter, from one helix to the next
# of the tool's diameter: radius of the first helix in full material, which leaves no post
ENTERS_ON = 0.45
SAME_MM = 0.05
PASSES_BY_MM = 0.2  # room per side a tool needs to pass a hole


# -- cones


def _cone_depth(operation: Spot | Countersink, tool: Tool | None) -> float:
    angle, tip = cone_of(tool)
    return pointed.depth_for_width(max(operation.mouth_diameter_mm, tip + 1e-6), angle, tip)


def _cone_work(operation: Spot | Countersink, ground: Ground) -> Work:
    ends, diameter, _ = hole_ends(operation.on, ground.lie, ground.geometry)  # type: ignore[arg-type]
    depth = _cone_depth(operation, ground.tool)
    return Work(
        holes=tuple((x, y, mouth, mouth - depth) for x, y, mouth, _ in ends),
        hole_diameter=diameter,
        hole_depth=depth,
    )


def _cone_removed(operation: Spot | Countersink, work: Work, ground: Ground) -> Solid:
    depth, (_, tip), radius = (
        work.hole_depth,
        cone_of(ground.tool),
        operation.mouth_diameter_mm / 2.0,
    )
    return joined(
        [
            swept(
                [(0.0, tip / 2.0), (depth, radius), (depth + 0.01, radius)],
                [(x, y, bottom)],
                ROUND_STEPS,
            )
            for x, y, _, bottom in work.holes
        ]
    )


def _cone_path(op: Ready, facts: PlanFacts) -> Path:
    near, retract = heights(op, facts)
    return holes.drilled(op.work.holes, near, retract)


def _mouth(op: Ready, facts: PlanFacts) -> Value:
    assert isinstance(op.operation, Spot | Countersink)
    op.work_out(
        pointed.depth_for_width,
        "cone_depth",
        width=Given(op.operation.mouth_diameter_mm),
        included_angle=included(op),
        tip_flat=op.of_tool("tip_diameter_mm"),
    )
    ball = getattr(op.operation, "ball_diameter_mm", None)
    if ball is not None:
        op.work_out(
            pointed.ball_top_over_mouth,
            "ball_top",
            ball=Given(ball),
            cone_angle=included(op),
            mouth=Given(op.operation.mouth_diameter_mm),
        )
    return Given(op.operation.mouth_diameter_mm)


def _small_for_mouth(operation: Spot | Countersink, work: Work, tool: Tool) -> Unsuited | None:
    if tool.diameter_mm >= operation.mouth_diameter_mm - 1e-9:
        return None
    return "Ø {has} is smaller than the mouth it is to leave, Ø {wanted}.", {
        "has": tool.diameter_mm,
        "wanted": operation.mouth_diameter_mm,
    }


def _spot_load(op: Ready, facts: PlanFacts) -> None:
    assert isinstance(op.operation, Spot)
    loads.on_axis(op, facts, Given(op.operation.mouth_diameter_mm))


def _sink_load(op: Ready, facts: PlanFacts) -> None:
    """The cone opens a ring from the hole to the mouth."""
    assert isinstance(op.operation, Countersink)
    ring = (op.operation.mouth_diameter_mm - op.work.hole_diameter) / 2.0
    if ring > 0:
        loads.opened_out(
            op, facts, Given(ring, "mouth and hole"), Given(op.operation.mouth_diameter_mm)
        )


# -- flat mouths


def _bore_work(operation: Counterbore | SpotFace, ground: Ground) -> Work:
    ends, _, _ = hole_ends(operation.on, ground.lie, ground.geometry)  # type: ignore[arg-type]
    flat = tuple((x, y, mouth, mouth - operation.depth_mm) for x, y, mouth, _ in ends)
    return Work(holes=flat, hole_diameter=operation.diameter_mm, hole_depth=operation.depth_mm)


def _hole_under(op: Ready, facts: PlanFacts) -> float:
    """Diameter (mm) of the hole a flat mouth is cut over."""
    return hole_ends(op.operation.on, op.setup.lie, facts.geometry)[1]  # type: ignore[arg-type]


def _plunges(operation: Counterbore | SpotFace, tool: Tool) -> bool:
    return abs(tool.diameter_mm - operation.diameter_mm) < SAME_MM


def _bore_path(op: Ready, facts: PlanFacts) -> Path:
    assert isinstance(op.operation, Counterbore | SpotFace)
    near, retract = heights(op, facts)
    if _plunges(op.operation, op.tool):
        return holes.there_and_back(op.work.holes, near, retract)
    return rounds.milled(
        op.work.holes,
        _radii(op.operation.diameter_mm, op.tool.diameter_mm, 0.0),
        op.operation.step_down_mm,
        near,
        retract,
    )


def _bore_load(op: Ready, facts: PlanFacts) -> None:
    assert isinstance(op.operation, Counterbore | SpotFace)
    kind, open_already = op.operation, _hole_under(op, facts)
    if _plunges(kind, op.tool):
        ring = (kind.diameter_mm - open_already) / 2.0
        if ring > 0:
            loads.opened_out(op, facts, Given(ring, "mouth and hole"), Given(kind.diameter_mm))
        return
    _helix_figures(op, kind.diameter_mm, kind.step_down_mm)
    loads.milled(
        op,
        facts,
        Given(min(kind.step_down_mm, kind.depth_mm)),
        Given(min(op.tool.diameter_mm, kind.diameter_mm / 2.0), "first turn, in full"),
    )


def _large_for_bore(operation: Counterbore | SpotFace, work: Work, tool: Tool) -> Unsuited | None:
    if tool.diameter_mm <= operation.diameter_mm + 1e-9:
        return None
    return "Ø {has} is larger than what it is to open, Ø {wanted}.", {
        "has": tool.diameter_mm,
        "wanted": operation.diameter_mm,
    }


# -- behind a hole


def _behind_work(operation: BackChamfer, ground: Ground) -> Work:
    ends, diameter, _ = hole_ends(operation.on, ground.lie, ground.geometry)  # type: ignore[arg-type]
    return Work(
        holes=tuple((x, y, mouth, far - operation.below_mm) for x, y, mouth, far in ends),
        hole_diameter=diameter,
        hole_depth=max(m - f for _, _, m, f in ends),
    )


def _behind_offset(operation: BackChamfer, hole: float, tool: Tool) -> float:
    return pointed.behind_offset(
        hole, operation.size_mm, tool.diameter_mm, operation.below_mm, cone_of(tool)[0] / 2.0
    )


def _behind_path(op: Ready, facts: PlanFacts) -> Path:
    assert isinstance(op.operation, BackChamfer)
    near, retract = heights(op, facts)
    return rounds.behind(
        op.work.holes, _behind_offset(op.operation, op.work.hole_diameter, op.tool), near, retract
    )


def _behind_diameter(op: Ready, facts: PlanFacts) -> Value:
    assert isinstance(op.operation, BackChamfer)
    op.work_out(
        pointed.behind_offset,
        "aside",
        hole=Given(op.work.hole_diameter, "part"),
        size=Given(op.operation.size_mm),
        diameter=op.of_tool("diameter_mm"),
        below=Given(op.operation.below_mm),
        half_angle=half_angle(op),
    )
    return op.of_tool("diameter_mm")


def _behind_removed(operation: BackChamfer, work: Work, ground: Ground) -> Solid:
    radius, size = work.hole_diameter / 2.0, operation.size_mm
    rise = size / tan(radians(cone_of(ground.tool)[0] / 2.0))
    profile = [(0.0, radius + size), (rise, radius)]
    return joined(
        [
            swept(profile, [(x, y, tip + operation.below_mm)], ROUND_STEPS)
            for x, y, _, tip in work.holes
        ]
    )


def _does_not_pass(operation: BackChamfer, work: Work, tool: Tool) -> Unsuited | None:
    hole = work.hole_diameter
    if tool.diameter_mm > hole - 2.0 * PASSES_BY_MM:
        return "Ø {has} does not pass the hole, Ø {hole}.", {"has": tool.diameter_mm, "hole": hole}
    aside = _behind_offset(operation, hole, tool)
    if aside + tool.behind_flutes_mm / 2.0 > hole / 2.0:
        return "Moved {aside} aside, its neck of Ø {neck} meets the wall of the hole.", {
            "aside": aside,
            "neck": tool.behind_flutes_mm,
        }
    return None


# -- milled on a helix


def _radii(hole: float, tool: float, open_already: float) -> list[float]:
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


def _hole_work(operation: MillHole, ground: Ground) -> Work:
    ends, drawn, through = hole_ends(operation.on, ground.lie, ground.geometry)  # type: ignore[arg-type]
    if _size_of(operation, drawn) <= 0:
        raise OutOfRange(
            "leave_mm",
            f"{operation.leave_mm:g}",
            f"under half the hole, {(operation.diameter_mm or drawn) / 2.0:g}",
        )
    full = through and operation.depth_mm is None
    bottoms = tuple(
        (
            x,
            y,
            mouth,
            (far if operation.depth_mm is None else mouth - operation.depth_mm)
            - (operation.past_mm if full else 0.0),
        )
        for x, y, mouth, far in ends
    )
    return Work(
        holes=bottoms,
        hole_diameter=_size_of(operation, drawn),
        hole_depth=operation.depth_mm or max(m - f for _, _, m, f in ends),
        passes_bottom=full,
    )


def _helix_figures(op: Ready, hole: float, pitch: float) -> None:
    given = {"hole": Given(hole, "operation"), "diameter": op.of_tool("diameter_mm")}
    op.work_out(entry.helix_angle, "helix_angle", pitch=Given(pitch), **given)
    op.work_out(
        threads.centre_feed_inside,
        "centre_feed",
        edge_feed=op.figures["feed"],
        hole=given["hole"],
        tool=given["diameter"],
    )


def _hole_path(op: Ready, facts: PlanFacts) -> Path:
    assert isinstance(op.operation, MillHole)
    near, retract = heights(op, facts)
    return rounds.milled(
        op.work.holes,
        _radii(op.work.hole_diameter, op.tool.diameter_mm, op.operation.from_diameter_mm),
        op.operation.step_down_mm,
        near,
        retract,
    )


def _hole_load(op: Ready, facts: PlanFacts) -> None:
    assert isinstance(op.operation, MillHole)
    hole, open_already, tool = (
        op.work.hole_diameter,
        op.operation.from_diameter_mm,
        op.tool.diameter_mm,
    )
    _helix_figures(op, hole, op.operation.step_down_mm)
    widest = tool if open_already <= tool else WIDENS_BY * tool
    width = min(widest, max(hole - open_already, 0.01) / 2.0 if open_already else widest)
    loads.milled(
        op,
        facts,
        Given(min(op.operation.step_down_mm, op.work.hole_depth)),
        Given(width, "widest turn"),
    )


def _large_for_hole(operation: MillHole, work: Work, tool: Tool) -> Unsuited | None:
    if tool.diameter_mm < work.hole_diameter - 1e-9:
        return None
    return "Ø {has} leaves no room to go round in Ø {hole}.", {
        "has": tool.diameter_mm,
        "hole": work.hole_diameter,
    }


def _round(operation: Counterbore | SpotFace | MillHole, work: Work, ground: Ground) -> Solid:
    return round_holes(work)


_ENDS = ROUGHS_SIDES - {"high_feed_mill"}
_SINKS = frozenset({"chamfer_mill", "spot_drill"})
HANDLERS: dict[str, Handler] = {
    "spot": Handler(
        "drill",
        frozenset({"spot_drill"}),
        _cone_work,
        _cone_path,
        _spot_load,
        _cone_removed,
        _mouth,
        _small_for_mouth,
    ),
    "countersink": Handler(
        "chamfer",
        _SINKS,
        _cone_work,
        _cone_path,
        _sink_load,
        _cone_removed,
        _mouth,
        _small_for_mouth,
    ),
    "counterbore": Handler(
        "rough", _ENDS, _bore_work, _bore_path, _bore_load, _round, unsuited=_large_for_bore
    ),
    "spot_face": Handler(
        "rough", _ENDS, _bore_work, _bore_path, _bore_load, _round, unsuited=_large_for_bore
    ),
    "back_chamfer": Handler(
        "chamfer",
        frozenset({"undercut_mill"}),
        _behind_work,
        _behind_path,
        removed=_behind_removed,
        diameter=_behind_diameter,
        unsuited=_does_not_pass,
    ),
    "mill_hole": Handler(
        "rough", _ENDS, _hole_work, _hole_path, _hole_load, _round, unsuited=_large_for_hole
    ),
}
