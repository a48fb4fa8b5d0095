"""Turned operations on a lathe: what they take, how long, with what force, and what is noticed
about them.
"""

from __future__ import annotations

from math import hypot, log, pi, sqrt

import pytest
from hypothesis import given
from hypothesis import strategies as st

from machining.facts.holdings.chuck import CHUCK as CHUCK_KIND
from machining.facts.route import walk
from machining.memo import Memo
from machining.plan.apply import EditRefused, apply
from machining.plan.document import Station
from machining.plan.edit import Change
from machining.plan.turned import (
    Groove,
    Profile,
    RingGroove,
    Stretch,
    TurnFinish,
    TurnGroove,
    TurnRough,
)
from machining.ways.choices import turn_choices
from machining.ways.offers import offers

from .build import changed
from .lathe import (
    CHUCK,
    CONTOUR,
    DRILL,
    FACE,
    GLAND,
    GOOD,
    LIBRARY,
    MEMO,
    ROUGH,
    THREAD,
    answer,
    figures,
    finding,
    ids,
    plan,
    result,
    setup,
)

KC11, MC = 2000.0, 0.21  # 316 in the library


def test_a_rough_takes_what_stands_over_the_contour():
    """Ø50 bar, Ø30.6 down to Z −31.9 and Ø48.6 to −44, all of it before the face is cut."""
    rough = result(plan(ROUGH), "rough")
    by_hand = pi * ((25**2 - 15.3**2) * 32.9 + (25**2 - 24.3**2) * 12.1)
    assert rough.removed_mm3 == pytest.approx(by_hand, rel=1e-4)
    assert rough.depth_mm == pytest.approx(9.7 / 5)


# -- force


def test_the_force_of_a_rough_is_kienzles():
    now = figures(plan(ROUGH))
    h = 0.25 * 0.9961947  # sin 95°
    by_hand = KC11 * h**-MC * (9.7 / 5) * 0.25
    assert now["cutting_force"] == pytest.approx(by_hand, rel=1e-6)
    assert now["power"] == pytest.approx(by_hand * 130 / 60_000 / 0.85, rel=1e-6)
    assert now["torque"] == pytest.approx(now["power"] * 9549.3 / now["rpm"], rel=1e-4)


def test_a_chuck_is_asked_where_speed_and_torque_meet_worst():
    """Slow at the bar's Ø50, and faster where it gets thin: the one that is stood less."""
    of = plan(ROUGH)
    now, op = figures(of), walk(of, LIBRARY, MEMO).operations()[0]
    slow, fast = CHUCK_KIND.ends(op, op.station.planned.holding, op.station.item)
    assert slow.diameter == pytest.approx(50.0) and fast.diameter < 50.0
    for end, rpm in ((slow, now["rpm"]), (fast, now["top_rpm"])):
        thrown = 1.1 * (25 + 22) / 1000 * (2 * pi * rpm / 60) ** 2
        assert end.share == pytest.approx(1.0 - thrown / CHUCK.force_per_jaw_n)
    assert op.seen.held.share in (slow.share, fast.share)
    assert now["jaw_at_speed"] == pytest.approx(op.seen.held.share * CHUCK.force_per_jaw_n)


def test_a_light_cut_at_full_speed_is_asked_at_its_small_end():
    fast = changed(
        plan(FACE.model_copy(update={"depth_mm": 0.1, "feed_per_rev_mm": 0.1})),
        "operation:face",
        cutting_speed_m_min=600.0,
    )
    now = figures(fast, "face")
    assert now["centrifugal"] == pytest.approx(
        1.1 * 47 / 1000 * (2 * pi * 4500 / 60) ** 2, rel=1e-6
    )
    assert now["top_rpm"] == 4500


def test_a_thread_takes_the_same_section_each_pass():
    of = plan(*GOOD)
    rows = result(of, "thread").table.rows
    depths = [row[1] for row in rows]
    assert depths[:6] == pytest.approx([0.61343 * 1.5 * sqrt(k / 6) for k in range(1, 7)])
    assert depths[6] == depths[5]  # the spring pass
    now = figures(of, "thread")
    v = 1.5 * now["rpm"] / 60
    assert now["run_in"] == pytest.approx(v * v / (2 * 4000) + v * 0.05)
    assert now["feed"] == pytest.approx(1.5 * now["rpm"])


def test_a_finish_predicts_its_feed_marks():
    assert figures(plan(*GOOD), "finish")["turned_finish"] == pytest.approx(
        1000 * 0.1**2 / (8 * 0.4)
    )


