"""Poses, meshes, regions, solids, drawings and what is found in STEP files."""

from __future__ import annotations

from dataclasses import replace
from itertools import product
from math import pi

import numpy as np
import pytest
from shapely import Point, box

from machining.geometry import hidden_line
from machining.geometry.frames import (
    DIRECTIONS,
    FLIPS,
    Pose,
    axis,
    flip_between,
    flip_in_words,
    flipped,
    name_of,
    named,
    opposite,
    orientation,
)
from machining.geometry.kernel import SeveralSolids, UnreadableStep, check_text, examine
from machining.geometry.mesh import Mesh, crease_edges
from machining.geometry.regions import (
    disc,
    grown,
    moved,
    opened,
    polygons_of,
    rectangle,
    region_from_loops,
)
from machining.geometry.solids import (
    bar,
    block,
    bounds,
    from_mesh,
    joined,
    outline,
    posed,
    prism,
    section,
    to_mesh,
    top_surface,
    volume,
)
from machining.quantities.errors import OutOfRange
from machining.world.feature import Flat, Hole, Pocket
from machining.world.geometry import from_examined, from_json, of_block, to_json
from machining.world.part import Part
from machining.world.recognise import recognise

from .conftest import DEMO, PARTS

EVERY = list(product(DIRECTIONS, (0, 90, 180, 270)))


def test_the_24_orientations_are_24_rotations():
    seen = {tuple(orientation(up, turn).ravel()) for up, turn in EVERY}
    assert len(seen) == 24
    assert all(np.linalg.det(orientation(up, turn)) == pytest.approx(1.0) for up, turn in EVERY)


@pytest.mark.parametrize(("up", "turn"), EVERY)
def test_an_orientation_points_up_and_is_found_again(up, turn):
    assert orientation(up, turn) @ axis(up) == pytest.approx([0, 0, 1])
    assert name_of(orientation(up, turn)) == (up, turn)


@pytest.mark.parametrize("about", "xyz")
@pytest.mark.parametrize(("up", "turn"), EVERY)
def test_turning_over_twice_brings_it_back(up, turn, about):
    once = flipped(up, turn, about)
    assert flipped(*once, about) == (up, turn)
    assert once[0] == (up if about == "z" else opposite(up))


def test_flips_move_a_point_as_the_page_says():
    p = np.array([1.0, 2.0, 3.0])
    assert (FLIPS["x"] @ p).tolist() == [1, -2, -3]
    assert (FLIPS["y"] @ p).tolist() == [-1, 2, -3]
    assert (FLIPS["z"] @ p).tolist() == [-1, -2, 3]


def test_a_mirrored_or_tilted_pose_is_refused():
    with pytest.raises(OutOfRange, match="mirrored"):
        name_of(np.diag([1.0, 1.0, -1.0]))
    with pytest.raises(OutOfRange, match="turn is 45"):
        orientation("+z", 45)
    with pytest.raises(OutOfRange, match="about is w"):
        flipped("+z", 0, "w")


def test_a_flip_is_said_as_a_person_does_it():
    over = flip_between(("+z", 0), flipped("+z", 0, "x"))
    assert flip_in_words(over) == "Turn over away from you, left end stays left"
    assert flip_in_words(flip_between(("+z", 0), ("+z", 0))) == "Leave it as it lies"
    assert flip_in_words(flip_between(("+z", 0), ("+z", 90))).startswith("Turn a quarter")
    assert flip_in_words(flip_between(("+z", 0), ("+x", 0))) == "The right side comes up"


def test_poses_undo_and_chain():
    pose = Pose(orientation("+x", 90), np.array([3.0, -2.0, 7.0]))
    points = np.random.default_rng(1).normal(size=(20, 3))
    assert pose.inverse().apply(pose.apply(points)) == pytest.approx(points)
    after = Pose(orientation("-y", 0), np.array([1.0, 1.0, 1.0]))
    assert pose.then(after).apply(points) == pytest.approx(after.apply(pose.apply(points)))
    assert named(pose.rotation @ axis("+x")) == "+z"
    assert named(np.array([0.7, 0.7, 0.0])) is None


def cube(size: float = 10.0) -> Mesh:
    return to_mesh(block(np.zeros(3), np.full(3, size)))


def test_a_cube_has_twelve_edges_and_its_volume():
    assert len(crease_edges(cube().welded())) == 12
    assert cube().volume() == pytest.approx(1000.0)
    low, high = cube().bounds()
    assert (low.tolist(), high.tolist()) == ([0, 0, 0], [10, 10, 10])


