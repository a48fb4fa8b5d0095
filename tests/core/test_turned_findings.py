"""What is noticed about turned operations: wear, grooves used for roughing, threads, chucks,
shoulders.
"""

from __future__ import annotations

from math import pi, sqrt, tan

import pytest

from machining.plan.apply import apply
from machining.plan.turned import Profile
from machining.world.part import Requirement
from machining.world.stock.block import sawn_block

from .build import changed
from .lathe import (
    CHUCK,
    FACE,
    FINISH,
    GLAND,
    GOOD,
    LIBRARY,
    OFF,
    RECESS,
    ROUGH,
    THREAD,
    answer,
    figures,
    finding,
    ids,
    plan,
    result,
    setup,
    tool,
)


def test_a_round_bar_weighs_what_a_round_bar_weighs():
    bar = pi / 4 * 50**2 * 91 * LIBRARY.materials["x5crnimo17-12-2"].density_kg_dm3 / 1e6
    assert answer(plan(FACE)).stock_mass_kg == pytest.approx(bar)


def test_a_good_turned_plan_is_quiet():
    found = ids(plan(*GOOD, quantity=1))
    assert found <= {"cut.groove-as-rougher"}, found


def test_a_groove_used_for_roughing_is_noticed_and_turned_first():
    """10 wide with an insert of 3; the finishing tool gets in at 27°, so a wedge of 3/tan 27° is
    left: 5.89.
    """
    of = plan(*GOOD)
    found = finding(of, "cut.groove-as-rougher")
    assert found.values["plunges"].value == 4  # 1 + ⌈7/2.4⌉
    assert found.values["rest"].value == pytest.approx(3 / tan(27 * pi / 180), abs=0.06)
    after = apply(of, found.fixes[0].edits)
    assert "cut.groove-as-rougher" not in ids(after)
    kinds = [op.kind for op in after.setups[0].operations]
    # the wedge is left for it
    assert answer(after).count("stop") == 0 and result(after, "recess").removed_mm3 > 100
    assert kinds.index("turn_rough", 2) == kinds.index("turn_groove") - 1
    last = answer(after).setups[0].operations[-1].removed_mm3
    # the same part comes off
    assert last == pytest.approx(answer(of).setups[0].operations[-1].removed_mm3, rel=1e-3)
    kept = apply(of, found.fixes[1].edits)
    assert "cut.groove-as-rougher" not in ids(kept)


def test_a_narrow_groove_is_grooved():
    assert "cut.groove-as-rougher" not in ids(
        changed(plan(*GOOD), "operation:recess", on__width_mm=5.0)
    )


def test_a_grooving_tool_that_roughs_along_is_noticed():
    of = plan(FACE, ROUGH.model_copy(update={"tool": "t3"}))
    found = finding(of, "cut.groove-as-rougher")
    assert "cut.groove-as-rougher" not in ids(apply(of, found.fixes[0].edits))
    assert result(apply(of, found.fixes[0].edits), "rough").time_s < result(of, "rough").time_s


def test_a_thread_needs_room_behind_and_before_it():
    bare = plan(FACE, ROUGH, FINISH, THREAD)
    found = finding(bare, "cut.thread")
    assert found.values["needed"].value == pytest.approx(1.5) and found.values["room"].value == 0
    for fix in found.fixes:
        after = apply(bare, fix.edits)
        assert "cut.thread" not in ids(after), fix.label
    assert "cut.thread" not in ids(plan(*GOOD))
    away = changed(plan(*GOOD), "operation:thread", towards="tail", run_in_mm=12.0)
    assert {
        f.values["needed"].value
        for f in answer(away).findings
        if f.id == "cut.thread" and "needed" in f.values
    } == {12.0}


def test_a_thread_comes_after_its_diameter_and_has_its_tool_s_pitch():
    early = plan(FACE, THREAD, ROUGH, FINISH)
    found = finding(early, "size.order")
    assert found.values["later"].value == "40"
    after = apply(early, found.fixes[0].edits)
    assert [op.id for op in after.setups[0].operations][-1] == "thread" and "size.order" not in ids(
        after
    )
    coarse = changed(plan(*GOOD), "operation:thread", pitch_mm=2.0)
    assert finding(coarse, "reach.tool-impossible").values["wanted"].value == 2.0


