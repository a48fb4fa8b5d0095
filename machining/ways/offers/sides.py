"""Top, outside and pockets: what is cut with the side of a mill."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial
from math import ceil

import numpy as np

from machining.plan.operation import (
    CutOut,
    Face,
    FinishFloor,
    FinishWalls,
    RoughOutside,
    RoughPocket,
    Slot,
)
from machining.plan.places import OnFeatures, Outside
from machining.world.feature import Pocket
from machining.world.tool import FACES, Tool

from .bench import Bench, Offer, exists, square

STANDS_OVER_MM = 0.05
FRAME_MM, USUAL_TABS = 12.0, 4  # of a plate round its part, that is left as a frame
OVERLAP_MM = 0.5
SAME_WIDTH_MM = 0.01
LEFT_MM = 0.3  # for a finish
SMALLER = 0.85  # than an inner corner: round that a finisher keeps its width
ROUND_ENDS = 0.05  # of a slot's width, by which its ends may miss half circles


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
    if "cut_out" not in here:
        yield from _cut_out(bench, depth)
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
                lead="arc",
            ),
        )


def _cut_out(bench: Bench, depth: float) -> Iterator[Offer]:
    """Of a plate that is larger all round: the frame stays, and tabs to it."""
    lie = bench.seen.lie
    round_it = (*(lie.stock_high - lie.part_high)[:2], *(lie.part_low - lie.stock_low)[:2])
    whole = float(lie.part_high[2] - lie.part_low[2])
    if min(float(each) for each in round_it) < FRAME_MM or depth < whole - SAME_WIDTH_MM:
        return
    yield bench.offer(
        "Outside",
        "Cut it out of its frame, held by tabs",
        lambda t: square(t) and t.centre_cutting,
        lambda t: (t.flute_length_mm >= whole) * 100 - abs(t.diameter_mm - 8.0),
        lambda id, tool, t: CutOut(
            id=id,
            tool=tool,
            on=Outside(depth_mm=depth),
            step_down_mm=min(depth, round(0.5 * (t.diameter_mm if t else 8.0), 1)),
            ramp_deg=_ramp(t),
            tabs=USUAL_TABS,
        ),
        rare=True,
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
            if s.id != seen.setup.id
            for op in s.operations
            if isinstance(op.on, Outside)
        ),
        default=0.0,
    )
    if cut >= height - STANDS_OVER_MM:
        return 0.0
    return round(min(free, height - cut + OVERLAP_MM if cut else height), 2)


def pockets(bench: Bench, done: set[tuple[str, str]]) -> Iterator[Offer]:
    """From the highest floor down: what lies in another comes after it."""
    up = bench.seen.lie.up
    here = [
        (_floor_height(bench, pocket), pocket)
        for pocket in bench.features
        if isinstance(pocket, Pocket) and up is not None and pocket.opens_to(up)
    ]
    for _, pocket in sorted(here, key=lambda each: -round(each[0], 3)):
        yield from _of_pocket(bench, pocket, {kind for kind, id in done if id == pocket.id})


def _floor_height(bench: Bench, pocket: Pocket) -> float:
    lie = bench.seen.lie
    end = float(lie.pose.apply(np.array(pocket.loops[0][0]))[2])
    seen_from = lie.up
    return end if pocket.opens == seen_from else end - pocket.depth_mm


def _called(pocket: Pocket, long: float, narrow: float) -> str:
    """A pocket in words."""
    word = "Window" if pocket.through else "Pocket" if pocket.closed else "Open pocket"
    if pocket.across_flats_mm:
        return f"Hexagon {pocket.across_flats_mm:.4g} across flats, {pocket.depth_mm:.4g} deep"
    leans = f", {pocket.draft_deg:.3g}° draft" if pocket.draft_deg else ""
    return f"{word} {long:.4g} × {narrow:.4g}, {pocket.depth_mm:.4g} deep{leans}"


def _of_pocket(bench: Bench, pocket: Pocket, done: set[str]) -> Iterator[Offer]:
    depth, corner, fillet = pocket.depth_mm, pocket.corner_radius_mm, pocket.floor_radius_mm
    narrow, long = sorted(max(v) - min(v) for v in zip(*pocket.loops[0], strict=True))[-2:]
    group = _called(pocket, long, narrow)

    def roughs(t: Tool) -> bool:
        enters = t.centre_cutting or t.max_ramp_deg > 0 or not pocket.closed
        return square(t) and t.diameter_mm <= 0.6 * narrow and enters

    def finishes(t: Tool) -> bool:
        fits = t.diameter_mm <= (2 * corner if corner else 0.6 * narrow)
        return fits and (leaves(t, fillet) if fillet else square(t))

    def fills(t: Tool) -> bool:
        round_ends = not pocket.closed or abs(2.0 * corner - narrow) <= ROUND_ENDS * narrow
        exact = abs(t.diameter_mm - narrow) < SAME_WIDTH_MM
        return square(t) and not fillet and round_ends and exact

    def reach(t: Tool) -> float:
        return (t.usable_length_mm >= depth) * 100 + t.diameter_mm

    def turns_in(t: Tool, share: float) -> float:
        """Rather one that is smaller than the corners: it leaves, or meets, no more in them."""
        return reach(t) + 50.0 * bool(corner and t.diameter_mm <= 2.0 * share * corner)

    if "rough_pocket" not in done:
        rougher = partial(turns_in, share=1.0)
        yield bench.offer(group, "Rough", roughs, rougher, partial(_rough, pocket))
    if "slot" not in done and long > narrow and exists(bench, fills):
        yield bench.offer(group, "Slot at the tool's width", fills, reach, partial(_slot, pocket))
    if "finish_walls" not in done:
        finisher = partial(turns_in, share=SMALLER)
        yield bench.offer(group, "Finish walls", finishes, finisher, partial(_walls, pocket))
    if "finish_floor" not in done and not pocket.through and _floor_is_left(bench, pocket):
        yield bench.offer(group, "Finish floor", finishes, reach, partial(_floor, pocket))


def _floor_is_left(bench: Bench, pocket: Pocket) -> bool:
    """Does its roughing leave something on its floor?"""
    return any(
        isinstance(op, RoughPocket)
        and isinstance(op.on, OnFeatures)
        and pocket.id in op.on.ids
        and op.leave_floor_mm > 0
        for setup in bench.facts.plan.setups
        for op in setup.operations
    )


def _rough(pocket: Pocket, id: str, tool: str, t: Tool | None) -> RoughPocket:
    size = t.diameter_mm if t else 8.0
    return RoughPocket(
        id=id,
        tool=tool,
        on=OnFeatures(ids=(pocket.id,)),
        step_down_mm=min(pocket.depth_mm, round(0.75 * size, 1)),
        step_over_mm=round(0.2 * size, 2),
        leave_mm=max(LEFT_MM, _beside_fillet(pocket)),
        leave_floor_mm=_beside_fillet(pocket),
        ramp_deg=_ramp(t),
    )


def _slot(pocket: Pocket, id: str, tool: str, t: Tool | None) -> Slot:
    down = min(pocket.depth_mm, round(0.5 * (t.diameter_mm if t else 8.0), 1))
    on = OnFeatures(ids=(pocket.id,))
    return Slot(id=id, tool=tool, on=on, step_down_mm=down, ramp_deg=_ramp(t))


def _walls(pocket: Pocket, id: str, tool: str, t: Tool | None) -> FinishWalls:
    down = min(pocket.depth_mm, t.flute_length_mm if t else pocket.depth_mm)
    on, width = OnFeatures(ids=(pocket.id,)), max(LEFT_MM, _beside_fillet(pocket))
    return FinishWalls(id=id, tool=tool, on=on, step_down_mm=down, width_mm=width, lead="arc")


def _floor(pocket: Pocket, id: str, tool: str, t: Tool | None) -> FinishFloor:
    over = round(0.5 * (t.diameter_mm if t else 8.0), 2)
    on, left = OnFeatures(ids=(pocket.id,)), max(LEFT_MM, _beside_fillet(pocket))
    return FinishFloor(id=id, tool=tool, on=on, depth_mm=left, step_over_mm=over)


def leaves(tool: Tool, radius: float) -> bool:
    """A mill whose corner leaves a radius at the foot of a wall."""
    return tool.kind == "end_mill" and abs(tool.corner_radius_mm - radius) < SAME_WIDTH_MM


def _beside_fillet(pocket: Pocket) -> float:
    """What a square corner has to leave on wall and floor not to cut into the fillet (mm)."""
    return ceil(20.0 * pocket.floor_radius_mm * (1.0 - 0.5**0.5)) / 20.0


def _ramp(t: Tool | None) -> float:
    return min(3.0, t.max_ramp_deg) if t and t.max_ramp_deg else 3.0
