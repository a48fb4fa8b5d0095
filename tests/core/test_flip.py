"""A part turned over between two stations: which way, where its marked corner lies then."""

from __future__ import annotations

import re

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from machining.drawing.flip import flip_drawing
from machining.evaluation import to_plain
from machining.facts.flip import MARKED, Flip, corner_words, flip_of
from machining.facts.route import walk
from machining.geometry.frames import DIRECTIONS, FLIPS, Pose, about_z, orientation
from machining.placing.rotary import carried_round, turn_about
from machining.sheet import sheets

from .build import LIBRARY, MEMO, answer, changed, whole

TURNS = (0, 90, 180, 270)
STEPS = st.one_of(
    st.tuples(st.just("lie"), st.sampled_from(DIRECTIONS), st.sampled_from(TURNS)),
    st.tuples(st.just("flip"), st.sampled_from("xyz"), st.just(0)),
    st.tuples(st.just("index"), st.sampled_from("xyz"), st.floats(-360.0, 360.0)),
)


def pose_of(step):
    kind, which, turn = step
    if kind == "lie":
        return Pose(orientation(which, turn), np.array([10.0, -3.0, 7.0]))
    rotation = FLIPS[which] if kind == "flip" else turn_about(which, turn)
    centre = np.array([5.0, 2.0, 40.0])
    return Pose(rotation, carried_round(np.zeros(3), rotation, centre))


@given(st.lists(STEPS, min_size=1, max_size=12))
def test_property_any_way_of_flips_and_indexes_and_back_is_where_it_began(steps):
    """And no pose on the way mirrors the part."""
    points = np.array([[0.0, 0.0, 0.0], [80.0, 0.0, 0.0], [0.0, 50.0, 20.0]])
    there, poses = points, [pose_of(step) for step in steps]
    for pose in poses:
        assert np.linalg.det(pose.rotation) == pytest.approx(1.0)
        there = pose.apply(there)
    for pose in reversed(poses):
        there = pose.inverse().apply(there)
    assert there == pytest.approx(points, abs=1e-9)


def test_turned_over_away_from_you_the_left_front_top_corner_goes_left_back_down():
    first, second = walk(whole(), LIBRARY, MEMO).stations
    facts = walk(whole(), LIBRARY, MEMO)
    assert flip_of(first, facts) is None
    flip = flip_of(second, facts)
    about_x = np.diag([1.0, -1.0, -1.0])
    assert flip.turn == pytest.approx(about_x)
    assert corner_words(flip.lies) == "left back corner at the bottom"
    assert corner_words(MARKED) == "left front corner on top"
    low, high = first.leaves.seen_in(first.lie).bounds()
    assert flip.size == pytest.approx(tuple(high - low))


@pytest.mark.parametrize("turn", TURNS)
def test_a_quarter_on_the_table_carries_the_corner_round(turn):
    """Counter-clockwise from the left front: right front, right back, left back."""
    turned = np.rint(about_z(turn))
    way = Flip((80.0, 50.0, 20.0), turned, turned)
    at = ["left front", "right front", "right back", "left back"][turn // 90]
    assert corner_words(way.lies) == f"{at} corner on top"


def test_what_lies_as_it_did_is_not_turned_over():
    same = changed(whole(), "station:st2", orientation={"up": "+z", "turn": 0})
    facts = walk(same, LIBRARY, MEMO)
    assert flip_of(facts.stations[1], facts) is None


def test_the_sheets_say_what_is_marked_and_where_it_lies_then():
    facts = walk(whole(), LIBRARY, MEMO)
    first, second = sheets(facts, to_plain(answer(whole())), {})
    assert "Before it comes out mark its left front corner on top." in first["loading"]
    assert "The marked corner lies at the left back corner at the bottom." in second["loading"]
    assert first["flip"] == "" and second["flip"].startswith("<svg")


def test_the_side_that_was_up_is_shaded_where_it_is_seen_and_the_dot_open_where_it_is_hidden():
    def drawn(turn):
        return flip_drawing(Flip((80.0, 50.0, 20.0), turn, turn), "over", "metric")

    over = drawn(np.diag([1.0, -1.0, -1.0]))
    assert over.count("#c9d0e6") == 1  # before; after it looks down
    quarter = drawn(np.rint(about_z(90)))
    assert quarter.count("#c9d0e6") == 2
    dots = [re.findall(r'<circle[^>]*fill="([^"]+)"', each) for each in (over, quarter)]
    assert dots[0][1] == "#ffffff" and dots[1][1] != "#ffffff"
