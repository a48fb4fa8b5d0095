"""Edges that the drawing breaks: chamfers, slopes and rounds of its sizes."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from machining.geometry.frames import named
from machining.plan.operation import Chamfer, RoundEdge, Slope
from machining.plan.places import OnFeatures, Top
from machining.world.feature import Edge
from machining.world.tool import Tool

from .bench import Bench, Offer

SAME_MM, SAME_DEG = 0.01, 0.5
AT_TOP_MM = 0.1


def drawn_edges(bench: Bench, done: set[tuple[str, str]], here: set[str]) -> Iterator[Offer]:
    up = named(bench.seen.lie.pose.rotation[2])
    for edge in bench.features:
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
        return form or _is_ball(t)

    return bench.offer(
        f"Edges, {edge.length_mm:.4g} long",
        f"Slope {edge.size_mm:g} wide, {edge.angle_deg:.4g}° from the face",
        fits,
        lambda t: (t.kind == "chamfer_mill") * 100 + t.diameter_mm,
        lambda id, tool, t: Slope(id=id, tool=tool, size_mm=edge.size_mm, angle_deg=edge.angle_deg),
    )


def _rounded(bench: Bench, edge: Edge) -> Offer:
    def fits(t: Tool) -> bool:
        form = t.kind == "corner_rounder" and abs(t.corner_radius_mm - edge.size_mm) < SAME_MM
        return form or _is_ball(t)

    return bench.offer(
        f"Edges, {edge.length_mm:.4g} long",
        f"Round R {edge.size_mm:g}",
        fits,
        lambda t: (t.kind == "corner_rounder") * 100 - t.diameter_mm,
        lambda id, tool, t: RoundEdge(id=id, tool=tool, radius_mm=edge.size_mm),
    )


def _is_ball(tool: Tool) -> bool:
    return tool.kind == "end_mill" and abs(2 * tool.corner_radius_mm - tool.diameter_mm) < 1e-6
