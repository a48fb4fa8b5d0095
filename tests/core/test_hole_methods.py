"""Ways to make a hole: each limit by hand, the order on three machines, and the crossing where it
turns.
"""

from __future__ import annotations

from math import pi, radians, sin, tan

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from machining.cutting.hole_methods import rank
from machining.cutting.hole_steps import Ground, Hole
from machining.quantities.errors import OutOfRange
from machining.quantities.said import Said, length
from machining.ways.hole_ways import bits, hole_ways, in_shop_steps
from tests.at_length import often

from .build import LIBRARY, rig

STEEL = LIBRARY.materials["c45"]
HOLES = {"small": Hole(6.8, 26, 4), "large": Hole(20, 26, 3), "odd": Hole(15, 20, 1)}


def ways(hole, machine):
    return hole_ways(hole, STEEL, rig(machine), LIBRARY)


def method(ranking, name):
    return next(each for each in ranking.methods if each.name == name)


def test_three_holes_on_three_machines():
    """The large hole: an insert drill where the spindle turns it, else a helix; the long drill is
    too long for Dunlin.
    """
    first = {
        (hole, machine): ways(HOLES[hole], machine).methods[0].name
        for hole in HOLES
        for machine in ("heron", "dunlin", "curlew")
    }
    assert {first["small", machine] for machine in ("heron", "dunlin", "curlew")} == {"drill"}
    assert (first["large", "heron"], first["large", "dunlin"], first["large", "curlew"]) == (
        "insert drill",
        "mill on a helix",
        "insert drill",
    )
    assert {first["odd", machine] for machine in ("heron", "dunlin", "curlew")} == {
        "mill on a helix"
    }
    assert "stalls" in method(ways(HOLES["large"], "dunlin"), "insert drill").because.text
    assert method(ways(HOLES["large"], "dunlin"), "drill").because == Said(
        "drill 20 HSS is too long for Dunlin: {length} of {most}",
        {"length": length(228.0), "most": length(180.0)},
    )


def test_the_drill_s_torque_limit_by_hand():
    """Insert drill 20 on Heron: 25.33 N·m of its 29.8 may be used, and M =
    kc1.1·(f/2)^(1−mc)·2·D²/8000/η meets it.
    """
    step = method(ways(HOLES["large"], "heron"), "insert drill").steps[0]
    assert step.limit == "torque"
    feed = step.feed / step.rpm
    kc = 1765 * (feed / 2 * sin(radians(90))) ** -0.22
    assert kc * feed * 20**2 / 8000 / 0.85 == pytest.approx(0.85 * 29.8, rel=1e-6)
    assert step.torque_limit == pytest.approx(0.85 * 29.8)
    assert step.power == pytest.approx(2 * pi * step.rpm * step.torque / 60_000)


def test_the_feed_of_the_data_where_nothing_else_binds():
    step = method(ways(HOLES["large"], "curlew"), "insert drill").steps[0]
    data = STEEL.data_for("drill", "carbide")
    assert step.limit == "feed"
    assert step.feed / step.rpm == pytest.approx(data.chip_mm(20))
    assert step.rpm == pytest.approx(1000 * data.speed_start / (pi * 20))
    assert step.seconds == pytest.approx(3 * 60 * (26 + 2) / step.feed)


def test_the_point_of_a_drill_travels_too_where_it_goes_through():
    step = method(ways(HOLES["small"], "heron"), "drill").steps[0]
    assert step.seconds == pytest.approx(4 * 60 * (26 + 2 + 3.4 / tan(radians(70))) / step.feed)
    blind = method(
        hole_ways(Hole(6.8, 26, 4, through=False), STEEL, rig("heron"), LIBRARY),
        "drill",
    ).steps[0]
    assert blind.seconds < step.seconds


def test_the_helix_by_hand():
    """Its centre runs slower than its edge by (D − d)/D; a turn goes down what the ramp angle
    allows.
    """
    step = method(ways(HOLES["odd"], "heron"), "mill on a helix").steps[0]
    tool = LIBRARY.tools[step.bit.key]
    circle, pitch = pi * (15 - tool.diameter_mm), step.pitch
    assert tan(radians(tool.max_ramp_deg)) * circle >= pitch - 1e-9
    turns = (20 + 2) / pitch + 1
    assert step.seconds == pytest.approx(60 * turns * circle / step.feed, rel=1e-9)
    assert (
        step.feed * 15 / (15 - tool.diameter_mm)
        <= step.rpm * tool.flutes * (tool.max_chip_mm or 1) * 1.001
    )


