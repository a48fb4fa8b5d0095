"""A point somebody points at: what it is, where it is in every station, and what to do with it."""

from __future__ import annotations

import numpy as np
import pytest

from machining.facts.offsets import offsets_of
from machining.facts.read import between, named_as, picked, read_at
from machining.facts.route import walk
from machining.plan.apply import apply
from machining.plan.at import Row
from machining.plan.zero import From
from machining.quantities.errors import Missing
from machining.ways.pointed import along_both, pointed
from machining.ways.raising import raised_for

from .build import LIBRARY, MEMO, answer, changed, whole
from .lathe import GOOD
from .lathe import LIBRARY as LATHE
from .lathe import plan as turned

UP, RIGHT = np.array([0.0, 0.0, 1.0]), np.array([1.0, 0.0, 0.0])


def facts_of(plan=None):
    return walk(plan or whole(), LIBRARY, MEMO)


def at(x, y, z, looks=None, near=0.5, plan=None):
    return picked(np.array([x, y, z]), looks, near, facts_of(plan), MEMO)


@pytest.mark.parametrize(
    ("point", "looks", "said", "where", "faces"),
    [
        ((40.0, 25.1, 20.0), UP, "corner", (40.0, 25.0, 20.0), None),
        ((10.0, 20.0, 20.0), UP, "its {side}", (10.0, 20.0, 20.0), "+z"),
        ((40.0, 3.0, 9.0), RIGHT, "its {side}", (40.0, 3.0, 9.0), "+x"),
        ((-32.0, 3.4, 18.0), None, "axis of the hole of {d}", (-32.0, 0.0, 20.0), "+z"),
        ((-32.0, 3.4, 2.0), None, "axis of the hole of {d}", (-32.0, 0.0, 0.0), "-z"),
        ((0.0, 22.9, 1.0), None, "axis of the hole of {d}", (0.0, 20.0, 0.0), "-z"),
        ((3.0, 2.0, 12.01), UP, "floor of the pocket {deep} deep", (3.0, 2.0, 12.0), "+z"),
        ((3.0, 2.0, 21.0), UP, "surface", (3.0, 2.0, 21.0), "+z"),
    ],
)
def test_what_is_pointed_at(point, looks, said, where, faces):
    found = at(*point, looks)
    assert (found.said.text, found.looks) == (said, faces)
    assert found.at == pytest.approx(where)


@pytest.mark.parametrize(
    ("id", "where"),
    [("hole0", (-32.0, 0.0, 20.0)), ("below", (0.0, 20.0, 0.0)), ("recess", (0.0, 0.0, 12.0))],
)
def test_a_feature_is_pointed_at_by_its_name(id, where):
    assert named_as(id, facts_of()).at == pytest.approx(where)
    with pytest.raises(Missing, match="'nobody' doesn't exist"):
        named_as("nobody", facts_of())


def test_a_point_is_read_in_every_station_and_back():
    """The same point of the part, by each station's own pose; the second lies on its top."""
    facts = facts_of()
    hole = at(-32.0, 3.4, 18.0)
    first, second = read_at(hole.at, facts)
    assert first.at == pytest.approx((-32.0, 0.0, 0.0))
    assert second.at == pytest.approx((-32.0, 0.0, -20.0))
    for found in (first, second):
        assert found.station.lie.pose.inverse().apply(found.at) == pytest.approx(hole.at)
        assert found.diameter_mm is None


def test_in_the_machine_it_is_the_offset_and_the_way_from_zero():
    row = Row(count=3, pitch_mm=150.0).model_dump()
    plan = changed(whole(), "station:st1", at=row, offset_each=True)
    facts, point = facts_of(plan), at(10.0, 20.0, 20.0, UP, plan=plan)
    found = read_at(point.at, facts)[0]
    offsets = [each for each in offsets_of(facts) if each.station.id == "st1"]
    assert [each.code for each, _ in found.positions] == ["G54", "G55", "G56"]
    for (offset, where), own in zip(found.positions, offsets, strict=True):
        assert offset.at == own.at and where == pytest.approx(found.at + np.array(own.at))
    xs = [where[0] for _, where in found.positions]
    assert np.diff(xs) == pytest.approx([150.0, 150.0])


def test_two_points_are_so_far_apart():
    """By hand: 3, 4 and 12 aside are 13; a top and a side stand square."""
    one, other = at(10.0, 20.0, 20.0, UP), at(40.0, 16.0, 8.0, RIGHT)
    found = between(one, other)
    assert found.along == pytest.approx([30.0, -4.0, -12.0])
    assert found.distance_mm == pytest.approx((900 + 16 + 144) ** 0.5)
    assert found.angle_deg == pytest.approx(90.0)
    assert between(one, at(40.0, 25.0, 20.0)).angle_deg is None


