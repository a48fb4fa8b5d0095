"""An edit is answered in a moment: the edited operation first, the rest as it stood before."""

from __future__ import annotations

import pytest

from machining.evaluate import evaluate
from machining.evaluation import to_bytes
from machining.facts.pace import AT_FIRST, name_of, pace_since
from machining.memo import Memo
from machining.plan.apply import apply
from machining.plan.edit import AddOperation

from . import build
from .long import long_plan
from .test_every_edit import waiting

PLAN = long_plan(3)


@pytest.fixture(scope="module")
def memo():
    kept = Memo(20000)
    evaluate(PLAN, build.LIBRARY, kept)
    return kept


def at_first(changed, memo, since=PLAN):
    return evaluate(changed, build.LIBRARY, memo, pace_since(name_of(since), build.LIBRARY, memo))


def in_order(answer):
    return [op for setup in answer.setups for op in setup.operations]


def test_the_edited_operation_comes_first_and_what_is_after_it_stands_as_before(memo):
    before = evaluate(PLAN, build.LIBRARY, memo)
    deeper = build.changed(PLAN, "operation:face0", leave_mm=0.4)
    told = at_first(deeper, memo)
    whole = evaluate(deeper, build.LIBRARY, Memo())
    done, rest = in_order(told)[:AT_FIRST], in_order(told)[AT_FIRST:]
    assert waiting(told) == {op.id for op in rest}
    assert told.working and not told.ready
    for op, as_it_is in zip(done, in_order(whole), strict=False):
        assert (op.time_s, op.depth_mm, op.gauges) == (
            as_it_is.time_s,
            as_it_is.depth_mm,
            as_it_is.gauges,
        )
    for op, as_it_was in zip(rest, in_order(before)[AT_FIRST:], strict=True):
        assert (op.time_s, op.gauges) == (as_it_was.time_s, as_it_was.gauges)
    assert done[0].time_s != in_order(before)[0].time_s
    assert to_bytes(evaluate(deeper, build.LIBRARY, memo)) == to_bytes(whole)


def test_an_edit_that_little_hangs_on_is_answered_whole(memo):
    last = build.changed(PLAN, "operation:thread2", major_mm=8.2)
    told = at_first(last, memo)
    assert not told.working
    assert to_bytes(told) == to_bytes(evaluate(last, build.LIBRARY, Memo()))


def test_what_stands_behind_an_operation_that_waits_waits_too(memo):
    """All of it was worked out on the stock before the edit, and is known for that alone."""
    told = at_first(build.changed(PLAN, "operation:face0", leave_mm=0.45), memo)
    assert {op.id for op in in_order(told)[-10:]} <= waiting(told)


def test_edits_that_follow_at_once_are_answered_each_by_its_operation(memo):
    once = build.changed(PLAN, "operation:face0", leave_mm=0.5)
    twice = build.changed(once, "operation:face0", leave_mm=0.55)
    at_first(once, memo)
    told = at_first(twice, memo, since=once)
    assert "face0" not in waiting(told)
    assert len(waiting(told)) == 30 - AT_FIRST


def test_an_operation_that_was_not_there_has_no_figures_until_its_turn_comes(memo):
    new = PLAN.setups[2].operations[-1].model_copy(update={"id": "new"})
    more = apply(
        build.changed(PLAN, "operation:face0", leave_mm=0.6),
        [AddOperation(setup="s2", operation=new)],
    )
    told = at_first(more, memo)
    assert "new" in waiting(told)
    assert in_order(told)[-1].time_s == 0
    assert not [id for id in told.figures if id.startswith("new.")]


def test_without_what_was_before_all_of_it_is_worked_out():
    deeper = build.changed(build.good(), "operation:face", leave_mm=0.4)
    told = at_first(deeper, Memo(), since=build.good())
    assert not told.working
    assert to_bytes(told) == to_bytes(evaluate(deeper, build.LIBRARY, Memo()))
