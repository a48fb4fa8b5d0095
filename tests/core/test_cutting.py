"""Speeds, chips, loads: the worked numbers, and what must hold for any cut."""

from __future__ import annotations

from math import acos, cos, degrees, pi, radians, sin, sqrt

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from machining.cutting import drilling, engagement, forces, spindle, tapping
from machining.cutting.specific_force import (
    milling_power,
    milling_removal,
    motor_power,
    specific_force,
    torque,
)
from machining.cutting.speeds import (
    chip_per_edge,
    cutting_speed,
    feed,
    limited_feed,
    limited_speed,
    spindle_speed,
)
from machining.data import seed
from machining.quantities.errors import OutOfRange


def four(value: float) -> float:
    """Four significant digits."""
    return float(f"{value:.4g}")


def test_worked_speed_and_feed():
    n = spindle_speed(350, 12)
    assert four(n) == 9284
    assert four(feed(n, 0.12, 3)) == 3342
    assert cutting_speed(n, 12) == pytest.approx(350)
    assert chip_per_edge(feed(n, 0.12, 3), n, 3) == pytest.approx(0.12)


def test_limits_bind_only_where_they_are_lower():
    assert limited_speed(9284, 8000, 12000) == 8000
    assert limited_speed(9284, 12000, 6000) == 6000
    assert limited_speed(9284, 12000, 12000) == 9284
    assert (limited_feed(3342, 3000), limited_feed(3342, 9000)) == (3000, 3342)


def test_worked_chip_thinning():
    assert four(engagement.feed_for_chip(0.08, 1.2, 12)) == 0.1333
    assert four(engagement.engagement_angle(1.2, 12)) == 36.87
    assert four(engagement.mean_chip(0.13333, 1.2, 12)) == 0.04144


def test_worked_milling_load():
    chip = engagement.mean_chip(0.12, 1.2, 12)
    kc = specific_force(700, 0.25, chip)
    vf = feed(9300, 0.12, 3)
    power = motor_power(milling_power(26, 1.2, vf, kc), 0.85)
    assert (four(kc), four(milling_removal(26, 1.2, vf))) == (1593, 104.5)
    assert four(milling_power(26, 1.2, vf, kc)) == 2.773
    assert four(torque(milling_power(26, 1.2, vf, kc), 9300)) == 2.847
    assert power == pytest.approx(2.773 / 0.85, rel=1e-3)


def test_worked_drilling_load():
    chip = drilling.drill_chip(0.2, 140)
    kc = specific_force(700, 0.25, chip)
    moment = drilling.drill_torque(kc, 0.2, 6.8)
    assert four(moment) == 1.462
    assert round(drilling.power_of_torque(moment, 4700), 3) == 0.719
    assert round(drilling.drill_thrust(kc, 0.2, 6.8, 140)) == 404


def test_worked_tap_drill():
    assert four(tapping.tap_drill(8, 1.25, 0.75)) == 6.782
    assert tapping.thread_share(8, 1.25, tapping.tap_drill(8, 1.25, 0.75)) == pytest.approx(0.75)


def test_pecks_and_points():
    assert [drilling.pecks(depth, 7) for depth in (6.9, 7.0, 7.1, 35.0)] == [1, 1, 2, 5]
    assert drilling.point_height(6.8, 118) == pytest.approx(3.4 / np.tan(radians(59)))
    assert drilling.point_height(6.8, 180) == 0.0


@given(st.floats(0.01, 1.0), st.floats(2, 80), st.floats(0.005, 0.5), st.floats(20, 90))
def test_property_mean_chip_is_the_integral_and_never_over_the_peak(
    share, diameter, per_tooth, edge_angle
):
    width = share * diameter
    arc = acos(1 - 2 * share)
    mean = engagement.mean_chip(per_tooth, width, diameter, edge_angle)
    assert mean == pytest.approx(
        per_tooth * sin(radians(edge_angle)) * (1 - cos(arc)) / arc, rel=1e-7
    )
    assert mean <= engagement.peak_chip(per_tooth, width, diameter, edge_angle) * (1 + 1e-12)
    assert engagement.feed_for_chip(
        engagement.peak_chip(per_tooth, width, diameter, edge_angle), width, diameter, edge_angle
    ) == pytest.approx(per_tooth)


def test_peak_chip_stays_from_half_the_diameter_on():
    assert engagement.peak_chip(0.1, 6, 12) == pytest.approx(0.1)
    assert engagement.peak_chip(0.1, 12, 12) == pytest.approx(0.1)
    assert engagement.peak_chip(0.1, 3, 12) == pytest.approx(0.1 * sqrt(0.75))
    assert engagement.engagement_angle(12, 12) == pytest.approx(180)


@pytest.mark.parametrize("width", [0.0, -1.0, 12.01, float("nan"), float("inf")])
def test_a_width_the_cutter_does_not_have_is_refused(width):
    for fn in (
        lambda: engagement.mean_chip(0.1, width, 12),
        lambda: engagement.engagement_angle(width, 12),
        lambda: forces.over_one_turn(12, 3, 5, width, 0.1, 700, 0.25, 0.4, 0.25),
    ):
        with pytest.raises(OutOfRange) as refused:
            fn()
        assert refused.value.field == "width"


def test_a_pointed_tool_cuts_at_its_working_depth():
    assert engagement.cone_diameter(0.4, 0.5, 90) == pytest.approx(1.3)
    assert engagement.cone_diameter(0.4, 0.0, 60) == pytest.approx(2 * 0.4 * np.tan(radians(30)))


