"""One step of making a hole: the tool, the machine under it, its speed, feed, time and limit."""

from __future__ import annotations

from dataclasses import dataclass, replace
from math import ceil, inf, isfinite, pi, radians, tan

from machining.quantities.said import Said
from machining.world.capability import Rig
from machining.world.spindle import CurvePoint

from . import drilling, search, specific_force, spindle
from .search import Cutter, Job

LEAST_FEED_SHARE = 0.25  # of the data's feed; below it a drill rubs more than it cuts
CLEAR_MM = 2.0
BORE_WIDTH_MM = 0.25


@dataclass(frozen=True, slots=True)
class Hole:
    """``count`` holes alike, mm. ``through`` adds the drill's point to what it travels."""

    diameter: float
    depth: float
    count: int = 1
    through: bool = True


@dataclass(frozen=True, slots=True)
class Bit:
    """A tool as far as a hole needs it: ``feed`` is per turn for what drills, per tooth for what
    mills, from the data.
    """

    key: str
    name: str
    kind: str
    diameter: float
    edges: int
    reach: float
    feed: float
    speed: float
    speed_low: float
    point_angle: float = 180.0
    max_rpm: float = inf
    max_ramp_deg: float = 0.0
    centre_cutting: bool = False
    thinnest_chip: float = 0.01
    thickest_feed: float = inf
    loaded: bool = False
    misfit: Said | None = None  # why this machine can't take it


@dataclass(frozen=True, slots=True)
class Ground:
    """What it is cut in and on: Kienzle's constants, the machine, the share of its continuous
    curve, and a factor on that curve for asking 'what if it gave less'.
    """

    kc11: float
    mc: float
    rig: Rig
    power_share: float = 0.85
    curve_factor: float = 1.0

    def limits(self, rpm: float) -> tuple[float, float] | None:
        """Usable power (kW) and torque (N·m) at a speed; None where no range turns it."""
        turning = spindle.range_for(self.rig.spindle, rpm)
        if turning is None:
            return None
        low, high = spindle.neighbours(turning.continuous, rpm)
        share = self.power_share * self.curve_factor
        power = spindle.available_power(rpm, low.rpm, low.power_kw, high.rpm, high.power_kw)
        return share * power, share * spindle.available_torque(
            rpm, low.rpm, low.torque_nm, high.rpm, high.torque_nm, power
        )

    @property
    def efficiency(self) -> float:
        return self.rig.spindle.reaches_edge


@dataclass(frozen=True, slots=True)
class Step:
    """One tool's part of a method, all holes together. ``limit`` names what holds its feed: feed,
    torque, power or machine.
    """

    bit: Bit
    does: str
    rpm: float
    feed: float
    torque: float
    torque_limit: float
    power: float
    power_limit: float
    limit: str
    seconds: float
    pitch: float | None = None


def drill_torque(bit: Bit, feed: float, ground: Ground) -> float:
    """Torque at the motor's side of the drive, N·m."""
    chip = (
        drilling.drill_chip(feed, bit.point_angle)
        if bit.edges <= 2 or bit.kind.endswith("drill")
        else feed / bit.edges
    )
    return (
        drilling.drill_torque(
            specific_force.specific_force(ground.kc11, ground.mc, chip), feed, bit.diameter
        )
        / ground.efficiency
    )


def drill_feed(bit: Bit, rpm: float, ground: Ground) -> tuple[float, str] | None:
    """Largest feed per turn at a speed and what holds it, None under the least: torque grows with
    feed^(1 − mc).
    """
    usable = ground.limits(rpm)
    if usable is None:
        return None
    at_one, power = drill_torque(bit, 1.0, ground), 1.0 / (1.0 - ground.mc)
    limits = {
        "feed": bit.feed,
        "torque": (usable[1] / at_one) ** power,
        "power": (usable[0] / drilling.power_of_torque(at_one, rpm)) ** power,
        "machine": ground.rig.machine.max_feed_mm_min / rpm,
    }
    name = min(limits, key=lambda each: limits[each])
    return (limits[name], name) if limits[name] >= LEAST_FEED_SHARE * bit.feed else None


def speeds_of(bit: Bit, ground: Ground) -> list[float]:
    job = Job(1.0, None, ground.kc11, ground.mc, bit.speed, 0.0, 0.0, speed_low=bit.speed_low)
    return search.turning_speeds(
        Cutter(bit.diameter, bit.edges, 1.0, bit.feed, max_rpm=bit.max_rpm), job, ground.rig
    )


def drilled(hole: Hole, bit: Bit, ground: Ground) -> Step | None:
    travel = (
        hole.depth
        + CLEAR_MM
        + (drilling.point_height(bit.diameter, bit.point_angle) if hole.through else 0.0)
    )
    return quickest(bit, "drills", travel, hole.count, ground)


