"""What limits a roughing cut, and the cut that removes most inside every limit.

Depths are whole divisions of the height, widths of the width to be cut, so that the last pass is as
full as the others. For each of them the feed that power, torque, chip and machine allow follows in
closed form, since with Kienzle's law power and force grow with feed^(1 − mc). Push-off and holding
need the force simulation, so they are asked only of the best candidate left, until the best one
passes: nothing that was not asked can be better.
"""

from __future__ import annotations

import heapq
from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from itertools import count
from math import ceil, inf, isfinite, radians, sin

from machining.quantities.checks import positive, within
from machining.world.capability import Rig

from . import engagement, forces, specific_force, speeds, spindle

MOST_DEPTHS, MOST_WIDTHS = 12, 40
NARROWEST = 0.02  # of the diameter
MAX_THINNING = 2.0
FEED_ROUNDS, ROUNDING = 6, 1e-9

Geometry = tuple[float, float, float]  # depth and width (mm), speed (rpm)


@dataclass(frozen=True, slots=True)
class Cutter:
    """What the search knows of a tool: mm, rpm. ``chip`` is the thickest chip the material is cut
    with.
    """

    diameter: float
    edges: int
    flute_length: float
    chip: float
    edge_angle: float = 90.0
    thinnest_chip: float = 0.01
    thickest_feed: float = inf
    max_rpm: float = inf


@dataclass(frozen=True, slots=True)
class Job:
    """What is to be cut and what it may ask: height and width (mm, None = as wide as you like), the
    material's Kienzle constants, the speed (m/min), the share of the continuous curve, the largest
    side force (N), the largest push-off (mm). ``extra_depth`` and ``extra_width`` are what a sawn
    blank can be larger by: every limit is kept there too.
    """

    height: float
    width: float | None
    kc11: float
    mc: float
    speed: float
    radial_ratio: float
    axial_ratio: float
    speed_low: float | None = None
    power_share: float = 0.85
    largest_force: float = inf
    largest_push_off: float = inf
    helix: float = 30.0
    extra_depth: float = 0.0
    extra_width: float = 0.0

    def worst(self, depth: float, width: float, diameter: float) -> tuple[float, float]:
        """Depth and width where the blank is at its largest."""
        return depth + self.extra_depth, min(width + self.extra_width, diameter)


@dataclass(frozen=True, slots=True)
class School:
    """A way of roughing: which depths and widths it uses, as shares of the diameter."""

    name: str
    least_width: float = 0.0
    most_width: float = 1.0
    most_depth: float = inf
    full_depth: bool = False


FULL_DEPTH = School("full depth, light width", most_width=0.3, full_depth=True)
SHALLOW = School("shallow, wide", least_width=0.4, most_width=0.75, most_depth=1.0)
ANY = School("whatever removes most")


@dataclass(frozen=True, slots=True)
class Cut:
    """A cut inside every limit. ``limits`` names what keeps it from removing more, the first first,
    ``feed`` is in mm/min; power, torque, force and push-off are those where the blank is at its
    largest.
    """

    depth: float
    width: float
    feed_per_tooth: float
    rpm: float
    feed: float
    removal: float
    power: float
    power_limit: float
    torque: float
    torque_limit: float
    limits: tuple[str, ...]
    side_force: float | None = None
    push_off: float | None = None


def depths(height: float, cutter: Cutter, school: School) -> list[float]:
    """Equal steps down, deepest first, none deeper than the flutes or the school allows."""
    deepest = min(cutter.flute_length, school.most_depth * cutter.diameter, height)
    first = ceil(height / deepest - 1e-9)
    return [height / k for k in range(first, first + (1 if school.full_depth else MOST_DEPTHS))]


def widths(width: float | None, cutter: Cutter, school: School) -> list[float]:
    """Steps over, widest first: whole divisions of the width, or shares of the diameter where there
    is no width.
    """
    widest, narrowest = (
        school.most_width * cutter.diameter,
        max(school.least_width, NARROWEST) * cutter.diameter,
    )
    if width is None:
        return [
            widest * (narrowest / widest) ** (k / (MOST_WIDTHS - 1)) for k in range(MOST_WIDTHS)
        ]
    first = ceil(width / min(widest, width) - 1e-9)
    found = [width / k for k in range(first, first + MOST_WIDTHS)]
    return [each for each in found if each >= narrowest - 1e-9] or found[:1]


