"""Ends faced and contours turned, rough and finish, outside and in bores."""

from __future__ import annotations

from dataclasses import replace

from shapely import box, unary_union

from machining.cutting import finish, turning
from machining.cutting.data import constant
from machining.geometry.contours import FAR_MM, contour_of, in_shadow, kept_from, thickest
from machining.motion.path import Path
from machining.motion.paths import turned as paths
from machining.motion.paths.areas import levels
from machining.plan.turned import TurnFace, TurnFinish, TurnRough
from machining.quantities.computed import Given, Value
from machining.reaching import deflection
from machining.world.tool import Tool

from .. import wording
from ..context import OperationFacts, PlanFacts, Ready
from ..feeds import blank_over
from ..place import Work
from ..wording import Named
from .base import Ground, Kind, Unsuited
from .turned import (
    LEFT_MM,
    cut_force,
    data_given,
    gone,
    home_of,
    met_depth,
    near_of,
    passes_of,
    speed_and_feed,
    taken,
    turned_work,
    widest_and_narrowest,
)

PLAIN = frozenset({"turning_rough", "turning_finish"})


# -- the end


def _face_work(operation: TurnFace, ground: Ground) -> Work:
    stock, plane = ground.section, operation.on
    floor = plane.z_mm + operation.leave_mm
    return turned_work(
        taken(stock.intersection(box(plane.to_diameter_mm / 2.0, floor, FAR_MM, FAR_MM)))
    )


def _face_path(op: Ready[TurnFace], facts: PlanFacts) -> Path:
    kind, work = op.operation, op.work
    if work.turned.is_empty:
        return Path()
    _, low, outer, high = (float(v) for v in work.turned.bounds)
    to = kind.on.to_diameter_mm / 2.0 or -constant("turning", "face_past_mm")
    heights = levels(high + kind.over_mm, low, kind.depth_mm, "depth_mm")
    return paths.faced(outer, to, heights, near_of(facts), home_of(op, facts))


def _face_forces(op: Ready[TurnFace], facts: PlanFacts) -> None:
    if op.work.turned.is_empty:
        return
    _, low, _, high = (float(v) for v in op.work.turned.bounds)
    deep = high + op.operation.over_mm - low
    depth = deep / passes_of(deep, op.operation.depth_mm)
    _at_depth(op, facts, depth)
    extra = blank_over(op)
    if extra > 0:
        op.seen = replace(op.seen, worst_depth_mm=depth + extra)
        cut_force(op, facts, Given(depth + extra, "blank at its largest"), "worst_")


def _at_depth(op: Ready, facts: PlanFacts, depth: float) -> None:
    op.seen = replace(op.seen, depth_mm=depth)
    cut_force(op, facts, met_depth(op, depth))


def _plain_speed(op: Ready, facts: PlanFacts) -> None:
    large, small = widest_and_narrowest(op)
    data_given(op, facts)
    speed_and_feed(op, facts, large, small)


# -- contours


def _contour_work(operation: TurnRough | TurnFinish, ground: Ground) -> Work:
    """What a contour leaves to cut: the stock outside of it, less what its tool can't follow down
    behind shoulders.
    """
    on, outside = operation.on, operation.on.side == "outside"
    corners = [(d / 2.0, z) for z, d in on.at_mm]
    radial, axial = (
        (operation.leave_mm, operation.leave_face_mm)
        if isinstance(operation, TurnRough)
        else (0.0, 0.0)
    )
    body = kept_from(corners, outside, radial, axial)
    (first_r, first_z), low = corners[0], corners[-1][1]
    ahead = first_r + radial if outside else first_r - radial
    before = (
        box(0.0, first_z, ahead, FAR_MM)
        if outside
        else box(max(ahead, 0.0), first_z, FAR_MM, FAR_MM)
    )
    stock = taken(ground.section.intersection(box(0.0, low, FAR_MM, FAR_MM)))
    shadow = taken(
        in_shadow(
            unary_union([body, before]), outside, ground.tool.max_ramp_deg if ground.tool else 0.0
        )
    )
    kept = unary_union([body, shadow])
    left = thickest(taken(stock.intersection(shadow)))
    return turned_work(
        taken(stock.difference(kept).difference(before)), kept, left if left > LEFT_MM else 0.0
    )


def _rough_path(op: Ready[TurnRough], facts: PlanFacts) -> Path:
    """Equal passes along the spindle, and once along the contour where passes leave steps on it."""
    kind, work, near, home = op.operation, op.work, near_of(facts), home_of(op, facts)
    if work.turned.is_empty:
        return Path()
    outside = kind.on.side == "outside"
    inner, _, outer, _ = (float(v) for v in work.turned.bounds)
    count = passes_of(outer - inner, kind.depth_mm)
    step = (outer - inner) / count
    radii = [outer - step * k if outside else inner + step * k for k in range(1, count + 1)]
    clear = 1e-4 if outside else -1e-4
    stands_to = outer if outside else inner
    corners = contour_of(work.kept, outside)
    stepped = len(corners) > 2
    passes = paths.along(
        work.turned,
        work.kept,
        [r + clear for r in radii],
        outside,
        op.tool.max_ramp_deg,
        near,
        home,
        None if stepped else stands_to,
    )
    if not stepped:
        return passes
    return Path(passes.legs + paths.contoured(corners, 1, outside, stands_to, near, home).legs)


