"""What is found in solids that have one shape of the trade each, by the sizes they were given."""

from __future__ import annotations

from math import cos, pi, radians, sin

import numpy as np
import pytest

from machining.geometry.regions import disc
from machining.geometry.solids import block, joined, prism, section
from machining.world.feature import Edge, Flat, Hole, Pocket, Slanted
from machining.world.recognise import recognise
from tools.demo_parts import box, cut, drum, turned

from .shapes_in_step import (
    at_height,
    chamfered,
    cone,
    drafted,
    fused,
    hexagon,
    lying_drum,
    plate,
    read,
    rounded,
)


def found(shape, kind):
    return [each for each in recognise(read(shape)) if isinstance(each, kind)]


def from_top(shape):
    return [each for each in found(shape, Pocket) if each.opens == "+z"]


def recess(x=60, y=40, deep=12, radius=5.0):
    return box(-x / 2, -y / 2, 25 - deep, x, y, 40, radius)


def rim(p):
    """Edges at the mouth of that recess."""
    return abs(p.Z() - 25) < 1e-6 and abs(p.X()) < 31 and abs(p.Y()) < 21


def area(pocket):
    """Of the outline (mm²), less its islands."""
    loops = [[(x, y) for x, y, _ in loop] for loop in pocket.loops]
    areas = [
        abs(sum(a[0] * b[1] - b[0] * a[1] for a, b in zip(loop, loop[1:] + loop[:1], strict=True)))
        / 2
        for loop in loops
    ]
    return areas[0] - sum(areas[1:])


RECESS_MM2 = 60 * 40 - (4 - pi) * 25


def test_an_island_in_a_section_is_kept():
    """A boss inside a recess is solid where the recess is cut."""
    solid = block(np.array([-50.0, -30, 0]), np.array([50.0, 30, 25])) - prism(
        disc(0, 0, 20), 10, 30
    )
    solid = joined([solid, prism(disc(0, 0, 8), 5, 25)])
    solid = solid - prism(disc(0, 0, 3), 12, 30)
    expected = 100 * 60 - pi * 400 + pi * 64 - pi * 9
    assert section(solid, 20).area == pytest.approx(expected, rel=1e-3)


def test_a_pocket_has_its_island():
    (pocket,) = from_top(cut(plate(), cut(recess(), drum(0, 0, 0, 16, 60))))
    assert (pocket.depth_mm, pocket.corner_radius_mm, pocket.closed) == (12, 5, True)
    assert len(pocket.loops) == 2
    assert area(pocket) == pytest.approx(RECESS_MM2 - pi * 64, rel=2e-3)


def test_over_an_island_that_is_lower_the_whole_pocket_is_cleared():
    deep, over = from_top(fused(cut(plate(), recess()), drum(0, 0, 12, 16, 7)))
    assert (deep.depth_mm, len(deep.loops)) == (12, 2)
    assert (over.depth_mm, len(over.loops), over.closed) == (6, 1, True)
    assert area(over) == pytest.approx(RECESS_MM2, rel=2e-3)


def test_a_window_opens_from_both_sides_and_is_as_long_as_its_walls():
    (window,) = from_top(cut(plate(), box(-15, -10, -5, 30, 20, 40, 4)))
    assert (window.through, window.depth_mm, window.corner_radius_mm) == (True, 25, 4)
    assert window.opens_to("+z")
    assert window.opens_to("-z")
    assert not window.opens_to("+x")
    inner, outer = from_top(cut(plate(), recess(), box(-15, -10, -5, 30, 20, 40, 4)))
    assert (inner.through, inner.depth_mm) == (True, 13)
    assert (outer.through, outer.depth_mm, len(outer.loops)) == (False, 12, 1)


@pytest.mark.parametrize("corner", [5.0, 0.0])
def test_a_fillet_at_the_floor_is_told_and_the_walls_stand_where_they_are(corner):
    (pocket,) = from_top(cut(plate(), rounded(recess(radius=corner), 2, at_height(13))))
    assert (pocket.floor_radius_mm, pocket.depth_mm, pocket.closed) == (2, 12, True)
    assert pocket.corner_radius_mm == corner
    assert area(pocket) == pytest.approx(60 * 40 - (4 - pi) * corner**2, rel=2e-3)


