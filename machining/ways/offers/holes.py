"""Holes of the part, alike ones together."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Iterator

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


def holes(bench: Bench, done: set[tuple[str, str]]) -> Iterator[Offer]:
    up = named(bench.seen.lie.pose.rotation[2])
    alike: dict[tuple[float, float, bool], list[Hole]] = defaultdict(list)
    for hole in bench.features:
        if isinstance(hole, Hole) and up in hole.opens:
            alike[(round(hole.diameter_mm, 3), round(hole.length_mm, 3), hole.through)].append(hole)
    for (diameter, length, through), holes in alike.items():
        ids = tuple(h.id for h in holes)
        on = OnFeatures(ids=ids)
        group = f"{len(ids)} × Ø{diameter:g} {'through' if through else f'{length:g} deep'}"
        yield from _hole_offers(
            bench, group, on, diameter, length, through, {kind for kind, id in done if id in ids}
        )


def _hole_offers(
    bench: Bench,
    group: str,
    on: OnFeatures,
    diameter: float,
    length: float,
    through: bool,
    done: set[str],
) -> Iterator[Offer]:
    exact = exists(bench, lambda t: t.kind == "drill" and abs(t.diameter_mm - diameter) < 0.01)
    least = 0.0 if exact else NEXT_SMALLER_DRILL * diameter
    if "drill" not in done:
        yield bench.offer(
            group,
            "Drill",
            lambda t: (
                t.kind == "drill"
                and (
                    abs(t.diameter_mm - diameter) < 0.01
                    if exact
                    else least <= t.diameter_mm < diameter
                )
            ),
            lambda t: t.diameter_mm,
            lambda id, tool, t: Drill(
                id=id, tool=tool, on=on, peck_mm=diameter if length > 3 * diameter else None
            ),
        )
    blind = None if through else round(length - 0.3 * diameter, 2)

    def taps(t: Tool) -> bool:
        drilled = t.diameter_mm - (t.pitch_mm or 0.0)
        return t.kind == "tap" and t.pitch_mm is not None and abs(drilled - diameter) < 0.15

    rest: tuple[tuple[str, str, Fits, Callable[[str, str, Tool | None], Operation]], ...] = (
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
                id=id, tool=tool, on=on, depth_mm=length if through else _thread_depth(length, t)
            ),
        ),
    )
    for kind, label, fits, make in rest:
        if kind not in done and exists(bench, fits):
            yield bench.offer(group, label, fits, lambda t: t.diameter_mm, make)
    if "chamfer" not in done and diameter >= 1.0:
        yield bench.offer(
            group,
            "Chamfer",
            lambda t: t.kind == "chamfer_mill",
            lambda t: -t.diameter_mm,
            lambda id, tool, t: Chamfer(id=id, tool=tool, on=on, size_mm=0.3),
        )
    for offer in _rare_in_holes(bench, group, on, diameter, length, through):
        if offer.tool and offer.edits[-1].operation.kind not in done:  # type: ignore[union-attr]
            yield offer


def _rare_in_holes(
    bench: Bench, group: str, on: OnFeatures, diameter: float, length: float, through: bool
) -> Iterator[Offer]:
    """Mouths, far edges, helixes and milled threads; only what a tool of the shop can do."""
    small: Better = lambda t: -t.diameter_mm  # noqa: E731
    mouth, wide, deep = (
        round(diameter + 1.0, 1),
        round(1.6 * diameter, 1),
        round(min(diameter, 0.5 * length), 1),
    )
    yield bench.offer(
        group,
        "Spot",
        lambda t: t.kind == "spot_drill" and t.diameter_mm >= mouth,
        small,
        lambda id, tool, t: Spot(id=id, tool=tool, on=on, mouth_diameter_mm=mouth),
        rare=True,
    )
    yield bench.offer(
        group,
        "Mill",
        lambda t: (
            square(t)
            and t.centre_cutting
            and t.diameter_mm <= 0.8 * diameter
            and t.usable_length_mm >= length
        ),
        lambda t: t.diameter_mm,
        lambda id, tool, t: MillHole(
            id=id, tool=tool, on=on, step_down_mm=round(0.1 * (t.diameter_mm if t else diameter), 2)
        ),
        rare=True,
    )
    yield bench.offer(
        group,
        "Countersink",
        lambda t: t.kind in ("chamfer_mill", "spot_drill") and t.diameter_mm >= mouth,
        small,
        lambda id, tool, t: Countersink(id=id, tool=tool, on=on, mouth_diameter_mm=mouth),
        rare=True,
    )
    yield bench.offer(
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
            step_down_mm=round(0.1 * (t.diameter_mm if t else diameter), 2),
        ),
        rare=True,
    )
    if through:
        yield bench.offer(
            group,
            "Chamfer behind",
            lambda t: t.kind == "undercut_mill" and t.diameter_mm < diameter - 0.5,
            lambda t: t.diameter_mm,
            lambda id, tool, t: BackChamfer(id=id, tool=tool, on=on),
            rare=True,
        )
    yield bench.offer(
        group,
        "Mill thread",
        lambda t: (
            t.kind == "thread_mill"
            and t.pitch_mm is not None
            and t.diameter_mm < diameter < t.diameter_mm + 2.0 * t.pitch_mm
            and t.usable_length_mm >= length
        ),
        lambda t: t.rows,
        lambda id, tool, t: _milled_thread(
            id, tool, on, diameter, length, through, (t.pitch_mm if t else None) or 1.0
        ),
        rare=True,
    )


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
