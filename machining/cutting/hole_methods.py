"""The ways to make a hole, what each asks of a spindle and how long it takes, and where the order
of two ways turns.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field, replace
from math import ceil, inf, isfinite, pi, radians, tan

from machining.quantities.checks import positive
from machining.quantities.said import Said, Shown
from machining.world.machine import CurvePoint, Machine

from . import drilling, search, specific_force, speeds, spindle
from .search import Cutter, Job

SAME_SIZE_MM = 0.02
LEAST_FEED_SHARE = 0.25  # of the data's feed; below it a drill rubs more than it cuts
DEEP = 8.0  # diameters a solid drill goes without a pilot
PILOT_DEEP = 2.0
CLEAR_MM = 2.0
BORE_WIDTH_MM = 0.25
PLUNGE_SHARE = 0.3
SMALLEST_HELIX_SHARE, LARGEST_HELIX_SHARE = 0.5, 0.9


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
    machine: Machine
    power_share: float = 0.85
    curve_factor: float = 1.0

    def limits(self, rpm: float) -> tuple[float, float] | None:
        """Usable power (kW) and torque (N·m) at a speed; None where no range turns it."""
        turning = spindle.range_for(self.machine, rpm)
        if turning is None:
            return None
        low, high = spindle.neighbours(turning.continuous, rpm)
        share = self.power_share * self.curve_factor
        power = spindle.available_power(rpm, low.rpm, low.power_kw, high.rpm, high.power_kw)
        return share * power, share * spindle.available_torque(
            rpm, low.rpm, low.torque_nm, high.rpm, high.torque_nm
        )

    @property
    def efficiency(self) -> float:
        return self.machine.efficiency if self.machine.curves_at == "motor" else 1.0


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


@dataclass(frozen=True, slots=True)
class Method:
    """A way to make the hole; without steps it can't be done here, and ``because`` says why."""

    name: str
    steps: tuple[Step, ...] = ()
    seconds: float = inf
    pockets: int = 0
    because: Said = field(default_factory=Said)
    suits: str = ""


@dataclass(frozen=True, slots=True)
class Crossing:
    """``other`` becomes quicker once the spindle gives under ``factor`` of its curve, ``torque``
    N·m at the winner's speed.
    """

    other: str
    factor: float
    torque: float


@dataclass(frozen=True, slots=True)
class Ranking:
    methods: tuple[Method, ...]
    crossing: Crossing | None = field(default=None)


def rank(hole: Hole, bits: Sequence[Bit], ground: Ground) -> Ranking:
    """Every method, the quickest first, those that can't be done last; and where the first would
    lose its place.

    Raises OutOfRange for a hole without size.
    """
    positive("diameter", hole.diameter)
    positive("depth", hole.depth)
    positive("count", hole.count)
    methods = _methods(hole, bits, ground)
    return Ranking(tuple(methods), _crossing(hole, bits, ground, methods))


def _methods(hole: Hole, bits: Sequence[Bit], ground: Ground) -> list[Method]:
    ways: list[Callable[[Hole, Sequence[Bit], Ground], Method]] = [
        _drill,
        _insert_drill,
        _deep_drill,
        _helix,
        _bore,
        _plunge,
    ]
    found = [way(hole, bits, ground) for way in ways]
    return sorted(found, key=lambda method: (not method.steps, method.seconds))


def _crossing(
    hole: Hole, bits: Sequence[Bit], ground: Ground, methods: list[Method]
) -> Crossing | None:
    """Bisect the factor on the spindle's curve under which another method is first."""
    if not methods or not methods[0].steps:
        return None
    first = methods[0]

    def leader(factor: float) -> Method:
        return _methods(hole, bits, replace(ground, curve_factor=ground.curve_factor * factor))[0]

    low, high = 0.01, 1.0
    if leader(low).name == first.name:
        return None
    for _ in range(18):
        middle = (low + high) / 2.0
        low, high = (low, middle) if leader(middle).name == first.name else (middle, high)
    other = leader(low)
    asked = max(first.steps, key=lambda step: step.torque / step.torque_limit)
    usable = ground.limits(asked.rpm)
    assert usable is not None
    return Crossing(
        other.name if other.steps else "",
        high,
        usable[1] / ground.power_share / ground.curve_factor * high,
    )


def _exact(bits: Sequence[Bit], kinds: frozenset[str], diameter: float) -> list[Bit]:
    return [
        bit
        for bit in bits
        if bit.kind in kinds and abs(bit.diameter - diameter) <= SAME_SIZE_MM and not bit.misfit
    ]


def _size(diameter: float) -> dict[str, Shown]:
    return {"size": Shown(diameter, "size")}


def _none(bits: Sequence[Bit], kinds: frozenset[str], diameter: float, words: str) -> Said:
    """Why there is none: one that does not fit the machine, or none at all."""
    misfit = next(
        (
            bit
            for bit in bits
            if bit.kind in kinds and abs(bit.diameter - diameter) <= SAME_SIZE_MM and bit.misfit
        ),
        None,
    )
    if misfit is not None and misfit.misfit is not None:
        return Said(f"{misfit.name} {misfit.misfit.text}", misfit.misfit.values)
    return Said(f"there is no {words} of {{size}}", _size(diameter))


