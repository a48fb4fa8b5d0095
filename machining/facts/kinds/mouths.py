"""Mouths of holes: spotted, countersunk, counterbored, spot-faced."""

from __future__ import annotations

from machining.cutting import pointed
from machining.geometry.solids import Solid
from machining.motion.path import Path
from machining.motion.paths import holes, rounds
from machining.plan.operation import Counterbore, Countersink, Spot, SpotFace
from machining.quantities.computed import Given, Value
from machining.world.tool import Tool

from .. import forces, metal, wording
from ..context import OperationFacts, PlanFacts, Ready
from ..place import Work, hole_ends
from ..removed import round_holes, stood_at
from ..wording import Named
from .base import Ground, Kind, Unsuited, cone_of, heights, included
from .milled_hole import ENDS, helix_figures, radii

SAME_MM = 0.05
SINKS = frozenset({"chamfer_mill", "spot_drill"})


# -- cones


def _cone_depth(operation: Spot | Countersink, tool: Tool | None) -> float:
    angle, tip = cone_of(tool)
    return pointed.depth_for_width(max(operation.mouth_diameter_mm, tip + 1e-6), angle, tip)


def _cone_work(operation: Spot | Countersink, ground: Ground) -> Work:
    ends, diameter, _ = hole_ends(operation.on, ground.lie, ground.geometry, "sink")  # type: ignore[arg-type]
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
    profile = [(0.0, tip / 2.0), (depth, radius), (depth + 0.01, radius)]
    return stood_at(profile, [(x, y, bottom) for x, y, _, bottom in work.holes])


def _cone_path(op: Ready, facts: PlanFacts) -> Path:
    near, retract = heights(op, facts)
    return holes.drilled(metal.from_metal(op), near, retract)


def _mouth(op: Ready[Spot | Countersink], facts: PlanFacts) -> Value:
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


def _spot_forces(op: Ready[Spot], facts: PlanFacts) -> None:
    forces.drilled(op, facts, Given(op.operation.mouth_diameter_mm))


def _sink_forces(op: Ready[Countersink], facts: PlanFacts) -> None:
    """The cone opens a ring from the hole to the mouth."""
    ring = (op.operation.mouth_diameter_mm - op.work.hole_diameter) / 2.0
    if ring > 0:
        forces.opened_out(
            op, facts, Given(ring, "mouth and hole"), Given(op.operation.mouth_diameter_mm)
        )


def _cone_words(op: OperationFacts[Spot | Countersink], facts: PlanFacts) -> Named:
    count, size = wording.places_of(op), {"d": op.operation.mouth_diameter_mm}
    return wording.named(op, f"{{d}} on {count} holes" if count > 1 else "{d}", size)


# -- flat mouths


def _flat_work(operation: Counterbore | SpotFace, ground: Ground) -> Work:
    ends, _, _ = hole_ends(operation.on, ground.lie, ground.geometry, "face")  # type: ignore[arg-type]
    flat = tuple((x, y, mouth, mouth - operation.depth_mm) for x, y, mouth, _ in ends)
    return Work(holes=flat, hole_diameter=operation.diameter_mm, hole_depth=operation.depth_mm)


def _hole_under(op: Ready, facts: PlanFacts) -> float:
    """Diameter (mm) of the hole a flat mouth is cut over."""
    return hole_ends(op.operation.on, op.lie, facts.geometry)[1]  # type: ignore[arg-type]


def _plunges(operation: Counterbore | SpotFace, tool: Tool) -> bool:
    return abs(tool.diameter_mm - operation.diameter_mm) < SAME_MM


def _flat_path(op: Ready[Counterbore | SpotFace], facts: PlanFacts) -> Path:
    near, retract = heights(op, facts)
    if _plunges(op.operation, op.tool):
        return holes.there_and_back(metal.from_metal(op), near, retract)
    return rounds.milled(
        metal.from_metal(op),
        radii(op.operation.diameter_mm, op.tool.diameter_mm, 0.0),
        op.operation.step_down_mm,
        near,
        retract,
    )


def _flat_forces(op: Ready[Counterbore | SpotFace], facts: PlanFacts) -> None:
    kind, open_already = op.operation, _hole_under(op, facts)
    if _plunges(kind, op.tool):
        ring = (kind.diameter_mm - open_already) / 2.0
        if ring > 0:
            forces.opened_out(op, facts, Given(ring, "mouth and hole"), Given(kind.diameter_mm))
        return
    helix_figures(op, kind.diameter_mm, kind.step_down_mm)
    wide = Given(min(op.tool.diameter_mm, kind.diameter_mm / 2.0), "first turn, in full")
    forces.on_helix(op, facts, min(kind.step_down_mm, kind.depth_mm), wide)


def _large_for_mouth(operation: Counterbore | SpotFace, work: Work, tool: Tool) -> Unsuited | None:
    if tool.diameter_mm <= operation.diameter_mm + 1e-9:
        return None
    return "Ø {has} is larger than what it is to open, Ø {wanted}.", {
        "has": tool.diameter_mm,
        "wanted": operation.diameter_mm,
    }


def _inside(op: Ready[Counterbore | SpotFace]) -> float | None:
    return None if _plunges(op.operation, op.tool) else op.operation.diameter_mm


def _round(operation: Counterbore | SpotFace, work: Work, ground: Ground) -> Solid:
    return round_holes(work, ground.turns)


def _flat_words(op: OperationFacts[Counterbore | SpotFace], facts: PlanFacts) -> Named:
    kind = op.operation
    sizes = {"d": kind.diameter_mm, "z": kind.depth_mm}
    return wording.named(op, f"{wording.places_of(op)} × {{d}}, {{z}} deep", sizes)


def _at_feed(work: Work) -> bool:
    return True


def _flat() -> Kind[Counterbore | SpotFace]:
    return Kind(
        "rough",
        ENDS,
        _flat_work,
        _flat_path,
        _flat_forces,
        _round,
        words=_flat_words,
        metal=metal.over_mouths,
        no_stock=frozenset({"step_down_mm"}),
        inside=_inside,
        unsuited=_large_for_mouth,
        carried=True,
    )


KINDS = {
    "spot": Kind(
        "drill",
        frozenset({"spot_drill"}),
        _cone_work,
        _cone_path,
        _spot_forces,
        _cone_removed,
        words=_cone_words,
        unsuited=_small_for_mouth,
        diameter=_mouth,
        metal=metal.over_mouths,
        straight_down=_at_feed,
        on_axis=True,
        on_lathe=True,
        in_mouth=True,
        carried=True,
        edge=True,
    ),
    "countersink": Kind(
        "chamfer",
        SINKS,
        _cone_work,
        _cone_path,
        _sink_forces,
        _cone_removed,
        words=_cone_words,
        unsuited=_small_for_mouth,
        diameter=_mouth,
        metal=metal.over_mouths,
        straight_down=_at_feed,
        in_mouth=True,
        carried=True,
        edge=True,
    ),
    "counterbore": _flat(),
    "spot_face": _flat(),
}
