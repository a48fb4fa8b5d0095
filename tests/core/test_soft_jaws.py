"""Soft jaws bored for the end of a part that was turned: what they touch, whether they close and
open, what comes of it. The part is the demo's bushing: Ø76 × 12 with a spigot of Ø60 × 22.
"""

from __future__ import annotations

import xml.etree.ElementTree as ET
from dataclasses import replace
from math import acos, asin, atan2, cos, degrees, hypot, radians

import pytest

from machining.data import seed
from machining.drawing.holding import holding_drawing
from machining.evaluate import evaluate
from machining.evaluation import to_plain
from machining.facts.route import walk
from machining.facts.stack_up import located
from machining.facts.wrong_way import every_way
from machining.geometry.kernel import examine
from machining.memo import Memo
from machining.plan.apply import apply
from machining.plan.holding import InChuck
from machining.plan.operation import Drill
from machining.plan.places import Points
from machining.plan.trade import Hold
from machining.plan.turned import Profile, TurnFinish
from machining.quantities.said import fill
from machining.sheet.holding import words_of
from machining.ways.trade import structural
from machining.world.geometry import from_examined
from shop.demo import bushing

from .build import LIBRARY as MILLS
from .build import changed, good
from .build import finding as milled
from .conftest import DEMO

PART = from_examined("bushing", examine(DEMO.with_name("TW-276-A.step").read_bytes()))
LIBRARY = replace(seed(), geometries={"bushing": PART})
MEMO = Memo()
DRAFT = bushing.draft(PART, "bushing")
GAP, FIT = "hold.soft-jaw-gap", "hold.soft-jaw-fit"
LOW = -34.0  # of the second setup: the spigot's end, which sits on the step


def of(**holding):
    """The second setup with its spacer and other values."""
    fields = {"spacer_mm": 52.0, "left_mm": 2.8, **holding}
    return changed(DRAFT, "station:st2", **{f"holding__{k}": v for k, v in fields.items()})


def facts(plan):
    return walk(plan, LIBRARY, MEMO)


def found(plan, id):
    return [each for each in evaluate(plan, LIBRARY, MEMO).findings if each.id == id]


def touched(plan, operation="b80"):
    ops = {op.id: op for op in facts(plan).operations()}
    return ops[operation].seen.held.contacts.every


def beside(plan):
    """How far round from the middle of the first jaw it touches, degrees."""
    return sorted(
        {
            round(degrees(atan2(each.at[1], each.at[0])), 2)
            for each in touched(plan)
            if each.body == "1"
        }
    )


# -- what they touch


def test_bored_to_the_part_they_touch_along_arcs_and_with_their_step():
    half = degrees(asin(34 / 60))
    assert beside(of()) == pytest.approx([-half / 1.5, 0.0, half / 1.5], abs=0.01)
    on_step = [each for each in touched(of()) if each.body.startswith("step of")]
    assert {each.body for each in on_step} == {f"step of jaw {k}" for k in (1, 2, 3)}
    for each in on_step:
        assert each.at[2] == pytest.approx(LOW, abs=0.01) and each.normal == (0.0, 0.0, 1.0)
        assert 26.0 < hypot(*each.at[:2]) < 30.0 and each.group is None


def test_bored_larger_they_touch_in_the_middle_as_far_as_both_give():
    """(R − r)·(1 − cos φ) = 0.02: 25.8° of the jaw's 34.5° for 0.2, 11.5° for 1."""
    wide = degrees(acos(1 - 0.02 / 0.2)) / 1.5
    assert beside(of(bored_mm=60.4)) == pytest.approx([-wide, 0.0, wide], abs=0.01)
    assert not found(of(bored_mm=60.4), FIT)
    (told,) = found(of(bored_mm=62.0), FIT)
    share = degrees(acos(0.98)) / degrees(asin(34 / 60))
    assert told.severity == "look" and told.values["share"].value == pytest.approx(share, rel=1e-3)


def test_bored_smaller_they_touch_at_their_edges():
    half = degrees(asin(34 / 60))
    assert 0.5 * (1 - cos(radians(half))) > 0.02
    assert beside(of(bored_mm=59.0)) == pytest.approx([-half, half], abs=0.01)
    (told,) = found(of(bored_mm=59.0), FIT)
    assert "edges alone" in told.message


def test_while_nobody_says_they_touch_as_hard_ones_do():
    plain = of(bored_mm=None, spacer_mm=None, left_mm=None)
    assert beside(plain) == [0.0]
    (told,) = found(plain, FIT)
    fixed = apply(plain, told.fixes[0].edits)
    holding = fixed.station("st2").in_chuck
    assert (holding.bored_mm, holding.spacer_mm) == (60.0, 52.0)
    assert not found(fixed, FIT) and not found(fixed, GAP)


