"""What is offered where something still stands cuts it, and stops nothing."""

from __future__ import annotations

import json

import pytest

from machining.ask import QUESTIONS
from machining.ask.trying import EDITS
from machining.memo import Memo
from machining.plan.apply import apply
from machining.plan.edit import RemoveOperation

from .build import LIBRARY, MEMO, answer, good, whole
from .cases_of_the_whole import without


def asked(of):
    return json.loads(QUESTIONS["standing"](of, LIBRARY, MEMO))


@pytest.mark.parametrize(
    ("gone", "verb", "setup"),
    [
        (("pocket", "walls"), "Rough", "1"),
        (("drill", "tap"), "Drill", "1"),
        (("foot",), "Face", "2"),
        (("from-below",), "Drill", "2"),
    ],
)
def test_what_was_left_out_is_offered_where_it_can_be_cut(gone, verb, setup):
    before = without(whole(), *gone)
    (row,) = asked(before)
    offer = row["offers"][0]
    assert offer["values"]["what"]["value"] == verb
    assert offer["values"]["setup"]["value"] == setup
    after = answer(apply(before, EDITS.validate_python(offer["edits"])))
    assert after.left_mm3 <= 0.5 * answer(before).left_mm3
    assert offer["one_part_s"] == pytest.approx(after.one_part_s - answer(before).one_part_s)
    assert not [f for f in after.open if f.severity == "stop"]


def test_every_offer_keeps_its_word_and_the_quickest_comes_first():
    before = without(whole(), "rough", "outside")
    (row,) = asked(before)
    seconds = [offer["one_part_s"] for offer in row["offers"]]
    assert len(seconds) > 1 and seconds == sorted(seconds)
    for offer in row["offers"]:
        after = answer(apply(before, EDITS.validate_python(offer["edits"])))
        assert after.left_mm3 <= 0.5 * answer(before).left_mm3


def test_what_only_the_other_side_shows_is_turned_over_to():
    bottom, corners = asked(good())
    (over,) = bottom["offers"]
    assert over["one_part_s"] > 30.0  # it is loaded once more
    after = apply(good(), EDITS.validate_python(over["edits"]))
    assert [s.stations[0].orientation.up for s in after.setups] == ["+z", "-z"]
    assert {o["values"]["what"]["value"] for o in asked(after)[0]["offers"]} >= {"Face"}
    # and of a pocket with corners that are drawn square nothing is promised
    assert corners["offers"] == []


def test_a_whole_part_asks_for_nothing():
    assert asked(whole()) == []


def test_a_pocket_stays_a_pocket_with_a_film_of_the_hole_above_it(demo):
    """What boring leaves of facets hangs to the recess that nobody cut; it is the recess still."""
    plan, library = demo
    before = apply(plan, [RemoveOperation(operation=each) for each in ("b30", "b40")])
    (row,) = json.loads(QUESTIONS["standing"](before, library, Memo()))
    assert row["where"]["values"]["deep"]["value"] == 6.0
    assert row["offers"][0]["values"]["what"]["value"] == "Rough"
