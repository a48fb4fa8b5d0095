"""Turned operations: what of the turning stock each takes, along which path, with what force."""

from __future__ import annotations

from dataclasses import replace

from shapely import Polygon, box, unary_union

from machining.cutting import specific_force, speeds, threads, turning
from machining.cutting.data import constant
from machining.geometry.contours import FAR_MM, areas_of, contour_of, in_shadow, kept_from, thickest
from machining.geometry.regions import Region
from machining.geometry.solids import Solid, revolved
from machining.motion.path import Path
from machining.motion.paths import turned as paths
from machining.motion.paths.areas import counted, levels
from machining.plan.turned import (
    Groove,
    PartOff,
    Plane,
    RingGroove,
    TurnFace,
    TurnFinish,
    TurnGroove,
    TurnRough,
    TurnThread,
)
from machining.quantities.computed import Computed, Given, Value
from machining.quantities.errors import OutOfRange
from machining.world.tool import Tool

from .. import life
from ..context import PlanFacts, Ready
from ..place import Work
from .base import Ground, Handler, Unsuited

SLIVER_MM = 1e-3
LEFT_MM = 0.05
Turned = TurnFace | TurnRough | TurnFinish | TurnGroove | TurnThread | PartOff


def home_of(op: Ready, facts: PlanFacts) -> tuple[float, float]:
    """Where the turret stands between cuts: radius and Z, mm."""
    away = facts.library.settings.retract_mm
    return float(op.setup.lie.stock_high[0]) + away, float(op.setup.lie.stock_high[2]) + away


def _near(facts: PlanFacts) -> float:
    return facts.library.settings.first_clearance_mm


def _taken(region: Region) -> Region:
    """Without the lines and slivers that rounding leaves."""
    return areas_of(region, SLIVER_MM)


def _work(region: Region, kept: Region = Polygon(), left: float = 0.0, deep: float = 0.0) -> Work:
    low, high = (
        (float(region.bounds[1]), float(region.bounds[3])) if not region.is_empty else (0.0, 0.0)
    )
    return Work(turned=region, kept=kept, top=high, floor=low, wall_height=deep, left_behind=left)


def _face_work(operation: TurnFace, ground: Ground) -> Work:
    stock, plane = ground.section, operation.on
    floor = plane.z_mm + operation.leave_mm
    return _work(_taken(stock.intersection(box(plane.to_diameter_mm / 2.0, floor, FAR_MM, FAR_MM))))


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
    stock = _taken(ground.section.intersection(box(0.0, low, FAR_MM, FAR_MM)))
    shadow = _taken(
        in_shadow(
            unary_union([body, before]), outside, ground.tool.max_ramp_deg if ground.tool else 0.0
        )
    )
    kept = unary_union([body, shadow])
    left = thickest(_taken(stock.intersection(shadow)))
    return _work(
        _taken(stock.difference(kept).difference(before)), kept, left if left > LEFT_MM else 0.0
    )


def _groove_work(operation: TurnGroove, ground: Ground) -> Work:
    stock, on = ground.section, operation.on
    if isinstance(on, RingGroove):
        region = _taken(
            stock.intersection(
                box(
                    on.outer_diameter_mm / 2.0 - on.width_mm,
                    on.z_mm - on.depth_mm,
                    on.outer_diameter_mm / 2.0,
                    FAR_MM,
                )
            )
        )
        return _work(
            region,
            deep=(
                float(region.bounds[3]) - on.z_mm + on.depth_mm
                if not region.is_empty
                else on.depth_mm
            ),
        )
    region = _taken(
        stock.intersection(box(on.diameter_mm / 2.0, on.z_mm - on.width_mm, FAR_MM, on.z_mm))
    )
    return _work(
        region, deep=float(region.bounds[2] - region.bounds[0]) if not region.is_empty else 0.0
    )


