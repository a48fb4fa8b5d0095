"""Turning, threads, pointed edges, tool life, entry and holding by screws and chucks: closed forms
and what must hold.
"""

from __future__ import annotations

from math import cos, pi, radians, sin, sqrt, tan

import pytest
from hypothesis import given
from hypothesis import strategies as st

from machining.cutting import (
    correction,
    engagement,
    entry,
    finish,
    pointed,
    threads,
    tool_life,
    turning,
)
from machining.holding import chuck, screw
from machining.motion import batch
from machining.placing import indicated, rotary
from machining.quantities.errors import OutOfRange

sizes, small = st.floats(0.5, 200), st.floats(0.01, 1)


def test_facing_above_the_clamp_diameter_by_the_integral():
    """dt = dr/(f·n), n = 1000·vc/(2π·r): summed in 20 000 slices."""
    outer, inner, speed, feed = 100.0, 40.0, 180.0, 0.25
    slices = 20_000
    step = (outer - inner) / 2 / slices
    radii = [inner / 2 + step * (k + 0.5) for k in range(slices)]
    by_sum = sum(60 * step / (feed * 1000 * speed / (2 * pi * r)) for r in radii)
    assert turning.facing_time(outer, inner, speed, feed, 10_000) == pytest.approx(by_sum, rel=1e-6)


@given(sizes, small, st.floats(20, 400), st.floats(0.05, 0.6), st.floats(200, 6000))
def test_property_facing_in_two_parts_takes_as_long_as_in_one(outer, share, speed, feed, rpm):
    middle = outer * share
    whole = turning.facing_time(outer, 0.0, speed, feed, rpm)
    if 0 < middle < outer:
        assert turning.facing_time(outer, middle, speed, feed, rpm) + turning.facing_time(
            middle, 0.0, speed, feed, rpm
        ) == pytest.approx(whole)


@given(st.floats(10, 200), st.floats(0.05, 0.95), st.floats(0.2, 5), st.floats(0, 1))
def test_property_rough_diameters_fall_evenly_and_end_at_the_finish(
    start, share, deepest, allowance
):
    finish_at = start * share
    if allowance > (start - finish_at) / 2:
        with pytest.raises(OutOfRange):
            turning.rough_diameters(start, finish_at, deepest, allowance)
        return
    depth, diameters = turning.rough_diameters(start, finish_at, deepest, allowance)
    assert depth <= deepest * (1 + 1e-6)
    assert diameters[-1] == finish_at
    steps = [a - b for a, b in zip([start, *diameters[:-1]], diameters[:-1], strict=False)]
    assert all(step == pytest.approx(2 * depth) for step in steps)


@given(st.floats(0.1, 5), st.integers(1, 20))
def test_property_thread_passes_take_equal_sections(depth, passes):
    reached = [0.0, *threads.equal_section_infeeds(depth, passes)]
    sections = [b**2 - a**2 for a, b in zip(reached, reached[1:], strict=False)]
    assert all(section == pytest.approx(depth**2 / passes) for section in sections)
    assert reached[-1] == pytest.approx(depth)


@given(st.floats(1, 50), st.floats(0.1, 0.95), st.floats(10, 3000))
def test_property_inside_the_centre_is_slower_than_the_edge_and_outside_faster(hole, share, feed):
    tool = hole * share
    inside, outside = (
        threads.centre_feed_inside(feed, hole, tool),
        threads.centre_feed_outside(feed, hole, tool),
    )
    assert inside < feed < outside
    assert inside + outside == pytest.approx(2 * feed)


def test_a_full_form_thread_mill_makes_whole_turns_and_one_row_the_depth():
    assert threads.thread_mill_turns(16, 1.25, 1) == pytest.approx(12.8)
    assert threads.thread_mill_turns(16, 1.25, 13) == 1
    assert threads.thread_mill_turns(17.5, 1.25, 7) == 2
    assert threads.helix_length(1, 10, 0.001) == pytest.approx(10 * pi)


@given(st.floats(0.05, 5), st.floats(5, 175), st.floats(0, 2))
def test_property_depth_and_width_of_a_point_are_each_other_s_inverse(depth, angle, flat):
    width = engagement.cone_diameter(depth, flat, angle)
    assert pointed.depth_for_width(width, angle, flat) == pytest.approx(depth, rel=1e-6)


