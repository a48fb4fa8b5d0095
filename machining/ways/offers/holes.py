"""Holes of the part, alike ones together."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from math import radians, tan

from machining.cutting.data import constant
from machining.facts.at_hand import Better, Fits
from machining.facts.hole_size import closer_than_drilled
from machining.facts.kinds.base import cone_of
from machining.geometry.frames import Direction
from machining.plan.operation import (
    BackChamfer,
    Bore,
    Chamfer,
    Counterbore,
    Countersink,
    Drill,
    MillHole,
    MillThread,
    Operation,
    Ream,
    Spot,
    Tap,
)
from machining.plan.places import OnFeatures
from machining.world.feature import Hole, Sink
from machining.world.tool import Tool

from .bench import Bench, Offer, exists, square

NEXT_SMALLER_DRILL = 0.85
BREAKS_MM = 0.3
SAME_ANGLE_DEG = 0.5
BORES_MM = 0.5  # either way of its size, to which a boring head is set
SAME_MM = 0.01  # of a drill that makes the hole its size
MILLS_SHARE = 0.8  # of a hole's diameter, up to which a mill goes round in it
SMALL: Better = lambda t: -t.diameter_mm  # noqa: E731


@dataclass(frozen=True, slots=True)
class Alike:
    """Holes of one diameter and length (mm), and one of them for what else is alike in all."""

    group: str
    on: OnFeatures
    diameter: float
    length: float
    through: bool
    one: Hole


def holes(bench: Bench, done: set[tuple[str, str]]) -> Iterator[Offer]:
    up = bench.seen.lie.up
    alike: dict[tuple[object, ...], list[Hole]] = defaultdict(list)
    for hole in bench.features:
        if isinstance(hole, Hole) and up in hole.opens:
            key = (round(hole.diameter_mm, 3), round(hole.length_mm, 3), hole.through)
            alike[(*key, hole.sinks, bool(hole.around), bool(hole.open_deg))].append(hole)
    for members in alike.values():
        yield from _of_holes(bench, members, up, done)


def _of_holes(
    bench: Bench, members: list[Hole], up: Direction | None, done: set[tuple[str, str]]
) -> Iterator[Offer]:
    one, ids = members[0], tuple(h.id for h in members)
    diameter, length, through = round(one.diameter_mm, 3), round(one.length_mm, 3), one.through
    known = Alike(_called(members), OnFeatures(ids=ids), diameter, length, through, one)
    here = {kind for kind, id in done if id in ids}
    if one.around:
        around = {kind for kind, id in done if id in {each.around for each in members}}
        if "counterbore" not in around:
            yield _counterbored(bench, members)
    elif "drill" not in here:
        yield drilled(bench, known)
    told = set[str]()
    for kind, offer in to_size(bench, known):
        told.add(kind)
        if kind not in here:
            yield offer
    sink = next((each for each in one.sinks if each.at == up), None)
    if sink is not None and not here & {"countersink", "spot", "chamfer"}:
        yield _sunk(bench, known, sink)
    elif sink is None and "chamfer" not in here and diameter >= 1.0:
        yield _chamfered(bench, known)
    mouths = () if one.around else _opened(bench, known)
    for offer in (*mouths, *_milled(bench, known)):
        kind = offer.edits[-1].operation.kind  # type: ignore[union-attr]
        if offer.tool and kind not in here | told:
            yield offer


def _called(members: list[Hole]) -> str:
    """Holes that are alike in words."""
    one = members[0]
    deep = "through" if one.through else f"{one.length_mm:g} deep"
    word = ", a counterbore" if one.around else ", over an edge" if one.open_deg else ""
    return f"{len(members)} × Ø{round(one.diameter_mm, 3):g} {deep}{word}"


def _counterbored(bench: Bench, members: list[Hole]) -> Offer:
    """The wider mouth of the holes in their floors."""
    on, one = OnFeatures(ids=tuple(hole.around for hole in members)), members[0]
    wide, deep = round(one.diameter_mm, 3), round(one.length_mm, 3)
    return _opened_to(bench, _called(members), on, wide, deep, wide)


def _opened_to(
    bench: Bench,
    group: str,
    on: OnFeatures,
    wide: float,
    deep: float,
    otherwise: float,
    rare: bool = False,
) -> Offer:
    """A counterbore; ``otherwise`` is the size (mm) its step down is taken from without a tool."""
    return bench.offer(
        group,
        "Counterbore",
        lambda t: square(t) and t.diameter_mm <= wide,
        lambda t: t.diameter_mm,
        lambda id, tool, t: Counterbore(
            id=id,
            tool=tool,
            on=on,
            diameter_mm=wide,
            depth_mm=deep,
            step_down_mm=_step_down(t, otherwise),
        ),
        rare=rare,
    )


def _sunk(bench: Bench, these: Alike, sink: Sink) -> Offer:
    """The cone the drawing has at their mouths."""
    return bench.offer(
        these.group,
        f"Countersink {sink.angle_deg:.4g}° to Ø{sink.diameter_mm:.4g}",
        lambda t: (
            t.kind in ("chamfer_mill", "spot_drill")
            and abs((t.included_angle_deg or 0.0) - sink.angle_deg) < SAME_ANGLE_DEG
            and t.diameter_mm >= sink.diameter_mm
        ),
        SMALL,
        lambda id, tool, t: Countersink(
            id=id, tool=tool, on=these.on, mouth_diameter_mm=round(sink.diameter_mm, 2)
        ),
    )


def drilled(bench: Bench, these: Alike) -> Offer:
    on, diameter = these.on, these.diameter
    exact = _is_drilled(bench, these)

    def fits(t: Tool) -> bool:
        return drills(t, diameter) if exact else goes_before(t, diameter)

    peck = diameter if these.length > 3 * diameter else None
    return bench.offer(
        these.group,
        "Drill",
        fits,
        lambda t: t.diameter_mm,
        lambda id, tool, t: Drill(id=id, tool=tool, on=on, peck_mm=peck),
    )


def _is_drilled(bench: Bench, these: Alike) -> bool:
    """Has the shop a drill that makes it? Not of one that is asked for closer than a drill makes
    it, where another one goes before what does.
    """
    close = any(
        asked.feature in these.on.ids and closer_than_drilled(asked, these.diameter)
        for asked in bench.facts.plan.part.requirements
    )
    widened = (
        close
        and exists(bench, lambda t: widens(t, these.diameter))
        and exists(bench, lambda t: goes_before(t, these.diameter))
    )
    return not widened and _has_drill(bench, these.diameter)


def _has_drill(bench: Bench, diameter: float) -> bool:
    return exists(bench, lambda t: drills(t, diameter))


def drills(tool: Tool, diameter: float) -> bool:
    """Does it make a hole of a size (mm)?"""
    return tool.kind == "drill" and abs(tool.diameter_mm - diameter) < SAME_MM


def goes_before(tool: Tool, diameter: float) -> bool:
    """Does it drill a hole that is taken to a size (mm) after?"""
    smaller = NEXT_SMALLER_DRILL * diameter <= tool.diameter_mm < diameter
    return tool.kind == "drill" and smaller


def goes_round(tool: Tool, diameter: float) -> bool:
    """Is it a mill that goes round in a hole of a size (mm)?"""
    return square(tool) and tool.centre_cutting and tool.diameter_mm <= MILLS_SHARE * diameter


def widens(tool: Tool, diameter: float) -> bool:
    """Does it take a drilled hole to a size (mm)?"""
    off = abs(tool.diameter_mm - diameter)
    return off < {"reamer": SAME_MM, "boring_head": BORES_MM}.get(tool.kind, 0.0)


def to_size(bench: Bench, these: Alike) -> Iterator[tuple[str, Offer]]:
    """What takes a drilled hole to its size, with a tool the shop has."""
    on, diameter, length = these.on, these.diameter, these.length
    blind = None if these.through else round(length - 0.3 * diameter, 2)

    def taps(t: Tool) -> bool:
        before = t.diameter_mm - (t.pitch_mm or 0.0)
        return t.kind == "tap" and t.pitch_mm is not None and abs(before - diameter) < 0.15

    ways: tuple[tuple[str, str, Fits, Callable[[str, str, Tool | None], Operation]], ...] = (
        (
            "ream",
            "Ream",
            lambda t: t.kind == "reamer" and widens(t, diameter),
            lambda id, tool, t: Ream(id=id, tool=tool, on=on, depth_mm=blind),
        ),
        (
            "bore",
            "Bore",
            lambda t: t.kind == "boring_head" and widens(t, diameter),
            lambda id, tool, t: Bore(id=id, tool=tool, on=on),
        ),
        (
            "tap",
            "Tap",
            taps,
            lambda id, tool, t: Tap(
                id=id,
                tool=tool,
                on=on,
                depth_mm=length if these.through else _thread_depth(length, t),
            ),
        ),
    )
    known = [way for way in ways if exists(bench, way[2])]
    is_drilled = _is_drilled(bench, these)
    for kind, label, fits, make in known:
        rare = is_drilled and kind != "tap"  # it has its size by then
        yield kind, bench.offer(these.group, label, fits, lambda t: t.diameter_mm, make, rare)
    if not known and not these.one.around and not _has_drill(bench, diameter):
        yield "mill_hole", _milled_to_size(bench, these)


def _chamfered(bench: Bench, these: Alike) -> Offer:
    return bench.offer(
        these.group,
        "Chamfer",
        lambda t: t.kind == "chamfer_mill",
        SMALL,
        lambda id, tool, t: Chamfer(
            id=id, tool=tool, on=these.on, size_mm=BREAKS_MM, below_mm=_below(these, t)
        ),
    )


def _below(these: Alike, tool: Tool | None) -> float:
    """How far the tip goes below the chamfer (mm), so that half of the flank is: its edge is faster
    there. No further than it has room round its own middle, and in half of the hole.
    """
    if tool is None:
        return 0.0
    angle, flat = cone_of(tool)
    slope = tan(radians(angle / 2.0))
    room = (0.5 * min(tool.diameter_mm, these.diameter) - flat) / (2.0 * slope)
    return max(round(min(room, 0.5 * these.length) - BREAKS_MM, 1), 0.0)


def _opened(bench: Bench, these: Alike) -> Iterator[Offer]:
    """Mouths and far edges."""
    on, diameter = these.on, these.diameter
    mouth, wide = round(diameter + 1.0, 1), round(1.6 * diameter, 1)
    deep = round(min(diameter, 0.5 * these.length), 1)
    yield bench.offer(
        these.group,
        "Spot",
        lambda t: t.kind == "spot_drill" and t.diameter_mm >= mouth,
        SMALL,
        lambda id, tool, t: Spot(id=id, tool=tool, on=on, mouth_diameter_mm=mouth),
        rare=True,
    )
    yield bench.offer(
        these.group,
        "Countersink",
        lambda t: t.kind in ("chamfer_mill", "spot_drill") and t.diameter_mm >= mouth,
        SMALL,
        lambda id, tool, t: Countersink(id=id, tool=tool, on=on, mouth_diameter_mm=mouth),
        rare=True,
    )
    yield _opened_to(bench, these.group, on, wide, deep, diameter, rare=True)
    if these.through:
        yield bench.offer(
            these.group,
            "Chamfer behind",
            lambda t: t.kind == "undercut_mill" and t.diameter_mm < diameter - 0.5,
            lambda t: t.diameter_mm,
            lambda id, tool, t: BackChamfer(id=id, tool=tool, on=on),
            rare=True,
        )


def _milled_to_size(bench: Bench, these: Alike, rare: bool = False) -> Offer:
    on, diameter = these.on, these.diameter
    return bench.offer(
        these.group,
        "Mill",
        lambda t: goes_round(t, diameter) and t.usable_length_mm >= these.length,
        lambda t: t.diameter_mm,
        lambda id, tool, t: MillHole(id=id, tool=tool, on=on, step_down_mm=_step_down(t, diameter)),
        rare=rare,
    )


def _milled(bench: Bench, these: Alike) -> Iterator[Offer]:
    """Helixes and milled threads."""
    on, diameter, length = these.on, these.diameter, these.length
    yield _milled_to_size(bench, these, rare=True)
    yield bench.offer(
        these.group,
        "Mill thread",
        lambda t: (
            t.kind == "thread_mill"
            and t.pitch_mm is not None
            and t.diameter_mm < diameter < t.diameter_mm + 2.0 * t.pitch_mm
            and t.usable_length_mm >= length
        ),
        lambda t: t.rows,
        lambda id, tool, t: _milled_thread(
            id, tool, on, diameter, length, these.through, (t.pitch_mm if t else None) or 1.0
        ),
        rare=True,
    )


def _step_down(tool: Tool | None, diameter: float) -> float:
    return round(0.1 * (tool.diameter_mm if tool else diameter), 2)


def _milled_thread(
    id: str, tool: str, on: OnFeatures, hole: float, length: float, through: bool, pitch: float
) -> MillThread:
    """A thread over a hole drilled for it: its diameter is the hole's and a pitch, to the next half
    millimetre.
    """
    return MillThread(
        id=id,
        tool=tool,
        on=on,
        major_mm=round(2.0 * (hole + pitch)) / 2.0,
        pitch_mm=pitch,
        depth_mm=length if through else max(round(length - pitch, 2), 1.0),
        passes=2,
    )


def _thread_depth(hole: float, tap: Tool | None) -> float:
    """How deep (mm) a tap can thread a blind hole and leave room for its chamfer."""
    return max(
        round(
            hole - constant("tap", "chamfer_threads") * ((tap.pitch_mm if tap else None) or 0.0), 2
        ),
        1.0,
    )