def candidate(
    depth: float,
    width: float,
    rpm: float,
    cutter: Cutter,
    job: Job,
    rig: Rig,
    most_feed: float = inf,
) -> Cut | None:
    """The fastest feed at a depth, width and speed inside power, torque, chip and machine; None
    where even a chip as thin as the edge is sharp asks too much. ``most_feed`` holds the feed per
    tooth back for what is asked later.
    """
    power_limit, torque_limit = _turns(rpm, rig)
    if power_limit <= 0 or torque_limit <= 0:
        return None
    at_1_mm = _power(depth, width, 1.0, rpm, cutter, job, rig)
    limits = {
        "chip": thickest(cutter, width),
        "feed": rig.machine.max_feed_mm_min / (rpm * cutter.edges),
        "power": _feed_for(power_limit * job.power_share, at_1_mm, job.mc),
        "torque": _feed_for(
            torque_limit * job.power_share, specific_force.torque(at_1_mm, rpm), job.mc
        ),
        "later": most_feed,
    }
    if (chip := min(limits.values())) < cutter.thinnest_chip:
        return None
    feed = speeds.feed(rpm, chip, cutter.edges)
    power = _power(depth, width, chip, rpm, cutter, job, rig)
    return Cut(
        depth,
        width,
        chip,
        rpm,
        feed,
        specific_force.milling_removal(depth, width, feed),
        power,
        power_limit,
        specific_force.torque(power, rpm),
        torque_limit,
        _reached(limits, chip),
    )


def _turns(rpm: float, rig: Rig) -> tuple[float, float]:
    """Power (kW) and torque (Nm) of the spindle at a speed; none where it has no range for it."""
    turning = spindle.range_for(rig.spindle, rpm)
    if turning is None:
        return 0.0, 0.0
    low, high = spindle.neighbours(turning.continuous, rpm)
    power = spindle.available_power(rpm, low.rpm, low.power_kw, high.rpm, high.power_kw)
    return power, spindle.available_torque(
        rpm, low.rpm, low.torque_nm, high.rpm, high.torque_nm, power
    )


def _reached(limits: dict[str, float], chip: float) -> tuple[str, ...]:
    """What holds the feed back; where power is level its torque is the same limit, and not named
    again.
    """
    found = [name for name, at in limits.items() if at <= chip * (1 + 1e-9)]
    same = {"later", "torque"} if "power" in found else {"later"}
    return tuple(name for name in found if name not in same)


def thickest(cutter: Cutter, width: float) -> float:
    """The most feed per tooth (mm) that its edge takes at a width."""
    return min(
        engagement.feed_for_chip(cutter.chip, width, cutter.diameter, cutter.edge_angle),
        MAX_THINNING * cutter.chip / sin(radians(cutter.edge_angle)),
        cutter.thickest_feed,
    )


def _power(
    depth: float, width: float, chip: float, rpm: float, cutter: Cutter, job: Job, rig: Rig
) -> float:
    """Power at the motor, kW."""
    depth, width = job.worst(depth, width, cutter.diameter)
    mean = engagement.mean_chip(chip, width, cutter.diameter, cutter.edge_angle)
    kc = specific_force.specific_force(job.kc11, job.mc, mean)
    at_edge = specific_force.milling_power(depth, width, speeds.feed(rpm, chip, cutter.edges), kc)
    return at_edge / rig.spindle.reaches_edge


def _feed_for(limit: float, at_one: float, mc: float) -> float:
    return float((limit / at_one) ** (1.0 / (1.0 - mc)))


def turning_speeds(cutter: Cutter, job: Job, rig: Rig) -> list[float]:
    """The wanted speed inside the limits of spindle and tool, and slower ones of the material's
    band where the spindle gives more torque: the tops of slower ranges, the corners of its curves,
    the low end of the band.
    """
    wanted = max(
        min(speeds.spindle_speed(job.speed, cutter.diameter), cutter.max_rpm, rig.spindle.max_rpm),
        rig.spindle.min_rpm,
    )
    slowest = max(
        speeds.spindle_speed(job.speed_low or job.speed, cutter.diameter), rig.spindle.min_rpm
    )
    corners = {point.rpm for each in rig.spindle.ranges for point in each.continuous} | {
        each.max_rpm for each in rig.spindle.ranges
    }
    return [wanted, *sorted(rpm for rpm in {*corners, slowest} if slowest <= rpm < wanted * 0.999)]


