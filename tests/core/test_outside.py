"""Steps away from the machines: what they leave may not be marked, and what they change is said."""

from __future__ import annotations

import pytest

from machining.evaluation import to_plain
from machining.facts.outside import done_before
from machining.facts.route import walk
from machining.findings.finding import in_words
from machining.plan.apply import EditRefused, apply
from machining.plan.edit import Change, RemoveSetup
from machining.plan.outside import OutsideStep
from machining.sheet import sheets

from .build import LIBRARY, MEMO, after_fix, answer, finding, ids, whole

MARKS, ORDER = "hold.marks", "route.outside-order"


def side(faces="+y"):
    geometry = walk(whole(), LIBRARY, MEMO).geometry
    return next(e.id for e in geometry.features if e.kind == "flat" and e.faces == faces)


def test_days_away_stand_on_the_sheet_it_leaves_from():
    first, _ = (sheet["care"] for sheet in sheets_of(with_step(step("plated", days=5))))
    after = next(row for row in first if row["where"] == "After.")
    assert after["sentence"].endswith("Away 5 days.")


def step(kind="ground", after="st1", features=(), **fields):
    return OutsideStep(id="out", kind=kind, after=after, features=features, **fields)


def with_step(*steps):
    fields = {"outside": [each.model_dump() for each in steps]}
    return apply(whole(), (Change(on="plan", fields=fields),))


def sheets_of(of):
    return sheets(walk(of, LIBRARY, MEMO), to_plain(answer(of)), {})


@pytest.mark.parametrize("kind", ["ground", "plated", "coated"])
def test_smooth_jaws_on_a_treated_side_leave_marks(kind):
    assert MARKS not in ids(whole())
    found = finding(with_step(step(kind, features=(side(),))), MARKS)
    assert in_words(found).endswith(f"It was {kind} before.")
    assert found.setup == "s2"


def test_all_over_is_every_side_and_another_side_is_none():
    assert MARKS in ids(with_step(step()))
    assert MARKS not in ids(with_step(step(features=(side("+x"),))))
    assert MARKS not in ids(with_step(step("hardened")))
    assert MARKS not in ids(with_step(step("ground", "st2", (side(),))))


def test_what_was_hardened_is_another_material():
    of = with_step(step("hardened"))
    found = finding(of, ORDER)
    assert found.setup == "s2" and "hardened before this setup" in in_words(found)
    later = after_fix(of, found)
    assert later.outside[0].after == "st2" and ORDER not in ids(later)
    assert ORDER not in ids(after_fix(of, found, 1))


def test_what_is_cut_after_it_was_treated_is_told():
    found = finding(with_step(step("plated", features=("below",))), ORDER)
    assert in_words(found) == "Operation 20 cuts what was plated before."
    assert ORDER not in ids(with_step(step("plated", features=(side(),))))


def test_the_sheets_say_what_happens_between():
    of = with_step(step(features=(side(),), words="the grinder’s, 5 days"))
    first, second = (sheet["care"] for sheet in sheets_of(of))
    after = next(row for row in first if row["where"] == "After.")
    before = next(row for row in second if row["where"] == "Before.")
    assert after["sentence"] == "It goes out from here and is ground: its back."
    assert before["sentence"].startswith("It comes in ground: its back. Nothing bites")
    assert after["note"] == before["note"] == "the grinder’s, 5 days"
    assert not [row for row in second if row["where"] == "After."]


def test_a_setup_that_goes_leaves_the_step_where_it_was():
    of = apply(with_step(step()), (RemoveSetup(setup="s1"),))
    assert of.outside[0].after == "blank"
    facts = walk(of, LIBRARY, MEMO)
    assert [each.id for each in done_before(facts.stations[0], facts)] == ["out"]


def test_a_place_that_is_gone_says_so():
    of = with_step(step(features=("no-such",)))
    assert MARKS not in ids(of)
    assert "places that are gone" in str(sheets_of(of)[0]["care"])


@pytest.mark.parametrize(
    ("steps", "said"),
    [
        ((step(after="nowhere"),), "no such station to leave from"),
        ((step(), step()), "must be used only once"),
    ],
)
def test_what_can_not_be_is_refused(steps, said):
    with pytest.raises(EditRefused, match=said):
        with_step(*steps)
