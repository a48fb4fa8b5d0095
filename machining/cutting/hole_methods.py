"""The ways to make a hole, what each asks of a spindle and how long it takes, and where the order
of two ways turns.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field, replace
from math import inf

from machining.quantities.checks import positive
from machining.quantities.said import Said, Shown

from . import speeds
from .hole_steps import (
    LEAST_FEED_SHARE,
    Bit,
    Ground,
    Hole,
    Step,
    bored,
    drill_torque,
    drilled,
    helical,
)

SAME_SIZE_MM = 0.02
DEEP = 8.0  # diameters a solid drill goes without a pilot
PILOT_DEEP = 2.0
PLUNGE_SHARE = 0.3
SMALLEST_HELIX_SHARE, LARGEST_HELIX_SHARE = 0.5, 0.9


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
    """Why there is none: one that does not fit the rig, or none at all."""
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
        [(bit, drilled(hole, bit, ground)) for bit in sized if bit.reach >= hole.depth],
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
        [(bit, drilled(hole, bit, ground)) for bit in sized if bit.reach >= hole.depth],
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
    steps = drilled(pilot, short[0], ground), drilled(hole, long[0], ground)
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
        drilled(hole, largest, ground),
        bored(hole, heads[0], (hole.diameter - largest.diameter) / 2.0, ground),
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
        [(bit, helical(hole, bit, ground)) for bit in mills if bit.reach >= hole.depth],
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
        [(bit, drilled(hole, bit, ground)) for bit in as_drill],
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
    changes = wanted * ground.rig.carrier.chip_to_chip_s
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
        min(speeds.spindle_speed(bit.speed_low, bit.diameter), ground.rig.spindle.max_rpm),
        ground.rig.spindle.min_rpm,
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
