"""Times of whole operations worked out by hand from the machine's data, where the path is simple
enough to do so.
"""

from __future__ import annotations

from math import ceil, sqrt

import pytest

from machining.motion.timing import move_time
from machining.plan.document import Plan
from machining.plan.operation import Drill, Face, Tap
from machining.plan.places import Points
from machining.world.part import Part
from machining.world.stock.block import sawn_block

from .build import LIBRARY, answer, changed, plan, result, rig, setup, tool

HERON = rig("heron")
PART = Part(size_mm=(100.0, 30.0, 20.0))
STOCK = sawn_block(z=(0, 1))
LEVEL = sawn_block(z=(0, 0))  # nothing stands over a hole's mouth
NEAR, RETRACT = 2.0, 25.0  # the shop's first clearance and retract height
SETTLE = LIBRARY.settings.settle_s
TAU, AXES = HERON.machine.jerk_time_s, HERON.carrier


def one(operation, **fields) -> Plan:
    return plan(
        part=PART,
        stock=STOCK if isinstance(operation, Face) else LEVEL,
        setups=(setup(operation, holding=None),),
        tools=(tool(1, "face-mill-50"), tool(4, "drill-6-8"), tool(5, "tap-m8")),
        **fields,
    )


def rapid_z(distance: float) -> float:
    return move_time(distance, AXES.rapid.z, AXES.acceleration.z, AXES.acceleration.z / TAU)[0]


def rapid_x(distance: float) -> float:
    return move_time(distance, AXES.rapid.x, AXES.acceleration.x, AXES.acceleration.x / TAU)[0]


def feed_z(distance: float, feed: float) -> float:
    """From rest to rest with the jerk time once, as a path of one block is timed."""
    return move_time(distance, feed, AXES.acceleration.z)[0] + TAU


def test_one_hole_is_down_at_feed_and_out_at_rapid():
    drill = Drill(
        id="d",
        tool="t4",
        on=Points(at_mm=((0.0, 0.0),), top_mm=0.0, diameter_mm=6.8, depth_mm=10.0),
        rpm=5000.0,
        feed_mm_min=1000.0,
    )
    seen = result(answer(one(drill)), "d")
    point = 3.4 / 2.7474774194546216  # tan 70°
    depth = 10.0 + point
    down = feed_z(NEAR + depth, 1000.0)
    approach = rapid_z(RETRACT - NEAR)
    out = rapid_z(NEAR + depth) + rapid_z(RETRACT - NEAR)
    assert seen.cutting_s == pytest.approx(down, rel=1e-6)
    assert seen.time_s == pytest.approx(down + approach + out + SETTLE, rel=1e-6)


def test_pecking_adds_the_ways_out_and_back():
    on = Points(at_mm=((0.0, 0.0),), top_mm=0.0, diameter_mm=6.8, depth_mm=18.0)
    drill = Drill(id="d", tool="t4", on=on, rpm=5000.0, feed_mm_min=1000.0)
    pecked = drill.model_copy(update={"peck_mm": 5.0})
    plain, pecks = result(answer(one(drill)), "d"), result(answer(one(pecked)), "d")
    depth = 18.0 + 3.4 / 2.7474774194546216
    count = ceil(depth / 5.0)
    assert count == 4
    step, gap = depth / count, 0.5
    ways = sum(rapid_z(NEAR + k * step) + rapid_z(NEAR + k * step - gap) for k in range(1, count))
    feeds = feed_z(NEAR + step, 1000.0) + (count - 1) * feed_z(step + gap, 1000.0)
    assert pecks.cutting_s == pytest.approx(feeds, rel=1e-6)
    # each peck begins with a rapid that must stand first
    settles = (count - 1) * SETTLE
    assert pecks.moving_s - plain.moving_s == pytest.approx(ways + settles, rel=1e-6)


