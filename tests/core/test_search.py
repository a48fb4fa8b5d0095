"""The roughing search: inside every limit, never beaten by a cut it did not take, and it names what
holds it back.
"""

from __future__ import annotations

from dataclasses import replace
from math import inf, pi

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from machining.cutting import forces
from machining.cutting.search import (
    ANY,
    FULL_DEPTH,
    SHALLOW,
    Cutter,
    Job,
    candidate,
    depths,
    search,
    turning_speeds,
    widths,
)
from machining.quantities.errors import OutOfRange
from tests.at_length import often

from .build import rig

HERON, DUNLIN = rig("heron"), rig("dunlin")
CUTTER = Cutter(12, 3, 28, 0.1147)
JOB = Job(26, 3.0, 700, 0.25, 350, 0.4, 0.25, speed_low=200)


def give(depth):
    return 1e-4


def every_cut(cutter, job, machine, school):
    """All cuts of the grid inside the limits, the slow way."""
    for rpm in turning_speeds(cutter, job, machine):
        for depth in depths(job.height, cutter, school):
            for width in widths(job.width, cutter, school):
                cut = candidate(depth, width, rpm, cutter, job, machine)
                while cut is not None:
                    wide = job.worst(depth, width, cutter.diameter)
                    turn = forces.over_one_turn(
                        cutter.diameter,
                        cutter.edges,
                        *wide,
                        cut.feed_per_tooth,
                        job.kc11,
                        job.mc,
                        job.radial_ratio,
                        job.axial_ratio,
                    )
                    if (
                        turn.peak_side <= job.largest_force * 1.001
                        and turn.peak_normal * give(depth) <= job.largest_push_off * 1.001
                    ):
                        yield cut
                        break
                    cut = candidate(
                        depth, width, rpm, cutter, job, machine, cut.feed_per_tooth * 0.98
                    )


@pytest.mark.parametrize(
    ("machine", "job"),
    [
        (DUNLIN, JOB),
        (HERON, replace(JOB, largest_force=600.0)),
        (HERON, replace(JOB, largest_push_off=0.06)),
        (DUNLIN, replace(JOB, height=8.0, width=None, kc11=2000)),
    ],
    ids=["power", "held", "soft", "steel"],
)
def test_nothing_of_the_grid_removes_more(machine, job):
    found = search(CUTTER, job, machine, give)
    best = max(cut.removal for cut in every_cut(CUTTER, job, machine, ANY))
    assert found is not None
    assert found.removal == pytest.approx(best, rel=0.025)
    assert found.removal >= best * 0.999


@settings(max_examples=often(20), deadline=None)
@given(
    st.floats(2, 25),
    st.integers(2, 6),
    st.floats(1, 40),
    st.one_of(st.none(), st.floats(0.3, 20)),
    st.floats(400, 2800),
    st.floats(0.1, 0.35),
    st.floats(40, 600),
    st.floats(100, 5000),
    st.floats(0.005, 0.3),
    st.floats(0, 1),
)
def test_property_inside_every_limit(
    diameter, edges, height, width, kc11, mc, speed, force, push_off, sawn
):
    cutter = Cutter(diameter, edges, 3 * diameter, 0.01 * diameter)
    job = Job(
        height,
        width,
        kc11,
        mc,
        speed,
        0.4,
        0.25,
        largest_force=force,
        largest_push_off=push_off,
        extra_width=sawn,
    )
    for machine in (HERON, DUNLIN):
        cut = search(cutter, job, machine, give)
        if cut is None:
            continue
        wide = job.worst(cut.depth, cut.width, diameter)
        turn = forces.over_one_turn(diameter, edges, *wide, cut.feed_per_tooth, kc11, mc, 0.4, 0.25)
        assert turn.peak_side <= force * 1.001
        assert turn.peak_normal * 1e-4 <= push_off * 1.001
        assert cut.power <= 0.85 * cut.power_limit * 1.001
        assert cut.torque <= 0.85 * cut.torque_limit * 1.001
        assert cut.feed <= machine.machine.max_feed_mm_min * 1.001
        assert cut.feed_per_tooth >= cutter.thinnest_chip
        assert machine.spindle.min_rpm <= cut.rpm <= machine.spindle.max_rpm
        assert cut.depth <= min(height, cutter.flute_length) + 1e-9
        assert cut.width <= diameter + 1e-9
        assert cut.limits


