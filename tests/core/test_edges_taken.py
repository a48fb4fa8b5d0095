"""Chamfers, slopes and rounds leave their mark on the stock; volumes by hand."""

from __future__ import annotations

from dataclasses import replace
from math import pi

import pytest
from shapely import Point, box

from machining.facts.kinds import bevels
from machining.facts.route import walk
from machining.geometry.solids import bar, block, to_mesh, volume
from machining.plan.operation import Chamfer, RoundEdge, Slope
from machining.plan.places import Lines, OnFeatures
from machining.world.geometry import PartGeometry
from machining.world.part import Part
from machining.world.stock.block import sawn_block

from . import build
from .build import FACE, LIBRARY, MEMO, TOOLS, answer, plan, tool

SQUARE = box(0, 0, 40, 30)
SLOPED = bevels.sloped(2.0, 3.0)


def of_material(solid, inside: bool = False):
    """What a solid takes of a block 40 x 30 x 10 under Z 0, with a pocket all through or none."""
    whole = block([-20, -20, -10], [60, 50, 0]) if inside else block([0, 0, -10], [40, 30, 0])
    if inside:
        whole = whole - block([0, 0, -11], [40, 30, 1])
    return volume(whole) - volume(whole - solid)


def frustum(high, *areas):
    """By its sections below, half way up and above (mm²)."""
    low, middle, top = areas
    return high / 6.0 * (low + 4.0 * middle + top)


def test_a_slope_takes_a_triangle_along_each_edge_and_its_corners_once():
    taken = of_material(bevels.off_region(SQUARE, False, SLOPED, 0.0))
    left = frustum(3.0, 40 * 30, 38 * 28, 36 * 26)
    assert taken == pytest.approx(40 * 30 * 3.0 - left, rel=1e-5)


def test_a_pocket_s_rim_is_taken_from_its_outside():
    taken = of_material(bevels.off_region(SQUARE, True, SLOPED, 0.0), inside=True)
    wider = frustum(3.0, 40 * 30, 42 * 32, 44 * 34)
    assert taken == pytest.approx(wider - 40 * 30 * 3.0, rel=1e-5)


def test_a_round_takes_what_lies_outside_of_its_quarter():
    taken = of_material(bevels.off_region(SQUARE, False, bevels.rounded(2.0), 0.0))
    edges = 2 * (40 + 30) * (1 - pi / 4) * 4.0
    assert edges * 0.95 < taken < edges * 1.01  # its corners are shared, chords lie inside


def test_typed_lines_are_taken_where_the_tool_stands():
    line = (((0.0, 0.0), (40.0, 0.0)),)
    for at, side in ((line, "right"), ((line[0][::-1],), "left")):
        taken = bevels.off_lines(Lines(at_mm=at, tool_side=side), SLOPED)
        assert of_material(taken) == pytest.approx(40.0 * 3.0, rel=1e-6)
    other = bevels.off_lines(Lines(at_mm=line, tool_side="left"), SLOPED)
    assert of_material(other) < 40.0 * 3.0 * bevels.OUT_MM * 2.0


def test_an_edge_that_bends_more_sharply_than_it_is_wide_is_taken_in_steps():
    """Of a pin of Ø3 a slope of 2 leaves a cone that ends on the axis."""
    outline = Point(20, 15).buffer(1.5, quad_segs=24)
    taken = bevels.off_region(outline, False, bevels.sloped(2.0, 2.0), 0.0)
    pin = bar(20.0, 15.0, 1.5, -10.0, 0.0)
    lost = volume(pin) - volume(pin - taken)
    assert lost == pytest.approx(pi * 1.5**2 * (2.0 - 1.5 / 3.0), rel=0.03)


def test_a_typed_line_that_turns_back_is_taken_edge_by_edge():
    back = ((0.0, 0.0), (40.0, 0.0), (1.0, 6.0))
    taken = bevels.off_lines(Lines(at_mm=(back,), tool_side="right"), SLOPED)
    assert of_material(taken) > 40.0 * 3.0 * 1.5


CHAMFERED = block([-40, -25, 0], [40, 25, 20]) - bevels.off_region(
    box(-40, -25, 40, 25), False, bevels.sloped(1.0, 1.0), 20.0
)
PART = PartGeometry("chamfered", to_mesh(CHAMFERED), volume(CHAMFERED), ())
WITH = replace(LIBRARY, geometries={"chamfered": PART})
STOCK = sawn_block(x=(0, 0), y=(0, 0), z=(0, 1))
MILLS = (*TOOLS, tool(15, "chamfer-8-90"))


def left_of(*operations):
    made = plan(*operations, part=Part(geometry="chamfered"), stock=STOCK, tools=MILLS)
    return answer(made, WITH).left


@pytest.mark.parametrize(
    "broken",
    [
        Chamfer(id="edge", tool="t15", size_mm=1.0),
        Slope(id="edge", tool="t15", size_mm=1.0, angle_deg=45.0),
    ],
    ids=lambda op: op.kind,
)
def test_a_drawn_chamfer_is_left_until_it_is_cut(broken):
    assert [each.volume for each in left_of(FACE)] == pytest.approx([128.7], abs=1.0)
    assert left_of(FACE, broken) == []


def test_the_mouth_of_a_hole_loses_a_ring():
    broken = Chamfer(id="edge", tool="t15", on=OnFeatures(ids=("hole0",)), size_mm=0.5)
    facts = walk(plan(FACE, build.DRILL, broken, tools=MILLS), LIBRARY, MEMO)
    op = facts.operations()[-1]
    ring = pi * 0.5 / 3.0 * (3.4**2 + 3.4 * 3.9 + 3.9**2) - pi * 3.4**2 * 0.5
    assert volume(op.before.solid) - volume(op.after.solid) == pytest.approx(ring, rel=0.02)


def test_a_rounded_edge_is_as_round_as_it_says():
    rounder = RoundEdge(id="edge", tool="t16", radius_mm=2.0)
    made = plan(FACE, rounder, stock=STOCK, tools=(*TOOLS, tool(16, "corner-rounder-10-r2")))
    op = walk(made, LIBRARY, MEMO).operations()[-1]
    lost = volume(op.before.solid) - volume(op.after.solid)
    assert lost == pytest.approx(2 * (80 + 50) * 4.0 * (1 - pi / 4), rel=0.05)