def _thread_work(operation: TurnThread, ground: Ground) -> Work:
    on = operation.on
    return Work(
        top=on.z_mm,
        floor=on.z_mm - on.length_mm,
        wall_height=thread_depth(operation),
    )


def _part_work(operation: PartOff, ground: Ground) -> Work:
    stock, on = ground.section, operation.on
    wide = (ground.tool.insert_width_mm if ground.tool else None) or 3.0
    region = _taken(
        stock.intersection(box(on.to_diameter_mm / 2.0, on.z_mm - wide, FAR_MM, on.z_mm))
    )
    return _work(
        region, deep=float(region.bounds[2] - region.bounds[0]) if not region.is_empty else 0.0
    )


def _removed(operation: Turned, work: Work, ground: Ground) -> Solid | None:
    if work.turned.is_empty:
        return None
    region = work.turned
    if isinstance(operation, PartOff) and operation.on.to_diameter_mm == 0:
        # what stays in the chuck is no part any more
        region = box(0.0, -FAR_MM, FAR_MM, operation.on.z_mm)
    return revolved(region)


def thread_depth(kind: TurnThread) -> float:
    return threads.turned_depth(kind.pitch_mm, constant("thread_depth", "outside"))


def infeeds_of(kind: TurnThread) -> list[float]:
    """Depth (mm) after each pass, spring passes at full depth."""
    depth = thread_depth(kind)
    return threads.equal_section_infeeds(depth, kind.passes) + [depth] * kind.spring_passes


def diameters(op: Ready) -> tuple[float, float]:
    """Largest and smallest diameter (mm) an operation cuts at."""
    kind, work = op.operation, op.work
    if isinstance(kind, TurnThread):
        return kind.diameter_mm, kind.diameter_mm - 2.0 * thread_depth(kind)
    if work.turned.is_empty:
        raise OutOfRange("stock", "nothing", "something to cut here")
    inner, _, outer, _ = work.turned.bounds
    if isinstance(kind, TurnFinish):
        sizes = [d for _, d in kind.on.at_mm]
        return max(sizes), min(sizes)
    return 2.0 * float(outer), 2.0 * float(inner)


# -- paths


def _passes(kind: TurnFace | TurnRough, deep: float) -> int:
    """Equal passes no deeper than asked."""
    return counted("depth_mm", kind.depth_mm, deep / kind.depth_mm)


def _plunge_step(kind: TurnGroove, wide: float) -> float:
    """From one plunge to the next (mm), as typed or a share of the insert's width."""
    return min(kind.step_mm or constant("turning", "groove_step") * wide, wide)


def _path(op: Ready, facts: PlanFacts) -> Path:
    kind, work, tool, near, home = op.operation, op.work, op.tool, _near(facts), home_of(op, facts)
    if isinstance(kind, TurnThread):
        run_in, out = (
            op.value("run_in") or 0.0,
            constant("turning", "open_end") * kind.pitch_mm * kind.starts,
        )
        high, low = kind.on.z_mm, kind.on.z_mm - kind.on.length_mm
        pulled = (
            min(kind.pitch_mm * kind.starts, kind.on.length_mm) if kind.ends == "pulled" else 0.0
        )
        past = 0.0 if pulled else out
        start, end = (
            (high + run_in, low - past) if kind.towards == "chuck" else (low - run_in, high + past)
        )
        return paths.threaded(
            kind.diameter_mm / 2.0, infeeds_of(kind), start, end, pulled, near, home
        )
    if work.turned.is_empty:
        return Path()
    inner, low, outer, high = (float(v) for v in work.turned.bounds)
    if isinstance(kind, TurnFace):
        to = kind.on.to_diameter_mm / 2.0 or -constant("turning", "face_past_mm")
        return paths.faced(
            outer, to, levels(high + kind.over_mm, low, kind.depth_mm, "depth_mm"), near, home
        )
    if isinstance(kind, TurnRough):
        return _roughed(kind, work, near, home)
    if isinstance(kind, TurnFinish):
        outside = kind.on.side == "outside"
        return paths.contoured(contour_of(work.kept, outside), kind.passes, outside, near, home)
    if isinstance(kind, PartOff):
        half = (tool.insert_width_mm or 0.0) / 2.0
        to = kind.on.to_diameter_mm / 2.0 or max(inner - constant("turning", "face_past_mm"), 0.0)
        return paths.grooved([(kind.on.z_mm - half, outer)], to, near, home)
    assert isinstance(kind, TurnGroove)
    wide, on = tool.insert_width_mm or 1.0, kind.on
    count = int(turning.plunges(on.width_mm, wide, _plunge_step(kind, wide)))
    first, span = wide / 2.0, on.width_mm - wide
    offsets = [first + span * k / max(count - 1, 1) for k in range(count)]
    if isinstance(on, RingGroove):
        return paths.grooved_in_face(
            high,
            on.z_mm - on.depth_mm,
            [on.outer_diameter_mm / 2.0 - away for away in offsets],
            near,
            home,
        )
    middles = [on.z_mm - away for away in offsets]
    return paths.grooved(
        [
            (z, stands_at(work.turned, z - wide / 2.0, z + wide / 2.0) or on.diameter_mm / 2.0)
            for z in middles
        ],
        on.diameter_mm / 2.0,
        near,
        home,
    )