def test_a_boring_bar_bends_with_the_cube_of_its_length():
    bore = TurnFinish(
        id="bore",
        tool="t6",
        on=Profile(at_mm=((0.0, 22.0), (-40.0, 22.0)), side="inside"),
        width_mm=0.3,
    )
    wide = GLAND.key
    assert wide
    opened = TurnRough(
        id="open",
        tool="t6",
        on=Profile(at_mm=((0.0, 21.4), (-40.0, 21.4)), side="inside"),
        leave_mm=0.0,
        depth_mm=1.0,
    )
    of = plan(FACE, DRILL, opened, bore)
    now = figures(of, "bore")
    sag = now["push_force"] * 64**3 * 64 / (3 * 210_000 * pi * 16**4)
    assert now["push_off"] == pytest.approx(
        sag + now["push_force"] * (0.015 + 0.02) / 1000, rel=1e-6
    )
    assert now["slenderness"] == 4.0
    assert "reach.entry" in ids(of)  # the bar enters from Ø20 on, the drill left Ø12


# -- travel, reach


def test_a_lathe_measures_its_slides_and_swing():
    now = figures(plan(ROUGH))
    assert now["travel_swing"] == pytest.approx(340 - 2 * hypot(25 + 45, 14))
    assert now["travel_x"] == pytest.approx(210 - 50)  # 25 mm of retract over Ø50
    assert now["travel_z"] == pytest.approx(520 - (26 - (-90 + 28 - 32)))
    near = changed(plan(FACE, ROUGH), "station:st1", holding__grip_mm=32.0)
    assert "hold.jaw-in-cut" not in ids(near)
    deep = changed(near, "operation:rough", on__at_mm=[[0, 30], [-60, 30], [-60, 48], [-62, 48]])
    assert "hold.jaw-in-cut" in ids(deep)


def test_a_tool_must_stand_out_past_the_flange_beside_its_block():
    """Rough at radius 15.3 beside a flange left at 24.3: 9 and the side margin of 3; the block ends
    before the bar.
    """
    assert figures(plan(ROUGH))["stick_out_needed"] == pytest.approx(9.0 + 3.0, abs=1e-3)
    short = changed(plan(ROUGH), "tool:t1", stick_out_mm=10.0)
    assert "reach.stick-out-short" in ids(short)


# -- places, edits, offers, ways


@pytest.mark.parametrize(
    ("at", "words"),
    [
        ([[0, 30], [2, 30]], "runs towards the chuck"),
        ([[0, 30], [0, 30]], "they must differ"),
        ([[0, 30], [0, 40]], "has no length"),
        ([[0, -1], [-3, 4]], "0 or more"),
    ],
)
def test_a_contour_that_is_none_is_refused(at, words):
    with pytest.raises(EditRefused, match=words):
        changed(plan(ROUGH), "operation:rough", on__at_mm=at)


def test_a_ring_is_grooved_into_the_face():
    ring = TurnGroove(
        id="ring", tool="t8", on=RingGroove(outer_diameter_mm=40.0, width_mm=5.0, depth_mm=2.0)
    )
    got = result(plan(FACE, ring), "ring")
    assert got.removed_mm3 == pytest.approx(pi * (20**2 - 15**2) * 2.0, rel=1e-4)
    assert "reach.tool-impossible" in ids(plan(FACE, ring.model_copy(update={"tool": "t3"})))
    with pytest.raises(EditRefused, match="half the outer diameter"):
        changed(plan(ring), "operation:ring", on__width_mm=21.0)


def test_typed_speeds_stay_and_are_proven_in_their_material():
    of = changed(
        plan(FACE, ROUGH), "operation:rough", feed_per_rev_mm=0.2, cutting_speed_m_min=150.0
    )
    assert of.setups[0].operations[1].proven_in == "x5crnimo17-12-2"
    now = figures(of)
    assert (now["chip"], now["cutting_speed"]) == pytest.approx((0.2, 150.0))
    over = changed(of, "operation:rough", cutting_speed_m_min=400.0, feed_per_rev_mm=0.9)
    assert {"cut.speed-band", "cut.chip-over"} <= ids(over)
    other = changed(of, "plan", material="en-aw-6082")
    found = finding(other, "cut.material-changed")
    assert "cut.material-changed" not in ids(apply(other, found.fixes[0].edits))


