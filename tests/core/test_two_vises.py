"""A long part in two vises on one line."""

from __future__ import annotations

import pytest

from machining.facts.held import contacts_of
from machining.facts.hold import layers
from machining.facts.route import walk

from .build import LIBRARY, MEMO, answer, changed, good, ids

VISE = LIBRARY.vises["vise-60-slim"]


def of(apart=None, **fields):
    held = {"holding__vise": "vise-60-slim", "holding__second_mm": apart, **fields}
    return changed(good(), "station:st1", **held)


def station(plan):
    return walk(plan, LIBRARY, MEMO).stations[0]


def contacts(plan):
    seen = station(plan)
    return contacts_of(seen, seen.arrives, layers(seen)[0], walk(plan, LIBRARY, MEMO))


def test_both_close_with_their_own_screw_apart_by_as_much_as_is_said():
    apart = max(VISE.jaw_width_mm, VISE.base_width_mm) + 4.0
    seen = station(of(apart))
    jaws = seen.stand.of("jaw")
    assert [each.name for each in jaws] == [
        "moving jaw",
        "fixed jaw",
        "second moving jaw",
        "second fixed jaw",
    ]
    first, second = jaws[0].region.centroid, jaws[2].region.centroid
    assert second.x - first.x == pytest.approx(apart)
    groups = contacts(of(apart)).groups
    assert set(groups) == {"moving jaw", "second moving jaw"}
    assert len(set(groups.values())) == 1
    assert len(seen.stand.of("bed")) == 2


def test_what_is_cut_between_them_is_stood_better_than_over_one():
    """The same torque at two screws, and a longer lever."""
    apart = max(VISE.jaw_width_mm, VISE.base_width_mm) + 4.0
    one, two = (
        {op.id: op for op in walk(plan, LIBRARY, MEMO).operations()} for plan in (of(), of(apart))
    )
    for id in one:
        held = one[id].value("holding"), two[id].value("holding")
        assert held[0] is None or held[0] >= 66.0 or held[1] > 1.5 * held[0]


@pytest.mark.parametrize("apart", [10.0, 40.0])
def test_two_vises_that_take_the_same_room_are_refused(apart):
    assert "as wide as they are" in station(of(apart)).unknown["hold"]


def test_one_that_the_part_does_not_reach_grips_nothing():
    far = of(600.0)
    told = [each for each in answer(far).findings if each.id == "hold.grips-nothing"]
    assert told and "hold.grips-nothing" not in ids(of())
