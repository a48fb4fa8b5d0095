"""Times of moves and paths against closed forms."""

from __future__ import annotations

from dataclasses import replace
from math import hypot, inf, pi, radians, sqrt, tan

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from shapely import Point, box

from machining.data import seed
from machining.geometry.regions import disc, rectangle
from machining.motion.path import time_of
from machining.motion.paths import areas, holes, rounds
from machining.motion.paths.entries import Entry
from machining.motion.timing import (
    Drive,
    block_times,
    corner_speed,
    move_time,
    path_time,
    rapid_time,
    spindle_time,
)
from machining.quantities.errors import OutOfRange
from machining.world.capability import usual_rig

AT_ONCE = (0.0, 0.0, 0.0)
SHARP = Drive((20000, 20000, 20000), (3000, 3000, 3000), AT_ONCE, 0.05, 0.002)


def test_worked_moves():
    seconds, reached = move_time(10, 20_000, 3000)
    assert (round(seconds, 4), round(reached)) == (0.1155, 10392)
    assert [round(move_time(d, 20_000, 3000, 60_000)[0], 4) for d in (10, 50, 200)] == [
        0.1747,
        0.3130,
        0.7611,
    ]


def test_worked_corner():
    assert round(corner_speed(pi / 2, 3000, 0.05)) == 1142
    assert corner_speed(0.0, 3000, 0.05) == inf
    assert corner_speed(pi, 3000, 0.05) == pytest.approx(0.0, abs=1e-3)


def test_worked_spindle_start():
    assert round(spindle_time(9300, 12000, 3000, 2.0), 3) == 1.248
    assert spindle_time(12000, 12000, 3000, 2.0) == pytest.approx(2.0)


@given(st.floats(0.001, 2000), st.floats(10, 60_000), st.floats(100, 20_000), st.floats(0.001, 0.3))
def test_property_no_move_beats_its_speed_and_jerk_only_costs(distance, speed, acceleration, tau):
    plain, reached = move_time(distance, speed, acceleration)
    smooth, reached_smooth = move_time(distance, speed, acceleration, acceleration / tau)
    assert plain >= distance / (speed / 60) * (1 - 1e-9)
    assert smooth >= plain * (1 - 1e-9)
    assert reached_smooth <= reached * (1 + 1e-6)
    assert reached <= speed * (1 + 1e-9)


@given(st.floats(0.1, 500), st.floats(0.1, 500))
def test_property_longer_moves_take_longer(a, b):
    short, long = sorted((a, b))
    assert (
        move_time(short, 20_000, 3000, 60_000)[0]
        <= move_time(long, 20_000, 3000, 60_000)[0] + 1e-12
    )


def test_no_distance_takes_no_time_and_bad_values_are_named():
    assert move_time(0, 1000, 1000) == (0.0, 0.0)
    with pytest.raises(OutOfRange, match="speed_mm_min is 0"):
        move_time(10, 0, 1000)
    with pytest.raises(OutOfRange, match="distance_mm is -1"):
        move_time(-1, 1000, 1000)


def test_a_straight_path_is_one_move_however_it_is_cut_up():
    whole = move_time(100, 6000, 3000)[0]
    line = np.column_stack([np.linspace(0, 100, 2), np.zeros(2), np.zeros(2)])
    many = np.column_stack([np.linspace(0, 100, 40), np.zeros(40), np.zeros(40)])
    assert path_time(line, 6000, SHARP) == pytest.approx(whole)
    assert path_time(many, 6000, SHARP) == pytest.approx(whole, rel=1e-6)


def test_corners_slow_a_path_between_stopping_and_not():
    turn = np.array([[0, 0, 0], [50, 0, 0], [50, 50, 0]], dtype=float)
    seconds = path_time(turn, 6000, SHARP)
    assert move_time(100, 6000, 3000)[0] < seconds < 2 * move_time(50, 6000, 3000)[0]
    back = np.array([[0, 0, 0], [50, 0, 0], [0, 0, 0]], dtype=float)
    assert path_time(back, 6000, SHARP) == pytest.approx(2 * move_time(50, 6000, 3000)[0], rel=1e-3)


def test_short_blocks_are_held_to_the_block_time():
    slow = Drive((20000,) * 3, (3000,) * 3, AT_ONCE, 0.05, 0.01)
    dense = np.column_stack([np.arange(0, 100.001, 0.1), np.zeros(1001), np.zeros(1001)])
    # 0.1 mm in 10 ms is 600 mm/min
    assert path_time(dense, 6000, slow) == pytest.approx(1000 * 0.01, rel=0.02)


