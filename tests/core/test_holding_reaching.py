"""Grip, stick-out and push-off against hand calculations."""

from __future__ import annotations

from math import pi

import pytest
from hypothesis import given
from hypothesis import strategies as st

from machining.holding import grip
from machining.placing import envelope
from machining.quantities.errors import OutOfRange
from machining.reaching import deflection, stick_out


def test_vise_by_hand():
    """38 N·m at 440 N each: 16.72 kN; 6019 N stood against 1.3·1195 N."""
    assert grip.clamping_force(38, 440) == pytest.approx(16_720)
    worn = grip.worn_force(1195, 1.3)
    assert grip.holding_factor(6019.2, worn) == pytest.approx(6019.2 / 1553.5)


def test_a_twist_is_stood_as_a_push_is():
    assert grip.twist_factor(30.0, grip.worn_torque(10.0, 1.3)) == pytest.approx(30.0 / 13.0)


def test_least_grip_grows_with_height_but_has_a_floor():
    assert grip.least_grip(10, 0.12, 5) == 5
    assert grip.least_grip(100, 0.12, 5) == pytest.approx(12)


def test_a_plain_rod_bends_like_the_book_says():
    inertia = pi * 12**4 / 64
    assert deflection.stepped_deflection(100, [(40, 12, 600)]) == pytest.approx(
        100 * 40**3 / (3 * 600e3 * inertia)
    )


def test_cutting_a_rod_in_two_changes_nothing():
    whole = deflection.stepped_deflection(100, [(40, 12, 600)])
    assert deflection.stepped_deflection(100, [(15, 12, 600), (25, 12, 600)]) == pytest.approx(
        whole
    )


def test_a_force_nearer_the_holder_bends_less():
    """Acting at half a depth of 20: the free 10 mm carry nothing."""
    assert deflection.stepped_deflection(100, [(40, 12, 600)], acting_at=10) == pytest.approx(
        deflection.stepped_deflection(100, [(30, 12, 600)])
    )


def test_steel_bends_more_than_carbide_by_its_modulus():
    carbide, steel = (deflection.stepped_deflection(100, [(40, 12, e)]) for e in (600, 210))
    assert steel / carbide == pytest.approx(600 / 210)


def test_push_off_by_hand():
    """Flutes 28 mm as Ø9.6, shank 12 mm of Ø12, force at 13 mm, 0.03 µm/N of give."""
    force, e = 120.0, 600e3
    i1, i2 = pi * 9.6**4 / 64, pi * 12**4 / 64
    by_hand = (
        force * ((15**3) / (3 * e * i1) + (27**3 - 15**3) / (3 * e * i2)) + force * 0.03 / 1000
    )
    assert deflection.tool_push_off(
        force, 40, 28, 12, 28, 12, 12, 600, 0.8, 13, 0.03
    ) == pytest.approx(by_hand)


def test_push_off_with_a_neck_by_hand():
    """Flutes 10 mm as Ø4.8, neck to 25 mm of Ø5.8, shank to 40 mm of Ø8, force at the tip."""
    i1, i2, i3 = (pi * d**4 / 64 for d in (4.8, 5.8, 8.0))
    by_hand = 50 * (10**3 / i1 + (25**3 - 10**3) / i2 + (40**3 - 25**3) / i3) / (3 * 600e3)
    assert deflection.tool_push_off(50, 40, 10, 6, 25, 5.8, 8, 600, 0.8, 0, 0) == pytest.approx(
        by_hand
    )
    no_shank_out = deflection.tool_push_off(50, 20, 10, 6, 25, 5.8, 8, 600, 0.8, 0, 0)
    assert no_shank_out == pytest.approx(50 * (10**3 / i1 + (20**3 - 10**3) / i2) / (3 * 600e3))


@given(st.floats(1, 500), st.floats(20, 120), st.floats(3, 20))
def test_property_longer_and_thinner_is_softer(force, length, diameter):
    here = deflection.stepped_deflection(force, [(length, diameter, 600)])
    assert deflection.stepped_deflection(force, [(length * 1.1, diameter, 600)]) > here
    assert deflection.stepped_deflection(force, [(length, diameter * 1.1, 600)]) < here


def test_stick_out_adds_up():
    """As on the drawing: an obstacle 18 above the tip and 2 of margin ask for 20; the next section
    sits 22 higher.
    """
    assert stick_out.needed_stick_out(18, 0, 2) == 20
    assert stick_out.needed_stick_out(30, 22, 2) == 10
    assert stick_out.spare_stick_out(18, 20) == -2
    assert stick_out.longest_stick_out(63, 22) == 41
    assert stick_out.slenderness(60, 12) == 5


def test_travel_by_hand():
    """Nose 620 over the table, seat 109, tip up 61, tool 120: 330 to spare; below 120: 109 + 9 +
    120 − 120.
    """
    assert envelope.spare_above(620, 109, 61, 120) == 330
    assert envelope.spare_below(120, 109, 9, 120) == 118
    assert envelope.spare_sideways(800, 57) == 343
    assert envelope.spare_sideways(0, 57) == -57  # an axis that is not there
    with pytest.raises(OutOfRange, match="travel is -1"):
        envelope.spare_sideways(-1, 57)
