"""A chamfer at an angle no stock tool has: each way by hand, and from how many parts a special tool
pays.
"""

from __future__ import annotations

from dataclasses import replace
from math import ceil, cos, pi, radians, sin, sqrt, tan

import pytest
from hypothesis import given
from hypothesis import strategies as st

from machining.cutting.slope_methods import Edge, Slope, Special, rank
from machining.quantities.errors import OutOfRange
from machining.ways.slope_ways import slope_ways
from machining.world.capability import usual_rig
from machining.world.rotary_axis import RotaryAxis

from .build import (
    LIBRARY,
    rig,
    with_part,
)

HERON = rig("heron")
ONE_AXIS = with_part(
    "heron", "places", rotaries=(RotaryAxis(name="A", about="x", speed_deg_s=90.0, clamp_s=1.0),)
)
STEEL = LIBRARY.materials["c45"]
BALL = Edge("ball 8", "end_mill", 8.0, 2, 0.05, 150.0, corner_radius=4.0)
POINTED = Edge("chamfer 10×60", "chamfer_mill", 10.0, 4, 0.05, 150.0, included_angle=60.0)
SPECIAL = Special(180.0, 15, 0.05, 150.0)
SLOPE = Slope(3.0, 25.0, 300.0, 0.01, 40)


def by_name(ranking, name):
    return next(way for way in ranking.ways if way.name == name)


def test_the_ball_by_hand():
    way = by_name(rank(SLOPE, [BALL], SPECIAL, HERON), "ball or bull nose in steps")
    along, step = 3.0 / cos(radians(25)), 2 * sqrt(2 * 4 * 0.01 - 0.01**2)
    assert way.passes == ceil(along / step) == 6
    assert way.diameter == pytest.approx(8 * sin(radians(25)))
    assert way.rpm == pytest.approx(min(1000 * 150 / (pi * way.diameter), HERON.spindle.max_rpm))
    assert way.seconds == pytest.approx(60 * 6 * 300 / (way.rpm * 0.05 * 2))
    assert way.cusp == pytest.approx(4 - sqrt(16 - (along / 6) ** 2 / 4)) and way.cusp <= 0.01


def test_the_special_tool_by_hand():
    way = by_name(rank(SLOPE, [BALL], SPECIAL, HERON), "special tool")
    top = 2 * (3 * tan(radians(25)) + 0.5) * tan(radians(65))
    assert way.diameter == pytest.approx(top) and way.suits.values["size"].value == 10.0
    assert way.suits.values["angle"].value == pytest.approx(130.0)
    feed = 1000 * 150 / (pi * top) * 0.05 * 4
    assert way.seconds == pytest.approx(60 * 300 / feed)
    assert way.per_part == pytest.approx(way.seconds / 3600 * HERON.machine.hourly_cost + 180 / 40)


def test_a_tilted_tool_by_hand_and_what_a_fixed_spindle_says():
    five = rig("petrel")
    way = by_name(rank(SLOPE, [POINTED], SPECIAL, five), "standard tool, tilted")
    assert way.tilt == pytest.approx(90 - 30 - 25) and way.passes == 1
    assert way.shift == pytest.approx(2.5 / tan(radians(30)))
    fixed = by_name(rank(SLOPE, [POINTED], SPECIAL, HERON), "standard tool, tilted")
    assert not fixed.works and fixed.because.values["stack"].value == pytest.approx(
        100 * sin(radians(35))
    )
    turned = by_name(
        rank(SLOPE, [POINTED], SPECIAL, rig("heron", ONE_AXIS)),
        "standard tool, tilted",
    )
    assert turned.works and "rotary axis" in turned.suits.text


def test_an_end_mill_on_its_bottom_tilts_by_the_angle_itself():
    five = rig("petrel")
    flat = Edge("end mill 12", "end_mill", 12.0, 4, 0.05, 150.0)
    way = by_name(rank(SLOPE, [flat], SPECIAL, five), "standard tool, tilted")
    assert (way.tool, way.tilt) == ("end mill 12", 25.0)


def test_a_tool_of_the_angle_is_found_first():
    own = replace(POINTED, included_angle=130.0, diameter=12.0)
    ranking = rank(SLOPE, [BALL, own], SPECIAL, HERON)
    assert ranking.ways[0].name == "tool of that angle"
    assert by_name(
        rank(replace(SLOPE, angle=60.0), [POINTED], SPECIAL, HERON), "special tool"
    ).works
    # its edge is too short
    assert "tool of that angle" not in [
        way.name for way in rank(replace(SLOPE, size=8.0), [own], SPECIAL, HERON).ways
    ]


def test_from_which_quantity_the_special_tool_pays():
    ranking = rank(SLOPE, [BALL], SPECIAL, HERON)
    ball, special = by_name(ranking, "ball or bull nose in steps"), by_name(ranking, "special tool")
    saved = (ball.seconds - special.seconds) / 3600 * HERON.machine.hourly_cost
    assert ranking.pays_from == ceil(180 / saved)
    few, many = (
        rank(replace(SLOPE, quantity=ranking.pays_from + k), [BALL], SPECIAL, HERON).ways[0].name
        for k in (-1, 0)
    )
    assert (few, many) == ("ball or bull nose in steps", "special tool")


def test_what_cannot_be_made_says_why():
    ranking = rank(SLOPE, [], SPECIAL, HERON)
    assert "no ball" in by_name(ranking, "ball or bull nose in steps").because.text
    assert "as long as the slope" in by_name(ranking, "standard tool, tilted").because.text
    assert ranking.pays_from is None
    assert (
        "reach"
        in by_name(rank(Slope(60.0, 20.0, 10.0), [], SPECIAL, HERON), "special tool").because.text
    )
    with pytest.raises(OutOfRange, match="angle"):
        rank(Slope(3.0, 90.0, 10.0), [], SPECIAL, HERON)


@given(st.floats(0.2, 6), st.floats(5, 80), st.floats(0.002, 0.2))
def test_property_a_finer_cusp_never_takes_less_time_and_none_is_over_it(size, angle, cusp):
    def ball(asked):
        return by_name(
            rank(Slope(size, angle, 100.0, asked), [BALL], SPECIAL, HERON),
            "ball or bull nose in steps",
        )

    assert ball(cusp / 2).seconds >= ball(cusp).seconds - 1e-9
    assert ball(cusp).cusp <= cusp * (1 + 1e-9)


def test_the_shop_s_machines_and_tools():
    for machine in LIBRARY.machines.values():
        ways = slope_ways(SLOPE, STEEL, usual_rig(machine), LIBRARY, 180, 15).ways
        assert {way.name for way in ways} >= {
            "special tool",
            "ball or bull nose in steps",
            "standard tool, tilted",
        }
        assert [way.per_part for way in ways if way.works] == sorted(
            way.per_part for way in ways if way.works
        )