def stands_at(region: Region, low: float, high: float) -> float:
    """The largest radius (mm) of a region between two heights, 0 where nothing is."""
    band = _taken(region.intersection(box(0.0, low, FAR_MM, high)))
    return 0.0 if band.is_empty else float(band.bounds[2])


def _roughed(kind: TurnRough, work: Work, near: float, home: tuple[float, float]) -> Path:
    """Equal passes along the spindle, and once along the contour where passes leave steps on it."""
    outside = kind.on.side == "outside"
    inner, _, outer, _ = (float(v) for v in work.turned.bounds)
    count = _passes(kind, outer - inner)
    step = (outer - inner) / count
    radii = [outer - step * k if outside else inner + step * k for k in range(1, count + 1)]
    clear = 1e-4 if outside else -1e-4
    passes = paths.along(work.turned, [r + clear for r in radii], outside, near, home)
    corners = contour_of(work.kept, outside)
    if len(corners) <= 2:
        return passes
    return Path(passes.legs + paths.contoured(corners, 1, outside, near, home).legs)


# -- forces


def cut_force(op: Ready, facts: PlanFacts, depth: Value, prefix: str = "") -> None:
    """Figures mean_chip, specific_force, cutting_force, feed_force, push_force, cutting_power,
    power and torque of a straight edge.
    """
    angle = (
        op.of_tool("edge_angle_deg")
        if op.tool.kind in ("turning_rough", "turning_finish", "boring_bar")
        else Given(90.0, "an edge along the cut")
    )
    chip = op.work_out(
        turning.turning_chip,
        f"{prefix}mean_chip",
        feed_per_rev=op.figures["chip"],
        edge_angle=angle,
    )
    kc = op.work_out(
        specific_force.specific_force,
        f"{prefix}specific_force",
        kc11=facts.of_material("kc11_n_mm2"),
        mc=facts.of_material("mc"),
        chip=chip,
    )
    _asks(
        op,
        op.work_out(
            turning.turning_force,
            f"{prefix}cutting_force",
            kc=kc,
            depth=depth,
            feed_per_rev=op.figures["chip"],
        ),
        prefix,
    )


def _asks(op: Ready, force: Computed, prefix: str = "") -> None:
    machine = op.machine
    op.work_out(
        turning.share_of_force,
        f"{prefix}feed_force",
        force=force,
        ratio=Given(constant("turning", "feed"), "data:turning.feed"),
    )
    op.work_out(
        turning.share_of_force,
        f"{prefix}push_force",
        force=force,
        ratio=Given(constant("turning", "push"), "data:turning.push"),
    )
    at_edge = op.work_out(
        turning.power_at_speed,
        f"{prefix}cutting_power",
        force=force,
        cutting_speed=op.figures["cutting_speed"],
    )
    power = op.work_out(
        specific_force.motor_power,
        f"{prefix}power",
        power=at_edge,
        efficiency=op.of_machine(machine.efficiency if machine.curves_at == "motor" else 1.0),
    )
    op.work_out(specific_force.torque, f"{prefix}torque", power=power, rpm=op.figures["rpm"])