def _drill(hole: Hole, bits: Sequence[Bit], ground: Ground) -> Method:
    name = "drill"
    kinds = frozenset({"drill"})
    sized = _exact(bits, kinds, hole.diameter)
    if not sized:
        return Method(name, because=_none(bits, kinds, hole.diameter, "drill"))
    if hole.depth > DEEP * hole.diameter:
        return Method(
            name,
            because=Said(
                "deeper than {times} times its diameter: it needs a pilot",
                {"times": Shown(DEEP, "count")},
            ),
        )
    return _best(
        name,
        [(bit, _drilled(hole, bit, ground)) for bit in sized if bit.reach >= hole.depth],
        ground,
        _short(hole),
    )


def _insert_drill(hole: Hole, bits: Sequence[Bit], ground: Ground) -> Method:
    name = "insert drill"
    kinds = frozenset({"insert_drill"})
    sized = _exact(bits, kinds, hole.diameter)
    if not sized:
        return Method(name, because=_none(bits, kinds, hole.diameter, "insert drill"))
    return _best(
        name,
        [(bit, _drilled(hole, bit, ground)) for bit in sized if bit.reach >= hole.depth],
        ground,
        _short(hole),
        "starts on a flat face only",
    )


def _deep_drill(hole: Hole, bits: Sequence[Bit], ground: Ground) -> Method:
    name = "pilot and deep drill"
    if hole.depth <= DEEP * hole.diameter:
        return Method(name, because=Said("the hole is not deep enough to need it"))
    sized = _exact(bits, frozenset({"drill"}), hole.diameter)
    long, short = [b for b in sized if b.reach >= hole.depth], sorted(sized, key=lambda b: b.reach)
    if not long or len(sized) < 2:
        return Method(
            name,
            because=Said(
                "it needs a drill of {size} that reaches {depth}, and a short one for the pilot",
                {**_size(hole.diameter), "depth": Shown(hole.depth, "length")},
            ),
        )
    pilot = replace(hole, depth=PILOT_DEEP * hole.diameter, through=False)
    steps = _drilled(pilot, short[0], ground), _drilled(hole, long[0], ground)
    return _joined(name, [step for step in steps if step], 2, ground)


def _bore(hole: Hole, bits: Sequence[Bit], ground: Ground) -> Method:
    name = "drill and bore"
    heads = [
        b
        for b in bits
        if b.kind == "boring_head"
        and not b.misfit
        and abs(b.diameter - hole.diameter) <= 0.5
        and b.reach >= hole.depth
    ]
    under = [
        b
        for b in bits
        if b.kind in ("drill", "insert_drill")
        and not b.misfit
        and 0 < hole.diameter - b.diameter <= 4.0
        and b.reach >= hole.depth
    ]
    if not heads or not under:
        return Method(
            name,
            because=Said(
                (
                    "there is no boring head of {size}"
                    if not heads
                    else "there is no drill a little under {size}"
                ),
                _size(hole.diameter),
            ),
        )
    largest = max(under, key=lambda b: b.diameter)
    first, last = (
        _drilled(hole, largest, ground),
        _bored(hole, heads[0], (hole.diameter - largest.diameter) / 2.0, ground),
    )
    return _joined(
        name,
        [step for step in (first, last) if step],
        2,
        ground,
        "for a close size, a true axis or a fine finish",
    )


def _helix(hole: Hole, bits: Sequence[Bit], ground: Ground) -> Method:
    name = "mill on a helix"
    least, most = SMALLEST_HELIX_SHARE * hole.diameter, LARGEST_HELIX_SHARE * hole.diameter
    mills = [
        b
        for b in bits
        if b.kind in ("end_mill", "roughing_end_mill")
        and not b.misfit
        and least < b.diameter <= most
        and b.max_ramp_deg > 0
    ]
    if not mills:
        return Method(
            name,
            because=Said(
                "there is no end mill of {least} to {most} that may ramp",
                {"least": Shown(least, "length"), "most": Shown(most, "length")},
            ),
        )
    return _best(
        name,
        [(bit, _helical(hole, bit, ground)) for bit in mills if bit.reach >= hole.depth],
        ground,
        _short(hole),
        "any size with one tool; a small spindle can do it",
    )


def _plunge(hole: Hole, bits: Sequence[Bit], ground: Ground) -> Method:
    name = "plunge an end mill"
    mills = [
        b for b in _exact(bits, frozenset({"end_mill"}), hole.diameter) if b.reach >= hole.depth
    ]
    if not mills:
        return Method(
            name,
            because=Said(
                "there is no end mill of {size} that reaches {depth}",
                {**_size(hole.diameter), "depth": Shown(hole.depth, "length")},
            ),
        )
    cutting = [b for b in mills if b.centre_cutting]
    if not cutting:
        return Method(
            name,
            because=Said("an end mill that does not cut over its centre can't go straight down"),
        )
    as_drill = [
        replace(b, feed=b.feed * b.edges * PLUNGE_SHARE, point_angle=180.0) for b in cutting
    ]
    return _best(
        name,
        [(bit, _drilled(hole, bit, ground)) for bit in as_drill],
        ground,
        Said(""),
        "a flat bottom; not true to size",
    )