@pytest.mark.parametrize(("hole", "machine"), [("large", "heron"), ("large", "curlew")])
def test_past_the_stated_crossing_the_order_turns(hole, machine):
    ranking = ways(HOLES[hole], machine)
    crossing = ranking.crossing
    assert crossing is not None
    at = rig(machine)
    tools = bits(STEEL, at, LIBRARY)
    above, below = (
        rank(
            HOLES[hole],
            tools,
            Ground(STEEL.kc11_n_mm2, STEEL.mc, at, 0.85, crossing.factor * factor),
        )
        .methods[0]
        .name
        for factor in (1.001, 0.999)
    )
    assert above == ranking.methods[0].name
    assert below == crossing.other != above
    step = ranking.methods[0].steps[0]
    assert crossing.torque == pytest.approx(step.torque_limit / 0.85 * crossing.factor)


def test_what_cant_be_done_says_why_and_comes_last():
    ranking = ways(Hole(6.8, 80, 1), "heron")
    assert ranking.methods[0].name == "pilot and deep drill"
    assert [step.bit.name for step in ranking.methods[0].steps] == ["drill 6.8", "drill 6.8 12×D"]
    assert "needs a pilot" in method(ranking, "drill").because.text
    assert all(not each.steps for each in ranking.methods[1:])
    assert all(each.because for each in ranking.methods[1:])
    plunge = method(hole_ways(Hole(16, 20, 1), STEEL, rig("heron"), LIBRARY), "plunge an end mill")
    assert plunge.steps[0].bit.centre_cutting


def test_pockets_count_what_is_not_loaded_yet():
    bare, carried = (
        hole_ways(HOLES["large"], STEEL, rig("heron"), LIBRARY, loaded)
        for loaded in ((), ("drill-19",))
    )
    assert (method(bare, "drill and bore").pockets, method(carried, "drill and bore").pockets) == (
        2,
        1,
    )


@settings(max_examples=often(25), deadline=None)
@given(
    st.floats(3, 60),
    st.floats(2, 120),
    st.integers(1, 20),
    st.sampled_from(sorted(LIBRARY.materials)),
    st.sampled_from(sorted(LIBRARY.machines)),
)
def test_property_inside_the_curve_and_in_order(diameter, depth, count, material, machine):
    ground = rig(machine)
    ranking = hole_ways(Hole(diameter, depth, count), LIBRARY.materials[material], ground, LIBRARY)
    times = [each.seconds for each in ranking.methods if each.steps]
    assert times == sorted(times)
    for each in ranking.methods:
        assert bool(each.steps) != bool(each.because)
        for step in each.steps:
            assert step.torque <= step.torque_limit * 1.001
            assert step.power <= step.power_limit * 1.001
            assert step.feed <= ground.machine.max_feed_mm_min * 1.001
            assert ground.spindle.min_rpm <= step.rpm <= ground.spindle.max_rpm


@pytest.mark.parametrize("change", [{"diameter": 0}, {"depth": -1}, {"count": 0}])
def test_a_hole_without_size_is_refused(change):
    with pytest.raises(OutOfRange):
        hole_ways(
            Hole(**{"diameter": 10, "depth": 10, "count": 1, **change}),
            STEEL,
            rig("heron"),
            LIBRARY,
        )


def test_a_shop_s_steps_only_go_down_and_take_their_time():
    exact = ways(HOLES["large"], "heron")
    rounded = in_shop_steps(exact, LIBRARY.settings)
    assert [m.name for m in rounded.methods] == [
        m.name for m in exact.methods
    ] and rounded.crossing == exact.crossing
    for before, after in zip(exact.methods, rounded.methods, strict=True):
        for raw, step in zip(before.steps, after.steps, strict=True):
            assert step.rpm % 10 == 0 and step.rpm <= raw.rpm and step.feed <= raw.feed
            assert step.feed / step.rpm <= raw.feed / raw.rpm * (1 + 1e-9)
            assert step.seconds * step.feed == pytest.approx(raw.seconds * raw.feed)
        if before.steps:
            assert after.seconds - before.seconds == pytest.approx(
                sum(s.seconds for s in after.steps) - sum(s.seconds for s in before.steps)
            )