def test_rapids_run_along_a_line_or_each_axis_alone():
    linear = rapid_time(np.zeros(3), np.array([30.0, 40.0, 0.0]), SHARP)
    each = rapid_time(
        np.zeros(3),
        np.array([30.0, 40.0, 0.0]),
        Drive(SHARP.rapid, SHARP.acceleration, AT_ONCE, 0.05, 0.002, each_axis=True),
    )
    assert each == pytest.approx(move_time(40, 20000, 3000)[0])
    # along the diagonal the axes let it go faster than any of them alone
    assert linear == pytest.approx(move_time(50, 20000 / 0.8, 3000 / 0.8)[0])


def test_a_raster_covers_its_region_and_runs_out_at_both_ends():
    region = rectangle(0, 0, 102, 70)
    path = areas.raster(region, 25.0, 35.0, [0.0], 3.0, 26.0)
    cuts = [leg for leg in path.legs if leg.kind == "cut"]
    low, high = path.bounds()
    assert high[0] >= 51 + 25
    assert low[0] <= -51 - 25
    swept = Point(0, 0).buffer(0)
    for leg in cuts:
        for a, b in zip(leg.points[:-1], leg.points[1:], strict=True):
            swept = swept.union(
                box(
                    min(a[0], b[0]) - 25,
                    min(a[1], b[1]) - 25,
                    max(a[0], b[0]) + 25,
                    max(a[1], b[1]) + 25,
                )
            )
    assert region.difference(swept).area < 1e-6
    assert path.cutting_mm > 2 * (102 + 50)


def test_levels_are_equal_and_end_on_the_floor():
    assert areas.levels(0, -26, 10) == pytest.approx([-26 / 3, -52 / 3, -26])
    assert areas.levels(0, -26, 26) == [-26]
    assert areas.levels(0, -26, 100) == [-26]


def test_a_contour_round_a_disc_is_a_circle():
    path = areas.along_walls(areas.contours_of(disc(0, 0, 20)), [-5.0], 1, 2.0, 25.0)
    around = sum(leg.length for leg in path.legs if leg.kind == "cut")
    assert around == pytest.approx(2 * pi * 20, rel=5e-3)
    twice = areas.along_walls(areas.contours_of(disc(0, 0, 20)), [-5.0], 2, 2.0, 25.0)
    assert sum(leg.length for leg in twice.legs if leg.kind == "cut") == pytest.approx(
        2 * around, rel=1e-3
    )


def test_pocket_rings_keep_inside_and_are_entered_by_a_ramp():
    pocket = rectangle(0, 0, 40, 24, 4)
    path = areas.out_of_pocket(pocket, 4.0, 1.6, 0.0, [-4.0, -8.0], Entry("ramp", 3.0), 2.0, 25.0)
    inside = pocket.buffer(-4.0 + 0.05)
    for leg in path.legs:
        if leg.kind == "cut":
            assert all(inside.covers(Point(x, y)) for x, y, _ in leg.points)
    ramp = next(
        leg for leg in path.legs if leg.kind == "ramp" and leg.points[0][2] > leg.points[-1][2]
    )
    # the first step only comes down to the surface
    in_metal = ramp.points[ramp.points[:, 2] <= 1e-9]
    fall = in_metal[0][2] - in_metal[-1][2]
    along = sum(hypot(*(b - a)[:2]) for a, b in zip(in_metal[:-1], in_metal[1:], strict=True))
    assert fall == pytest.approx(4.0)
    assert fall / along <= tan(np.radians(3.0)) * 1.02


def test_pecked_holes_come_out_as_often_as_the_depth_asks():
    targets = [(0.0, 0.0, 0.0, -32.0), (20.0, 0.0, 0.0, -32.0)]
    plain, pecked = (
        holes.drilled(targets, 2.0, 25.0),
        holes.drilled(targets, 2.0, 25.0, peck_mm=7.0),
    )
    assert sum(leg.kind == "plunge" for leg in plain.legs) == 2
    assert sum(leg.kind == "plunge" for leg in pecked.legs) == 2 * 5
    assert min(leg.points[:, 2].min() for leg in pecked.legs) == -32.0
    drive = Drive.of(usual_rig(seed().machines["heron"]))
    assert time_of(pecked, 1000, 1000, drive).total_s > time_of(plain, 1000, 1000, drive).total_s


def test_tapping_feeds_both_ways():
    path = holes.there_and_back([(0.0, 0.0, 0.0, -20.0)], 2.0, 25.0)
    assert path.cutting_mm == pytest.approx(2 * 22)
    assert path.rapid_mm > 0


def _pocket(entry: Entry, pocket=None):
    return areas.out_of_pocket(
        pocket or rectangle(0, 0, 40, 24, 4), 4.0, 1.6, 0.0, [-4.0], entry, 2.0, 25.0
    )