def _finish_path(op: Ready[TurnFinish], facts: PlanFacts) -> Path:
    if op.work.turned.is_empty:
        return Path()
    outside = op.operation.on.side == "outside"
    inner, _, outer, _ = (float(v) for v in op.work.turned.bounds)
    return paths.contoured(
        contour_of(op.work.kept, outside),
        op.operation.passes,
        outside,
        outer if outside else inner,
        near_of(facts),
        home_of(op, facts),
    )


def _rough_forces(op: Ready[TurnRough], facts: PlanFacts) -> None:
    if not op.work.turned.is_empty:
        inner, _, outer, _ = (float(v) for v in op.work.turned.bounds)
        _at_depth(op, facts, (outer - inner) / passes_of(outer - inner, op.operation.depth_mm))


def _finish_forces(op: Ready[TurnFinish], facts: PlanFacts) -> None:
    if not op.work.turned.is_empty:
        _at_depth(op, facts, max(thickest(op.work.turned), LEFT_MM))


def _finish_speed(op: Ready[TurnFinish], facts: PlanFacts) -> None:
    widest_and_narrowest(op)
    data_given(op, facts)
    sizes = [d for _, d in op.operation.on.at_mm]
    speed_and_feed(op, facts, max(sizes), min(sizes))


def _rough_size(op: Ready[TurnRough], facts: PlanFacts) -> None:
    if "chip" in op.figures and op.tool.kind == "boring_bar" and "push_force" in op.figures:
        op.work_out(
            deflection.bar_push_off,
            "rough_push_off",
            force=op.figures["push_force"],
            **_bar(op),
        )


def _finish_size(op: Ready[TurnFinish], facts: PlanFacts) -> None:
    """Figures turned_finish; push_off of a boring bar, and size_error after its spring passes."""
    if "chip" not in op.figures:
        return
    if 0 < op.figures["chip"].value <= 2.0 * op.tool.corner_radius_mm:
        op.work_out(
            finish.turned_roughness,
            "turned_finish",
            feed_per_rev=op.figures["chip"],
            nose_radius=op.of_tool("corner_radius_mm"),
        )
    force = op.figures.get("push_force")
    if op.tool.kind != "boring_bar" or force is None:
        return
    bar = _bar(op)
    left = op.work_out(deflection.bar_push_off, "push_off", force=force, **bar)
    for k in range(2, op.operation.passes + 1):
        again = op.work_out(
            turning.turning_force,
            f"spring_force_{k}",
            kc=op.figures["specific_force"],
            depth=left,
            feed_per_rev=op.figures["chip"],
        )
        pushed = op.work_out(
            turning.share_of_force,
            f"spring_push_{k}",
            force=again,
            ratio=Given(constant("turning", "push"), "data:turning.push"),
        )
        bent = op.work_out(deflection.bar_push_off, f"bent_{k}", force=pushed, **bar)
        least = Given(constant("spring", "least_chip"), "data:spring.least_chip")
        left = op.work_out(
            finish.left_by_spring_pass,
            "size_error",
            bent=bent,
            edge_radius=op.of_tool("edge_radius_mm"),
            least_chip=least,
        )


def _bar(op: Ready) -> dict[str, Value]:
    """What a boring bar's bending asks besides the force."""
    give = op.holder.stiffness_um_n + op.machine.compliance_um_n
    return {
        "stick_out": Given(op.loaded.stick_out_mm, op.tool_origin),
        "diameter": op.of_tool("shank_diameter_mm"),
        "modulus": Given(constant("turning", "bar_modulus_gpa"), "data:turning.bar_modulus_gpa"),
        "compliance": Given(give, "holder and machine"),
    }


def _contour_tool(operation: TurnRough | TurnFinish, work: Work, tool: Tool) -> Unsuited | None:
    bar = tool.kind == "boring_bar"
    if operation.on.side == "inside" and not bar:
        return "It turns outsides; a bore wants a boring bar.", {}
    if operation.on.side == "outside" and bar:
        return "A boring bar works inside only.", {}
    return None


def _face_words(op: OperationFacts[TurnFace], facts: PlanFacts) -> Named:
    return wording.named(op)


def _contour_words(op: OperationFacts[TurnRough | TurnFinish], facts: PlanFacts) -> Named:
    on = op.operation.on
    sizes = [d for _, d in on.at_mm]
    wide = {"a": max(sizes), "b": min(sizes)}
    side = "inside, " if on.side == "inside" else ""
    return wording.named(op, side + ("Ø{a}" if wide["a"] == wide["b"] else "Ø{b} to {a}"), wide)


KINDS = {
    "turn_face": Kind(
        "turn",
        PLAIN,
        _face_work,
        _face_path,
        _face_forces,
        gone,
        words=_face_words,
        no_stock=frozenset({"depth_mm", "over_mm"}),
        speed=_plain_speed,
        turned=True,
        meets="top",
        roughs_walls=True,
    ),
    "turn_rough": Kind(
        "turn",
        PLAIN | {"boring_bar", "turning_groove"},
        _contour_work,
        _rough_path,
        _rough_forces,
        gone,
        _rough_size,
        words=_contour_words,
        no_stock=frozenset({"depth_mm"}),
        unsuited=_contour_tool,
        speed=_plain_speed,
        turned=True,
        roughs_walls=True,
    ),
    "turn_finish": Kind(
        "turn_finish",
        PLAIN | {"boring_bar", "turning_groove"},
        _contour_work,
        _finish_path,
        _finish_forces,
        gone,
        _finish_size,
        words=_contour_words,
        no_stock=frozenset({"width_mm", "passes"}),
        unsuited=_contour_tool,
        speed=_finish_speed,
        turned=True,
        finishes=True,
    ),
}