def test_offers_lead_from_bar_to_part():
    """The offers taken one after the other make a plan that nothing stops."""
    of = plan(
        tools=(), setups=(setup(holding=CHUCK.model_copy(update={"force_per_jaw_n": 22000.0})),)
    )
    facts = walk(of, LIBRARY, Memo())
    names = iter(f"n{k}" for k in range(100))
    found = {
        (o.group.split(" ")[0], o.label): o
        for o in offers(facts.setups[0].first, facts, lambda: next(names))
    }
    assert {
        ("End", "Face"),
        ("Outside,", "Rough"),
        ("Outside,", "Finish"),
        ("Groove", "Groove"),
        ("Bore", "Drill"),
        ("Bore", "Rough"),
        ("End", "Part off"),
        ("By", "Thread"),
    } <= set(found)
    groove = found["Groove", "Groove"].edits[-1].operation.on
    assert (groove.z_mm, groove.width_mm, groove.diameter_mm) == (-22.0, 10.0, 24.0)
    taken = of
    for key in (
        ("End", "Face"),
        ("Outside,", "Rough"),
        ("Outside,", "Finish"),
        ("Groove", "Groove"),
        ("Bore", "Drill"),
    ):
        facts = walk(taken, LIBRARY, MEMO)
        again = {
            (o.group.split(" ")[0], o.label): o
            for o in offers(facts.setups[0].first, facts, lambda: next(names))
        }
        taken = apply(taken, again[key].edits)
    assert answer(taken).count("stop") == 0


def test_the_ways_of_turned_operations_stay_inside_their_limits():
    of = plan(*GOOD)
    facts = walk(of, LIBRARY, MEMO)
    for op in facts.operations():
        for way in turn_choices(op, facts):
            after = answer(apply(of, way.edits))
            assert not after.problem
            if op.operation.kind == "turn_rough":
                now = figures(apply(of, way.edits), "rough")
                assert (
                    now["power"] <= 0.86 * now["power_limit"]
                    and now["torque"] <= 0.86 * now["torque_limit"]
                )
    names = {
        op.operation.id: [way.label for way in turn_choices(op, facts)] for op in facts.operations()
    }
    assert (
        "turned first, the rest grooved" in names["recess"]
        and "away from the chuck" in names["thread"]
    )
    assert any("grooved before the finish" in each for each in names["recess"])
    assert names["drill"] == []


def test_nothing_held_on_a_lathe_offers_its_chucks():
    bare = plan(FACE, setups=(setup(FACE, holding=None),))
    found = finding(bare, "hold.none-chosen")
    after = apply(bare, found.fixes[0].edits)
    assert after.setups[0].stations[0].in_chuck is not None and "hold.none-chosen" not in ids(after)
    assert answer(bare).setups[0].stations[0].zero[0].text == "X on the spindle’s axis"
    in_vise = plan(
        setups=(setup(FACE, holding={"vise": "vise-125", "grip_depth_mm": 6.0, "torque_nm": 30.0}),)
    )
    assert "a chuck holds it" in answer(in_vise).setups[0].stations[0].unknown["hold"]


def test_a_plan_from_before_there_were_chucks_reads_as_it_was():
    old = Station.model_validate(
        {
            "id": "s",
            "holding": {"vise": "vise-125", "fixed": "+y", "grip_depth_mm": 6.0, "torque_nm": 40.0},
        }
    )
    assert old.in_vise is not None and old.in_vise.vise == "vise-125" and old.in_chuck is None
    with pytest.raises(EditRefused, match="must be vise or chuck"):
        apply(plan(FACE), [Change(on="station:st1", fields={"holding": {"kind": "nail"}})])


@given(st.floats(0.05, 12.0), st.floats(0.3, 2.0), st.integers(1, 12), st.floats(0.1, 60.0))
def test_a_groove_of_any_size_is_answered(deep, step, passes, wide):
    grooved = TurnGroove(
        id="g",
        tool="t3",
        on=Groove(z_mm=-2.0, width_mm=wide, diameter_mm=50.0 - 2.0 * deep),
        step_mm=step,
    )
    threaded = THREAD.model_copy(
        update={"passes": passes, "on": Stretch(z_mm=-1.0, length_mm=wide)}
    )
    got = answer(plan(FACE, grooved, threaded))
    assert not got.problem
    assert all(
        log(1.0 + figure.value) >= 0
        for name, figure in got.figures.items()
        if name.endswith((".power", ".cutting_force"))
    )


def test_the_path_of_a_rough_never_cuts_into_what_is_kept():
    facts = walk(plan(FACE, ROUGH), LIBRARY, MEMO)
    op = facts.setups[0].operations[1]
    low = min(
        float(r) for leg in op.path.legs if leg.kind == "cut" for r, _, z in leg.points if z > -31.8
    )
    assert low == pytest.approx(15.3, abs=1e-3)
    assert CONTOUR.at_mm[1] == (-32.0, 30.0)


def test_passes_nobody_would_wait_for_name_the_field_they_come_from():
    for hair in (FACE, ROUGH):
        op = next(
            iter(
                walk(plan(hair.model_copy(update={"depth_mm": 0.0005})), LIBRARY, MEMO).operations()
            )
        )
        assert op.unknown["cut"].startswith("depth_mm is 0.0005; it must be at least 0.0")
