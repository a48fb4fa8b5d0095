"""Edges, and what is typed by hand."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.at_hand import Better
from machining.plan.operation import (
    Chamfer,
    Drill,
    Engrave,
    MillHole,
    RoughPocket,
    RoundEdge,
    Slope,
    Slot,
    Undercut,
)
from machining.plan.places import (
    HoleCircle,
    HoleGrid,
    Lines,
    Points,
    Rectangle,
    Text,
    Top,
)
from machining.world.tool import Tool

from .bench import Bench, Offer, is_ball, square

BY_HAND = "By hand"  # what is typed where no feature is
EDGES = "Edges"


def edges(bench: Bench, here: set[str]) -> Iterator[Offer]:
    if "chamfer" not in here:
        yield bench.offer(
            EDGES,
            "Break edges",
            lambda t: t.kind == "chamfer_mill",
            lambda t: -t.diameter_mm,
            lambda id, tool, t: Chamfer(id=id, tool=tool, on=Top()),
        )
    rounder: Better = lambda t: (t.kind == "corner_rounder") * 100 - t.diameter_mm  # noqa: E731

    if "round_edge" not in here:
        yield bench.offer(
            EDGES,
            "Round",
            lambda t: t.kind == "corner_rounder" or is_ball(t),
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
            EDGES,
            "Slope at an angle",
            is_ball,
            lambda t: t.diameter_mm,
            lambda id, tool, t: Slope(id=id, tool=tool, size_mm=3.0, angle_deg=25.0),
            rare=True,
        )


def by_hand(bench: Bench) -> Iterator[Offer]:
    """Regions, positions, lines and texts that no feature of the part gives; their values are only
    a start.
    """
    lie = bench.seen.lie
    left, right, top = (
        round(float(v), 2) for v in (lie.part_low[0], lie.part_high[0], lie.part_high[2])
    )
    hole = Points(at_mm=((0.0, 0.0),), top_mm=top, diameter_mm=6.0, depth_mm=10.0)
    across = Lines(at_mm=(((left, 0.0), (right, 0.0)),), top_mm=top)
    yield from _inside(bench, hole, top)
    yield from _along(bench, across, top)
    yield from _in_a_pattern(bench, hole)
    yield from _rarely(bench, hole, across)


def _inside(bench: Bench, hole: Points, top: float) -> Iterator[Offer]:
    area = Rectangle(
        x_mm=0, y_mm=0, top_mm=top, length_mm=30, width_mm=20, corner_radius_mm=4, depth_mm=5
    )
    yield bench.offer(
        BY_HAND,
        "Pocket",
        lambda t: square(t) and t.centre_cutting and t.diameter_mm <= 8.0,
        lambda t: t.diameter_mm,
        lambda id, tool, t: RoughPocket(
            id=id,
            tool=tool,
            on=area,
            step_down_mm=2.5,
            step_over_mm=1.5,
        ),
    )
    yield bench.offer(
        BY_HAND,
        "Drill",
        lambda t: t.kind == "drill" and t.diameter_mm <= 7.0,
        lambda t: t.diameter_mm,
        lambda id, tool, t: Drill(
            id=id,
            tool=tool,
            on=hole.model_copy(update={"diameter_mm": t.diameter_mm}) if t else hole,
        ),
    )


def _in_a_pattern(bench: Bench, hole: Points) -> Iterator[Offer]:
    """Holes on a circle, and in columns and rows: typed once, changed once."""
    alike = {"top_mm": hole.top_mm, "depth_mm": hole.depth_mm}
    lie = bench.seen.lie
    wide, deep = (float(v) for v in (lie.part_high - lie.part_low)[:2])
    x, y = (round(float(v), 2) for v in ((lie.part_high + lie.part_low) / 2.0)[:2])
    circle, pitches = round(0.5 * min(wide, deep), 1), (round(wide / 4.0, 1), round(deep / 3.0, 1))

    def around(t: Tool | None) -> HoleCircle:
        size = t.diameter_mm if t else hole.diameter_mm
        return HoleCircle(x_mm=x, y_mm=y, circle_mm=circle, count=6, diameter_mm=size, **alike)

    def over(t: Tool | None) -> HoleGrid:
        return HoleGrid(
            x_mm=x,
            y_mm=y,
            columns=3,
            rows=2,
            column_pitch_mm=pitches[0],
            row_pitch_mm=pitches[1],
            diameter_mm=t.diameter_mm if t else hole.diameter_mm,
            **alike,
        )

    for label, where in (("Drill on a circle", around), ("Drill on a grid", over)):
        yield bench.offer(
            BY_HAND,
            label,
            lambda t: t.kind == "drill" and t.diameter_mm <= 7.0,
            lambda t: t.diameter_mm,
            lambda id, tool, t, where=where: Drill(id=id, tool=tool, on=where(t)),  # type: ignore[misc]
            rare=True,
        )


def _along(bench: Bench, across: Lines, top: float) -> Iterator[Offer]:
    yield bench.offer(
        BY_HAND,
        "Undercut",
        lambda t: t.kind == "undercut_mill",
        lambda t: t.diameter_mm,
        lambda id, tool, t: Undercut(
            id=id,
            tool=tool,
            on=across,
            depth_mm=5.0,
            width_mm=2.0,
        ),
    )
    yield bench.offer(
        BY_HAND,
        "Engrave a text",
        lambda t: t.kind == "engraver",
        lambda t: -t.tip_diameter_mm,
        lambda id, tool, t: Engrave(id=id, tool=tool, on=Text(text="NO 1", top_mm=top)),
    )


def _rarely(bench: Bench, hole: Points, across: Lines) -> Iterator[Offer]:
    yield bench.offer(
        BY_HAND,
        "Mill a hole",
        lambda t: square(t) and t.centre_cutting and t.diameter_mm <= 12.0,
        lambda t: t.diameter_mm,
        lambda id, tool, t: MillHole(
            id=id, tool=tool, on=hole.model_copy(update={"diameter_mm": 20.0})
        ),
        rare=True,
    )
    yield bench.offer(
        BY_HAND,
        "Slot along a line",
        lambda t: square(t) and t.centre_cutting and t.diameter_mm <= 8.0,
        lambda t: t.diameter_mm,
        lambda id, tool, t: Slot(
            id=id, tool=tool, on=across, step_down_mm=2.0, ramp_deg=3.0, depth_mm=4.0
        ),
        rare=True,
    )
    yield bench.offer(
        BY_HAND,
        "Slope along a line",
        lambda t: t.kind == "end_mill" and t.corner_radius_mm > 0,
        lambda t: t.corner_radius_mm,
        lambda id, tool, t: Slope(
            id=id,
            tool=tool,
            on=across,
            size_mm=3.0,
            angle_deg=25.0,
        ),
        rare=True,
    )
