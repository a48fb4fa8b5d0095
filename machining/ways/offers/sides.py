"""Top, outside and pockets: what is cut with the side of a mill."""

from __future__ import annotations

from collections.abc import Iterator
from math import ceil

from machining.geometry.frames import named
from machining.plan.operation import Face, FinishFloor, FinishWalls, RoughOutside, RoughPocket, Slot
from machining.plan.places import OnFeatures, Outside
from machining.world.feature import Pocket
from machining.world.tool import FACES, Tool

from .bench import Bench, Offer, exists, square

STANDS_OVER_MM = 0.05
OVERLAP_MM = 0.5
SAME_WIDTH_MM = 0.01


def top(bench: Bench, here: set[str]) -> Iterator[Offer]:
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


def outside(bench: Bench, here: set[str]) -> Iterator[Offer]:
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
            square,
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
            square,
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
    if seen.stand.top is not None:
        free = float(lie.part_high[2]) - seen.stand.top - bench.facts.library.settings.jaw_margin_mm
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


def pockets(bench: Bench, done: set[tuple[str, str]]) -> Iterator[Offer]:
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
                square(t)
                and t.diameter_mm <= 0.6 * narrow
                and (t.centre_cutting or t.max_ramp_deg > 0)
            )

        def finishes(t: Tool, corner: float = corner, narrow: float = sides[1]) -> bool:
            return square(t) and t.diameter_mm <= (2 * corner if corner else 0.6 * narrow)

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
        wide = sides[1]
        if (
            ("slot", pocket.id) not in done
            and sides[0] > wide
            and exists(
                bench,
                lambda t, wide=wide: square(t) and abs(t.diameter_mm - wide) < SAME_WIDTH_MM,  # type: ignore[misc]
            )
        ):
            yield bench.offer(
                group,
                "Slot at the tool's width",
                lambda t, wide=wide: square(t) and abs(t.diameter_mm - wide) < SAME_WIDTH_MM,  # type: ignore[misc]
                reach,
                lambda id, tool, t, on=where, depth=depth: Slot(  # type: ignore[misc]
                    id=id,
                    tool=tool,
                    on=on,
                    step_down_mm=min(depth, round(0.5 * (t.diameter_mm if t else 8.0), 1)),
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