def search(
    cutter: Cutter, job: Job, rig: Rig, give: Callable[[float], float], school: School = ANY
) -> Cut | None:
    """The cut of a school that removes most inside every limit, or None where nothing fits.

    ``give(depth)`` is the push-off in mm of one newton on a wall of that depth. Raises OutOfRange
    for values not over 0.
    """
    positive("height", job.height)
    if job.width is not None:
        positive("width", job.width)
    within("power_share", job.power_share, 0.0, 1.0, low_open=True)
    order = count()
    waiting: list[tuple[float, int, Cut | Geometry]] = [
        (-most, next(order), at) for most, at in _candidates(cutter, job, rig, school)
    ]
    heapq.heapify(waiting)
    held_back: dict[str, None] = {}
    while waiting:
        _, turn, found = heapq.heappop(waiting)
        if not isinstance(found, Cut):
            cut = candidate(*found, cutter, job, rig)
        elif found.side_force is not None:
            return replace(found, limits=tuple({**held_back, **dict.fromkeys(found.limits)}))
        else:
            cut, binding = with_forces(found, cutter, job, rig, give)
            turn = next(order)
            held_back.update(dict.fromkeys(binding))
        if cut is not None:
            heapq.heappush(waiting, (-cut.removal, turn, cut))
    return None


def _candidates(
    cutter: Cutter, job: Job, rig: Rig, school: School
) -> Iterator[tuple[float, Geometry]]:
    """Depths, widths and speeds, with the most that each may remove: as :func:`candidate` has it,
    but for rounding.
    """
    all_depths, wide = depths(job.height, cutter, school), widths(job.width, cutter, school)
    # power grows as depth and speed do, for they change nothing of how thick the chip is
    unit = all_depths[0] + job.extra_depth
    each = [
        (w, thickest(cutter, w), _power(all_depths[0], w, 1.0, 1.0, cutter, job, rig) / unit)
        for w in wide
    ]
    for rpm in turning_speeds(cutter, job, rig):
        power, torque = (job.power_share * limit for limit in _turns(rpm, rig))
        if power <= 0 or torque <= 0:
            continue
        power = min(power, torque / specific_force.torque(1.0, rpm))
        fastest = rig.machine.max_feed_mm_min / (rpm * cutter.edges)
        for depth in all_depths:
            for width, chip, at_1_mm in each:
                asks = at_1_mm * (depth + job.extra_depth) * rpm
                most = min(chip, fastest, _feed_for(power, asks, job.mc)) * (1.0 + ROUNDING)
                if most >= cutter.thinnest_chip:
                    feed = speeds.feed(rpm, most, cutter.edges)
                    yield specific_force.milling_removal(depth, width, feed), (depth, width, rpm)


def with_forces(
    cut: Cut, cutter: Cutter, job: Job, rig: Rig, give: Callable[[float], float]
) -> tuple[Cut | None, tuple[str, ...]]:
    """The same cut with its force and push-off, fed slower where they ask for it, and which of them
    did; None where no feed is slow enough.
    """
    binding: tuple[str, ...] = ()
    for _ in range(FEED_ROUNDS):
        depth, width = job.worst(cut.depth, cut.width, cutter.diameter)
        turn = forces.over_one_turn(
            cutter.diameter,
            cutter.edges,
            depth,
            width,
            cut.feed_per_tooth,
            job.kc11,
            job.mc,
            job.radial_ratio,
            job.axial_ratio,
            cutter.edge_angle,
            job.helix,
        )
        push_off = turn.peak_normal * give(cut.depth)
        over = {
            "holding": turn.peak_side / job.largest_force,
            "push-off": push_off / job.largest_push_off if isfinite(job.largest_push_off) else 0.0,
        }
        worst = max(over.values())
        if worst <= 1.0 + 1e-6:
            return replace(cut, side_force=turn.peak_side, push_off=push_off), binding
        binding = tuple(name for name, share in over.items() if share >= worst * 0.999)
        slower = candidate(
            cut.depth,
            cut.width,
            cut.rpm,
            cutter,
            job,
            rig,
            cut.feed_per_tooth * (0.999 / worst) ** (1.0 / (1.0 - job.mc)),
        )
        if slower is None:
            return None, binding
        cut = slower
    return None, binding