def test_an_open_mesh_is_no_solid():
    whole = cube()
    with pytest.raises(OutOfRange, match="mesh is .*closed"):
        from_mesh(Mesh(whole.vertices, whole.triangles[:-2], whole.faces[:-2]))
    with pytest.raises(OutOfRange, match="size"):
        block(np.zeros(3), np.array([10.0, 0.0, 10.0]))


def test_prisms_and_bars_have_their_volumes():
    ring = disc(0, 0, 10).difference(disc(0, 0, 5))
    assert volume(prism(ring, 0, 4)) == pytest.approx(ring.area * 4, rel=1e-6)
    assert volume(prism(ring, 4, 4)) == 0
    drill = bar(0, 0, 3.4, 0, 20, tip=2.0)
    assert volume(drill) == pytest.approx(pi * 3.4**2 * (20 + 2 / 3), rel=5e-3)
    assert volume(joined([bar(0, 0, 3, 0, 5), bar(20, 0, 3, 0, 5)])) == pytest.approx(
        2 * volume(bar(0, 0, 3, 0, 5))
    )


def test_sections_outlines_and_tops():
    solid = block(np.zeros(3), np.array([40.0, 30.0, 20.0])) - prism(box(10, 10, 30, 20), 12, 25)
    assert section(solid, 15).area == pytest.approx(40 * 30 - 200)
    assert section(solid, 5).area == pytest.approx(1200)
    assert outline(solid).area == pytest.approx(1200)
    surface = top_surface(to_mesh(solid))
    assert surface.highest_within(Point(20, 15).buffer(2)) == pytest.approx(12)
    assert surface.highest_within(Point(20, 15).buffer(9)) == pytest.approx(20)
    assert surface.highest_within(Point(200, 15).buffer(2)) is None
    turned = posed(solid, Pose(orientation("-z", 0), np.zeros(3)))
    assert bounds(turned)[1][2] == pytest.approx(0)


def test_regions_open_shut_and_move():
    pocket = rectangle(0, 0, 40, 24, 4)
    assert pocket.area == pytest.approx(40 * 24 - (4 - pi) * 16, rel=1e-3)
    assert opened(pocket, 4.0).area == pytest.approx(pocket.area, rel=2e-3)
    assert opened(pocket, 8.0).area < pocket.area
    assert grown(grown(pocket, 3), -3).symmetric_difference(pocket).area < 0.5
    assert moved(pocket, 5, 6).centroid.coords[0] == pytest.approx((5, 6))
    outer, hole = (
        np.array([[0, 0], [9, 0], [9, 9], [0, 9]], float),
        np.array([[3, 3], [3, 6], [6, 6], [6, 3]], float),
    )
    assert region_from_loops([outer, hole]).area == pytest.approx(72)
    assert polygons_of(region_from_loops([])) == []


def test_from_above_a_cube_is_a_square():
    drawn = hidden_line.draw([cube()], hidden_line.FROM_ABOVE)[0]
    # the four edges of the top twice (crease and outline), none of them hidden
    assert np.unique(np.round(drawn.seen.reshape(-1, 2), 3), axis=0).tolist() == [
        [0, 0],
        [0, 10],
        [10, 0],
        [10, 10],
    ]
    assert np.linalg.norm(drawn.seen[:, 1] - drawn.seen[:, 0], axis=1) == pytest.approx(
        np.full(len(drawn.seen), 10.0), abs=0.05
    )


def test_what_stands_in_front_hides_what_is_behind():
    behind = to_mesh(block(np.array([-5.0, 2.0, 2.0]), np.array([-1.0, 8.0, 8.0])))
    front = cube()
    hidden = hidden_line.draw([front, behind], hidden_line.FROM_THE_RIGHT)[1]
    assert len(hidden.seen) == 0
    assert len(hidden.hidden) >= 4
    seen = hidden_line.draw([behind], hidden_line.FROM_THE_RIGHT)[0]
    assert len(seen.seen) >= 4


def test_a_half_covered_edge_is_cut_where_the_cover_ends():
    low = to_mesh(block(np.array([0.0, 0.0, 0.0]), np.array([20.0, 20.0, 5.0])))
    lid = to_mesh(block(np.array([10.0, -5.0, 6.0]), np.array([30.0, 25.0, 8.0])))
    drawn = hidden_line.draw([low, lid], hidden_line.FROM_ABOVE)[0]
    front = [run for run in drawn.seen if np.allclose(run[:, 1], 0.0, atol=0.05)]
    assert max(run[:, 0].max() for run in front) == pytest.approx(10.0, abs=0.15)


