"""The arithmetic of one operation that a planner would do on paper: figures by name, and pass by
pass.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

from shapely import Point

from machining.cutting import drilling, engagement, entry, pointed, speeds, tapping, threads
from machining.cutting.correction import measured_chain
from machining.cutting.data import constant
from machining.geometry.regions import grown, polygons_of
from machining.geometry.solids import section
from machining.motion.paths.areas import RUN_IN_MM, middle_of
from machining.plan.operation import (
    Drill,
    Face,
    FinishWalls,
    MillThread,
    OnFeatures,
    Points,
    RoughPocket,
    Tap,
    Undercut,
)
from machining.plan.turned import TurnThread
from machining.quantities.computed import Given

from .context import PlanFacts, Ready
from .cut import FACE_WIDTH_SHARE
from .kinds.base import cone_of
from .kinds.threads import infeeds
from .kinds.turned import infeeds_of
from .kinds.undercut import widths
from .place import hole_ends

JUST_OVER_MM = 0.3  # over a pocket's floor, where a drill's point has been
# in the order they are listed; only what an operation has is shown
NAMES: dict[str, str] = {
    "passes": "Passes",
    "pecks": "Pecks",
    "ramp_length": "Ramp",
    "plunge_feed": "Straight down at",
    "overrun": "Past the edge by",
    "helix_angle": "Helix at",
    "centre_feed": "Feed of the middle",
    "turns": "Turns",
    "helix_length": "Helix",
    "thread_share": "Thread of",
    "thread_depth": "Thread deep",
    "infeed": "First pass in",
    "diameter_below": "Ø at its end",
    "cone_depth": "Tip down",
    "cutting_diameter": "Cuts at Ø",
    "ball_top": "Ball stands out",
    "aside": "Aside by",
    "last_step": "Last step",
    "flank_in_cut": "Edge in cut",
    "slope_length": "Slope",
    "cusp_step": "Steps of",
    "slot_pull": "Slot pulled aside",
    "feed_marks": "Feed marks",
    "per_turn": "Feed a turn",
    "top_rpm": "Turns up to",
    "cutting_force": "Cutting force",
    "turned_finish": "Roughness Rt",
    "plunges": "Plunges",
    "run_in": "Run-in",
    "jaw_at_speed": "A jaw keeps",
    "lean": "Leans out",
    "index_time": "Positions take",
    "waiting_time": "Turning adds",
    "room": "Room it needs below",
    "edge_life": "Edge lasts",
    "link_feed": "Links past the work at",
    "reached_feed": "Reaches on average",
}


@dataclass(frozen=True, slots=True)
class Table:
    """``columns`` are words and quantity; ``rows`` their values. A row without a value
    holds None.
    """

    columns: tuple[tuple[str, str], ...]
    rows: tuple[tuple[float | None, ...], ...]


def of_operation(op: Ready, facts: PlanFacts) -> None:
    """Figures of passes, pecks, ramp and overrun where the kind has them."""
    kind, tool, work = op.operation, op.tool, op.work
    if isinstance(kind, Face) and not work.region.is_empty:
        x0, y0, x1, y1 = work.region.bounds
        step = kind.step_over_mm or FACE_WIDTH_SHARE * tool.diameter_mm
        op.work_out(
            engagement.face_passes,
            "passes",
            width=Given(min(x1 - x0, y1 - y0), "stock"),
            diameter=op.of_tool("diameter_mm"),
            step=Given(min(step, tool.diameter_mm)),
        )
        op.work_out(
            entry.overrun,
            "overrun",
            radius=Given(tool.diameter_mm / 2.0, "half the tool"),
            clearance=Given(RUN_IN_MM, "practice"),
        )
    if isinstance(kind, Drill) and kind.peck_mm is not None and work.hole_depth > 0:
        op.work_out(
            drilling.pecks, "pecks", depth=Given(work.hole_depth, "part"), peck=Given(kind.peck_mm)
        )
    if isinstance(kind, RoughPocket) and kind.enter in ("plunge", "hole") and "feed" in op.figures:
        op.work_out(
            speeds.straight_down,
            "plunge_feed",
            feed=op.figures["feed"],
            share=Given(constant("plunge", "share"), "data:plunge.share"),
        )
    if isinstance(kind, RoughPocket) and kind.enter == "hole":
        op.seen = replace(op.seen, entry_open_mm=open_at(op, kind))
    if (
        isinstance(kind, RoughPocket)
        and kind.enter == "ramp"
        and kind.ramp_deg < 90
        and work.top > work.floor
    ):
        op.work_out(
            entry.ramp_length,
            "ramp_length",
            depth=Given(min(kind.step_down_mm, work.top - work.floor)),
            ramp=Given(kind.ramp_deg),
        )

    if (
        isinstance(kind, Tap | MillThread)
        and isinstance(kind.on, OnFeatures | Points)
        and tool.pitch_mm is not None
    ):
        ends, drilled, through = hole_ends(kind.on, op.setup.lie, facts.geometry)
        major = Given(kind.major_mm) if isinstance(kind, MillThread) else op.of_tool("diameter_mm")
        if drilled < float(major):
            op.work_out(
                tapping.thread_share,
                "thread_share",
                major=major,
                pitch=op.of_tool("pitch_mm"),
                drill=Given(drilled, "part"),
            )
        if not through:
            threads_below = (
                Given(constant("tap", "chamfer_threads"), "data:tap.chamfer_threads")
                if isinstance(kind, Tap)
                else Given(1.0, "its lowest tooth")
            )
            op.work_out(
                threads.run_out_room, "room", pitch=op.of_tool("pitch_mm"), threads=threads_below
            )
            below = min(mouth - far for _, _, mouth, far in ends) - kind.depth_mm
            op.seen = replace(op.seen, below_thread_mm=below)


def entry_spot(op: Ready, kind: RoughPocket) -> tuple[float, float]:
    """Where the tool goes down into a hole."""
    if kind.hole_at_mm is not None:
        return kind.hole_at_mm
    reachable = polygons_of(grown(op.work.region, -op.tool.diameter_mm / 2.0))
    if not reachable:
        return 0.0, 0.0
    x, y, _ = middle_of(max(reachable, key=lambda each: float(each.area)))
    return x, y


def open_at(op: Ready, kind: RoughPocket) -> float:
    """Diameter (mm) that stands open where the tool goes down, half-way to the floor; 0 where the
    floor's middle is still full.
    """
    spot, floor, top = Point(entry_spot(op, kind)), op.work.floor, op.work.top
    if section(op.stock_before, floor + JUST_OVER_MM).distance(spot) <= 0:
        return 0.0
    return 2.0 * float(section(op.stock_before, (floor + top) / 2.0).distance(spot))


def table_of(op: Ready) -> Table | None:
    """Pass by pass, for what is cut in several that are not alike."""
    kind, work = op.operation, op.work
    if isinstance(kind, Undercut) and op.path.legs:
        alpha = cone_of(op.tool)[0] / 2.0
        reached = widths(kind)
        steps = [wide - before for before, wide in zip([0.0, *reached[:-1]], reached, strict=True)]
        area = [
            pointed.engaged_height(wide, step, alpha) * step
            for wide, step in zip(reached, steps, strict=True)
        ]
        rows = tuple(
            (float(k), wide, step, pointed.flank_in_cut(wide, alpha), taken / area[0])
            for k, (wide, step, taken) in enumerate(zip(reached, steps, area, strict=True), 1)
        )
        return Table(
            (
                ("Pass", "count"),
                ("Wide", "size"),
                ("Step", "size"),
                ("Edge in cut", "size"),
                ("Load", "factor"),
            ),
            rows,
        )
    if (
        isinstance(kind, MillThread)
        and work.hole_diameter < kind.major_mm
        and kind.passes + kind.spring_passes > 1
    ):
        depths = infeeds(kind, work.hole_diameter)
        steps = [deep - before for before, deep in zip([0.0, *depths[:-1]], depths, strict=True)]
        return Table(
            (("Pass", "count"), ("In", "size"), ("Step", "size"), ("Ø", "size")),
            tuple(
                (float(k), deep, step, work.hole_diameter + 2.0 * deep)
                for k, (deep, step) in enumerate(zip(depths, steps, strict=True), 1)
            ),
        )
    if isinstance(kind, TurnThread):
        depths = infeeds_of(kind)
        steps = [deep - before for before, deep in zip([0.0, *depths[:-1]], depths, strict=True)]
        lines = tuple(
            (float(k), deep, step, kind.diameter_mm - 2.0 * deep)
            for k, (deep, step) in enumerate(zip(depths, steps, strict=True), 1)
        )
        return Table((("Pass", "count"), ("In", "size"), ("Step", "size"), ("Ø", "size")), lines)
    if isinstance(kind, FinishWalls) and kind.chain > 1:
        left = measured_chain(kind.width_mm, kind.chain)
        return Table(
            (("Cut", "count"), ("Stands on each wall", "size"), ("A width measures over", "size")),
            tuple((float(k), stands, 2.0 * stands) for k, stands in enumerate(left, 1)),
        )
    return None