def test_a_helix_goes_down_at_its_angle_and_leaves_no_post():
    path = _pocket(Entry("helix", 3.0))
    down = next(
        leg.points
        for leg in path.legs
        if leg.kind == "ramp" and leg.points[0][2] > leg.points[-1][2]
    )
    radius = np.ptp(down[:, 0]) / 2.0
    assert radius == pytest.approx(0.9 * 4.0, rel=0.01)
    fall, along = (
        down[0][2] - down[-1][2],
        sum(hypot(*(b - a)[:2]) for a, b in zip(down[:-1], down[1:], strict=True)),
    )
    assert fall / along == pytest.approx(tan(radians(3)), rel=0.01)


def test_into_a_hole_is_rapid_down_to_the_floor_and_a_plunge_is_not():
    hole, plunge = _pocket(Entry("hole", at=(5.0, 0.0))), _pocket(Entry("plunge"))
    deep = [leg.points[-1] for leg in hole.legs if leg.kind == "rapid"]
    assert any(spot[:2].tolist() == [5.0, 0.0] and spot[2] == pytest.approx(-2.0) for spot in deep)
    feeds = [leg.length for leg in plunge.legs if leg.kind == "plunge"]
    assert feeds == pytest.approx([2.0 + 4.0])  # the clearance and the depth


def test_a_pocket_without_room_for_a_helix_says_so():
    with pytest.raises(OutOfRange, match="room round the tool"):
        _pocket(Entry("helix", 3.0), rectangle(0, 0, 40, 8.6, 4))


@pytest.mark.parametrize("lead", ["arc", "angle"])
@pytest.mark.parametrize("outside", [True, False])
def test_a_lead_comes_in_from_the_free_side_and_touches(lead, outside):
    area = rectangle(0, 0, 30, 20, 3)
    free = lambda x, y: area.contains(Point(x, y)) != outside  # noqa: E731
    path = areas.along_walls(areas.contours_of(area), [-5.0], 1, 2.0, 25.0, lead, free, 3.0)
    way_in, ring, way_out = (leg.points for leg in path.legs if leg.kind == "cut")
    assert all(free(*spot[:2]) for spot in way_in[1:-1])
    assert way_in[-1].tolist() == pytest.approx(ring[-1].tolist()) and ring[
        0
    ].tolist() == pytest.approx(way_out[0].tolist())
    last, first = way_in[-1] - way_in[-2], ring[2] - ring[1]
    turn = abs(last[:2] @ first[:2]) / hypot(*last[:2]) / hypot(*first[:2])
    assert (
        turn == pytest.approx(1.0, abs=0.01)
        if lead == "arc"
        else turn == pytest.approx(2**-0.5, abs=0.01)
    )
    assert way_in[0][:2].tolist() != way_out[-1][:2].tolist()


def test_steps_nobody_would_wait_for_are_refused_with_the_least_that_is_taken():
    area = rectangle(0, 0, 100, 60)
    with pytest.raises(
        OutOfRange, match=r"step_over_mm is 0\.01; it must be at least 0\.06, for 1000 passes"
    ):
        areas.raster(area, 5.0, 0.01, [-1.0], 2.0, 25.0)
    with pytest.raises(OutOfRange, match="step_down_mm is 0.001"):
        areas.levels(0.0, -10.0, 0.001)
    with pytest.raises(OutOfRange, match="5000 or fewer in all"):
        areas.raster(area, 5.0, 0.1, areas.levels(0.0, -10.0, 0.1), 2.0, 25.0)
    with pytest.raises(OutOfRange, match="turns or fewer"):
        rounds.milled([(0.0, 0.0, 0.0, -20.0)], [3.0], 0.01, 2.0, 25.0)
    with pytest.raises(OutOfRange, match="peck_mm is 0.01"):
        holes.drilled([(0.0, 0.0, 0.0, -20.0)], 2.0, 25.0, 0.01)


# -- what a machine says of each axis and of its control


def with_(**fields):
    return replace(SHARP, **fields)


def test_the_slowest_axis_to_come_to_its_acceleration_is_waited_for_as_far_as_it_moves():
    """Alone it takes its own time; at 45° it may take half of what it could: twice as soon."""
    drive = with_(acceleration=(4000.0, 2000.0, 2000.0), jerk_time_s=(0.05, 0.10, 0.0))
    assert drive.along(np.array([1.0, 0.0, 0.0])) == pytest.approx((20000.0, 4000.0, 0.05))
    assert drive.along(np.array([0.0, -1.0, 0.0]))[2] == pytest.approx(0.10)
    assert drive.along(np.array([0.0, 0.0, 1.0]))[2] == 0.0
    root = sqrt(0.5)
    _, most, time = drive.along(np.array([root, root, 0.0]))
    assert most == pytest.approx(2000.0 / root)
    assert time == pytest.approx(most / min(4000.0 / 0.05 / root, 2000.0 / 0.10 / root))


