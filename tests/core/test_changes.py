"""A tool change of its parts, by hand, and as the machine states it where they are not known."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from machining.motion.cycle import change_time
from machining.motion.timing import Drive, rapid_time, spindle_time
from machining.quantities.errors import OutOfRange
from machining.world.capability import usual_rig

from .build import DRILL, FACE, LIBRARY, ROUGH, answer, changed, plan

HERON = LIBRARY.machines["heron"]


def made_of(machine=None, **fields):
    """The demo's mill whose changes are known by their parts."""
    given = {"tool_to_tool_s": 1.6, "orient_s": 0.4, **fields}
    carrier = HERON.carriers[0].model_copy(update=given)
    other = HERON.model_copy(update={"carriers": (carrier,), **(machine or {})})
    return replace(LIBRARY, machines={**LIBRARY.machines, "heron": other})


def changes_of(seen):
    return [each for each in seen.setups[0].events if each.kind == "change"]


def test_what_goes_on_at_the_same_time_counts_once():
    """The spindle stops in 1.0 and is held in 0.4 while the tool goes up in 0.9."""
    parts = {"stop": 1.0, "orient": 0.4, "retract": 0.9, "waits": 0.5, "swap": 1.6}
    assert change_time(**parts, codes=0.6, spin_up=0.7, approach=1.1) == pytest.approx(5.2)
    assert change_time(
        **{**parts, "retract": 2.0}, codes=0.6, spin_up=1.2, approach=1.1
    ) == pytest.approx(5.9)
    with pytest.raises(OutOfRange, match="waits"):
        change_time(**{**parts, "waits": -1.0}, codes=0.0, spin_up=0.0, approach=0.0)


def test_a_machine_that_states_it_from_chip_to_chip_is_taken_at_its_word():
    seen = answer(plan(FACE, ROUGH))
    assert {each.seconds for each in changes_of(seen)} == {HERON.carriers[0].chip_to_chip_s}
    assert "s1.change_rough" not in seen.figures


def test_one_made_of_parts_shows_each_of_them():
    """From the end of facing to the start of roughing, each tool as long as it is."""
    seen = answer(plan(FACE, ROUGH, quantity=10), made_of())
    face, rough = seen.setups[0].operations
    figure = seen.figures["s1.change_rough"]
    parts = {each.name: each.value for each in figure.inputs}
    spindle = HERON.spindles[0]

    def start(rpm):
        return spindle_time(rpm, spindle.max_rpm, spindle.base_rpm, spindle.start_s)

    assert parts["stop"] == pytest.approx(start(face.rpm))
    assert parts["spin_up"] == pytest.approx(start(rough.rpm))
    assert (parts["orient"], parts["swap"], parts["codes"]) == (0.4, 1.6, 0.0)
    assert parts["retract"] > 0.3 and parts["approach"] > 0.3
    up, down = max(parts["stop"] + 0.4, parts["retract"]), max(parts["spin_up"], parts["approach"])
    assert figure.value == pytest.approx(up + 1.6 + down)
    change = next(each for each in changes_of(seen) if each.operation == "rough")
    assert change.seconds == pytest.approx(figure.value) and change.why == "s1.change_rough"
    total = seen.figures["s1.changes"]
    assert total.value == pytest.approx(sum(each.seconds for each in changes_of(seen)))


def test_a_change_higher_up_takes_as_much_longer_as_the_way():
    """Z alone, at the machine's own rapid, where moves are the longest."""
    slow = {"acceleration": HERON.carriers[0].acceleration.model_copy(update={"z": 300.0})}
    low = answer(plan(FACE, ROUGH, quantity=10), made_of(change_nose_mm=400.0, **slow))
    high = answer(plan(FACE, ROUGH, quantity=10), made_of(change_nose_mm=600.0, **slow))
    ways = [
        {each.name: each.value for each in seen.figures["s1.change_rough"].inputs}["approach"]
        for seen in (low, high)
    ]
    drive = replace(Drive.of(usual_rig(HERON)), acceleration=(4000.0, 4000.0, 300.0))
    speed_only = rapid_time(np.zeros(3), np.array([0.0, 0.0, 200.0]), drive)
    assert 0.3 * speed_only < ways[1] - ways[0] < speed_only


def test_codes_are_counted_where_coolant_goes_off_and_on():
    seen = answer(plan(FACE, ROUGH, quantity=10), made_of({"m_code_s": 0.3}))
    parts = {each.name: each.value for each in seen.figures["s1.change_rough"].inputs}
    assert parts["codes"] == pytest.approx(0.6)
    dry = changed(plan(FACE, ROUGH, quantity=10), "operation:face", coolant="none")
    seen = answer(dry, made_of({"m_code_s": 0.3}))
    parts = {each.name: each.value for each in seen.figures["s1.change_rough"].inputs}
    assert parts["codes"] == pytest.approx(0.3)


def test_the_magazine_is_waited_for_only_as_far_as_cutting_did_not_cover_it():
    """T1 and T2 in pockets 1 and 2 of 24; from the drill's back to 1 in 4 s a pocket."""
    of = plan(FACE, ROUGH, DRILL, quantity=10)
    seen = answer(of, made_of(pocket_s=60.0))
    waits = {
        op: {each.name: each.value for each in seen.figures[f"s1.change_{op}"].inputs}["waits"]
        for op in ("face", "rough", "drill")
    }
    pockets = {op.id: of.tool(op.tool).pocket for op in of.setups[0].operations}
    events = changes_of(seen)
    for before, then in zip(events, events[1:], strict=False):
        between = abs(pockets[then.operation] - pockets[before.operation])
        travel = 60.0 * min(between, 24 - between)
        cut = then.starts_s - before.ends_s
        assert waits[then.operation] == pytest.approx(max(travel - cut, 0.0))
    assert max(waits.values()) > 10.0
    quick = answer(of, made_of(pocket_s=0.2))
    assert quick.figures["s1.change_drill"].value < seen.figures["s1.change_drill"].value
