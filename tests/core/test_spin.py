"""A spindle on its way to another speed, against closed forms and a fine-step integration of its
own.
"""

from __future__ import annotations

from math import pi, sqrt

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from machining.cutting.turning import facing_time
from machining.motion.path import Leg, Path
from machining.motion.spin import Kept, Spin, fed
from machining.motion.timing import Drive, rapid_time, spindle_time
from machining.motion.turned import turned_time
from machining.world.capability import usual_rig

from .build import LIBRARY

SPIN = Spin(max_rpm=4000.0, base_rpm=1200.0, start_s=3.0)
KEPT = Kept(cutting_speed=200.0, feed_per_rev=0.2, max_rpm=4000.0)
SPEEDS = st.floats(1.0, 4000.0)


def test_between_two_speeds_is_what_lies_between_their_starts():
    start = [spindle_time(rpm, 4000.0, 1200.0, 3.0) for rpm in (800.0, 3000.0)]
    assert SPIN.between(800.0, 3000.0) == pytest.approx(start[1] - start[0])
    assert SPIN.between(3000.0, 800.0) == SPIN.between(800.0, 3000.0)
    assert SPIN.between(0.0, 4000.0) == pytest.approx(3.0)


@given(SPEEDS, SPEEDS, st.floats(0.0, 1.0))
def test_property_after_part_of_the_time_the_rest_is_left(now, towards, share):
    whole = SPIN.between(now, towards)
    there = SPIN.after(now, towards, share * whole)
    assert SPIN.between(there, towards) == pytest.approx((1.0 - share) * whole, abs=1e-6)
    assert SPIN.after(now, towards, 2.0 * whole + 1.0) == towards


def test_a_quick_spindle_faces_in_the_time_of_the_closed_form():
    quick = Spin(4000.0, 1200.0, 0.01)
    taken, last = fed(35.0, 80.0, 10.0, KEPT, quick, KEPT.rpm(80.0))
    assert taken == facing_time(80.0, 10.0, 200.0, 0.2, 4000.0) and last == KEPT.rpm(10.0)


def test_one_of_constant_torque_that_never_keeps_up_gains_evenly():
    """30 rpm a second asked 52 and more: s = f/60·(n·t + a·t²/2)."""
    slow = Spin(max_rpm=3000.0, base_rpm=3000.0, start_s=100.0)
    first, gain = KEPT.rpm(80.0), 30.0
    turns = 40.0 * 60.0 / 0.2
    alone = (sqrt(first**2 + 2.0 * gain * turns) - first) / gain
    taken, last = fed(40.0, 80.0, 0.0, Kept(200.0, 0.2, 3000.0), slow, first)
    assert taken == pytest.approx(alone, rel=2e-3)
    assert last == pytest.approx(first + gain * alone, rel=2e-3)


def test_one_of_constant_power_gains_by_its_square():
    """g = (1 + (n/nb)²)/2 rises evenly, so n³ with the way."""
    slow = Spin(max_rpm=3000.0, base_rpm=300.0, start_s=300.0)
    first, turns = KEPT.rpm(80.0), 40.0 * 60.0 / 0.2
    rate = (1.0 + 100.0) / 2.0 / 300.0
    last = 300.0 * ((first / 300.0) ** 3 + 3.0 * rate * turns / 300.0) ** (1.0 / 3.0)
    alone = ((last / 300.0) ** 2 - (first / 300.0) ** 2) / 2.0 / rate
    taken, end = fed(40.0, 80.0, 0.0, Kept(200.0, 0.2, 3000.0), slow, first)
    assert taken == pytest.approx(alone, rel=2e-3) and end == pytest.approx(last, rel=2e-3)


def stepped(outer: float, inner: float, spin: Spin, kept: Kept, dt: float = 2e-4) -> float:
    """Facing inwards as time goes on, by the gain of speed alone."""
    radius, time, base = outer / 2.0, 0.0, spin.base_rpm
    rpm = 1000.0 * kept.cutting_speed / (pi * outer)
    top = (1.0 + (spin.max_rpm / base) ** 2) / 2.0
    while radius > inner / 2.0:
        gain = top / spin.start_s * (base if rpm <= base else base**2 / rpm)
        asked = min(kept.max_rpm, 1000.0 * kept.cutting_speed / (2.0 * pi * max(radius, 1e-6)))
        rpm = min(asked, rpm + gain * dt)
        radius -= kept.feed_per_rev * rpm / 60.0 * dt
        time += dt
    return time


@pytest.mark.parametrize(("outer", "inner"), [(60.0, 0.0), (80.0, 10.0), (30.0, 4.0)])
def test_facing_that_falls_behind_is_as_a_fine_step_integration_has_it(outer, inner):
    taken, _ = fed((outer - inner) / 2.0, outer, inner, KEPT, SPIN, KEPT.rpm(outer))
    assert taken == pytest.approx(stepped(outer, inner, SPIN, KEPT), rel=5e-3)
    ideal = facing_time(outer, inner, 200.0, 0.2, 4000.0)
    assert taken >= ideal * (1.0 - 1e-9)


def test_a_feed_waits_for_its_speed_and_a_rapid_does_not():
    """From 10 back out to 60 by rapid: the spindle has so much longer to slow down."""
    drive = Drive.of(usual_rig(LIBRARY.machines["plover"]))
    inwards = np.array([[30.0, 0, 0], [5.0, 0, 0]])
    back = np.array([[5.0, 0, 0], [30.0, 0, 0]])
    again = np.array([[30.0, 0, 0], [30.0, 0, -20.0]])
    path = Path((Leg("cut", inwards), Leg("rapid", back), Leg("cut", again)))
    taken = turned_time(path, 200.0, 0.2, 4000.0, drive, SPIN)
    face, last = fed(25.0, 60.0, 10.0, KEPT, SPIN, KEPT.rpm(60.0))
    along = 60.0 * 20.0 / (0.2 * KEPT.rpm(60.0))
    rapid = rapid_time(back[0], back[1], drive)
    assert taken.cutting_s == pytest.approx(face + along)
    assert taken.rapid_s == pytest.approx(rapid)
    assert taken.dwell_s == pytest.approx(SPIN.between(last, KEPT.rpm(60.0)) - rapid)
    assert taken.dwell_s > 0.5