def test_a_corner_by_steps_is_as_fast_as_the_axis_that_changes_most_allows():
    """Round 90° both change by the speed: 600 mm/min. Without a turn nothing changes."""
    drive = with_(corner_step=(600.0, 900.0, 600.0))
    square = np.array([[0, 0, 0], [100, 0, 0], [100, 100, 0]], dtype=float)
    straight = np.array([[0, 0, 0], [100, 0, 0], [200, 0, 0]], dtype=float)
    v, top, a = 10.0, 50.0, 3000.0
    side = (top - v) / a + top / a + (100.0 - (top**2 - v**2) / 2 / a - top**2 / 2 / a) / top
    assert path_time(square, 3000.0, drive) == pytest.approx(2.0 * side)
    assert path_time(straight, 3000.0, drive) == pytest.approx(path_time(straight, 3000.0, SHARP))


@pytest.mark.parametrize(("deep", "peck", "feed"), [(32.0, 7.0, 400.0), (60.0, 5.0, 900.0)])
def test_a_peck_cycle_is_its_moves_from_rest_to_rest(deep, peck, feed):
    """By hand: n = ⌈deep/peck⌉ equal pecks from 2 mm over the mouth; after each out to there, and
    back to 0.5 over the last bottom. A move of d at v from rest to rest takes d/v + v/a, or 2√(d/a)
    where it is too short for v. Z: 20 m/min, 3000 mm/s².
    """
    path = holes.drilled([(0.0, 0.0, 0.0, -deep)], 2.0, 2.0, peck_mm=peck)
    rapid, a = 20_000 / 60.0, 3000.0

    def move(way: float, speed: float) -> float:
        return way / speed + speed / a if way >= speed**2 / a else 2.0 * sqrt(way / a)

    n = -(-deep // peck)
    each = deep / n
    down = move(2.0 + each, feed / 60.0) + (n - 1) * move(0.5 + each, feed / 60.0)
    out = sum(move(2.0 + k * each, rapid) for k in range(1, int(n) + 1))
    back = sum(move(2.0 + k * each - 0.5, rapid) for k in range(1, int(n)))
    seen = time_of(path, feed, feed, SHARP)
    assert seen.cutting_s == pytest.approx(down, rel=1e-6)
    assert seen.rapid_s == pytest.approx(out + back, rel=1e-6)
    assert path.settles == n


def test_who_sees_few_blocks_ahead_goes_no_faster_than_it_could_stop_in_them():
    """Blocks of 0.5: from a joint it must stop in two of them, v² = 2·3000·1."""
    points = np.zeros((41, 3))
    points[:, 0] = np.arange(41) * 0.5
    near = block_times(points, np.full(40, 20000.0), with_(look_ahead=2, block_time_s=0.0))
    speed = sqrt(2.0 * 3000.0 * 1.0)
    top = sqrt(speed**2 + 3000.0 * 0.5)  # between two joints
    assert near[20] == pytest.approx(2.0 * (top - speed) / 3000.0)
    every = [path_time(points, 20000.0, with_(look_ahead=n)) for n in (1, 2, 8, 40)]
    assert every == sorted(every, reverse=True)
    assert every[-1] == pytest.approx(path_time(points, 20000.0, SHARP))


def by_small_steps(sides: list[float], feed: float, corner: float, a: float, dt: float = 1e-4):
    """Seconds along straight sides (mm) at a feed (mm/s) through corners of one speed (mm/s), as
    time goes on: no faster than what still can be braked before each of them.
    """
    ends = np.cumsum(sides)
    limits = [corner] * (len(sides) - 1) + [0.0]
    at, speed, time, side = 0.0, 0.0, 0.0, 0
    while side < len(sides):
        left = [(end - at, limit) for end, limit in zip(ends, limits, strict=True) if end > at]
        most = min(sqrt(limit**2 + 2.0 * a * max(gap, 0.0)) for gap, limit in left)
        speed = max(min(speed + a * dt, feed, most), 1e-3)
        at, time = at + speed * dt, time + dt
        side = int(np.searchsorted(ends, at + 1e-6))
    return time


@pytest.mark.parametrize(("side", "feed"), [(20.0, 6000.0), (2.0, 3000.0), (60.0, 18000.0)])
def test_a_square_is_as_an_integration_of_its_own_has_it(side, feed):
    """Corners of 90° at 3000 mm/s², 0.05 off: √(a·δ·c/(1 − c)), c = cos 45°."""
    c = sqrt(0.5)
    corner = min(sqrt(3000.0 * 0.05 * c / (1.0 - c)), feed / 60.0)
    points = np.array([[0, 0, 0], [1, 0, 0], [1, 1, 0], [0, 1, 0], [0, 0, 0]]) * side
    alone = by_small_steps([side] * 4, feed / 60.0, corner, 3000.0)
    assert path_time(points, feed, SHARP) == pytest.approx(alone, rel=0.01)