@given(st.floats(1, 30), small)
def test_property_a_ball_and_a_corner_cut_at_growing_diameters(diameter, share):
    depth = diameter / 2 * share
    ball = pointed.ball_diameter_at(depth, diameter)
    assert ball == pytest.approx(pointed.bull_diameter_at(depth, diameter, diameter / 2), rel=1e-9)
    assert ball <= diameter * (1 + 1e-9)
    assert pointed.ball_diameter_at(diameter, diameter) == diameter
    corner = diameter / 10
    assert pointed.bull_diameter_at(corner, diameter, corner) == diameter
    assert (
        diameter - 2 * corner
        <= pointed.bull_diameter_at(corner * share, diameter, corner)
        <= diameter
    )


def test_a_ball_seats_in_its_cone_tangentially():
    """The contact stands square to the flank: r from the centre, at the half angle."""
    contact, top, seats = pointed.ball_in_cone(10, 60, 20)
    assert seats == "cone"
    assert contact == pytest.approx(10 * cos(radians(30)))
    centre_above_apex = 5 / sin(radians(30))
    assert top == pytest.approx(centre_above_apex + 5 - 10 / tan(radians(30)))


@given(st.floats(5, 85), st.floats(5, 85), st.floats(0.2, 5))
def test_property_a_tilted_edge_lies_on_its_surface(alpha, beta, offset):
    """The axis stands at beta + alpha from level; taking the half angle off gives the
    surface back.
    """
    tilt, shift = pointed.tilted_edge(alpha, beta, offset, 0.0)
    assert tilt == pytest.approx(abs(90 - alpha - beta))
    assert shift * tan(radians(alpha)) == pytest.approx(offset)


@given(st.floats(0.5, 20), st.integers(1, 12))
def test_property_equal_loads_of_an_undercut_are_equal_areas(width, passes):
    reached = [0.0, *pointed.undercut_widths(width, passes, "load")]
    areas = [b**2 - a**2 for a, b in zip(reached, reached[1:], strict=False)]
    assert all(area == pytest.approx(width**2 / passes) for area in areas)
    steps = [0.0, *pointed.undercut_widths(width, passes, "step")]
    grows = [b**2 - a**2 for a, b in zip(steps, steps[1:], strict=False)]
    assert grows == sorted(grows)


@given(st.floats(20, 600), st.floats(20, 600), st.floats(1, 200), st.floats(0.05, 0.6))
def test_property_taylor_goes_there_and_back(speed, known, life, exponent):
    lasts = tool_life.life_at_speed(speed, known, life, exponent)
    assert tool_life.speed_for_life(lasts, known, life, exponent) == pytest.approx(speed, rel=1e-6)
    assert (lasts < life) == (speed > known) or speed == known


def test_edges_are_changed_between_parts():
    assert tool_life.edges_for_batch(10, 3.9) == 4  # three parts an edge, not 3.9
    assert tool_life.edges_for_batch(10, 0.4) == 25  # a part that eats edges
    assert tool_life.edges_for_batch(10, 10) == 1


def test_ramps_and_helices_by_hand():
    assert entry.ramp_length(5, 45) == pytest.approx(5)
    assert entry.helix_pitch(20, 12, 3) == pytest.approx(pi * 8 * tan(radians(3)))
    assert entry.smallest_helix_hole(12, 4) == 16
    assert entry.largest_helix_hole(12) == 24
    with pytest.raises(OutOfRange, match="hole"):
        entry.helix_pitch(12, 12, 3)


@given(st.floats(0.5, 20), st.floats(0.01, 0.99))
def test_property_scallops_go_there_and_back_and_grow_with_the_step(radius, share):
    step = 2 * radius * share
    height = finish.scallop_height(radius, step)
    assert height == pytest.approx(radius - sqrt(radius**2 - step**2 / 4), rel=1e-6, abs=1e-9)
    assert finish.scallop_step(radius, height) == pytest.approx(step, rel=1e-6)
    assert finish.scallop_height(radius, step * 0.9) < height


@given(st.floats(1, 6), st.floats(0.5, 8), st.floats(0.002, 0.2))
def test_property_ball_passes_round_a_corner_keep_to_the_cusp(corner, ball, height):
    passes = finish.round_passes(corner, ball, height)
    assert finish.scallop_on_round(corner, ball, 90 / passes) <= height * (1 + 1e-6)
    if passes > 1:
        widest = 2 * finish._widest(corner, ball) * 180 / pi
        if 90 / (passes - 1) < widest:
            assert finish.scallop_on_round(corner, ball, 90 / (passes - 1)) >= height * (1 - 1e-6)


