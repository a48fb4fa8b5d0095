"""The ledger of a cycle, event by event, and the totals that read it; by hand."""

from __future__ import annotations

from dataclasses import replace

import pytest

from machining.evaluate import evaluate
from machining.facts.ledger import Event, Ledger
from machining.motion import cycle
from machining.motion.timing import spindle_time
from machining.plan.apply import apply
from machining.plan.at import Row
from machining.plan.edit import Change
from machining.quantities.errors import OutOfRange

from . import lathe
from .build import (
    DRILL,
    FACE,
    GOOD,
    LIBRARY,
    POCKET,
    ROUGH,
    answer,
    changed,
    on_machine,
    plan,
    rig,
    setup,
    with_part,
)
from .test_turn_mill import on_gannet

SHOP = LIBRARY.settings
# by the shop's elements: door, handling, seats, closing; papers, a vise set, a zero found
IN_CHUCK_S = 15 + 10 + 10 + 8
IN_VISE_S = 15 + 10 + 10 + 20
VISE_BUILT_S = 900 + 600 + 60


def kinds(seen, *wanted):
    """Operation and kind of a setup's events, in their order."""
    return [
        (each.operation, each.kind)
        for each in seen.setups[0].events
        if not wanted or each.kind in wanted
    ]


def total(seen, *wanted):
    return sum(each.seconds for each in seen.setups[0].events if each.kind in wanted)


def test_an_empty_ledger_and_one_of_two_carriers():
    assert Ledger().ends_s == 0.0 and Ledger().by_operation["x"] == []
    both = Ledger([Event("cut", "upper", 0.0, 10.0, "a"), Event("change", "lower", 2.0, 3.0, "b")])
    assert both.ends_s == 10.0
    assert (both.of("change"), both.count("cut")) == (3.0, 1)
    assert [each.ends_s for each in both.by_operation["b"]] == [5.0]


def test_every_second_of_a_cycle_is_in_one_event_after_the_other():
    seen = answer(plan(*GOOD))
    at = 0.0
    for each in seen.setups[0].events:
        assert each.starts_s == pytest.approx(at) and each.seconds > 0
        at = each.ends_s
    assert seen.setups[0].cycle_s == pytest.approx(at)
    for op in seen.setups[0].operations:
        own = ledger_of(seen, op.id, "rapid", "cut", "link", "wait", "settle")
        assert own == pytest.approx(op.time_s)
        assert ledger_of(seen, op.id, "change") == pytest.approx(op.change_s)
        assert op.ends_s - op.starts_s == pytest.approx(total_of(seen, op.id))
    figure = seen.figures["s1.cycle"]
    assert figure.value == pytest.approx(at)
    assert {i.name: i.value for i in figure.inputs}["changes"] == pytest.approx(
        seen.figures["s1.changes"].value
    )


def ledger_of(seen, operation, *wanted):
    return sum(
        e.seconds for e in seen.setups[0].events if e.operation == operation and e.kind in wanted
    )


def total_of(seen, operation):
    return sum(e.seconds for e in seen.setups[0].events if e.operation == operation)


def test_the_cycle_as_a_sum():
    assert cycle.cycle_time(100, 20, 9, 2, 30, 6, 4) == 163
    with pytest.raises(OutOfRange, match="meanwhile"):
        cycle.cycle_time(1, 0, 0, 0, 0, 0, 2)
    assert cycle.part_time(100, 60, 40) == 120
    assert cycle.prove_out_time(200, 3) == 400 and cycle.prove_out_time(200, 1) == 0
    with pytest.raises(OutOfRange, match="factor"):
        cycle.prove_out_time(200, 0.5)
    assert cycle.batch_total(2640, 400, 100, 2000, 360, 600, 50) == 6050


# -- tools, spindle, belt


def test_one_tool_alone_is_not_changed_and_its_spindle_starts():
    """Of several parts; of one the tool is put in. 2.2 s to 12 000, base 2 400."""
    many = answer(plan(FACE, quantity=10))
    assert kinds(many, "change", "start") == [("face", "start")]
    rpm, spindle = many.setups[0].operations[0].rpm, rig("heron").spindle
    starts = spindle_time(rpm, spindle.max_rpm, spindle.base_rpm, spindle.start_s)
    assert total(many, "start") == pytest.approx(starts)
    assert many.figures["face.spindle_start"].value == pytest.approx(starts)
    one = answer(plan(FACE, quantity=1))
    assert kinds(one, "change", "start") == [("face", "change")]