def test_edges_of_a_turning_tool_wear_as_taylor_says():
    """At the data's start speed an edge lasts its 15 minutes; so many parts wear out as many as
    they have it in metal.
    """
    now = figures(plan(*GOOD))
    assert now["edge_life"] == pytest.approx(15.0)
    fast = figures(changed(plan(*GOOD), "operation:rough", cutting_speed_m_min=182.0))
    assert fast["edge_life"] == pytest.approx(15.0 * (130 / 182) ** 4)
    many = plan(*GOOD, quantity=5000)
    worn = finding(many, "cut.life")
    rows = {op.id: op for op in answer(many).setups[0].operations}
    took = rows["rough"].in_cut_s + rows["face"].in_cut_s
    assert worn.values["needed"].value == pytest.approx(5000 * took / 60 / 15, abs=1.0)
    parted = [f for f in answer(many).findings if f.id == "cut.life" and f.operation == "finish"]
    assert parted and "edges last" in parted[0].fixes[0].label
    slower = apply(many, parted[0].fixes[0].edits)
    assert not [
        f for f in answer(slower).findings if f.id == "cut.life" and f.operation == "finish"
    ]


def test_a_rougher_that_finishes_a_close_diameter_gets_a_twin():
    asks = Requirement(
        id="r1", what="Seat", feature="outside", nominal_mm=30.0, upper_mm=0.0, lower_mm=-0.02
    )
    close = plan(
        FACE,
        ROUGH,
        FINISH.model_copy(update={"tool": "t1"}),
        part=plan().part.model_copy(update={"requirements": (asks,)}),
    )
    found = finding(close, "size.worn-finisher")
    assert found.operation == "finish"
    assert "size.worn-finisher" not in ids(apply(close, found.fixes[0].edits))
    assert "size.worn-finisher" not in ids(changed(close, "operation:finish", tool="t2"))


def test_hand_and_direction_of_a_thread_go_with_its_tool():
    left = changed(plan(*GOOD), "operation:thread", hand="left")
    found = finding(left, "cut.thread")
    assert "backwards" in found.message
    assert not [
        f
        for f in answer(apply(left, found.fixes[0].edits)).findings
        if f.id == "cut.thread" and "backwards" in f.message
    ]


def test_a_square_bar_strikes_the_edge_every_turn():
    """A block 34 square turned to 30: between the flats nothing stands over Ø34, at the corners
    48.1/2 − 17.
    """
    square = plan(
        FACE,
        ROUGH.model_copy(update={"on": Profile(at_mm=((0.0, 30.0), (-30.0, 30.0)))}),
        stock=sawn_block(z=(50, 1)),
    )
    found = [f for f in answer(square).findings if f.id == "cut.interrupted"]
    assert {f.operation for f in found} == {"face", "rough"}
    corner = (24 * sqrt(2) - 24) if GLAND.size[0] == 48.0 else 0.0
    # the block is as wide as the part
    assert found[-1].values["deep"].value == pytest.approx(corner, abs=0.3)
    slower = apply(square, found[-1].fixes[0].edits)
    assert not [
        f
        for f in answer(slower).findings
        if f.id == "cut.interrupted" and f.operation == found[-1].operation
    ]
    assert "cut.interrupted" not in ids(plan(FACE, ROUGH))


def test_a_face_may_begin_in_air_for_the_longest_blank():
    sawn = plan(FACE, stock=plan().stock.model_copy(update={"saw_tolerance_mm": 0.8}))
    now = figures(sawn, "face")
    assert now["worst_cutting_force"] == pytest.approx(now["cutting_force"] * 1.8)
    aired = changed(sawn, "operation:face", over_mm=0.8)
    assert "worst_cutting_force" not in figures(aired, "face")
    assert result(aired, "face").time_s > result(sawn, "face").time_s  # 1.8 in two passes of 0.9
    assert result(aired, "face").depth_mm == pytest.approx(0.9)


def test_what_stays_behind_a_shoulder_is_told():
    with_recess = ROUGH.model_copy(
        update={
            "on": Profile(
                at_mm=(
                    (0.0, 30.0),
                    (-22.0, 30.0),
                    (-22.0, 24.0),
                    (-32.0, 24.0),
                    (-32.0, 48.0),
                    (-44.0, 48.0),
                )
            )
        }
    )
    alone = plan(FACE, with_recess)
    assert finding(alone, "reach.behind-shoulder").values["left"].value == pytest.approx(
        3.3, abs=0.4
    )
    assert "reach.behind-shoulder" not in ids(plan(FACE, with_recess, RECESS))


def test_a_finish_too_rough_for_the_drawing_gets_a_finer_feed():
    asks = Requirement(id="r1", what="Sealing face", feature="outside", finish_um=1.6)
    of = plan(FACE, ROUGH, FINISH, part=plan().part.model_copy(update={"requirements": (asks,)}))
    found = finding(of, "size.finish")
    assert found.fixes[0].edits[0].fields["feed_per_rev_mm"] == pytest.approx(
        sqrt(8 * 0.4 * 0.0016), abs=1e-3
    )
    assert "size.finish" not in ids(apply(of, found.fixes[0].edits))