def _load(op: Ready, facts: PlanFacts) -> None:
    kind, work, tool = op.operation, op.work, op.tool
    if isinstance(kind, TurnThread):
        _thread_load(op, facts, kind)
        return
    if work.turned.is_empty:
        return
    if isinstance(kind, TurnGroove | PartOff):
        wide = tool.insert_width_mm or 0.0
        op.seen = replace(op.seen, width_mm=wide)
        if isinstance(kind, TurnGroove):
            op.work_out(
                turning.plunges,
                "plunges",
                width=Given(kind.on.width_mm),
                insert=op.of_tool("insert_width_mm"),
                step=Given(_plunge_step(kind, wide)),
            )
        cut_force(op, facts, op.of_tool("insert_width_mm"))
        return
    inner, low, outer, high = (float(v) for v in work.turned.bounds)
    if isinstance(kind, TurnFinish):
        depth: float = max(thickest(work.turned), LEFT_MM)
    else:
        assert isinstance(kind, TurnFace | TurnRough)
        deep = high + kind.over_mm - low if isinstance(kind, TurnFace) else outer - inner
        depth = deep / _passes(kind, deep)
    op.seen = replace(op.seen, depth_mm=depth)
    cut_force(op, facts, Given(depth, "stock and passes"))
    extra = (
        max(facts.plan.stock.saw_tolerance_mm - kind.over_mm, 0.0)
        if isinstance(kind, TurnFace)
        else 0.0
    )
    if extra > 0 and op.seen.meets_sawn:
        op.seen = replace(op.seen, worst_depth_mm=depth + extra)
        cut_force(op, facts, Given(depth + extra, "blank at its largest"), "worst_")


def _thread_load(op: Ready, facts: PlanFacts, kind: TurnThread) -> None:
    depth = op.work_out(
        threads.turned_depth,
        "thread_depth",
        pitch=Given(kind.pitch_mm),
        share=Given(constant("thread_depth", "outside"), "data:thread_depth.outside"),
    )
    passes = Given(float(kind.passes))
    first = op.work_out(threads.deepest_infeed, "infeed", depth=depth, passes=passes)
    chip = op.work_out(
        turning.turning_chip,
        "mean_chip",
        feed_per_rev=first,
        edge_angle=Given(30.0, "half of 60°, each flank"),
    )
    kc = op.work_out(
        specific_force.specific_force,
        "specific_force",
        kc11=facts.of_material("kc11_n_mm2"),
        mc=facts.of_material("mc"),
        chip=chip,
    )
    force = op.work_out(
        threads.force_of_pass,
        "cutting_force",
        kc=kc,
        depth=depth,
        passes=passes,
        included_angle=Given(60.0, "the thread"),
    )
    _asks(op, force)


