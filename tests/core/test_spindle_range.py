"""The gear or belt an operation is cut in: as it is chosen, as it is planned, and a belt that is
changed by hand for nothing. The Dunlin's low belt gives 19.1 N·m up to 2500 rpm, its high one
6.37 N·m from 400 to 8000; an M8 tap at 790 rpm takes 3.8 N·m.
"""

from __future__ import annotations

from dataclasses import replace

import pytest

from machining.ask import ANY_EDITS, routes, savings
from machining.ask.carry_over import carry_over
from machining.evaluate import evaluate
from machining.facts.route import walk
from machining.findings.finding import in_words
from machining.memo import Memo
from machining.plan.apply import apply
from machining.ways.one_range import one_range
from machining.world.part import Part
from machining.world.spindle import CurvePoint
from machining.world.stock.block import sawn_block

from .build import (
    DRILL,
    HOLES,
    LIBRARY,
    MEMO,
    TAP,
    TOOLS,
    answer,
    changed,
    finding,
    ids,
    plan,
    setup,
)
from .cases_of_the_whole import PLUG

LOW, HIGH = "low belt", "high belt"
SMALL = tuple(each.model_copy(update={"machine": "dunlin"}) for each in TOOLS)
BELTS = plan(tools=SMALL, setups=(setup(DRILL, TAP, machine="dunlin"),))


def ranges(of):
    return [op.seen.spindle_range for op in walk(of, LIBRARY, MEMO).operations()]


def in_range(of, id, name):
    return changed(of, f"operation:{id}", spindle_range=name)


def test_left_to_the_machine_it_is_that_with_the_most_power():
    assert ranges(BELTS) == [HIGH, LOW]


def test_planned_it_is_cut_there_with_what_that_gives():
    tapped = in_range(BELTS, "tap", HIGH)
    assert ranges(tapped) == [HIGH, HIGH]
    figures = [answer(each).figures for each in (BELTS, tapped)]
    low, high = (each["tap.torque_limit"].value for each in figures)
    assert high == pytest.approx(60_000.0 * 790.0 / 2250.0 * 1.5 / (6.283185307 * 790.0), rel=1e-6)
    assert low > 2.0 * high > 2.0 * figures[0]["tap.torque"].value
    assert figures[1]["tap.spindle_start"].value == figures[0]["tap.spindle_start"].value


def test_a_range_the_spindle_has_not_is_a_sentence_that_names_what_it_has():
    seen = answer(in_range(BELTS, "tap", "third gear"))
    tap = next(op for each in seen.setups for op in each.operations if op.id == "tap")
    assert tap.answers["cut"].state == "unknown"
    assert tap.answers["cut"].reason == (
        "spindle range is third gear; it must be low belt or high belt."
    )
    assert tap.ranges == [LOW, HIGH]


def test_a_speed_the_range_does_not_turn_stops_it():
    """Data turn the drill at 5610; the low belt ends at 2500, and the high one begins at 400."""
    slowed = answer(in_range(BELTS, "drill", LOW))
    assert slowed.figures["drill.rpm"].value == 2500.0
    slow = changed(in_range(BELTS, "tap", HIGH), "operation:tap", cutting_speed_m_min=5.0)
    found = finding(slow, "travel.speed-over")
    assert found.severity == "stop" and "slower than the spindle turns, 400 rpm" in in_words(found)


def test_a_belt_that_is_changed_for_nothing_is_told_and_mended():
    found = finding(BELTS, "cut.range-change")
    stays = found.fixes[0]
    assert stays.label == "Cut all of it in the {range}" and stays.values["range"].value == HIGH
    after = apply(BELTS, stays.edits)
    assert "cut.range-change" not in ids(after)
    before, then = answer(BELTS), answer(after)
    assert before.by_hand_s - then.by_hand_s == pytest.approx(2 * 240.0)
    assert not {f.key for f in then.open} - {f.key for f in before.open}


def test_where_no_range_does_all_of_it_the_belt_is_changed():
    """The low belt is too slow for the drill, and the high one made too weak for the tap."""
    machine = LIBRARY.machines["dunlin"]
    (turns,) = machine.spindles
    weak = turns.ranges[1].model_copy(
        update={"continuous": (CurvePoint(rpm=0, power_kw=0, torque_nm=3.0),) * 2}
    )
    turns = turns.model_copy(update={"ranges": (turns.ranges[0], weak)})
    machine = machine.model_copy(update={"spindles": (turns,)})
    library = replace(LIBRARY, machines={**LIBRARY.machines, "dunlin": machine})
    facts = walk(changed(BELTS, "operation:drill", rpm=5000.0), library, Memo())
    assert [*one_range(facts.setups[0], facts)] == []


def test_it_is_among_what_would_save_most():
    rows = savings(BELTS, LIBRARY, MEMO)["rows"]
    row = next(each for each in rows if each["of"] == "s1/range")
    assert row["one_part_s"] == pytest.approx(480.0, abs=4.0)  # and it need not start anew
    assert row["edits"][0]["fields"] == {"spindle_range": HIGH}


def test_carried_over_it_is_left_to_a_machine_that_has_no_such_range():
    of = in_range(BELTS, "tap", HIGH)
    there = apply(of, ANY_EDITS.validate_python(carry_over(of, LIBRARY, MEMO, "heron")["edits"]))
    assert {op.spindle_range for op in there.setups[0].operations} == {""}


def test_the_sheet_says_which_belt_where_another_one_comes():
    from machining.sheet.rows import _in_range

    results = [op for each in evaluate(BELTS, LIBRARY).setups for op in each.operations]
    plain = [{"spindle_range": each.spindle_range, "ranges": each.ranges} for each in results]
    assert [_in_range(plain[0], ""), _in_range(plain[1], HIGH), _in_range(plain[1], LOW)] == [
        [f"Spindle range: {HIGH}."],
        [f"Spindle range: {LOW}."],
        [],
    ]


def test_a_proposal_changes_no_belt_that_need_not_be_changed():
    part = Part(size_mm=(60.0, 40.0, 20.0), typed=HOLES[:1], requirements=(PLUG,))
    of = plan(tools=(), setups=(), part=part, stock=sawn_block(z=(1, 0)))
    (found,) = routes.propose(of, LIBRARY, Memo(), machines=["dunlin"])["proposals"]
    edits = [*found["first"], *(each for one in found["setups"] for each in one["edits"])]
    proposed = apply(of, ANY_EDITS.validate_python(edits))
    tap = next(op for each in proposed.setups for op in each.operations if op.kind == "tap")
    assert tap.spindle_range == HIGH
    assert "cut.range-change" not in ids(proposed)