def test_a_chuck_that_is_too_weak_or_too_fast_is_told():
    weak = plan(
        FACE,
        ROUGH,
        setups=(setup(FACE, ROUGH, holding=CHUCK.model_copy(update={"force_per_jaw_n": 6000.0})),),
    )
    found = finding(weak, "hold.slips")
    for fix in found.fixes:
        mine = [
            f
            for f in answer(apply(weak, fix.edits)).findings
            if f.id in ("hold.slips", "hold.chuck-speed") and f.operation == found.operation
        ]
        assert not mine, fix.label
    fast = changed(
        changed(weak, "operation:rough", cutting_speed_m_min=600.0),
        "operation:rough",
        depth_mm=0.5,
        reason="test",
    )
    speedy = finding(fast, "hold.chuck-speed")
    assert "keeps" in speedy.message
    assert any("limit_rpm" in str(fix.edits) for fix in speedy.fixes)


def test_a_deep_cut_and_a_deep_groove_are_more_than_their_edges_take():
    deep = changed(plan(FACE, ROUGH), "operation:rough", depth_mm=9.7)
    found = finding(deep, "reach.flute-short")
    assert "reach.flute-short" not in ids(apply(deep, found.fixes[0].edits))
    solid = plan(OFF)
    assert finding(solid, "reach.tool-impossible").values["wanted"].value == pytest.approx(25.0)


def test_turning_on_a_mill_is_stopped_and_sent_to_a_lathe():
    setups = (setup(FACE.model_copy(update={"tool": "h1"}), machine="heron", holding=None),)
    on_mill = plan(
        setups=setups,
        tools=(tool(1, "turn-rough-cn12").model_copy(update={"id": "h1", "machine": "heron"}),),
    )
    found = finding(on_mill, "travel.wrong-machine")
    assert apply(on_mill, found.fixes[0].edits).setups[0].machine == "plover"
    assert "a lathe does this" in answer(on_mill).setups[0].operations[0].answers["cut"].reason


def test_a_mill_cut_on_a_lathe_says_what_is_not_worked_out():
    from machining.plan.operation import Face

    asked = plan(Face(id="mill", tool="t1"))
    assert "driven tools" in answer(asked).setups[0].operations[0].answers["cut"].reason


def test_work_after_parting_off_is_told_and_put_before_it():
    early = plan(FACE, ROUGH, OFF, FINISH)
    found = finding(early, "size.order")
    assert (found.severity, found.operation) == ("stop", "off")
    after = apply(early, found.fixes[0].edits)
    assert [op.id for op in after.setups[0].operations][-1] == "off"
    assert "size.order" not in ids(after)


def test_a_close_turned_size_is_measured_before_the_part_comes_off():
    asks = Requirement(
        id="r1", what="Seat", feature="outside", nominal_mm=30.0, upper_mm=0.0, lower_mm=-0.02
    )
    close = plan(FACE, ROUGH, FINISH, part=plan().part.model_copy(update={"requirements": (asks,)}))
    found = finding(close, "size.gauge-hold")
    assert found.operation == "finish"
    after = apply(close, found.fixes[0].edits)
    assert "Seat 30 +0/-0.02 mm" in after.setups[0].operation("finish").stop_after
    assert not {"size.gauge-hold", "sheet.prompt-bare"} & ids(after)


def test_turned_again_over_a_thread_is_a_habit_and_turned_later_is_wrong():
    """Turn, thread, turn again takes the burr off; a thread on what is still rough is cut away."""
    again = FINISH.model_copy(update={"id": "again"})
    burr = finding(plan(FACE, ROUGH, FINISH, RECESS, THREAD, again), "size.order")
    assert (burr.severity, burr.operation) == ("look", "thread")
    assert "burr" in burr.message
    assert not [
        f
        for f in answer(plan(FACE, ROUGH, FINISH, RECESS, THREAD, again)).findings
        if f.severity == "stop"
    ]
    early = finding(plan(FACE, ROUGH, RECESS, THREAD, FINISH), "size.order")
    assert (early.severity, early.operation) == ("stop", "thread")


def test_a_grooving_tool_may_follow_a_contour_and_it_is_said():
    long = tool(3, "groove-3", stick_out=60.0)
    others = [each for each in plan().tools if each.id != "t3"]
    follows = plan(FACE, ROUGH, FINISH.model_copy(update={"tool": "t3"}), tools=(*others, long))
    found = finding(follows, "cut.groove-as-rougher")
    assert (found.severity, found.operation) == ("look", "finish")
    assert not [f for f in answer(follows).findings if f.severity == "stop"]