def test_two_holes_add_the_way_between():
    spread = Points(at_mm=((-40.0, 0.0), (40.0, 0.0)), top_mm=0.0, diameter_mm=6.8, depth_mm=10.0)
    single = spread.model_copy(update={"at_mm": ((-40.0, 0.0),)})
    first, both = (
        result(answer(one(Drill(id="d", tool="t4", on=on, rpm=5000.0, feed_mm_min=1000.0))), "d")
        for on in (single, spread)
    )
    assert both.cutting_s == pytest.approx(2 * first.cutting_s, rel=1e-9)
    up_and_over = rapid_z(RETRACT - NEAR) + rapid_x(80.0) + rapid_z(RETRACT - NEAR)
    down_to_plane = rapid_z(12.0 + 3.4 / 2.7474774194546216)
    assert both.moving_s - first.moving_s == pytest.approx(
        up_and_over + down_to_plane + SETTLE, rel=1e-6
    )


def test_facing_a_narrow_top_is_one_straight_pass():
    face = Face(id="f", tool="t1", step_over_mm=35.0, rpm=3000.0, feed_mm_min=1500.0)
    seen = result(answer(one(face)), "f")
    way = 100.0 + 2 * (25.0 + 2.0)  # a radius and a run-in at either end
    down = NEAR + 1.0  # from the clearance over the blank to the part
    plunge = move_time(down, 0.3 * 1500.0, AXES.acceleration.z)[0] + TAU
    along = move_time(way, 1500.0, AXES.acceleration.x)[0] + TAU
    # it does not stand at the corner between them
    assert seen.cutting_s == pytest.approx(plunge + along - TAU, abs=0.005)


def test_a_tap_turns_round_twice_a_hole():
    tap = Tap(
        id="t",
        tool="t5",
        on=Points(at_mm=((0.0, 0.0),), top_mm=0.0, diameter_mm=6.8, depth_mm=12.0),
        depth_mm=12.0,
        rpm=800.0,
    )
    seen = result(answer(one(tap)), "t")
    feed = 800.0 * 1.25
    there_and_back = 2 * feed_z(NEAR + 12.0, feed)
    n, base, top = 800.0, HERON.spindle.base_rpm, HERON.spindle.max_rpm
    start = HERON.spindle.start_s * (n / base) / ((1 + (top / base) ** 2) / 2)
    # down and up are one move, which turns round at the bottom
    assert seen.cutting_s == pytest.approx(there_and_back - TAU, rel=1e-6)
    assert seen.moving_s == pytest.approx(
        2 * rapid_z(RETRACT - NEAR) + 2 * 2 * start + SETTLE, rel=0.02
    )


def test_a_feed_over_the_machine_s_takes_as_long_as_the_machine_s():
    most = LIBRARY.machines["heron"].max_feed_mm_min
    at_most, over = (
        result(answer(one(Face(id="f", tool="t1", rpm=3000.0, feed_mm_min=feed))), "f")
        for feed in (most, 3.0 * most)
    )
    assert (over.cutting_s, over.time_s) == (at_most.cutting_s, at_most.time_s)


def test_a_faster_machine_is_faster_and_a_feed_twice_as_high_halves_the_cut():
    face = Face(id="f", tool="t1", step_over_mm=35.0, rpm=3000.0, feed_mm_min=1000.0)
    slow, fast = (
        result(answer(changed(one(face), "operation:f", feed_mm_min=f)), "f")
        for f in (1000.0, 2000.0)
    )
    assert 1.9 < (slow.cutting_s - 0.2) / (fast.cutting_s - 0.2) < 2.1
    assert slow.moving_s == pytest.approx(fast.moving_s)


def test_the_time_by_hand_is_once_a_setup():
    face = Face(id="f", tool="t1", step_over_mm=35.0)
    single = answer(one(face))
    twice = answer(
        one(face).model_copy(
            update={
                "setups": (
                    setup(face, holding=None),
                    setup(face.model_copy(update={"id": "g"}), id="s2", takes="st1", holding=None),
                )
            }
        )
    )
    assert single.handling_s == 15 + 10 + 10  # door, handling, seats: nothing holds it yet
    assert twice.handling_s == 2 * single.handling_s


def test_acceleration_matters_on_short_ways():
    """A way too short to reach its feed takes 2·√(d/a)."""
    short = move_time(0.5, 15_000.0, 4000.0)
    assert short[0] == pytest.approx(2 * sqrt(0.5 / 4000.0))
    assert short[1] < 15_000.0
