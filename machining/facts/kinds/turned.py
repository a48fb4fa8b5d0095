"""What all turned operations share: speed kept at the edge, the force of a straight edge."""

from __future__ import annotations

from shapely import Polygon, box

from machining.cutting import engagement, specific_force, speeds, turning
from machining.cutting.data import constant
from machining.geometry.contours import FAR_MM, areas_of
from machining.geometry.regions import Region
from machining.geometry.solids import Solid, revolved
from machining.motion.paths.areas import counted
from machining.quantities.computed import Computed, Given, Value
from machining.quantities.errors import OutOfRange
from machining.removal.found import NEAR

from .. import life
from ..context import PlanFacts, Ready
from ..forces import FOUND
from ..place import Work
from ..retract import retract_of
from .base import Ground

SLIVER_MM = 1e-3
LEFT_MM = 0.05
AIR_MM = 1.0  # cut into round what is turned away


def home_of(op: Ready, facts: PlanFacts) -> tuple[float, float]:
    """Where the turret stands between cuts: radius and Z, mm."""
    away = retract_of(op.setup, facts)
    return float(op.lie.stock_high[0]) + away, float(op.lie.stock_high[2]) + away


def near_of(facts: PlanFacts) -> float:
    return facts.library.settings.first_clearance_mm


def taken(region: Region) -> Region:
    """Without the lines and slivers that rounding leaves."""
    return areas_of(region, SLIVER_MM)


def turned_work(
    region: Region, kept: Region = Polygon(), left: float = 0.0, deep: float = 0.0
) -> Work:
    low, high = (
        (float(region.bounds[1]), float(region.bounds[3])) if not region.is_empty else (0.0, 0.0)
    )
    return Work(turned=region, kept=kept, top=high, floor=low, wall_height=deep, left_behind=left)


def speed_and_feed(op: Ready, facts: PlanFacts, large: float, small: float) -> None:
    """Figures rpm (at the largest diameter, mm), top_rpm, cutting_speed, chip (feed per turn),
    feed. Raises OutOfRange where data is missing.
    """
    at = Given(large, "stock")
    if op.operation.rpm is not None:
        rpm = rpm_typed(op, op.operation.rpm)
    else:
        speed, top, limit = asked(op, facts)
        wanted = op.work_out(speeds.spindle_speed, "wanted_rpm", cutting_speed=speed, diameter=at)
        rpm = op.work_out(
            speeds.limited_speed, "rpm", wanted=wanted, spindle_max=top, tool_max=limit
        )
        fastest = op.work_out(
            speeds.spindle_speed,
            "wanted_top_rpm",
            cutting_speed=speed,
            diameter=Given(max(small, SLIVER_MM), "smallest diameter"),
        )
        op.work_out(
            speeds.limited_speed, "top_rpm", wanted=fastest, spindle_max=top, tool_max=limit
        )
    at_edge(op, facts, rpm, at)
    wanted_feed = op.work_out(
        speeds.feed, "wanted_feed", rpm=rpm, chip=_feed_per_turn(op, facts), edges=Given(1.0)
    )
    feed_kept(op, wanted_feed, op.of_machine(op.machine.max_feed_mm_min))


def data_given(op: Ready, facts: PlanFacts) -> None:
    """Raises OutOfRange where neither the material's data nor the planner say speed and feed."""
    if op.data is None and not (op.operation.speed_typed and op.operation.feed_typed):
        name = facts.material.name if facts.material else "no material"
        raise OutOfRange(
            "cutting data",
            f"missing for turning in {name} with {op.tool.material} tools",
            "in the library, or speed and feed typed in",
        )


def data_origin(facts: PlanFacts) -> str:
    return f"material:{facts.material.name if facts.material else ''}"


def rpm_typed(op: Ready, rpm: float) -> Computed:
    typed = Given(rpm)
    return op.work_out(speeds.limited_speed, "rpm", wanted=typed, spindle_max=typed, tool_max=typed)


