"""Edits as a planner says them: what they come to in a shop's library, and what is refused."""

from __future__ import annotations

import pytest

from machining.plan.apply import EditRefused, apply
from machining.plan.edit import Change
from machining.plan.holding import InChuck
from machining.plan.trade import Hold, UseMachine
from machining.ways.trade import structural

from .build import LIBRARY, MEMO, VISE, changed, good


def after(plan, *edits):
    return apply(plan, structural(plan, LIBRARY, MEMO, edits))


def test_another_mill_leaves_the_tools_behind_and_keeps_the_vise():
    plan = after(good(), UseMachine(setup="s1", machine="dunlin"))
    setup = plan.setup("s1")
    assert setup.machine == "dunlin" and setup.stations[0].holding == VISE
    assert {op.tool for op in setup.operations} == {""}
    assert plan.tools == good().tools


def test_a_lathe_takes_no_vise():
    setup = after(good(), UseMachine(setup="s1", machine="plover")).setup("s1")
    assert setup.machine == "plover" and setup.stations[0].holding is None


def test_a_vise_is_chosen_as_the_shop_holds_and_the_next_one_keeps_what_was_decided():
    empty = changed(good(), "station:st1", holding=None)
    held = after(empty, Hold(station="st1", item="vise-125")).station("st1").in_vise
    vise = LIBRARY.vises["vise-125"]
    assert held is not None and held.fixed == "+y"
    assert held.torque_nm == round(0.6 * vise.max_torque_nm)
    # a grip that the shop's parallels give, a millimetre over the least
    assert held.grip_depth_mm >= LIBRARY.settings.grip_least_mm + 1.0
    assert round(vise.jaw_height_mm - held.grip_depth_mm, 6) in (0.0, *vise.parallels_mm)
    tight = changed(good(), "station:st1", holding__torque_nm=vise.max_torque_nm)
    moved = after(tight, Hold(station="st1", item="vise-100-soft")).station("st1").in_vise
    assert moved is not None and moved.grip_depth_mm == VISE.grip_depth_mm
    assert moved.torque_nm == min(vise.max_torque_nm, LIBRARY.vises["vise-100-soft"].max_torque_nm)


def test_a_machine_and_what_holds_there_come_in_one_request():
    setup = after(
        good(), UseMachine(setup="s1", machine="plover"), Hold(station="st1", item="chuck-200")
    ).setup("s1")
    chuck = LIBRARY.chucks["chuck-200"]
    held = setup.stations[0].holding
    assert isinstance(held, InChuck)
    assert held.force_per_jaw_n == round(0.6 * chuck.force_per_jaw_n, -2)
    assert 0 < held.grip_mm <= chuck.jaw_length_mm


def test_nothing_holds_it_again():
    assert after(good(), Hold(station="st1")).station("st1").holding is None


def test_structural_edits_pass_as_they_are():
    edit = Change(on="operation:rough", fields={"rpm": 3000.0})
    assert structural(good(), LIBRARY, MEMO, [edit]) == [edit]


@pytest.mark.parametrize(
    ("edit", "words"),
    [
        (UseMachine(setup="s1", machine="nowhere"), "Machine 'nowhere'"),
        (UseMachine(setup="s9", machine="heron"), "Setup 's9'"),
        (Hold(station="st1", item="clamp-9"), "Holding 'clamp-9'"),
    ],
)
def test_what_is_not_there_is_named_with_its_place_in_the_request(edit, words):
    first = Change(on="operation:rough", fields={"rpm": 3000.0})
    with pytest.raises(EditRefused) as refused:
        structural(good(), LIBRARY, MEMO, [first, edit])
    assert refused.value.index == 1 and words in str(refused.value)