def test_a_stop_is_attended_and_the_spindle_starts_again():
    of = changed(plan(FACE, ROUGH), "operation:face", stop_after="Look at the face.")
    same = changed(of, "operation:rough", tool=of.setups[0].operations[0].tool)
    seen = answer(of)
    assert kinds(seen, "stop", "change") == [
        ("face", "change"),
        ("face", "stop"),
        ("rough", "change"),
    ]
    assert total(seen, "stop") == SHOP.stop_s == seen.setups[0].by_hand_s
    assert seen.by_hand_s == pytest.approx(seen.handling_s + SHOP.stop_s)
    plain = answer(plan(FACE, ROUGH))
    assert seen.setups[0].cycle_s - plain.setups[0].cycle_s == pytest.approx(SHOP.stop_s)
    assert seen.figures["s1.stops"].value == SHOP.stop_s
    assert ("rough", "start") not in kinds(seen)  # its tool change starts it
    assert "change" not in [kind for op, kind in kinds(answer(same)) if op == "rough"]


def test_a_stop_may_say_how_long_somebody_is_at_it():
    """Two clamps moved in 3 min, a look at the face of the shop's 30 s."""
    of = changed(plan(FACE, ROUGH), "operation:face", stop_after="Look at the face.")
    of = changed(of, "operation:rough", stop_after="Clamp 1 off, clamp 2 on.", stop_s=180.0)
    seen = answer(of)
    assert total(seen, "stop") == 180.0 + SHOP.stop_s == seen.setups[0].by_hand_s
    assert seen.figures["s1.stops"].value == pytest.approx(180.0 + SHOP.stop_s)
    assert seen.figures["s1.stops"].inputs[1].origin == "shop.stop_s, and what the plan says"
    silent = changed(of, "operation:rough", stop_after="")
    assert total(answer(silent), "stop") == SHOP.stop_s


def test_a_belt_is_changed_by_hand_there_and_back():
    """Low for the face mill, high for the end mill, 240 s each; a stop for it is no second wait."""
    of = on_machine(plan(FACE, POCKET, material="c45", quantity=5), "dunlin")
    seen = answer(of)
    assert kinds(seen, "range") == [("face", "range"), ("pocket", "range")]
    assert total(seen, "range") == 2 * rig("dunlin").spindle.range_change_s == 480
    stopped = changed(of, "operation:face", stop_after="Change the belt.")
    assert total(answer(stopped), "range", "stop") == 480
    alone = changed(of, "plan", quantity=1)
    assert kinds(answer(alone), "range") == [("pocket", "range")]


def test_ways_between_positions_are_rapids_of_the_same_tool():
    """120 along X between two that stand alike; up and down is in each path."""
    row = plan(setups=(setup(DRILL, at=Row(count=2, pitch_mm=120.0)),))
    seen = answer(row)
    assert kinds(seen, "move") == [("drill", "move")]
    near = plan(setups=(setup(DRILL, at=Row(count=2, pitch_mm=200.0)),))
    assert total(answer(near), "move") > total(seen, "move") > 0.2


def test_settling_counts_where_a_rapid_ends_in_feed():
    through = DRILL.model_copy(update={"peck_mm": None})
    seen = answer(plan(through))
    assert seen.figures["drill.settle"].value == pytest.approx(2 * SHOP.settle_s)  # two holes
    quick = replace(LIBRARY, settings=SHOP.model_copy(update={"settle_s": 0.0}))
    still = evaluate(plan(through), quick)
    assert seen.setups[0].cycle_s - still.setups[0].cycle_s == pytest.approx(2 * SHOP.settle_s)


def test_another_carrier_changes_while_one_cuts():
    """On the lower turret, two tools take turns; it indexes to each while the upper one cuts."""
    of = on_gannet(lathe.ROUGH, lathe.FINISH, lathe.FACE, lathe.RECESS)
    below = apply(of, [Change(on=f"tool:{id}", fields={"carrier": "lower"}) for id in ("t2", "t3")])
    one, two = lathe.answer(of), lathe.answer(below)
    assert total(one, "change") == pytest.approx(4 * 1.4)
    assert kinds(two, "change") == [("finish", "change"), ("recess", "change")]
    spent = {i.name: i.value for i in two.figures["s1.cycle"].inputs}
    assert spent["changes"] == pytest.approx(2 * 1.4)
    assert spent["meanwhile"] == pytest.approx(2 * 1.4)
    assert two.figures["s1.changes_lower"].value == pytest.approx(2 * 1.4)
    done = next(op.ends_s for op in two.setups[0].operations if op.id == "finish")
    recess = next(e for e in two.setups[0].events if (e.operation, e.kind) == ("recess", "change"))
    assert recess.starts_s == pytest.approx(done) and recess.carrier == "lower"
    assert one.setups[0].cycle_s - two.setups[0].cycle_s == pytest.approx(4 * 1.4, abs=0.5)


