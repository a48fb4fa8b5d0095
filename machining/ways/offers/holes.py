"""Holes of the part, alike ones together."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Iterator
from dataclasses import dataclass

from machining.cutting.data import constant
from machining.facts.at_hand import Better, Fits
from machining.geometry.frames import named
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
from machining.world.feature import Hole
from machining.world.tool import Tool

from .bench import Bench, Offer, exists, square

NEXT_SMALLER_DRILL = 0.85
SMALL: Better = lambda t: -t.diameter_mm  # noqa: E731


@dataclass(frozen=True, slots=True)
class Alike:
    """Holes of one diameter and length (mm)."""

    group: str
    on: OnFeatures
    diameter: float
    length: float
    through: bool


def holes(bench: Bench, done: set[tuple[str, str]]) -> Iterator[Offer]:
    up = named(bench.seen.lie.pose.rotation[2])
    alike: dict[tuple[float, float, bool], list[Hole]] = defaultdict(list)
    for hole in bench.features:
        if isinstance(hole, Hole) and up in hole.opens:
            alike[(round(hole.diameter_mm, 3), round(hole.length_mm, 3), hole.through)].append(hole)
    for (diameter, length, through), holes in alike.items():
        ids = tuple(h.id for h in holes)
        group = f"{len(ids)} × Ø{diameter:g} {'through' if through else f'{length:g} deep'}"
        known = Alike(group, OnFeatures(ids=ids), diameter, length, through)
        here = {kind for kind, id in done if id in ids}
        if "drill" not in here:
            yield _drilled(bench, known)
        for kind, offer in _to_size(bench, known):
            if kind not in here:
                yield offer
        if "chamfer" not in here and diameter >= 1.0:
            yield _chamfered(bench, known)
        for offer in (*_opened(bench, known), *_milled(bench, known)):
            if offer.tool and offer.edits[-1].operation.kind not in here:  # type: ignore[union-attr]
                yield offer


def _drilled(bench: Bench, these: Alike) -> Offer:
    on, diameter = these.on, these.diameter
    exact = exists(bench, lambda t: t.kind == "drill" and abs(t.diameter_mm - diameter) < 0.01)

    def fits(t: Tool) -> bool:
        if exact:
            return t.kind == "drill" and abs(t.diameter_mm - diameter) < 0.01
        return t.kind == "drill" and NEXT_SMALLER_DRILL * diameter <= t.diameter_mm < diameter

    peck = diameter if these.length > 3 * diameter else None
    return bench.offer(
        these.group,
        "Drill",
        fits,
        lambda t: t.diameter_mm,
        lambda id, tool, t: Drill(id=id, tool=tool, on=on, peck_mm=peck),
    )


def _to_size(bench: Bench, these: Alike) -> Iterator[tuple[str, Offer]]:
    """What takes a drilled hole to its size, with a tool the shop has."""
    on, diameter, length = these.on, these.diameter, these.length
    blind = None if these.through else round(length - 0.3 * diameter, 2)

    def taps(t: Tool) -> bool:
        drilled = t.diameter_mm - (t.pitch_mm or 0.0)
        return t.kind == "tap" and t.pitch_mm is not None and abs(drilled - diameter) < 0.15

    ways: tuple[tuple[str, str, Fits, Callable[[str, str, Tool | None], Operation]], ...] = (
        (
            "ream",
            "Ream",
            lambda t: t.kind == "reamer" and abs(t.diameter_mm - diameter) < 0.01,
            lambda id, tool, t: Ream(id=id, tool=tool, on=on, depth_mm=blind),
        ),
        (
            "bore",
            "Bore",
            lambda t: t.kind == "boring_head" and abs(t.diameter_mm - diameter) < 0.5,
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
    for kind, label, fits, make in ways:
        if exists(bench, fits):
            yield kind, bench.offer(these.group, label, fits, lambda t: t.diameter_mm, make)


def _chamfered(bench: Bench, these: Alike) -> Offer:
    return bench.offer(
        these.group,
        "Chamfer",
        lambda t: t.kind == "chamfer_mill",
        SMALL,
        lambda id, tool, t: Chamfer(id=id, tool=tool, on=these.on, size_mm=0.3),
    )


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
    yield bench.offer(
        these.group,
        "Counterbore",
        lambda t: square(t) and t.diameter_mm <= wide,
        lambda t: t.diameter_mm,
        lambda id, tool, t: Counterbore(
            id=id,
            tool=tool,
            on=on,
            diameter_mm=wide,
            depth_mm=deep,
            step_down_mm=_step_down(t, diameter),
        ),
        rare=True,
    )
    if these.through:
        yield bench.offer(
            these.group,
            "Chamfer behind",
            lambda t: t.kind == "undercut_mill" and t.diameter_mm < diameter - 0.5,
            lambda t: t.diameter_mm,
            lambda id, tool, t: BackChamfer(id=id, tool=tool, on=on),
            rare=True,
        )


def _milled(bench: Bench, these: Alike) -> Iterator[Offer]:
    """Helixes and milled threads."""
    on, diameter, length = these.on, these.diameter, these.length
    yield bench.offer(
        these.group,
        "Mill",
        lambda t: (
            square(t)
            and t.centre_cutting
            and t.diameter_mm <= 0.8 * diameter
            and t.usable_length_mm >= length
        ),
        lambda t: t.diameter_mm,
        lambda id, tool, t: MillHole(id=id, tool=tool, on=on, step_down_mm=_step_down(t, diameter)),
        rare=True,
    )
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
