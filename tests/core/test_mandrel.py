"""An expanding mandrel in a bore: the demo's bushing turned on its outside in one go."""

from __future__ import annotations

from math import hypot

import pytest

from machining.evaluate import evaluate
from machining.facts.route import walk
from machining.facts.turned_axis import gripped_axis
from machining.holding.cut import Pushes
from machining.holding.held import factor
from machining.plan.apply import apply
from machining.plan.holding import OnMandrel
from machining.plan.trade import Hold
from machining.ways.trade import structural
from machining.world.workholding import Mandrel

from .build import changed
from .test_soft_jaws import DRAFT, LIBRARY, LOW, MEMO

HELD = OnMandrel(mandrel="mandrel-32", grip_mm=30.0)


def of(**fields):
    held = HELD.model_copy(update=fields).model_dump(mode="json")
    return changed(DRAFT, "station:st2", holding=held)


def facts(plan):
    return walk(plan, LIBRARY, MEMO)


def test_it_touches_the_bore_along_lines_and_its_shoulder():
    """Ø32 bored in the first setup, 34 long: 30 of it, a sixth in from both ends."""
    contacts = facts(of()).operations()[6].seen.held.contacts.every
    inside = [each for each in contacts if each.group]
    assert len(inside) == 12
    for each in inside:
        assert hypot(*each.at[:2]) == pytest.approx(16.0, abs=0.02)
        assert each.at[0] * each.normal[0] + each.at[1] * each.normal[1] > 0.0
    assert {round(each.at[2] - LOW, 2) for each in inside} == {5.0, 25.0}
    shoulder = [each for each in contacts if each.body == "shoulder"]
    assert shoulder and all(each.normal == (0.0, 0.0, 1.0) for each in shoulder)
    assert max(hypot(*each.at[:2]) for each in shoulder) < 23.0


def test_a_twist_is_stood_by_its_force_and_friction():
    import numpy as np

    rest = facts(of()).operations()[6].seen.held.contacts
    twist = Pushes(np.array([[0, 0, 1.0]]), np.array([[0, 0, 0, 0, 0, 1000.0 / rest.length_mm]]))
    by_hand = 30000.0 * 0.15 * 0.016
    assert factor(rest, twist).factor == pytest.approx(by_hand, rel=0.01)


@pytest.mark.parametrize(
    ("fields", "words"),
    [
        ({"grip_mm": 45.0}, "up to 40, the length"),
        ({"mandrel": "mandrel-9"}, "no mandrel 'mandrel-9'"),
    ],
)
def test_what_does_not_go_together_is_not_held(fields, words):
    assert words in facts(of(**fields)).stations[1].unknown["hold"]


def test_in_no_bore_there_is_nothing_to_open_in():
    held = HELD.model_dump(mode="json")
    solid = changed(DRAFT, "station:st1", holding=held)
    assert "there is none" in facts(solid).stations[0].unknown["hold"]


def test_another_bore_is_another_mandrel():
    plan = of()
    first = plan.setups[0]
    fewer = first.model_copy(update={"operations": first.operations[:2]})  # drilled 20 alone
    small = plan.model_copy(update={"setups": (fewer, plan.setups[1])})
    assert "from 30 to 34" in facts(small).stations[1].unknown["hold"]


def test_taken_from_the_library_it_goes_in_as_far_as_the_bore_is_so_wide():
    plan = changed(DRAFT, "station:st2", holding=None)
    hold = structural(plan, LIBRARY, MEMO, [Hold(station="st2", item="mandrel-32")])
    held = apply(plan, tuple(hold)).station("st2").holding
    assert held.grip_mm == pytest.approx(32.0, abs=0.1)
    assert not [each for each in evaluate(of(), LIBRARY, MEMO).open if each.severity == "stop"]


def test_it_is_offered_where_its_bore_is():
    bare = changed(DRAFT, "station:st2", holding=None)
    told = [
        each for each in evaluate(bare, LIBRARY, MEMO).findings if each.id == "hold.none-chosen"
    ]
    assert any("Mandrel" in str(fix.values) for each in told for fix in each.fixes)


def test_its_axis_is_that_of_the_bore_and_its_run_out():
    (link,), _ = gripped_axis(facts(of()).stations[1], facts(of()))
    assert link.mm == pytest.approx(0.005)


def test_sizes_in_the_wrong_order_are_no_mandrel():
    with pytest.raises(ValueError, match="each must be over the one before"):
        Mandrel(
            key="m",
            name="m",
            from_mm=34.0,
            to_mm=30.0,
            length_mm=40.0,
            shoulder_mm=46.0,
            force_n=1000.0,
            friction=0.15,
            max_rpm=4000.0,
            source="a test",
        )
