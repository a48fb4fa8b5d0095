"""Holes made on the tool's own axis: drilled, reamed, tapped, bored."""

from __future__ import annotations

from dataclasses import replace

from machining.cutting import drilling, tapping, threads
from machining.cutting.data import constant
from machining.cutting.drilling import point_height
from machining.geometry.solids import Solid
from machining.motion.path import Path
from machining.motion.paths import holes
from machining.motion.timing import spindle_time
from machining.plan.operation import Bore, Drill, MillThread, Ream, Tap
from machining.plan.places import OnFeatures, TypedHoles
from machining.quantities.computed import Given, Value
from machining.quantities.names import drill_name, thread_name
from machining.removal.found import NEAR
from machining.world.tool import DRILLS, TURNS_ON_AXIS

from .. import forces, metal, wording
from ..bored import narrowest
from ..context import OperationFacts, PlanFacts, Ready
from ..place import Mouth, Work, hole_ends
from ..removed import round_holes
from ..wording import Named
from .base import Ground, Kind, heights
from .sides import SAME_STOCK, same_trace


def _ends_work(
    operation: Drill | Ream | Tap | Bore,
    ground: Ground,
    wanted: float | None,
    past: float = 0.0,
    point: float = 0.0,
    size: float | None = None,
    mouth_at: Mouth = "wall",
) -> Work:
    """Mouth of each hole and the lowest place of the tip; ``past`` counts where it goes through,
    ``point`` is the tip's own height, mm.
    """
    assert isinstance(operation.on, OnFeatures | TypedHoles)
    ends, diameter, through = hole_ends(operation.on, ground.lie, ground.geometry, mouth_at)
    full = [each and wanted is None for each in through]
    return Work(
        holes=tuple(
            (
                x,
                y,
                mouth,
                (bottom if wanted is None else mouth - wanted) - point - (past if out else 0.0),
            )
            for (x, y, mouth, bottom), out in zip(ends, full, strict=True)
        ),
        hole_diameter=diameter if size is None else size,
        hole_depth=wanted or max(mouth - bottom for _, _, mouth, bottom in ends),
        point_height=point,
        passes_bottom=all(full),
    )


def _drill_work(operation: Drill, ground: Ground) -> Work:
    tool = ground.tool
    angle = tool.point_angle_deg if tool else None
    point = point_height(tool.diameter_mm, angle) if tool and angle else 0.0
    size = tool.diameter_mm if tool else None
    return _ends_work(operation, ground, operation.depth_mm, operation.past_mm, point, size, "face")


def _ream_work(operation: Ream, ground: Ground) -> Work:
    size = ground.tool.diameter_mm if ground.tool else None
    return _ends_work(operation, ground, operation.depth_mm, operation.past_mm, size=size)


def _tap_work(operation: Tap, ground: Ground) -> Work:
    return _ends_work(operation, ground, operation.depth_mm)


def _bore_work(operation: Bore, ground: Ground) -> Work:
    return _ends_work(operation, ground, None, operation.past_mm)


def _round(operation: object, work: Work, ground: Ground) -> Solid:
    return round_holes(work, ground.turns)


def _down_and_back(op: Ready, facts: PlanFacts) -> Path:
    near, retract = heights(op, facts)
    return holes.there_and_back(metal.from_metal(op), near, retract)


def _drill_path(op: Ready[Drill], facts: PlanFacts) -> Path:
    near, retract = heights(op, facts)
    return holes.drilled(metal.from_metal(op), near, retract, op.operation.peck_mm)


def _drill_forces(op: Ready[Drill], facts: PlanFacts) -> None:
    if op.tool.kind in TURNS_ON_AXIS:
        forces.drilled(op, facts)
    else:
        forces.plunged(op, facts)


def _drill_worked(op: Ready[Drill], facts: PlanFacts) -> None:
    if op.operation.peck_mm is not None and op.work.hole_depth > 0:
        op.work_out(
            drilling.pecks,
            "pecks",
            depth=Given(op.work.hole_depth, "part"),
            peck=Given(op.operation.peck_mm),
        )


def _drill_words(op: OperationFacts[Drill], facts: PlanFacts) -> Named:
    found = wording.holes_of(op, facts)
    if found is None:
        return wording.of_place(op, facts)
    count, drawn, through = found
    size = op.kit.tool.diameter_mm if op.kit else drawn
    called = drill_name(size)
    words = f"{count} × " + (f"{called}, " if called else "") + "{d}"
    return wording.named(op, words + (" through" if through else ""), {"d": size})


def _ream_forces(op: Ready[Ream], facts: PlanFacts) -> None:
    width, has = constant("ream", "width"), narrowest(op)
    takes = (op.tool.diameter_mm - has) / 2.0 if has else width
    forces.widened(op, facts, takes if takes > (1.0 + NEAR) * width else width)


