"""Sections of what turns, and the time of cutting along them."""

from __future__ import annotations

from math import pi, sqrt, tan

import pytest
from hypothesis import given
from hypothesis import strategies as st

from machining.cutting.turning import feed_time
from machining.geometry.contours import (
    contour_of,
    in_shadow,
    inside_of,
    kept_from,
    spans_at,
    thickest,
)
from machining.geometry.solids import half_section, revolved, volume
from machining.motion.spin import Kept, Spin
from machining.world.capability import usual_rig

from .lathe import (
    FACE,
    GLAND,
    LIBRARY,
    OUTSIDE,
    plan,
    result,
)
from .test_spin import stepped

# -- contours


def test_a_body_and_its_half_section_are_each_other():
    body = inside_of(OUTSIDE)
    again = half_section(revolved(body))
    assert again.symmetric_difference(body).area < 1e-6
    assert [pytest.approx(each, abs=1e-4) for each in OUTSIDE] == contour_of(again)
    ideal = pi * (24**2 * 8 + 12**2 * 10 + 15**2 * 22)
    # a 96-sided prism of that circle
    assert volume(revolved(body)) == pytest.approx(
        ideal * 96 / (2 * pi) * 2 * tan(pi / 96) / (1 + tan(pi / 96) ** 2), rel=1e-6
    )


def test_the_shadow_behind_a_shoulder_is_a_wedge():
    """A recess 10 wide and 3 deep: straight along nothing of it is reached; at 27° all but a wedge
    of 3 by 3/tan 27°.
    """
    body = inside_of(OUTSIDE)
    assert in_shadow(body, True, 0.0).area == pytest.approx(10 * 3, abs=1e-6)
    assert in_shadow(body, True, 27.0).area == pytest.approx(
        3 * 3 / tan(27 * pi / 180) / 2, rel=1e-6
    )
    assert in_shadow(body, True, 89.9).area < 0.01


def test_allowances_stand_on_diameters_and_shoulders_apart():
    kept = kept_from([(10.0, 0.0), (10.0, -20.0), (20.0, -20.0), (20.0, -30.0)], True, 0.3, 0.1)
    assert spans_at(kept, 15.0)[0][0] == pytest.approx(-19.9, abs=1e-4)
    assert kept.bounds == pytest.approx((0.0, -30.0, 20.3, 0.1))
    assert thickest(
        kept.difference(inside_of([(10.0, 0.0), (10.0, -20.0), (20.0, -20.0), (20.0, -30.0)]))
    ) == pytest.approx(0.3, abs=0.02)


def test_a_meshed_round_is_as_round_as_it_is_drawn():
    """A drum of few facets, turned so that none of its vertices lies in a plane it is cut in."""
    from machining.geometry.solids import bar

    coarse = bar(0.0, 0.0, 24.0, 0.0, 10.0).rotate([0.0, 0.0, 2.7]) - bar(
        0.0, 0.0, 11.0, -1.0, 11.0
    ).rotate([0.0, 0.0, 1.3])
    corners = contour_of(half_section(coarse))
    assert [r for r, _ in corners] == pytest.approx([24.0, 24.0], abs=1e-4)
    assert [r for r, _ in contour_of(half_section(coarse), outside=False)] == pytest.approx(
        [11.0, 11.0], abs=1e-4
    )
    assert GLAND.size == (48.0, 48.0, 40.0)


# -- time


def test_feeding_across_at_a_kept_speed_is_the_integral():
    """From Ø80 to Ø10 at 220 m/min, 0.2 mm, 3000 rpm at most: 6.938 s; along a cone of 45° √2 of
    it.
    """
    assert feed_time(35.0, 80.0, 10.0, 220.0, 0.2, 3000.0) == pytest.approx(6.938, abs=5e-4)
    assert feed_time(35.0 * sqrt(2), 10.0, 80.0, 220.0, 0.2, 3000.0) == pytest.approx(
        6.938 * sqrt(2), abs=1e-3
    )
    assert feed_time(50.0, 40.0, 40.0, 100.0, 0.2, 5000.0) == pytest.approx(
        60 * 50 * pi * 40 / (1000 * 100 * 0.2)
    )


@given(st.floats(1.0, 100.0), st.floats(0.0, 0.99), st.floats(20.0, 400.0), st.floats(0.05, 0.5))
def test_a_cone_takes_between_its_two_ends(large, share, speed, feed):
    small = large * share
    time = feed_time(10.0, large, small, speed, feed, 4000.0)
    ends = [feed_time(10.0, d, d, speed, feed, 4000.0) for d in (large, max(small, 1e-6))]
    assert min(ends) - 1e-9 <= time <= max(ends) + 1e-9


def test_a_face_takes_the_time_of_the_formula():
    """From 2 mm outside Ø50 to 0.4 past the middle at 130 m/min and 0.25, the spindle at 4500 at
    most (316, one pass of 1 mm). Near the middle it does not gain speed as fast as is asked.
    """
    face = result(plan(FACE), "face")
    clamp = 1000 * 130 / (pi * 4500)
    to_the_middle = 60 * (
        pi / (1000 * 130 * 0.25) * (27**2 - (clamp / 2) ** 2) + (clamp / 2) / (0.25 * 4500)
    )
    assert 1.02 * to_the_middle < face.cutting_s < 1.06 * to_the_middle
    spin = Spin.of(usual_rig(LIBRARY.machines["plover"]).spindle)
    alone = stepped(54.0, 0.0, spin, Kept(130.0, 0.25, 4500.0)) * 27.4 / 27.0
    assert face.cutting_s == pytest.approx(alone, rel=0.01)
    assert face.rpm == pytest.approx(1000 * 130 / (pi * 50))