def test_the_feed_at_the_power_limit_by_hand():
    """Full width of 3 and 26 deep: P = C·fz^0.75, so fz is where 85 % of the curve is met, all by
    hand.
    """
    cut = candidate(26, 3, 9284.04, CUTTER, JOB, HERON)
    assert cut is not None
    arc = 2 * pi / 6  # cos φ = 1 − 2·3/12 = 0.5
    chip = cut.feed_per_tooth * 0.5 / arc
    power = 26 * 3 * cut.feed * 700 * chip**-0.25 / 60e6 / 0.85
    assert power == pytest.approx(0.85 * 7.5, rel=1e-6)
    assert cut.limits == ("power",)


def test_each_limit_is_named_where_it_binds():
    assert search(CUTTER, replace(JOB, width=0.6), HERON, give).limits == ("chip",)
    assert search(CUTTER, JOB, HERON, give).limits == ("power",)
    assert search(CUTTER, replace(JOB, largest_force=300), HERON, give).limits[0] == "holding"
    assert search(CUTTER, replace(JOB, largest_push_off=0.01), HERON, give).limits[0] == "push-off"
    assert search(
        replace(CUTTER, diameter=6, edges=14),
        replace(JOB, speed=2000, height=1.0, width=1.0),
        HERON,
        give,
    ).limits == ("feed",)
    torque = search(
        Cutter(40, 4, 40, 0.15),
        replace(JOB, height=4, width=38, kc11=2000, speed=60, speed_low=60),
        HERON,
        give,
    )
    assert torque.limits == ("torque",)


def test_what_no_feed_is_slow_enough_for_is_not_offered():
    assert search(CUTTER, replace(JOB, largest_force=1.0), HERON, give) is None
    assert search(replace(CUTTER, thinnest_chip=0.5), JOB, HERON, give) is None


def test_the_two_schools_keep_to_their_ways():
    job = replace(JOB, width=None)
    deep, wide = (
        search(CUTTER, job, HERON, give, FULL_DEPTH),
        search(CUTTER, job, HERON, give, SHALLOW),
    )
    assert deep.depth == 26
    assert deep.width <= 0.3 * 12
    assert wide.depth <= 12
    assert wide.width >= 0.4 * 12


def test_a_height_over_the_flutes_is_cut_in_equal_steps():
    assert depths(60, CUTTER, FULL_DEPTH) == [20.0]
    assert depths(26, CUTTER, FULL_DEPTH) == [26.0]
    assert depths(26, CUTTER, SHALLOW)[0] == pytest.approx(26 / 3)


def test_a_small_spindle_turns_slower_where_its_torque_is():
    """Dunlin gives its power between 2250 and 6000 rpm; the material's band begins at 5305 for this
    cutter.
    """
    cut = search(CUTTER, JOB, DUNLIN, give)
    assert 200 <= pi * 12 * cut.rpm / 1000 <= 350
    assert cut.rpm < 8000
    assert cut.limits == ("power",)
    assert search(CUTTER, JOB, HERON, give).removal > 3 * cut.removal


def test_wider_limits_never_remove_less():
    less = search(CUTTER, replace(JOB, largest_force=700), HERON, give).removal
    assert search(CUTTER, replace(JOB, largest_force=1400), HERON, give).removal >= less
    assert (
        search(CUTTER, replace(JOB, power_share=1.0), HERON, give).removal
        > search(CUTTER, JOB, HERON, give).removal
    )


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"height": 0}, "height"),
        ({"power_share": 1.2}, "power_share"),
        ({"height": inf}, "height"),
        ({"width": 0}, "width"),
    ],
)
def test_wrong_jobs_are_refused(change, words):
    with pytest.raises(OutOfRange, match=words):
        search(CUTTER, replace(JOB, **change), HERON, give)