def test_only_what_has_the_diameter_is_touched():
    """Gripped by flange and spigot at once from the blank's end nothing of the spigot is."""
    turned = changed(of(), "station:st2", holding__grip_mm=26.0)
    assert facts(turned).stations[1].stand.along == pytest.approx((LOW + 22.0, LOW + 26.0), abs=0.1)


def test_their_step_stands_a_drill():
    """By friction alone a heavy drill pushes the part into the jaws."""
    drill = Drill(
        id="deep",
        tool="t7",
        on=Points(at_mm=((0.0, 0.0),), diameter_mm=20.0, depth_mm=10.0),
    )
    first, second = of().setups
    first = first.model_copy(update={"operations": ()})
    second = second.model_copy(update={"operations": (drill,)})
    plan = of().model_copy(update={"setups": (first, second)})
    rough = changed(plan, "station:st2", holding__bored_mm=80.0, holding__spacer_mm=72.0)
    held = changed(rough, "station:st2", holding__force_per_jaw_n=9000.0)
    bare = changed(held, "station:st2", holding__bored_mm=None)
    with_step, without = (
        {op.id: op for op in facts(each).operations()}["deep"].value("holding")
        for each in (held, bare)
    )
    assert with_step > 1.5 * without


# -- whether they close and open


@pytest.mark.parametrize(
    ("fields", "close", "severity"),
    [
        ({}, 2.8, None),
        ({"bored_mm": 63.0, "spacer_mm": 55.0}, 1.3, None),
        ({"bored_mm": 64.0}, 0.8, "look"),  # 2 mm each jaw further in than it was bored
        ({"bored_mm": 68.0}, -1.2, "stop"),
        ({"spacer_mm": None, "left_mm": None}, 0.0, "stop"),
        ({"left_mm": 5.2}, 5.2, "stop"),  # 0.3 open: it does not go in
        ({"spacer_mm": 60.0}, 2.8, "stop"),  # in the bore
        ({"left_mm": None}, None, "look"),
    ],
)
def test_travel_of_the_jaws_by_hand(fields, close, severity):
    """5.5 of travel; what is bored larger by 2·x closes by x further."""
    plan = of(**fields)
    figures = facts(plan).stations[1].figures
    if close is None:
        assert "jaws_close" not in figures
    else:
        assert figures["jaws_close"].value == pytest.approx(close, abs=1e-6)
        assert figures["jaws_open"].value == pytest.approx(5.5 - close, abs=1e-6)
    told = found(plan, GAP)
    assert [each.severity for each in told] == ([severity] if severity else [])
    for each in told:
        fixed = apply(plan, each.fixes[0].edits)
        assert not found(fixed, GAP)


def test_the_draft_has_nothing_to_close_on_and_its_fix_mends_it():
    stops = [each for each in evaluate(DRAFT, LIBRARY, MEMO).open if each.severity == "stop"]
    assert [each.id for each in stops] == [GAP]
    fixed = apply(DRAFT, stops[0].fixes[0].edits)
    assert fixed.station("st2").in_chuck == of().station("st2").in_chuck
    assert {each.severity for each in evaluate(fixed, LIBRARY, MEMO).open} == {"note"}


def test_a_chuck_moved_by_a_key_has_no_end():
    soft = LIBRARY.holdings["chuck-200-soft"].model_copy(update={"jaw_travel_mm": None})
    library = replace(LIBRARY, holdings={**LIBRARY.holdings, "chuck-200-soft": soft})
    answer = evaluate(of(left_mm=None, bored_mm=68.0), library, Memo())
    assert GAP not in {each.id for each in answer.findings}
    assert GAP in {each.id for each in evaluate(DRAFT, library, Memo()).findings}


def test_the_steps_of_a_vise_that_meet():
    """Steps of 4 under a part 7 wide leave nothing between them."""
    soft = changed(good(), "station:st1", holding__vise="vise-100-soft")
    deep = MILLS.holdings["vise-100-soft"].model_copy(update={"step_mm": 40.0})
    library = replace(MILLS, holdings={**MILLS.holdings, "vise-100-soft": deep})
    told = milled(soft, GAP, library)
    assert told.severity == "stop" and told.values["step"].value == 40.0
    with pytest.raises(AssertionError, match="no hold.soft-jaw-gap"):
        milled(soft, GAP)


# -- what comes of it


def test_the_flange_does_not_go_into_jaws_bored_for_the_spigot():
    ways = every_way(facts(of()).stations[1], facts(of()))
    assert [each.why_not for each in ways] == ["too thick for the opened jaws"]


