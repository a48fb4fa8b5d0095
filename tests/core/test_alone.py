"""Operations of a changed plan by themselves: no saving is missed, and what they leave is known."""

from __future__ import annotations

from math import inf

import pytest

from machining.ask.alone import promised, stops, stops_nothing
from machining.ask.changes import every
from machining.data import seed
from machining.evaluate import evaluate
from machining.facts.route import walk
from machining.memo import Memo
from machining.plan.apply import EditRefused, apply
from machining.plan.edit import Change, MoveOperation
from machining.ways.choices import choices
from machining.ways.trade import structural
from shop.demo import vane_foot

from . import lathe
from .build import (
    FACE,
    LIBRARY,
    MEMO,
    OUTSIDE,
    POCKET,
    ROUGH,
    WALLS,
    answer,
    changed,
    good,
    plan,
    whole,
)
from .test_savings import with_library

PLANS = {
    "good": good(),
    "twenty of it": whole().model_copy(update={"quantity": 20}),
    "outside": plan(FACE, ROUGH, OUTSIDE),
    "apart": plan(FACE, POCKET, ROUGH, WALLS.model_copy(update={"id": "again"}), quantity=10),
    "turned": lathe.plan(*lathe.GOOD),
}


def offered(of, library, memo):
    """What may be tried, as plans."""
    facts, before = walk(of, library, memo), answer(of, library)
    for each in every(of, facts, before, memo):
        made = each.made() if each.made is not None else (each.said, each.because, each.edits)
        try:
            if made is not None:
                yield each, apply(of, structural(of, library, memo, made[2])), facts, before
        except EditRefused:
            continue


@pytest.mark.parametrize("name", PLANS)
def test_what_promises_nothing_by_itself_saves_nothing_in_the_plan(name):
    of = PLANS[name]
    library, memo = with_library(of)
    told = {True: 0, False: 0}
    for each, then, facts, before in offered(of, library, memo):
        may = promised(then, facts, before, memo) is not None
        told[may] += 1
        if not may:
            after = answer(then, library)
            saved = before.batch_s - after.batch_s
            assert saved <= 0.05 * of.quantity or stops(after.open, before), each.said.text
    assert told[False] > 2 and told[True] > 2


def test_what_is_worked_out_by_itself_is_not_worked_out_again():
    """Half the feed: the operation is the one of the whole plan, with all that was found of it."""
    memo = Memo()
    of = whole()
    facts = walk(of, LIBRARY, memo)
    slow = Change(on="operation:outside", fields={"feed_mm_min": 300.0})
    changed = apply(of, [slow])
    assert promised(changed, facts, answer(of), memo) is None
    misses = memo.misses
    (then,) = (op for op in walk(changed, LIBRARY, memo).operations() if op.id == "outside")
    was = next(op for op in facts.operations() if op.id == "outside")
    assert memo.misses == misses
    assert then.time.cutting_s > was.time.cutting_s


def test_a_stop_is_seen_where_it_is():
    """A tool that does not go into the corners of its pocket."""
    of = good()
    facts, before = walk(of, LIBRARY, MEMO), answer(of)
    wide = apply(of, [Change(on="operation:walls", fields={"tool": "t2"})])
    assert not stops_nothing(wide, facts, before, MEMO)
    assert promised(wide, facts, before, MEMO) is None
    assert stops_nothing(of, facts, before, MEMO)


def test_of_another_order_or_holding_all_of_it_has_to_tell():
    of = good()
    facts, before = walk(of, LIBRARY, MEMO), answer(of)
    for edit in (
        MoveOperation(operation="drill", setup="s1", index=0),
        Change(on="setup:s1", fields={"retract_mm": 50.0}),
    ):
        assert promised(apply(of, [edit]), facts, before, MEMO) == inf


# -- what they leave


def test_metal_that_is_taken_otherwise_leaves_the_same():
    """The top by a smaller tool: what comes after it is not worked out anew."""
    memo, of = Memo(), good()
    before = walk(of, LIBRARY, memo).operations()
    after = walk(
        apply(of, [Change(on="operation:face", fields={"tool": "t2", "step_over_mm": 6.0})]),
        LIBRARY,
        memo,
    ).operations()
    assert before[0].key != after[0].key and before[0].path_key != after[0].path_key
    assert before[0].after.key == after[0].after.key
    assert [op.key for op in before[1:]] == [op.key for op in after[1:]]
    higher = walk(
        apply(of, [Change(on="operation:face", fields={"leave_mm": 0.2})]), LIBRARY, memo
    ).operations()
    assert higher[0].after.key != before[0].after.key


def test_where_clamps_are_changed_on_the_way_nothing_less_than_all_of_it_tells():
    """A hole after which others are put on: done another way, and without that change."""
    plan, library, memo = vane_foot.draft(), seed(), Memo()
    facts, before = walk(plan, library, memo), evaluate(plan, library, memo)
    drill = next(op for op in facts.ready() if op.operation.clamps_after is not None)
    way = next(each for each in choices(drill, facts) if each.edits)
    other = apply(plan, way.edits)
    assert {op.id: op.clamps_after for op in other.setups[0].operations}[drill.id] is not None
    assert promised(other, facts, before, memo) is None  # a helix takes longer there
    bare = changed(plan, f"operation:{drill.id}", clamps_after=None)
    assert promised(bare, facts, before, memo) == inf