def speed_and_feed(op: Ready, facts: PlanFacts) -> None:
    """Figures rpm (at the largest diameter), top_rpm, cutting_speed, chip (feed per turn), feed.
    Raises OutOfRange where data is missing.
    """
    kind, tool, machine, chuck = op.operation, op.tool, op.machine, op.setup.chuck
    assert isinstance(kind, Turned)
    large, small = diameters(op)
    origin = f"material:{facts.material.name if facts.material else ''}"
    held = op.setup.planned.in_chuck
    most = min(
        chuck.max_rpm if chuck else 1e6,
        (held.limit_rpm if held else None) or 1e6,
        tool.max_rpm or 1e6,
    )
    if op.data is None and not (kind.speed_typed and kind.feed_typed):
        name = facts.material.name if facts.material else "no material"
        raise OutOfRange(
            "cutting data",
            f"missing for turning in {name} with {tool.material} tools",
            "in the library, or speed and feed typed in",
        )
    at = Given(large, "stock" if not isinstance(kind, TurnThread) else "thread")
    top = op.of_machine(machine.max_rpm)
    if kind.rpm is not None:
        rpm = op.work_out(
            speeds.limited_speed,
            "rpm",
            wanted=Given(kind.rpm),
            spindle_max=Given(kind.rpm),
            tool_max=Given(kind.rpm),
        )
    else:
        speed = (
            Given(kind.cutting_speed_m_min)
            if kind.cutting_speed_m_min is not None
            else Given(op.data.speed_start if op.data else 0.0, origin)
        )
        wanted = op.work_out(speeds.spindle_speed, "wanted_rpm", cutting_speed=speed, diameter=at)
        limit = Given(most, "chuck, its limit and the tool")
        if isinstance(kind, TurnThread):
            held_back = op.work_out(
                speeds.limited_speed, "limited_rpm", wanted=wanted, spindle_max=top, tool_max=limit
            )
            rpm = op.work_out(
                speeds.speed_in_steps, "rpm", wanted=held_back, step=facts.shop("speed_step_rpm")
            )
        else:
            rpm = op.work_out(
                speeds.limited_speed, "rpm", wanted=wanted, spindle_max=top, tool_max=limit
            )
            inner = max(small, SLIVER_MM)
            fastest = op.work_out(
                speeds.spindle_speed,
                "wanted_top_rpm",
                cutting_speed=speed,
                diameter=Given(inner, "smallest diameter"),
            )
            op.work_out(
                speeds.limited_speed, "top_rpm", wanted=fastest, spindle_max=top, tool_max=limit
            )
    life.of_edge(
        op, op.work_out(speeds.cutting_speed, "cutting_speed", rpm=rpm, diameter=at), origin
    )
    per_turn = _feed_per_turn(op, kind, tool, origin)
    wanted_feed = op.work_out(speeds.feed, "wanted_feed", rpm=rpm, chip=per_turn, edges=Given(1.0))
    feed = op.work_out(
        speeds.limited_feed,
        "feed",
        wanted=wanted_feed,
        machine_max=(
            op.of_machine(machine.max_feed_mm_min)
            if not isinstance(kind, TurnThread)
            else wanted_feed
        ),
    )
    # with one edge they are the same, and a turner asks for the second
    for name in ("chip", "per_turn"):
        op.work_out(speeds.chip_per_edge, name, feed=feed, rpm=rpm, edges=Given(1.0))
    if isinstance(kind, TurnThread):
        lead = Given(kind.pitch_mm * kind.starts, "thread")
        if kind.run_in_mm is None:
            op.work_out(
                threads.run_in,
                "run_in",
                lead=lead,
                rpm=rpm,
                acceleration=op.of_machine(machine.acceleration.z),
                settle=op.of_machine(machine.jerk_time_s),
            )
        _room(op, kind)


def _feed_per_turn(op: Ready, kind: Turned, tool: Tool, origin: str) -> Value:
    if isinstance(kind, TurnThread):
        return Given(kind.pitch_mm * kind.starts, "thread")
    if kind.feed_mm_min is not None:
        return Given(kind.feed_mm_min / op.figures["rpm"].value, "the feed typed, over the speed")
    # a turning tool has one edge
    typed = kind.feed_per_rev_mm if kind.feed_per_rev_mm is not None else kind.feed_per_tooth_mm
    if typed is not None:
        return Given(typed)
    assert op.data is not None  # missing data with nothing typed has been refused before
    wanted = op.data.chip_mm(10.0)
    if tool.max_chip_mm is not None and tool.max_chip_mm < wanted:
        return op.of_tool("max_chip_mm")
    return Given(wanted, origin)