def test_the_step_brings_the_next_part_to_the_same_place():
    plan = of()
    links, place = located(facts(plan).stations[1], 2, facts(plan))
    assert [each.key for each in links] == ["again:st2:seat"]
    assert place.raw is False


def test_a_chuck_with_soft_jaws_is_offered_bored_for_what_was_turned():
    """No longer than the spigot is, less where jaws are shorter."""
    plan = changed(DRAFT, "station:st2", holding=None)
    hold = structural(plan, LIBRARY, MEMO, [Hold(station="st2", item="chuck-200-soft")])
    holding = apply(plan, tuple(hold)).station("st2").in_chuck
    assert (holding.bored_mm, holding.spacer_mm, holding.left_mm) == (60.0, 52.0, 2.8)
    assert holding.grip_mm <= 22.0


def test_gripped_past_its_spigot_it_is_offered_no_deeper_than_that_is_long():
    """The flange is raw there, Ø80: nothing of the spigot is touched."""
    over = of(grip_mm=30.0)
    (told,) = found(over, FIT)
    mended = apply(over, told.fixes[0].edits)
    assert mended.station("st2").in_chuck.grip_mm == pytest.approx(21.5, abs=0.1)
    assert not found(mended, FIT) and not found(mended, GAP)


def bored_through(diameter):
    """The second setup bores on, 3 mm out of the far end."""
    bore = TurnFinish(
        id="through",
        tool="t6",
        on=Profile(at_mm=((0.0, diameter), (-37.0, diameter)), side="inside"),
        width_mm=0.5,
    )
    plan = of()
    second = plan.setups[1].model_copy(update={"operations": (*plan.setups[1].operations, bore)})
    return plan.model_copy(update={"setups": (plan.setups[0], second)})


@pytest.mark.parametrize(("diameter", "deep"), [(33.0, None), (54.0, 3.0)])
def test_a_bar_that_comes_out_below_meets_the_step_only_when_it_is_wide_enough(diameter, deep):
    """The spacer's Ø52 is open behind the step; what is gripped from outside is bored freely."""
    told = found(bored_through(diameter), "hold.below")
    assert [each.values["deep"].value for each in told] == ([] if deep is None else [deep])
    assert not [
        each
        for each in found(bored_through(diameter), "hold.jaw-in-cut")
        if each.operation == "through"
    ]


def test_the_sheet_says_what_to_bore_and_on_what():
    setup = of().setups[1]
    answer = to_plain(evaluate(of(), LIBRARY, MEMO))["setups"][1]["stations"][0]
    words = words_of(setup, setup.stations[0], LIBRARY, answer)
    steps = " ".join(fill(each.text, each.values) for each in words.steps)
    assert "against their step while they close" in steps
    assert "Bore the soft jaws to Ø60" in steps and "spacer of Ø52" in steps


def test_the_drawing_numbers_its_jaws_as_the_step_that_closes_them():
    """Boring comes first: closing is the fourth step, and the balloon at the jaws says so."""
    setup = of().setups[1]
    answer = to_plain(evaluate(of(), LIBRARY, MEMO))["setups"][1]["stations"][0]
    steps = words_of(setup, setup.stations[0], LIBRARY, answer).steps
    closing = next(k for k, each in enumerate(steps, 1) if each.text.startswith("Close with"))
    assert closing == 4
    station = facts(of()).stations[1]
    drawn = ET.fromstring(holding_drawing(station, facts(of())))
    inside = [e.text for e in drawn.iter() if e.tag.endswith("text")]
    assert str(closing) in inside
    assert "jaws bored Ø60, 18 deep, on a spacer Ø52" in inside


def test_in_a_bore_jaws_are_turned_on_a_ring():
    inside = InChuck(
        chuck="chuck-200-soft",
        grips="inside",
        grip_mm=18.0,
        force_per_jaw_n=4000.0,
        bored_mm=32.0,
        spacer_mm=40.0,
        left_mm=2.8,
    )
    plan = changed(DRAFT, "station:st2", holding=inside.model_dump(mode="json"))
    assert not found(plan, GAP) and not found(plan, FIT)
    for each in touched(plan):
        if not each.body.startswith("step"):
            assert hypot(*each.at[:2]) == pytest.approx(16.0, abs=0.02)
            assert each.at[0] * each.normal[0] + each.at[1] * each.normal[1] > 0.0
    larger = changed(plan, "station:st2", holding__bored_mm=31.0)  # turned smaller: opens further
    figures = facts(larger).stations[1].figures
    assert figures["jaws_close"].value == pytest.approx(2.3, abs=0.02)