def test_an_open_pocket_a_step_and_a_slot_across():
    (pocket,) = from_top(cut(plate(), box(20, -12, 10, 50, 24, 40, 4)))
    assert (pocket.closed, pocket.depth_mm, pocket.corner_radius_mm) == (False, 15, 4)
    (step,) = from_top(cut(plate(), box(-60, 10, 15, 120, 50, 40)))
    assert (step.closed, step.depth_mm, area(step)) == (False, 10, pytest.approx(2000))
    (slot,) = from_top(cut(plate(), box(-60, -6, 15, 120, 12, 40)))
    assert (slot.closed, slot.depth_mm, area(slot)) == (False, 10, pytest.approx(1200))


def test_bosses_are_islands_of_what_lies_round_them():
    tall, low = box(-40, -15, 0, 30, 30, 25, 6), box(10, -15, 0, 30, 30, 18, 6)
    boss = 900 - (4 - pi) * 36
    around, over = from_top(fused(box(-50, -30, 0, 100, 60, 10), tall, low))
    assert (around.depth_mm, len(around.loops)) == (15, 3)
    assert area(around) == pytest.approx(6000 - 2 * boss, rel=2e-3)
    assert (over.depth_mm, len(over.loops)) == (7, 2)
    assert area(over) == pytest.approx(6000 - boss, rel=2e-3)


def test_a_shoulder_round_a_round_neck_is_no_pocket():
    assert found(fused(drum(0, 0, 0, 48, 8), drum(0, 0, 0, 30, 42)), Pocket) == []


def test_a_wall_that_is_lower_on_one_side_does_not_end_the_pocket():
    step, pocket = sorted(
        from_top(cut(plate(), recess(deep=20), box(-60, -40, 15, 40, 80, 30))),
        key=lambda each: each.depth_mm,
    )
    assert (pocket.depth_mm, pocket.closed) == (20, True)
    assert (step.depth_mm, step.closed) == (10, False)


@pytest.mark.parametrize(
    ("x", "low", "missing"), [(50, -1, 180.0), (48, 15, 360 - 2 * (180 - 78.463))]
)
def test_a_hole_over_an_edge_is_a_hole(x, low, missing):
    (hole,) = found(cut(plate(), drum(x, 0, low, 20, 40)), Hole)
    assert hole.diameter_mm == 20
    assert hole.open_deg == pytest.approx(missing, abs=0.1)
    assert hole.through == (low < 0)


def test_corners_of_pockets_are_no_holes_but_those_drilled_out_are():
    corners = [drum(x, y, 13, 6, 30) for x in (-29, 29) for y in (-19, 19)]
    assert found(cut(plate(), recess()), Hole) == []
    shape = cut(plate(), recess(radius=0), *corners)
    assert len(found(shape, Hole)) == 4
    (pocket,) = from_top(shape)
    assert pocket.corner_radius_mm == 3


def test_one_sharp_corner_is_sharp():
    shape = cut(plate(), recess(), box(25, 15, 13, 5, 5, 40))
    (pocket,) = from_top(shape)
    assert pocket.corner_radius_mm == 0


def test_mouths_and_bottoms_of_holes():
    (sunk,) = found(cut(plate(), drum(0, 0, -1, 5.5, 40), cone(0, 0, 22.65, 5.5, 10.3, 2.4)), Hole)
    (mouth,) = sunk.sinks
    assert (mouth.at, mouth.angle_deg) == ("+z", 90)
    assert mouth.diameter_mm == pytest.approx(5.5 + 2 * 2.35)
    wide, narrow = found(cut(plate(), drum(0, 0, -1, 6.6, 40), drum(0, 0, 18, 11, 20)), Hole)
    assert (wide.around, wide.length_mm, narrow.around) == (narrow.id, 7, "")
    point = 4 / 1.6643
    (drilled,) = found(
        cut(plate(), drum(0, 0, 10, 8, 40), cone(0, 0, 10 - point, 0, 8, point)), Hole
    )
    assert drilled.bottom_deg == pytest.approx(118, abs=0.1)
    assert (drilled.through, drilled.length_mm) == (False, 15)