def _best(
    name: str,
    tried: list[tuple[Bit, Step | None]],
    ground: Ground,
    nothing: Said,
    suits: str = "",
) -> Method:
    if not tried:
        return Method(name, because=nothing)
    steps = [step for _, step in tried if step is not None]
    if not steps:
        return Method(name, because=_stalls(tried[0][0], ground))
    return _joined(name, [min(steps, key=lambda step: step.seconds)], 1, ground, suits)


def _joined(name: str, steps: list[Step], wanted: int, ground: Ground, suits: str = "") -> Method:
    if len(steps) < wanted:
        return Method(name, because=Said("the spindle can't turn it"))
    changes = wanted * ground.machine.chip_to_chip_s
    return Method(
        name,
        tuple(steps),
        sum(step.seconds for step in steps) + changes,
        sum(not step.bit.loaded for step in steps),
        suits=suits,
    )


def _short(hole: Hole) -> Said:
    return Said("none of them reaches {depth}", {"depth": Shown(hole.depth, "length")})


def _stalls(bit: Bit, ground: Ground) -> Said:
    rpm = max(
        min(speeds.spindle_speed(bit.speed_low, bit.diameter), ground.machine.max_rpm),
        ground.machine.min_rpm,
    )
    usable = ground.limits(rpm)
    if usable is None:
        return Said("no range turns {rpm}", {"rpm": Shown(rpm, "spindle_speed")})
    needed = drill_torque(bit, bit.feed * LEAST_FEED_SHARE, ground)
    values = {
        "needed": Shown(needed, "torque"),
        "has": Shown(usable[1], "torque"),
        "rpm": Shown(rpm, "spindle_speed"),
    }
    return Said(
        "the spindle stalls: a quarter of its feed asks {needed}, and it gives {has} at {rpm}",
        values,
    )


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
        "machine": ground.machine.max_feed_mm_min / rpm,
    }
    name = min(limits, key=lambda each: limits[each])
    return (limits[name], name) if limits[name] >= LEAST_FEED_SHARE * bit.feed else None


def _speeds(bit: Bit, ground: Ground) -> list[float]:
    job = Job(1.0, None, ground.kc11, ground.mc, bit.speed, 0.0, 0.0, speed_low=bit.speed_low)
    return search.turning_speeds(
        Cutter(bit.diameter, bit.edges, 1.0, bit.feed, max_rpm=bit.max_rpm), job, ground.machine
    )


def _drilled(hole: Hole, bit: Bit, ground: Ground) -> Step | None:
    travel = (
        hole.depth
        + CLEAR_MM
        + (drilling.point_height(bit.diameter, bit.point_angle) if hole.through else 0.0)
    )
    return _quickest(bit, "drills", travel, hole.count, ground)


def _quickest(bit: Bit, does: str, travel: float, count: int, ground: Ground) -> Step | None:
    best: Step | None = None
    for rpm in _speeds(bit, ground):
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


def _bored(hole: Hole, bit: Bit, width: float, ground: Ground) -> Step | None:
    """A boring pass from the drilled size: F = kc·ap·f, as often as its width asks."""
    rpm = _speeds(bit, ground)[0]
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


def _helical(hole: Hole, bit: Bit, ground: Ground) -> Step | None:
    """A helix of full width: the pitch is what the ramp angle allows, or less where the spindle
    asks for it.
    """
    circle = pi * (hole.diameter - bit.diameter)
    steepest = min(tan(radians(bit.max_ramp_deg)) * circle, bit.diameter / 2.0)
    cutter = Cutter(
        bit.diameter,
        bit.edges,
        bit.reach,
        bit.feed,
        90.0,
        bit.thinnest_chip,
        bit.thickest_feed,
        bit.max_rpm,
    )
    job = Job(
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
    machine = _weaker(ground.machine, ground.curve_factor)
    best: Step | None = None
    for rpm in _speeds(bit, ground):
        for share in (1.0, 0.75, 0.5, 0.35, 0.25, 0.15, 0.1):
            pitch = steepest * share
            cut = search.candidate(pitch, bit.diameter, rpm, cutter, job, machine)
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
                {"chip": "feed", "feed": "machine"}.get(cut.limits[0], cut.limits[0]),
                hole.count * 60.0 * turns * circle / centre,
                pitch,
            )
            if isfinite(step.seconds) and (best is None or step.seconds < best.seconds):
                best = step
    return best


def _weaker(machine: Machine, factor: float) -> Machine:
    if factor == 1.0:
        return machine

    def less(point: CurvePoint) -> CurvePoint:
        return point.model_copy(
            update={"power_kw": point.power_kw * factor, "torque_nm": point.torque_nm * factor}
        )

    ranges = tuple(
        each.model_copy(update={"continuous": tuple(less(point) for point in each.continuous)})
        for each in machine.ranges
    )
    return machine.model_copy(update={"ranges": ranges})