@pytest.mark.parametrize(
    ("measured", "target", "feature", "process", "compensation", "walls", "change"),
    [
        (12.46, 12.5, "internal", "milling", "radius", 2, -0.02),
        (12.54, 12.5, "internal", "milling", "radius", 2, 0.02),
        (12.46, 12.5, "internal", "milling", "diameter", 2, -0.04),
        (12.46, 12.5, "internal", "milling", "radius", 1, -0.04),
        (30.06, 30.0, "external", "milling", "radius", 2, -0.03),
        (29.94, 30.0, "external", "milling", "radius", 2, 0.03),
        (25.01, 25.0, "external", "turning", "diameter", 2, -0.01),
        (25.01, 25.0, "external", "turning", "radius", 2, -0.005),
        (19.98, 20.0, "internal", "turning", "diameter", 2, 0.02),
    ],
)
def test_corrections_and_their_signs(
    measured, target, feature, process, compensation, walls, change
):
    """Milling: a smaller wear value cuts more. Turning: a larger one moves the tool outwards, in a
    bore as on a shaft.
    """
    assert correction.wear_correction(
        measured, target, feature, process, compensation, walls
    ) == pytest.approx(change)


@given(st.floats(1, 200), st.floats(0.1, 10), st.floats(20, 200), st.integers(100, 6000))
def test_property_a_chuck_lets_go_at_its_release_speed(force, mass, radius, rpm):
    at_rest = force * 100
    release = chuck.release_speed(at_rest, mass, radius)
    flung = chuck.centrifugal_force(mass, radius, release)
    assert flung == pytest.approx(at_rest)
    outside = chuck.grip_at_speed(at_rest, chuck.centrifugal_force(mass, radius, rpm), 0.0)
    assert (outside > 0) == (rpm < release)
    assert chuck.grip_at_speed(at_rest, chuck.centrifugal_force(mass, radius, rpm), 1.0) > at_rest


def test_a_screw_and_a_chuck_by_hand():
    assert screw.screw_force(40, 12, 0.2) == pytest.approx(40_000 / 2.4)
    assert chuck.chuck_torque(3, 4324, 0.15, 90) == pytest.approx(87.561)


@given(
    st.floats(-300, 300),
    st.floats(-300, 300),
    st.floats(-300, 300),
    st.floats(-300, 300),
    st.floats(-360, 360),
)
def test_property_a_turn_keeps_the_distance_and_turns_back(cx, cz, x, z, angle):
    turned = rotary.turned_about_y((cx, cz), (x, z), angle)
    assert sqrt((turned[0] - cx) ** 2 + (turned[1] - cz) ** 2) == pytest.approx(
        sqrt((x - cx) ** 2 + (z - cz) ** 2), abs=1e-9
    )
    assert rotary.turned_about_y((cx, cz), turned, -angle) == (
        pytest.approx(x, abs=1e-9),
        pytest.approx(z, abs=1e-9),
    )


@given(st.floats(5, 100), st.floats(5, 200), st.floats(0.5, 20))
def test_property_a_taper_goes_there_and_back(large, length, angle):
    if 2 * length * tan(radians(angle)) >= large:
        with pytest.raises(OutOfRange, match="comes to a point"):
            indicated.small_end(large, length, angle)
        return
    assert indicated.taper_angle(
        large, length, indicated.small_end(large, length, angle)
    ) == pytest.approx(angle)


@given(
    st.floats(0, 7200),
    st.floats(30, 1200),
    st.floats(0, 300),
    st.integers(1, 200),
    st.integers(1, 12),
)
def test_property_loading_beside_the_machine_never_takes_longer(
    setup, cycle, load, quantity, per_load
):
    beside = batch.batch_time(setup, cycle, load, quantity, per_load, parallel_load=True)
    after = batch.batch_time(setup, cycle, load, quantity, per_load)
    assert beside <= after + 1e-9
    loads = -(-quantity // per_load)
    assert beside >= (setup + loads * cycle) * (1.0 - 1e-12)


def test_where_two_ways_cross_both_take_as_long():
    quantity, winner = batch.break_even(1800, 540, 9000, 420)
    assert winner is None
    assert quantity is not None
    assert 1800 + 540 * quantity == 9000 + 420 * quantity


@pytest.mark.parametrize("passes", [1, 2, 3, 7])
def test_face_passes_cover_the_width_and_one_fewer_does_not(passes):
    diameter, step = 50.0, 35.0
    width = diameter + (passes - 1) * step
    assert engagement.face_passes(width, diameter, step) == passes
    assert engagement.face_passes(width + 0.01, diameter, step) == passes + 1