CUTS = [
    (12, 3, 26, 1.2, 0.12),
    (50, 5, 1.0, 35.0, 0.15),
    (8, 3, 4, 8.0, 0.05),
    (16, 4, 20, 8.0, 0.09),
    (10, 2, 0.5, 0.1, 0.02),
]


@pytest.mark.parametrize("cut", CUTS)
def test_forces_without_size_effect_give_the_formula_s_power(cut):
    diameter, edges, depth, width, per_tooth = cut
    n = 5000.0
    mean = forces.over_one_turn(
        diameter, edges, depth, width, per_tooth, 700.0, 0.0, 0.4, 0.25
    ).mean_torque
    assert drilling.power_of_torque(mean, n) == pytest.approx(
        milling_power(depth, width, feed(n, per_tooth, edges), 700.0), rel=1e-3
    )


@pytest.mark.parametrize("cut", CUTS)
def test_forces_with_kienzle_lie_just_under_the_mean_chip_power(cut):
    diameter, edges, depth, width, per_tooth = cut
    n, mc = 5000.0, 0.25
    mean = forces.over_one_turn(
        diameter, edges, depth, width, per_tooth, 700.0, mc, 0.4, 0.25
    ).mean_torque
    power = drilling.power_of_torque(mean, n)
    arc = np.linspace(pi - acos(1 - 2 * width / diameter), pi, 200_001)
    chip = per_tooth * np.sin(arc)
    integral = (
        edges
        * 700.0
        * depth
        * np.trapezoid(np.clip(chip, 0, None) ** (1 - mc), arc)
        * diameter
        / 2000
        / (2 * pi)
    )
    assert mean == pytest.approx(integral, rel=1e-3)
    by_mean_chip = milling_power(
        depth,
        width,
        feed(n, per_tooth, edges),
        specific_force(700.0, mc, engagement.mean_chip(per_tooth, width, diameter)),
    )
    assert 0.95 * by_mean_chip <= power <= by_mean_chip * (1 + 1e-9)


def test_forces_grow_with_depth_and_feed_and_turn_into_each_other():
    light = forces.over_one_turn(12, 3, 10, 1.2, 0.08, 700, 0.25, 0.4, 0.25)
    deep = forces.over_one_turn(12, 3, 20, 1.2, 0.08, 700, 0.25, 0.4, 0.25)
    heavy = forces.over_one_turn(12, 3, 10, 1.2, 0.16, 700, 0.25, 0.4, 0.25)
    assert deep.mean_torque == pytest.approx(2 * light.mean_torque)
    assert heavy.peak_side > light.peak_side
    assert light.mean_side <= light.peak_side
    assert heavy.mean_torque == pytest.approx(2**0.75 * light.mean_torque)


def test_a_straight_edged_cutter_s_peak_is_the_single_edge_at_its_thickest_chip():
    """No helix, one edge, half immersion: the resultant is Ft·√(1 + cr²) at the peak chip."""
    seen = forces.over_one_turn(10, 1, 2, 5, 0.1, 700, 0.0, 0.4, 0.0, helix=0.001)
    assert seen.peak_side == pytest.approx(700 * 2 * 0.1 * sqrt(1 + 0.4**2), rel=2e-3)


def test_the_spindle_is_read_between_its_points_and_in_the_right_range():
    dunlin = seed().machines["dunlin"].spindles[0]
    assert spindle.range_for(dunlin, 300).name == "low belt"
    assert spindle.range_for(dunlin, 7000).name == "high belt"
    assert spindle.range_for(dunlin, 9000) is None
    heron = seed().machines["heron"].spindles[0]
    low, high = spindle.neighbours(heron.ranges[0].continuous, 1200)
    assert (low.rpm, high.rpm) == (0, 2400)
    assert spindle.available_power(
        1200, low.rpm, low.power_kw, high.rpm, high.power_kw
    ) == pytest.approx(3.75)
    line = spindle.available_torque(11000, 10000, 7.16, 12000, 5.17, power=9.0)
    assert line == pytest.approx(6.165)
    # at a level 7.5 kW it falls along a hyperbola: at 4 000 rpm 17.9 N·m, where the line from 2 000
    # to 10 000 would give 28.6
    level = spindle.available_torque(4000, 2000, 35.81, 10000, 7.162, power=7.5)
    assert level == pytest.approx(7500.0 / (2.0 * pi * 4000 / 60.0))
    assert spindle.available_torque(0, 0, 40.0, 2000, 35.0, power=0.0) == 40.0


@given(st.floats(200, 4000), st.floats(0, 0.9), st.floats(0.001, 1.0))
def test_property_thin_chips_cost_more_per_section(kc11, mc, chip):
    assert specific_force(kc11, mc, chip) >= specific_force(kc11, mc, min(1.0, chip * 1.5)) * (
        1 - 1e-12
    )
    assert specific_force(kc11, mc, 1.0) == pytest.approx(kc11)


def test_annulus_torque_meets_the_full_drill_at_half_the_diameter():
    """A bore of its whole radius is a drill: kc·ap·f·(D − ap)/2000 at ap = D/2 is kc·f·D²/8000."""
    assert drilling.annulus_torque(700, 4.9999999, 0.1, 10) == pytest.approx(
        drilling.drill_torque(700, 0.1, 10), rel=1e-6
    )


def test_degrees_are_degrees():
    assert degrees(radians(engagement.engagement_angle(6, 12))) == pytest.approx(90)