# -- by hand


def test_a_bar_is_loaded_once_for_many_parts():
    """1200 long, 120 left; a part of 40, faced by 1, parted 3 wide: 24 of them."""
    seen = lathe.answer(lathe.plan(*lathe.GOOD))
    assert (1200 - 120) // (40 + 1 + 3) == 24
    assert seen.handling_s == pytest.approx(SHOP.bar_s / 24)
    assert kinds(seen, "bar") == [("", "bar")] and total(seen, "bar") == 6
    by_hand = lathe.answer(lathe.plan(*lathe.GOOD[:-1]))  # nothing parts it off
    assert by_hand.handling_s == IN_CHUCK_S and kinds(by_hand, "bar") == []


@pytest.mark.parametrize(
    ("part", "fields"),
    [
        ("places", {"bar_feed_s": 0.0}),  # nothing feeds it
        ("places", {"longest_bar_mm": 150.0}),  # not one part and what is left
    ],
)
def test_what_no_bar_gives_is_put_in_by_hand(part, fields):
    library = with_part("plover", part, lathe.LIBRARY, **fields)
    assert evaluate(lathe.plan(*lathe.GOOD), library).handling_s == IN_CHUCK_S


def test_a_bar_wider_than_the_chuck_s_bore_is_put_in_by_hand():
    known = lathe.LIBRARY.holdings["chuck-200"]
    small = known.model_copy(update={"bore_mm": 49.0})
    library = replace(lathe.LIBRARY, holdings={**lathe.LIBRARY.holdings, "chuck-200": small})
    assert evaluate(lathe.plan(*lathe.GOOD), library).handling_s == IN_CHUCK_S


def test_on_two_pallets_the_next_is_loaded_while_one_is_cut():
    """14 s for the pallets; loading takes 55, and no longer than the cycle is saved."""
    of = on_machine(plan(*GOOD, quantity=20), "curlew")
    alone = evaluate(of, with_part("curlew", "places", pallets=1))
    two = answer(of)
    assert total(two, "pallet") == 14 and kinds(alone, "pallet") == []
    assert two.setups[0].cycle_s == pytest.approx(alone.setups[0].cycle_s + 14)
    saved = min(two.setups[0].cycle_s, IN_VISE_S)
    assert two.one_part_s == pytest.approx(alone.one_part_s + 14 - saved)
    assert two.handling_s == alone.handling_s == IN_VISE_S


def test_setup_and_prove_out_are_once_in_the_batch():
    one, ten = answer(plan(*GOOD, quantity=1)), answer(plan(*GOOD, quantity=10))
    assert one.build_s == pytest.approx(ten.build_s, rel=0.01)  # the first tool change apart
    tools = one.setups[0].tools
    assert ten.build_s == pytest.approx(
        VISE_BUILT_S + tools * SHOP.tool_s + 2 * ten.setups[0].cycle_s
    )
    edges = ten.figures["plan.edges"].value
    assert ten.batch_s == pytest.approx(ten.build_s + 10 * ten.one_part_s + edges)
    names = {name.removeprefix("plan.") for name in ten.figures if name.startswith("plan.")}
    spread = {f"{of}_{way}" for of in ("one_part", "batch") for way in ("under", "over")}
    before = {"papers", "zeros", "tools", "build", "prove_out"}
    assert names == {"load", "one_part", "batch", "edges"} | spread | before


def test_a_load_is_proven_at_one_of_its_positions():
    four = answer(changed(plan(*GOOD), "station:st1", at=Row(count=4, pitch_mm=150.0).model_dump()))
    figure = four.figures["plan.prove_out"]
    assert figure.value == pytest.approx((SHOP.prove_out_factor - 1) * four.setups[0].cycle_s / 4)


def test_a_plan_without_work_builds_nothing():
    empty = answer(plan(setups=(setup(),)))
    assert empty.build_s == 0.0 and empty.setups[0].cycle_s == 0.0
    assert empty.batch_s == pytest.approx(empty.handling_s * plan().quantity)