def asked(op: Ready, facts: PlanFacts) -> tuple[Value, Value, Value]:
    """Cutting speed, and what the spindle and the rest turn at most."""
    typed, most = op.operation.cutting_speed_m_min, min(op.station.most_rpm, op.tool.max_rpm or 1e6)
    started = Given(op.data.speed_start if op.data else 0.0, data_origin(facts))
    return (
        Given(typed) if typed is not None else started,
        op.of_machine(op.rig.spindle.max_rpm),
        Given(most, "chuck, its limit and the tool"),
    )


def at_edge(op: Ready, facts: PlanFacts, rpm: Computed, at: Value) -> None:
    """Figures cutting_speed and edge_life."""
    speed = op.work_out(speeds.cutting_speed, "cutting_speed", rpm=rpm, diameter=at)
    life.of_edge(op, speed, data_origin(facts))


def feed_kept(op: Ready, wanted: Computed, most: Value) -> None:
    """Figures feed, chip and per_turn: with one edge the last two are the same, and a turner asks
    for the second.
    """
    feed = op.work_out(speeds.limited_feed, "feed", wanted=wanted, machine_max=most)
    for name in ("chip", "per_turn"):
        op.work_out(speeds.chip_per_edge, name, feed=feed, rpm=op.figures["rpm"], edges=Given(1.0))


def _feed_per_turn(op: Ready, facts: PlanFacts) -> Value:
    kind = op.operation
    if kind.feed_mm_min is not None:
        return Given(kind.feed_mm_min / op.figures["rpm"].value, "the feed typed, over the speed")
    # a turning tool has one edge
    typed = kind.feed_per_rev_mm if kind.feed_per_rev_mm is not None else kind.feed_per_tooth_mm
    if typed is not None:
        return Given(typed)
    assert op.data is not None  # missing data with nothing typed has been refused before
    wanted, most = op.data.chip_mm(10.0), op.tool.max_chip_mm
    return (
        op.of_tool("max_chip_mm")
        if most is not None and most < wanted
        else Given(wanted, data_origin(facts))
    )


def widest_and_narrowest(op: Ready) -> tuple[float, float]:
    """Diameters (mm) between which it cuts. Raises OutOfRange where nothing is there."""
    if op.work.turned.is_empty:
        raise OutOfRange("stock", "nothing", "something to cut here")
    inner, _, outer, _ = op.work.turned.bounds
    return 2.0 * float(outer), 2.0 * float(inner)


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
    asks(
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


def met_depth(op: Ready, depth: float) -> Value:
    """Depth of cut (mm) where its path meets most, which is as planned where that is no more than a
    tenth off; figure found_depth where it is not.
    """
    met = op.found_turned.depth if op.found_turned is not None else None
    if met is None or abs(met - depth) <= NEAR * depth:
        return Given(depth, "stock and passes")
    return op.work_out(engagement.found_depth, "found_depth", height=Given(met, FOUND))


def asks(op: Ready, force: Computed, prefix: str = "") -> None:
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
        efficiency=op.of_machine(op.rig.spindle.reaches_edge),
    )
    op.work_out(specific_force.torque, f"{prefix}torque", power=power, rpm=op.figures["rpm"])


def stands_at(region: Region, low: float, high: float) -> float:
    """The largest radius (mm) of a region between two heights, 0 where nothing is."""
    band = taken(region.intersection(box(0.0, low, FAR_MM, high)))
    return 0.0 if band.is_empty else float(band.bounds[2])


def gone(operation: object, work: Work, ground: Ground) -> Solid | None:
    """All it turns away."""
    if work.turned.is_empty:
        return None
    # into the air beside it: facets of two rounds that meet leave films
    kept = ground.section.difference(work.turned)
    beyond = work.turned.buffer(AIR_MM, join_style="mitre")  # corners, not arcs: fewer facets
    right = box(0.0, -FAR_MM, FAR_MM, FAR_MM)
    return revolved(areas_of(beyond.difference(kept).intersection(right)))


def passes_of(deep: float, most: float) -> int:
    """Equal passes (mm) no deeper than asked."""
    return counted("depth_mm", most, deep / most)