def _room(op: Ready, kind: TurnThread) -> None:
    """Notes room_before_mm and room_after_mm: how far the tool can go past the thread's ends at its
    depth.
    """
    if op.section_before is None:
        return
    core = kind.diameter_mm / 2.0 - thread_depth(kind)
    standing = op.section_before.intersection(box(core + LEFT_MM, -FAR_MM, FAR_MM, FAR_MM))
    high, low = kind.on.z_mm, kind.on.z_mm - kind.on.length_mm
    above, below = (
        _taken(standing.intersection(box(0.0, high, FAR_MM, FAR_MM))),
        _taken(standing.intersection(box(0.0, -FAR_MM, FAR_MM, low))),
    )
    free_above = FAR_MM if above.is_empty else max(float(above.bounds[1]) - high, 0.0)
    free_below = FAR_MM if below.is_empty else max(low - float(below.bounds[3]), 0.0)
    before, after = (
        (free_above, free_below) if kind.towards == "chuck" else (free_below, free_above)
    )
    op.seen = replace(op.seen, room_before_mm=before, room_after_mm=after)


# -- which tool


def _contour_tool(operation: TurnRough | TurnFinish, work: Work, tool: Tool) -> Unsuited | None:
    bar = tool.kind == "boring_bar"
    if operation.on.side == "inside" and not bar:
        return "It turns outsides; a bore wants a boring bar.", {}
    if operation.on.side == "outside" and bar:
        return "A boring bar works inside only.", {}
    return None


def _groove_tool(operation: TurnGroove | PartOff, work: Work, tool: Tool) -> Unsuited | None:
    wide, deep = tool.insert_width_mm or 0.0, tool.cutting_depth_mm
    on: Groove | RingGroove | Plane = operation.on
    if isinstance(on, RingGroove) != (tool.kind == "face_groove"):
        return (
            "It grooves rounds, not faces."
            if isinstance(on, RingGroove)
            else "It grooves faces, not rounds."
        ), {}
    if isinstance(on, Groove | RingGroove) and wide > on.width_mm + 1e-9:
        return "Its edge is {has} wide, the groove {wanted}.", {"has": wide, "wanted": on.width_mm}
    if work.wall_height > deep + 1e-9:
        return "It goes {has} deep, not {wanted}.", {"has": deep, "wanted": work.wall_height}
    return None


def _thread_tool(operation: TurnThread, work: Work, tool: Tool) -> Unsuited | None:
    """A full profile cuts one pitch; its tip has that pitch's root."""
    if tool.pitch_mm is None or abs(tool.pitch_mm - operation.pitch_mm) < SLIVER_MM:
        return None
    return "It cuts a pitch of {has}, not {wanted}.", {
        "has": tool.pitch_mm,
        "wanted": operation.pitch_mm,
    }


_PLAIN = frozenset({"turning_rough", "turning_finish"})
HANDLERS: dict[str, Handler] = {
    "turn_face": Handler("turn", _PLAIN, _face_work, _path, _load, _removed),
    "turn_rough": Handler(
        "turn",
        _PLAIN | {"boring_bar", "turning_groove"},
        _contour_work,
        _path,
        _load,
        _removed,
        unsuited=_contour_tool,
    ),
    "turn_finish": Handler(
        "turn_finish",
        _PLAIN | {"boring_bar"},
        _contour_work,
        _path,
        _load,
        _removed,
        unsuited=_contour_tool,
    ),
    "turn_groove": Handler(
        "groove",
        frozenset({"turning_groove", "face_groove", "part_off"}),
        _groove_work,
        _path,
        _load,
        _removed,
        unsuited=_groove_tool,
    ),
    "turn_thread": Handler(
        "thread", frozenset({"turning_thread"}), _thread_work, _path, _load, unsuited=_thread_tool
    ),
    "part_off": Handler(
        "groove",
        frozenset({"part_off", "turning_groove"}),
        _part_work,
        _path,
        _load,
        _removed,
        unsuited=_groove_tool,
    ),
}
