"""Edges that the drawing breaks, and slanted faces: chamfers, slopes and rounds of its sizes."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from machining.plan.operation import Chamfer, RoundEdge, Slope
from machining.plan.places import Lines, OnFeatures, Top
from machining.world.feature import Edge, Slanted
from machining.world.tool import Tool

from .bench import Bench, Offer, is_ball

SAME_MM, SAME_DEG = 0.01, 0.5
AT_TOP_MM = 0.1


def drawn_edges(bench: Bench, done: set[tuple[str, str]], here: set[str]) -> Iterator[Offer]:
    up = bench.seen.lie.up
    for edge in bench.features:
        if isinstance(edge, Slanted) and edge.opens == up and edge.shape == "face":
            yield from _slanted(bench, edge)
        if not isinstance(edge, Edge) or up not in edge.opens:
            continue
        if edge.of:
            if edge.shape == "chamfer" and ("chamfer", edge.of) not in done and _is_even(edge):
                yield _chamfered(bench, edge, OnFeatures(ids=(edge.of,)))
        elif _at_top(bench, edge):
            if edge.shape == "round" and "round_edge" not in here:
                yield _rounded(bench, edge)
            elif edge.shape == "chamfer" and _is_even(edge) and "chamfer" not in here:
                yield _chamfered(bench, edge, Top())
            elif edge.shape == "chamfer" and not _is_even(edge) and "slope" not in here:
                yield _sloped(bench, edge)


def _is_even(edge: Edge) -> bool:
    return abs(edge.angle_deg - 45.0) < SAME_DEG


def _at_top(bench: Bench, edge: Edge) -> bool:
    """Does it break the edges of the part's top?"""
    lie = bench.seen.lie
    z = float(lie.pose.apply(np.array(edge.point))[2])
    return z > float(lie.part_high[2]) - edge.size_mm - AT_TOP_MM


def _chamfered(bench: Bench, edge: Edge, on: Top | OnFeatures) -> Offer:
    return bench.offer(
        f"Edges, {edge.length_mm:.4g} long",
        f"Chamfer {edge.size_mm:g} × 45°",
        lambda t: t.kind == "chamfer_mill" and abs((t.included_angle_deg or 0) - 90.0) < SAME_DEG,
        lambda t: -t.diameter_mm,
        lambda id, tool, t: Chamfer(id=id, tool=tool, on=on, size_mm=edge.size_mm),
    )


def _sloped(bench: Bench, edge: Edge) -> Offer:
    included = 2.0 * (90.0 - edge.angle_deg)

    def fits(t: Tool) -> bool:
        form = t.kind == "chamfer_mill" and (
            abs((t.included_angle_deg or 0.0) - included) < SAME_DEG
        )
        return form or is_ball(t)

    return bench.offer(
        f"Edges, {edge.length_mm:.4g} long",
        f"Slope {edge.size_mm:g} wide, {edge.angle_deg:.4g}° from the face",
        fits,
        lambda t: (t.kind == "chamfer_mill") * 100 + t.diameter_mm,
        lambda id, tool, t: Slope(id=id, tool=tool, size_mm=edge.size_mm, angle_deg=edge.angle_deg),
    )


def _slanted(bench: Bench, face: Slanted) -> Iterator[Offer]:
    """A slope down from its upper edge to where it ends, beside its lower one."""
    place = _slope_of(bench, face)
    planned = (op for setup in bench.facts.plan.setups for op in setup.operations)
    if place is None or any(isinstance(op, Slope) and op.on == place[0] for op in planned):
        return
    on, wide = place
    yield bench.offer(
        f"Slanted face {wide:.4g} wide",
        f"Slope {face.lean_deg:.4g}° from the face",
        lambda t: t.kind == "end_mill" and t.corner_radius_mm > 0,
        lambda t: t.corner_radius_mm,
        lambda id, tool, t: Slope(id=id, tool=tool, on=on, size_mm=wide, angle_deg=face.lean_deg),
    )


def _slope_of(bench: Bench, face: Slanted) -> tuple[Lines, float] | None:
    """The lower edge at the height of the upper one, with what lies between in plan (mm); None for
    a face that has not both.
    """
    if len(face.edges) < 2:
        return None
    pose = bench.seen.lie.pose
    upper, lower = (pose.apply(np.array(face.edges[k])) for k in (0, -1))
    along = lower[1, :2] - lower[0, :2]
    across = upper[0, :2] - lower[0, :2]
    turn = float(along[0] * across[1] - along[1] * across[0])
    length = float(np.hypot(*along))
    if length < SAME_MM or abs(turn) < SAME_MM:
        return None
    (ax, ay), (bx, by) = np.round(lower[:, :2], 4).tolist()
    return Lines(
        at_mm=(((ax, ay), (bx, by)),),
        top_mm=round(float(upper[0, 2]), 4),
        tool_side="right" if turn > 0 else "left",
    ), round(abs(turn) / length, 4)


def _rounded(bench: Bench, edge: Edge) -> Offer:
    def fits(t: Tool) -> bool:
        form = t.kind == "corner_rounder" and abs(t.corner_radius_mm - edge.size_mm) < SAME_MM
        return form or is_ball(t)

    return bench.offer(
        f"Edges, {edge.length_mm:.4g} long",
        f"Round R {edge.size_mm:g}",
        fits,
        lambda t: (t.kind == "corner_rounder") * 100 - t.diameter_mm,
        lambda id, tool, t: RoundEdge(id=id, tool=tool, radius_mm=edge.size_mm),
    )
