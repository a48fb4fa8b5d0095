"""What could be cut next in a setup, each offer as ready edits with a fitting tool and starting
values.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Iterator
from dataclasses import replace
from math import ceil

from machining.cutting.data import constant
from machining.facts.at_hand import Better, Fits
from machining.facts.context import PlanFacts, SetupFacts
from machining.geometry.frames import named
from machining.plan.edit import AddOperation, Change
from machining.plan.operation import (
    BackChamfer,
    Bore,
    Chamfer,
    Counterbore,
    Countersink,
    Drill,
    Engrave,
    Face,
    FinishFloor,
    FinishWalls,
    Lines,
    MillHole,
    MillThread,
    OnFeatures,
    Operation,
    Outside,
    Points,
    Ream,
    Rectangle,
    RoughOutside,
    RoughPocket,
    RoundEdge,
    Slope,
    Spot,
    Tap,
    Text,
    Top,
    Undercut,
)
from machining.world.feature import Hole, Pocket
from machining.world.tool import FACES, Tool

from .offering import Bench, Offer
from .turn_offers import turn_offers

STANDS_OVER_MM = 0.05
OVERLAP_MM = 0.5
NEXT_SMALLER_DRILL = 0.85
SQUARE_MM = 0.5
FINISH_LEFT_MM = 0.3


def _square(tool: Tool) -> bool:
    """An end mill that leaves a square corner at the floor, or nearly."""
    return tool.kind == "end_mill" and tool.corner_radius_mm <= SQUARE_MM


def offers(seen: SetupFacts, facts: PlanFacts, fresh: Callable[[], str]) -> list[Offer]:
    """Top, outside, pockets and holes that can be reached from this setup's spindle and are not
    planned yet.
    """
    bench = Bench(seen, facts, fresh)
    if seen.machine is not None and seen.machine.kind == "lathe":
        return list(turn_offers(bench))
    done: set[tuple[str, str]] = {
        (op.kind, id)
        for setup in facts.plan.setups
        for op in setup.operations
        if isinstance(op.on, OnFeatures)
        for id in op.on.ids
    }
    here: set[str] = {
        op.kind for op in seen.planned.operations if not isinstance(op.on, OnFeatures)
    }
    found = [
        *_top(bench, here),
        *_outside(bench, here),
        *_pockets(bench, done),
        *_holes(bench, done),
        *_edges(bench, here),
        *_by_hand(bench),
    ]
    return [each for offer in found if (each := _leaves_something(offer, facts)) is not None]


def _leaves_something(offer: Offer, facts: PlanFacts) -> Offer | None:
    """A finish needs something left for it: not before the roughing, and after one that leaves
    nothing only with an allowance for it.
    """
    added = offer.edits[-1]
    if not isinstance(added, AddOperation) or not isinstance(
        added.operation, FinishWalls | FinishFloor
    ):
        return offer
    finish, field = (
        added.operation,
        "leave_mm" if isinstance(added.operation, FinishWalls) else "leave_floor_mm",
    )
    roughs = [
        op
        for setup in facts.plan.setups
        for op in setup.operations
        if isinstance(op, RoughOutside | RoughPocket) and _same_place(op.on, finish.on)
    ]
    if not roughs:
        return None
    bare = [op for op in roughs if getattr(op, field, 0.0) <= 0]
    if len(bare) < len(roughs):
        return offer
    allowances = tuple(
        Change(on=f"operation:{op.id}", fields={field: FINISH_LEFT_MM})
        for op in bare
        if field in type(op).model_fields
    )
    return (
        replace(
            offer,
            label=f"{offer.label}, {FINISH_LEFT_MM:g} left for it",
            edits=(*allowances, *offer.edits),
        )
        if allowances
        else None
    )


def _same_place(rough: object, finish: object) -> bool:
    if isinstance(rough, OnFeatures) and isinstance(finish, OnFeatures):
        return bool(set(rough.ids) & set(finish.ids))
    return isinstance(rough, Outside) and isinstance(finish, Outside)


def _top(bench: Bench, here: set[str]) -> Iterator[Offer]:
    lie = bench.seen.lie
    over = float(lie.stock_high[2] - lie.part_high[2])
    if over > STANDS_OVER_MM and "face" not in here:
        yield bench.offer(
            "Top",
            "Face",
            lambda t: t.kind in (*FACES, "end_mill"),
            lambda t: t.diameter_mm,
            lambda id, tool, t: Face(id=id, tool=tool, step_down_mm=min(2.0, ceil(over * 2) / 2)),
        )


def _outside(bench: Bench, here: set[str]) -> Iterator[Offer]:
    lie = bench.seen.lie
    stands = max(
        float(v)
        for v in (*(lie.stock_high - lie.part_high)[:2], *(lie.part_low - lie.stock_low)[:2])
    )
    depth = _outside_depth(bench)
    if depth <= 0:
        return
    if stands > STANDS_OVER_MM and "rough_outside" not in here:
        yield bench.offer(
            "Outside",
            "Rough",
            _square,
            lambda t: (
                (t.flute_length_mm >= min(depth, 26.0)) * 100
                - t.flutes * 3
                - abs(t.diameter_mm - 12.0)
            ),
            lambda id, tool, t: RoughOutside(
                id=id,
                tool=tool,
                on=Outside(depth_mm=depth),
                step_down_mm=min(depth, t.flute_length_mm if t else depth),
                step_over_mm=round(0.1 * (t.diameter_mm if t else 10.0), 2),
            ),
        )
    if "finish_walls" not in here:
        yield bench.offer(
            "Outside",
            "Finish",
            _square,
            lambda t: (
                (t.flute_length_mm >= min(depth, 26.0)) * 100
                + t.flutes * 3
                - abs(t.diameter_mm - 12.0)
            ),
            lambda id, tool, t: FinishWalls(
                id=id,
                tool=tool,
                on=Outside(depth_mm=depth),
                step_down_mm=min(depth, t.flute_length_mm if t else depth),
                width_mm=0.3,
            ),
        )


def _outside_depth(bench: Bench) -> float:
    """Down to the jaws' margin, or to where another setup's cut ends, whichever is higher."""
    lie, seen = bench.seen.lie, bench.seen
    height = float(lie.part_high[2] - lie.part_low[2])
    free = height
    if seen.jaws:
        free = (
            float(lie.part_high[2]) - seen.jaws[0].top - bench.facts.library.settings.jaw_margin_mm
        )
    cut = max(
        (
            op.on.depth_mm
            for s in bench.facts.plan.setups
            if s.id != seen.planned.id
            for op in s.operations
            if isinstance(op.on, Outside)
        ),
        default=0.0,
    )
    return round(min(free, height - cut + OVERLAP_MM if cut else height), 2)


def _pockets(bench: Bench, done: set[tuple[str, str]]) -> Iterator[Offer]:
    up = named(bench.seen.lie.pose.rotation[2])
    for pocket in bench.facts.geometry.features:
        if not isinstance(pocket, Pocket) or pocket.opens != up:
            continue
        where, depth, corner = (
            OnFeatures(ids=(pocket.id,)),
            pocket.depth_mm,
            pocket.corner_radius_mm,
        )
        sides = sorted((max(v) - min(v) for v in zip(*pocket.loops[0], strict=True)), reverse=True)[
            :2
        ]
        group = f"Pocket {sides[0]:.4g} × {sides[1]:.4g}, {depth:.4g} deep"

        def roughs(t: Tool, narrow: float = sides[1]) -> bool:
            return (
                _square(t)
                and t.diameter_mm <= 0.6 * narrow
                and (t.centre_cutting or t.max_ramp_deg > 0)
            )

        def finishes(t: Tool, corner: float = corner, narrow: float = sides[1]) -> bool:
            return _square(t) and t.diameter_mm <= (2 * corner if corner else 0.6 * narrow)

        def reach(t: Tool, depth: float = depth) -> float:
            return (t.usable_length_mm >= depth) * 100 + t.diameter_mm

        if ("rough_pocket", pocket.id) not in done:
            yield bench.offer(
                group,
                "Rough",
                roughs,
                reach,
                lambda id, tool, t, on=where, depth=depth: RoughPocket(  # type: ignore[misc]
                    id=id,
                    tool=tool,
                    on=on,
                    step_down_mm=min(depth, round(0.75 * (t.diameter_mm if t else 8.0), 1)),
                    step_over_mm=round(0.2 * (t.diameter_mm if t else 8.0), 2),
                    ramp_deg=min(3.0, t.max_ramp_deg) if t and t.max_ramp_deg else 3.0,
                ),
            )
        if ("finish_walls", pocket.id) not in done:
            yield bench.offer(
                group,
                "Finish walls",
                finishes,
                reach,
                lambda id, tool, t, on=where, depth=depth: FinishWalls(  # type: ignore[misc]
                    id=id,
                    tool=tool,
                    on=on,
                    step_down_mm=min(depth, t.flute_length_mm if t else depth),
                    width_mm=0.3,
                ),
            )
        if ("finish_floor", pocket.id) not in done:
            yield bench.offer(
                group,
                "Finish floor",
                finishes,
                reach,
                lambda id, tool, t, on=where: FinishFloor(  # type: ignore[misc]
                    id=id,
                    tool=tool,
                    on=on,
                    step_over_mm=round(0.5 * (t.diameter_mm if t else 8.0), 2),
                ),
            )


def _holes(bench: Bench, done: set[tuple[str, str]]) -> Iterator[Offer]:
    up = named(bench.seen.lie.pose.rotation[2])
    alike: dict[tuple[float, float, bool], list[Hole]] = defaultdict(list)
    for hole in bench.facts.geometry.features:
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
    exact = _exists(bench, lambda t: t.kind == "drill" and abs(t.diameter_mm - diameter) < 0.01)
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
        if kind not in done and _exists(bench, fits):
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
            _square(t)
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
        lambda t: _square(t) and t.diameter_mm <= wide,
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


def _exists(bench: Bench, fits: Fits) -> bool:
    return any(fits(tool) for tool in bench.facts.library.tools.values())


def _edges(bench: Bench, here: set[str]) -> Iterator[Offer]:
    if "chamfer" not in here:
        yield bench.offer(
            "Edges",
            "Break edges",
            lambda t: t.kind == "chamfer_mill",
            lambda t: -t.diameter_mm,
            lambda id, tool, t: Chamfer(id=id, tool=tool, on=Top()),
        )
    rounder: Better = lambda t: (t.kind == "corner_rounder") * 100 - t.diameter_mm  # noqa: E731

    def ball(t: Tool) -> bool:
        return t.kind == "end_mill" and abs(2 * t.corner_radius_mm - t.diameter_mm) < 1e-6

    if "round_edge" not in here:
        yield bench.offer(
            "Edges",
            "Round",
            lambda t: t.kind == "corner_rounder" or ball(t),
            rounder,
            lambda id, tool, t: RoundEdge(
                id=id,
                tool=tool,
                radius_mm=t.corner_radius_mm if t and t.kind == "corner_rounder" else 2.0,
            ),
            rare=True,
        )
    if "slope" not in here:
        yield bench.offer(
            "Edges",
            "Slope at an angle",
            ball,
            lambda t: t.diameter_mm,
            lambda id, tool, t: Slope(id=id, tool=tool, size_mm=3.0, angle_deg=25.0),
            rare=True,
        )


def _by_hand(bench: Bench) -> Iterator[Offer]:
    """Regions, positions, lines and texts that no feature of the part gives; their values are only
    a start.
    """
    lie = bench.seen.lie
    left, right, top = (
        round(float(v), 2) for v in (lie.part_low[0], lie.part_high[0], lie.part_high[2])
    )
    here = Points(at_mm=((0.0, 0.0),), top_mm=top, diameter_mm=6.0, depth_mm=10.0)
    yield bench.offer(
        "By hand",
        "Pocket",
        lambda t: _square(t) and t.centre_cutting and t.diameter_mm <= 8.0,
        lambda t: t.diameter_mm,
        lambda id, tool, t: RoughPocket(
            id=id,
            tool=tool,
            on=Rectangle(
                x_mm=0,
                y_mm=0,
                top_mm=top,
                length_mm=30,
                width_mm=20,
                corner_radius_mm=4,
                depth_mm=5,
            ),
            step_down_mm=2.5,
            step_over_mm=1.5,
        ),
    )
    yield bench.offer(
        "By hand",
        "Drill",
        lambda t: t.kind == "drill" and t.diameter_mm <= 7.0,
        lambda t: t.diameter_mm,
        lambda id, tool, t: Drill(id=id, tool=tool, on=here),
    )
    yield bench.offer(
        "By hand",
        "Undercut",
        lambda t: t.kind == "undercut_mill",
        lambda t: t.diameter_mm,
        lambda id, tool, t: Undercut(
            id=id,
            tool=tool,
            on=Lines(at_mm=(((left, 0.0), (right, 0.0)),), top_mm=top),
            depth_mm=5.0,
            width_mm=2.0,
        ),
    )
    yield bench.offer(
        "By hand",
        "Engrave a text",
        lambda t: t.kind == "engraver",
        lambda t: -t.tip_diameter_mm,
        lambda id, tool, t: Engrave(id=id, tool=tool, on=Text(text="NO 1", top_mm=top)),
    )
    yield bench.offer(
        "By hand",
        "Mill a hole",
        lambda t: _square(t) and t.centre_cutting and t.diameter_mm <= 12.0,
        lambda t: t.diameter_mm,
        lambda id, tool, t: MillHole(
            id=id, tool=tool, on=here.model_copy(update={"diameter_mm": 20.0})
        ),
        rare=True,
    )
    yield bench.offer(
        "By hand",
        "Slope along a line",
        lambda t: t.kind == "end_mill" and t.corner_radius_mm > 0,
        lambda t: t.corner_radius_mm,
        lambda id, tool, t: Slope(
            id=id,
            tool=tool,
            on=Lines(at_mm=(((left, 0.0), (right, 0.0)),), top_mm=top),
            size_mm=3.0,
            angle_deg=25.0,
        ),
        rare=True,
    )