def test_before_a_spindle_a_point_is_a_diameter():
    facts = walk(turned(*GOOD), LATHE, MEMO)
    station = facts.stations[0]
    point = station.lie.pose.inverse().apply(np.array([3.0, 4.0, -7.0]))
    (found,) = read_at(point, facts)
    assert found.diameter_mm == pytest.approx(10.0) and found.at[2] == pytest.approx(-7.0)


def offered(point, station=0, plan=None):
    facts = facts_of(plan)
    return {each.label: each for each in pointed(point, facts.stations[station], facts)}


def test_a_side_is_turned_up_by_pointing_at_it():
    turn = offered(at(40.0, 3.0, 9.0, RIGHT))["Turn its {side} up"]
    plan = apply(whole(), turn.edits)
    assert plan.stations[0].orientation.up == "+x"
    lie = facts_of(plan).stations[0].lie
    assert lie.pose.rotation @ RIGHT == pytest.approx(UP)
    assert "Turn its {side} up" not in offered(at(10.0, 20.0, 20.0, UP))


@pytest.mark.parametrize(
    ("point", "station", "taken"),
    [
        ((-32.0, 3.4, 18.0, None), 1, {"x": "hole0", "y": "hole0"}),
        ((3.0, 2.0, 12.0, UP), 0, {"z": "recess"}),
        ((40.0, 3.0, 9.0, RIGHT), 0, {"x": ("part", "high")}),
        ((-40.0, -25.0, 20.0, None), 0, {"x": ("part", "low"), "y": ("part", "low")}),
        ((10.0, 10.0, 21.0, UP), 0, {"z": ("stock", "high")}),
    ],
)
def test_zero_is_taken_from_what_is_pointed_at(point, station, taken):
    found = offered(at(*point), station)["Take {axes} zero from it"]
    plan = apply(whole(), found.edits)
    zero = plan.stations[station].zero
    for axis, what in taken.items():
        own = zero.axis(axis)
        assert (own.feature if isinstance(what, str) else (own.of, own.at)) == what
    assert len(found.edits[0].fields) == len(taken)
    assert "travel" not in answer(plan).setups[station].stations[0].unknown


def test_what_zero_is_on_already_is_not_offered():
    assert "Take {axes} zero from it" not in offered(at(10.0, 20.0, 20.0, UP))
    lower = changed(
        whole(), "station:st1", **{"zero.z": From(of="part", at="high", off_mm=-1.0).model_dump()}
    )
    assert "Take {axes} zero from it" in offered(at(10.0, 20.0, 20.0, UP), 0, lower)


# -- an edge, by its ends


def of_an_edge(first, second, station=0, plan=None):
    facts = facts_of(plan)
    ends = [at(*point, UP, plan=plan) for point in (first, second)]
    return {each.label: each for each in along_both(*ends, facts.stations[station])}


FRONT_LEFT, FRONT_RIGHT, BACK_RIGHT = (-40.0, -25.0, 20.0), (40.0, -25.0, 20.0), (40.0, 25.0, 20.0)
LAID, UPRIGHT = "Turn it so that both lie along X", "Stand the second over the first: its {side} up"


def test_an_edge_is_laid_along_x_or_stood_upright():
    """By hand: the right end's edge runs towards the back."""
    both = of_an_edge(FRONT_RIGHT, BACK_RIGHT)
    assert set(both) == {LAID, UPRIGHT}
    laid = apply(whole(), both[LAID].edits)
    ends = [
        facts_of(laid).stations[0].lie.pose.apply(np.array(e)) for e in (FRONT_RIGHT, BACK_RIGHT)
    ]
    assert abs(ends[1] - ends[0]) == pytest.approx([50.0, 0.0, 0.0], abs=1e-9)
    stood = apply(whole(), both[UPRIGHT].edits)
    ends = [
        facts_of(stood).stations[0].lie.pose.apply(np.array(e)) for e in (FRONT_RIGHT, BACK_RIGHT)
    ]
    assert ends[1] - ends[0] == pytest.approx([0.0, 0.0, 50.0], abs=1e-9)
    assert LAID not in of_an_edge(FRONT_RIGHT, BACK_RIGHT, plan=laid)
    assert set(of_an_edge(FRONT_LEFT, FRONT_RIGHT)) == {UPRIGHT}


def test_a_line_that_runs_askew_turns_nothing():
    assert of_an_edge(FRONT_LEFT, BACK_RIGHT) == {}
    assert of_an_edge(FRONT_LEFT, FRONT_LEFT) == {}


@pytest.mark.parametrize(
    ("towards", "raises"),
    [
        ((0.0, 0.6, 0.8), ("+y", 36.8699)),
        ((-0.6, 0.0, 0.8), ("-x", 36.8699)),
        ((0.48, 0.36, 0.8), None),  # it leans two ways at once
        ((0.6, 0.0, -0.8), None),  # it looks down
        ((0.0, 0.0, 1.0), None),
    ],
)
def test_what_is_slanted_is_raised_by_the_side_it_leans_to(towards, raises):
    found = raised_for(np.array(towards), facts_of(whole()).stations[0])
    assert (found and (found.raised, found.raised_deg)) == raises