def quickest(bit: Bit, does: str, travel: float, count: int, ground: Ground) -> Step | None:
    best: Step | None = None
    for rpm in speeds_of(bit, ground):
        held = drill_feed(bit, rpm, ground)
        if held is None:
            continue
        feed, limit = held
        torque = drill_torque(bit, feed, ground)
        usable = ground.limits(rpm)
        assert usable is not None
        step = Step(
            bit,
            does,
            rpm,
            feed * rpm,
            torque,
            usable[1],
            drilling.power_of_torque(torque, rpm),
            usable[0],
            limit,
            count * 60.0 * travel / (feed * rpm),
        )
        if best is None or step.seconds < best.seconds:
            best = step
    return best


def bored(hole: Hole, bit: Bit, width: float, ground: Ground) -> Step | None:
    """A boring pass from the drilled size: F = kc·ap·f, as often as its width asks."""
    rpm = speeds_of(bit, ground)[0]
    usable = ground.limits(rpm)
    if usable is None:
        return None
    passes = ceil(width / (8 * BORE_WIDTH_MM) - 1e-9)
    kc = specific_force.specific_force(ground.kc11, ground.mc, bit.feed)
    torque = (
        drilling.annulus_torque(kc, width / passes, bit.feed, hole.diameter) / ground.efficiency
    )
    if torque > usable[1]:
        return None
    seconds = hole.count * passes * 60.0 * (hole.depth + CLEAR_MM) / (bit.feed * rpm)
    return Step(
        bit,
        "bores",
        rpm,
        bit.feed * rpm,
        torque,
        usable[1],
        drilling.power_of_torque(torque, rpm),
        usable[0],
        "feed",
        seconds,
    )


def _as_mill(bit: Bit) -> Cutter:
    return Cutter(
        bit.diameter,
        bit.edges,
        bit.reach,
        bit.feed,
        90.0,
        bit.thinnest_chip,
        bit.thickest_feed,
        bit.max_rpm,
    )


def _to_mill(hole: Hole, bit: Bit, ground: Ground) -> Job:
    return Job(
        hole.depth,
        None,
        ground.kc11,
        ground.mc,
        bit.speed,
        0.0,
        0.0,
        bit.speed_low,
        ground.power_share,
    )


def helical(hole: Hole, bit: Bit, ground: Ground) -> Step | None:
    """A helix in full material: the pitch is what the ramp angle allows, or less where the spindle
    asks for it; the chip that of a full slot.
    """
    circle = pi * (hole.diameter - bit.diameter)
    steepest = min(tan(radians(bit.max_ramp_deg)) * circle, bit.diameter / 2.0)
    cutter, job = _as_mill(bit), _to_mill(hole, bit, ground)
    rig, wide = _weaker(ground.rig, ground.curve_factor), turn_width(hole.diameter, bit.diameter)
    chip = search.thickest(cutter, bit.diameter)
    best: Step | None = None
    for rpm in speeds_of(bit, ground):
        for share in (1.0, 0.75, 0.5, 0.35, 0.25, 0.15, 0.1):
            pitch = steepest * share
            cut = search.candidate(pitch, wide, rpm, cutter, job, rig, chip)
            if cut is None:
                continue
            centre = cut.feed * (hole.diameter - bit.diameter) / hole.diameter
            turns = (hole.depth + CLEAR_MM) / pitch + 1.0
            step = Step(
                bit,
                "mills on a helix",
                rpm,
                centre,
                cut.torque,
                cut.torque_limit * ground.power_share,
                cut.power,
                cut.power_limit * ground.power_share,
                _held_by(cut),
                hole.count * 60.0 * turns * circle / centre,
                pitch,
            )
            if isfinite(step.seconds) and (best is None or step.seconds < best.seconds):
                best = step
    return best


def turn_width(hole: float, tool: float) -> float:
    """How wide a cut (mm) a turn of a helix in full material comes to, at the feed of the tool's
    edge: a turn takes π/4·H² of a hole, π·d·D where its circle d leaves a post, and the edge goes
    π·H. Source: volume of a turn over the way of its edge.
    """
    circle = hole - tool
    return hole / 4.0 if circle <= tool else circle * tool / hole


def _held_by(cut: search.Cut) -> str:
    name = cut.limits[0] if cut.limits else "chip"
    return {"chip": "feed", "feed": "machine"}.get(name, name)


def _weaker(rig: Rig, factor: float) -> Rig:
    if factor == 1.0:
        return rig

    def less(point: CurvePoint) -> CurvePoint:
        return point.model_copy(
            update={"power_kw": point.power_kw * factor, "torque_nm": point.torque_nm * factor}
        )

    ranges = tuple(
        each.model_copy(update={"continuous": tuple(less(point) for point in each.continuous)})
        for each in rig.spindle.ranges
    )
    weaker = rig.spindle.model_copy(update={"ranges": ranges})
    return replace(rig, spindle=weaker)
