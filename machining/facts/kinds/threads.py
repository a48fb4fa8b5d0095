"""Internal threads milled on a helix, straight or tapered."""

from __future__ import annotations

from machining.cutting import threads
from machining.motion.path import Path
from machining.motion.paths import rounds
from machining.plan.operation import MillThread
from machining.quantities.computed import Given
from machining.quantities.names import thread_name
from machining.removal.shape import THREAD_DEG
from machining.world.tool import Tool

from .. import forces, wording
from ..context import OperationFacts, PlanFacts, Ready
from ..place import Work, hole_ends
from ..tables import Table, infeed_table
from ..wording import Named
from .base import Ground, Kind, Unsuited, heights
from .drilled import thread_in_hole

SAME_MM = 1e-6


def _work(operation: MillThread, ground: Ground) -> Work:
    ends, drawn, through = hole_ends(operation.on, ground.lie, ground.geometry)  # type: ignore[arg-type]
    return Work(
        holes=tuple((x, y, mouth, mouth - operation.depth_mm) for x, y, mouth, _ in ends),
        hole_diameter=drawn,
        hole_depth=operation.depth_mm,
        passes_bottom=all(through),
    )


def _forces(op: Ready[MillThread], facts: PlanFacts) -> None:
    kind, tool, work = op.operation, op.tool, op.work
    major, pitch, hole = (
        Given(kind.major_mm),
        Given(kind.pitch_mm),
        Given(work.hole_diameter, "part"),
    )
    turns = op.work_out(
        threads.thread_mill_turns,
        "turns",
        depth=Given(kind.depth_mm),
        pitch=pitch,
        rows=op.of_tool("rows"),
    )
    op.work_out(
        threads.helix_length,
        "helix_length",
        turns=turns,
        helix_diameter=Given(kind.major_mm - tool.diameter_mm, "thread and tool"),
        pitch=pitch,
    )
    depth = op.work_out(threads.thread_depth, "thread_depth", major=major, hole=hole)
    first = op.work_out(
        threads.deepest_infeed, "infeed", depth=depth, passes=Given(float(kind.passes))
    )
    if kind.taper_per_mm > 0:
        op.work_out(
            threads.diameter_at_depth,
            "diameter_below",
            mouth=major,
            taper=Given(kind.taper_per_mm),
            depth=Given(kind.depth_mm),
        )
    high = op.work_out(
        threads.teeth_height,
        "teeth_height",
        engaged=Given(_engaged(op), "teeth in the thread"),
        pitch=pitch,
        infeed=first,
        included_angle=Given(tool.included_angle_deg or THREAD_DEG, op.tool_origin),
    )
    forces.of_teeth(op, facts, high, first)


def _engaged(op: Ready[MillThread]) -> float:
    """How long its teeth are in the thread, mm."""
    return min(op.operation.depth_mm, op.tool.rows * op.operation.pitch_mm)


def _inside(op: Ready[MillThread]) -> float:
    return op.operation.major_mm


def _infeed(op: Ready[MillThread]) -> float | None:
    """Of its first pass, mm; None where the hole is as wide as the thread."""
    kind, hole = op.operation, op.work.hole_diameter
    if hole >= kind.major_mm:
        return None
    return infeeds(kind, hole)[0]


def _section(op: Ready[MillThread]) -> float | None:
    """What all its teeth take together in the first pass, mm²."""
    first, angle = _infeed(op), op.tool.included_angle_deg or THREAD_DEG
    if first is None:
        return None
    return first * threads.teeth_height(_engaged(op), op.operation.pitch_mm, first, angle)


def infeeds(kind: MillThread, hole: float) -> list[float]:
    """Depth (mm) after each radial pass, spring passes at full depth."""
    depth = threads.thread_depth(kind.major_mm, hole)
    return threads.equal_section_infeeds(depth, kind.passes) + [depth] * kind.spring_passes


def _path(op: Ready[MillThread], facts: PlanFacts) -> Path:
    kind, tool, work = op.operation, op.tool, op.work
    near, retract = heights(op, facts)
    radii = [
        (work.hole_diameter - tool.diameter_mm) / 2.0 + depth
        for depth in infeeds(kind, work.hole_diameter)
    ]
    turns = threads.thread_mill_turns(kind.depth_mm, kind.pitch_mm, tool.rows)
    bottom = [(x, y, mouth, low) for x, y, mouth, low in work.holes]
    return rounds.threaded(
        bottom,
        radii,
        turns,
        kind.pitch_mm,
        kind.taper_per_mm,
        kind.cuts == "up",
        kind.hand == "right",
        near,
        retract,
    )


def _unsuited(operation: MillThread, work: Work, tool: Tool) -> Unsuited | None:
    if tool.pitch_mm is None or abs(tool.pitch_mm - operation.pitch_mm) > SAME_MM:
        return "It cuts a pitch of {has}, not {wanted}.", {
            "has": tool.pitch_mm or 0.0,
            "wanted": operation.pitch_mm,
        }
    if tool.diameter_mm >= work.hole_diameter:
        return "Ø {has} does not enter the hole, Ø {wanted}.", {
            "has": tool.diameter_mm,
            "wanted": work.hole_diameter,
        }
    return None


def _worked(op: Ready[MillThread], facts: PlanFacts) -> None:
    thread_in_hole(op, facts, Given(op.operation.major_mm), Given(1.0, "its lowest tooth"))


def _table(op: Ready[MillThread]) -> Table | None:
    kind, hole = op.operation, op.work.hole_diameter
    if hole >= kind.major_mm or kind.passes + kind.spring_passes == 1:
        return None
    return infeed_table(infeeds(kind, hole), hole, 2.0)


def _words(op: OperationFacts[MillThread], facts: PlanFacts) -> Named:
    kind = op.operation
    return wording.named(
        op,
        f"{wording.places_of(op)} × {thread_name(kind.major_mm, kind.pitch_mm)}"
        + (" tapered" if kind.taper_per_mm else "")
        + (" left" if kind.hand == "left" else ""),
    )


KINDS = {
    "mill_thread": Kind(
        "finish",
        frozenset({"thread_mill"}),
        _work,
        _path,
        _forces,
        worked=_worked,
        table=_table,
        words=_words,
        unsuited=_unsuited,
        inside=_inside,
        section=_section,
        infeed=_infeed,
        carried=True,
        needs_hole="threaded",
    ),
}