def test_a_step_file_gives_size_volume_and_faces(hinge_plate):
    by_hand = (
        80 * 50 * 20
        - (4 - pi) * 36 * 20
        - (40 * 26 - (4 - pi) * 25) * 8
        - 2 * pi * 4.25**2 * 20
        - pi * 25 * 12
    )
    assert hinge_plate.volume == pytest.approx(by_hand, rel=1e-6)
    assert hinge_plate.mesh.volume() == pytest.approx(by_hand, rel=1e-3)
    assert hinge_plate.schema == "AP214"
    low, high = hinge_plate.mesh.bounds()
    assert (high - low) == pytest.approx([80, 50, 20])
    assert set(hinge_plate.mesh.faces.tolist()) == set(range(len(hinge_plate.faces)))


def test_its_features_are_found_with_their_sizes(hinge_plate):
    found = recognise(hinge_plate)
    pockets, holes = (
        [f for f in found if isinstance(f, Pocket)],
        [f for f in found if isinstance(f, Hole)],
    )
    assert [(p.opens, p.depth_mm, p.corner_radius_mm, p.closed) for p in pockets] == [
        ("+z", 8.0, 5.0, True)
    ]
    assert [(h.diameter_mm, h.length_mm, h.through, h.opens) for h in holes] == [
        (10.0, 12.0, True, ("+z", "-z")),
        (8.5, 20.0, True, ("+z", "-z")),
        (8.5, 20.0, True, ("+z", "-z")),
    ]
    assert {f.faces for f in found if isinstance(f, Flat) and f.outermost} == set(DIRECTIONS)


def test_the_demo_part_s_blind_holes_open_downwards_only(clamp_geometry):
    blind = [f for f in clamp_geometry.features if isinstance(f, Hole) and not f.through]
    assert [(h.diameter_mm, h.length_mm, h.opens) for h in blind] == [(6.0, 12.0, ("-z",))] * 2
    assert clamp_geometry.size == (96, 64, 32)


def test_reading_twice_gives_the_same_ids(hinge_plate):
    again = recognise(examine((PARTS / "hinge-plate.step").read_bytes()))
    assert [f.id for f in again] == [f.id for f in recognise(hinge_plate)]


def test_one_of_several_solids_has_to_be_chosen():
    pair = (PARTS / "two-blocks.step").read_bytes()
    with pytest.raises(SeveralSolids, match="holds 2 solids; choose") as asked:
        examine(pair)
    assert asked.value.sizes == [(40.0, 30.0, 10.0), (20.0, 30.0, 10.0)]
    assert examine(pair, 1).volume == pytest.approx(6000)
    with pytest.raises(UnreadableStep, match="there is no number 3"):
        examine(pair, 2)


@pytest.mark.parametrize(
    ("content", "sentence"),
    [
        (b"", "empty"),
        (b"   \n", "empty"),
        (b"solid cube\nendsolid", "not a STEP file"),
        (b"PK\x03\x04", "not a STEP file"),
        (DEMO.read_bytes()[:9000], "cut off"),
    ],
)
def test_what_is_no_step_file_is_refused_in_a_sentence(content, sentence):
    with pytest.raises(UnreadableStep, match=sentence) as refused:
        check_text(content)
    assert str(refused.value).endswith(".")


def test_a_step_file_without_a_shape_is_refused():
    head = DEMO.read_bytes()[: DEMO.read_bytes().index(b"DATA;")]
    with pytest.raises(UnreadableStep, match=r"no shape|no solid|damaged"):
        examine(head + b"DATA;\nENDSEC;\nEND-ISO-10303-21;\n")


def test_geometry_is_stored_and_read_again(hinge_plate):
    geometry = from_examined("h", hinge_plate)
    again = from_json(to_json(geometry))
    assert again.features == geometry.features
    assert again.mesh.vertices == pytest.approx(geometry.mesh.vertices, abs=1e-5)
    assert volume(again.solid) == pytest.approx(volume(geometry.solid), rel=1e-6)


def test_a_block_with_typed_features_is_a_solid():
    hole = Hole(
        id="h",
        point=(10, 0, 0),
        axis="+z",
        diameter_mm=8,
        length_mm=20,
        through=True,
        opens=("+z", "-z"),
    )
    pocket = Pocket(
        id="p",
        loops=(((-20.0, -8.0, 15.0), (-4.0, -8.0, 15.0), (-4.0, 8.0, 15.0), (-20.0, 8.0, 15.0)),),
        opens="+z",
        depth_mm=5,
        corner_radius_mm=2,
    )
    geometry = of_block(Part(size_mm=(60, 40, 20), typed=(hole, pocket)))
    assert geometry.volume_mm3 == pytest.approx(60 * 40 * 20 - 16 * 16 * 5 - pi * 16 * 20, rel=2e-3)
    assert geometry.feature("h") == hole
    assert geometry.feature("nothing") is None
    assert replace(geometry, key="k").size == (60, 40, 20)