def _bore_forces(op: Ready[Bore], facts: PlanFacts) -> None:
    forces.widened(op, facts, op.operation.width_mm)


# -- threads


def _pitch(op: Ready[Tap]) -> Value:
    return op.of_tool("pitch_mm")


def _reversals(op: Ready[Tap]) -> float:
    """At the bottom the spindle stops and runs up backwards, and so again at the top."""
    spindle = op.rig.whole_spindle
    once = 2.0 * spindle_time(
        op.figures["rpm"].value, spindle.max_rpm, spindle.base_rpm, spindle.start_s
    )
    return 2.0 * once


def thread_in_hole(
    op: Ready[Tap | MillThread], facts: PlanFacts, major: Value, below: Value
) -> None:
    """Figures thread_share and, in a blind hole, room for ``below`` threads under the last one."""
    on, tool = op.operation.on, op.tool
    if not isinstance(on, OnFeatures | TypedHoles) or tool.pitch_mm is None:
        return
    ends, drawn, through = hole_ends(on, op.lie, facts.geometry)
    stands = narrowest(op)
    drilled = Given(stands, "stock") if stands else Given(drawn, "part")
    if drilled.value < float(major):
        op.work_out(
            tapping.thread_share,
            "thread_share",
            major=major,
            pitch=op.of_tool("pitch_mm"),
            drill=drilled,
        )
    blind = [mouth - far for (_, _, mouth, far), out in zip(ends, through, strict=True) if not out]
    if blind:
        op.work_out(threads.run_out_room, "room", pitch=op.of_tool("pitch_mm"), threads=below)
        left = min(blind) - op.operation.depth_mm
        op.seen = replace(op.seen, below_thread_mm=left)


def _tap_worked(op: Ready[Tap], facts: PlanFacts) -> None:
    chamfer = Given(constant("tap", "chamfer_threads"), "data:tap.chamfer_threads")
    thread_in_hole(op, facts, op.of_tool("diameter_mm"), chamfer)


def _tap_words(op: OperationFacts[Tap], facts: PlanFacts) -> Named:
    found, tool = wording.holes_of(op, facts), op.kit.tool if op.kit else None
    if found is None or tool is None or tool.pitch_mm is None:
        return wording.of_place(op, facts)
    return wording.named(op, f"{found[0]} × {thread_name(tool.diameter_mm, tool.pitch_mm)}")


def _at_feed(work: Work) -> bool:
    return True


KINDS = {
    "drill": Kind(
        "drill",
        DRILLS | {"spot_drill", "end_mill"},
        _drill_work,
        _drill_path,
        _drill_forces,
        _round,
        worked=_drill_worked,
        words=_drill_words,
        straight_down=_at_feed,
        metal=metal.over_mouths,
        no_stock=SAME_STOCK,
        no_trace=same_trace,
        says_shape=False,
        carried=True,
        on_axis=True,
        on_lathe=True,
        goes_down=True,
        makes_hole=True,
        bench="hole-methods",
    ),
    "ream": Kind(
        "ream",
        frozenset({"reamer"}),
        _ream_work,
        _down_and_back,
        _ream_forces,
        _round,
        straight_down=_at_feed,
        metal=metal.over_mouths,
        no_stock=SAME_STOCK,
        no_trace=same_trace,
        says_shape=False,
        carried=True,
        on_axis=True,
        on_lathe=True,
        goes_down=True,
        thin_chips=True,
        finishes=True,
        needs_hole="reamed",
    ),
    "tap": Kind(
        "tap",
        frozenset({"tap"}),
        _tap_work,
        _down_and_back,
        forces.tapped,
        worked=_tap_worked,
        words=_tap_words,
        feed_per_turn=_pitch,
        dwell_s=_reversals,
        straight_down=_at_feed,
        metal=metal.over_mouths,
        no_stock=SAME_STOCK,
        no_trace=same_trace,
        says_shape=False,
        on_axis=True,
        on_lathe=True,
        goes_down=True,
        thin_chips=True,
        needs_hole="tapped",
    ),
    "bore": Kind(
        "bore",
        frozenset({"boring_head"}),
        _bore_work,
        _down_and_back,
        _bore_forces,
        _round,
        straight_down=_at_feed,
        metal=metal.over_mouths,
        no_stock=SAME_STOCK,
        no_trace=same_trace,
        says_shape=False,
        carried=True,
        on_axis=True,
        goes_down=True,
        finishes=True,
        makes_hole=True,
        needs_hole="bored",
        bench="hole-methods",
    ),
}