def test_chamfers_of_one_size_are_one_edge_with_its_length():
    edge, corner = found(chamfered(plate(8), 1, at_height(25)), Edge)
    assert (edge.shape, edge.size_mm, edge.angle_deg, edge.opens) == ("chamfer", 1, 45, ("+z",))
    outer = 2 * (84 + 44) + 2 * pi * 8
    assert edge.length_mm == pytest.approx((outer + outer - 2 * pi) / 2, rel=2e-3)
    assert (corner.shape, corner.size_mm, corner.length_mm) == ("round", 8, 4 * 24)
    assert len(edge.surfaces) == 8


def test_a_rim_knows_its_pocket_and_leaves_it_as_deep():
    for broken in (chamfered, rounded):
        features = recognise(read(broken(cut(plate(), recess()), 1.5, rim)))
        (pocket,) = (each for each in features if isinstance(each, Pocket))
        (edge,) = (each for each in features if isinstance(each, Edge))
        assert (edge.of, edge.size_mm, edge.opens) == (pocket.id, 1.5, ("+z",))
        assert pocket.depth_mm == 12


def test_where_broken_edges_meet_nothing_is_left_unnamed():
    for broken in (chamfered, rounded):
        solid = read(broken(plate(), 2, lambda p: True))
        edges = [each for each in recognise(solid) if isinstance(each, Edge)]
        assert {each.opens for each in edges} == {("+z",), ("-z",), ()}
        assert sum(len(each.surfaces) for each in edges) == len(solid.faces) - 6


def test_slanted_faces_and_holes():
    (face,) = found(cut(plate(), turned(box(-100, -100, 30, 200, 200, 60), 20, (0, 1, 0))), Slanted)
    assert (face.shape, face.opens, face.lean_deg) == ("face", "+z", 20)
    along = (sin(radians(30)), 0, cos(radians(30)))
    (hole,) = found(cut(plate(), lying_drum((0, 0, -20), along, 8, 100)), Slanted)
    assert (hole.shape, hole.opens, hole.lean_deg, hole.diameter_mm) == ("hole", "+z", 30, 8)


def test_drafted_walls_are_of_their_pocket():
    features = recognise(read(cut(plate(), drafted(50, 30, 12, 25, 3))))
    (pocket,) = (each for each in features if isinstance(each, Pocket))
    assert (pocket.draft_deg, pocket.depth_mm, pocket.closed) == (3, 13, True)
    assert area(pocket) == pytest.approx(1500)
    assert {each.kind for each in features} == {"flat", "pocket"}


def test_hexagons():
    (pocket,) = from_top(cut(plate(), hexagon(24, 13, 30)))
    assert (pocket.across_flats_mm, pocket.depth_mm, pocket.through) == (24, 12, False)
    (window,) = from_top(cut(plate(), hexagon(24, -1, 30)))
    assert (window.across_flats_mm, window.through) == (24, True)
    assert {type(each) for each in recognise(read(hexagon(24, 0, 30)))} == {Flat}


def test_another_way_into_a_step_is_no_second_one():
    boss = fused(box(-50, -30, 0, 100, 60, 10), box(-20, -15, 0, 40, 30, 25, 6))
    pockets = found(boss, Pocket)
    (around,) = (each for each in pockets if each.opens == "+z")
    assert around.way_into == ""
    others = {each.opens: each.way_into for each in pockets if each is not around}
    assert others == dict.fromkeys(("+x", "-x", "+y", "-y"), around.id)
    inside = from_top(cut(plate(), recess(), box(-15, -10, 5, 30, 20, 40, 4)))
    assert [each.way_into for each in inside] == ["", ""]
