"""Proposals that are found once somebody looks."""

import logging

from machining.evaluate import evaluate
from machining.findings.size import uncovered
from machining.plan.proposal import Later, Proposal

from .build import DRILL, FACE, LIBRARY, MEMO, good, plan
from .cases_of_the_whole import PLUG


def test_nothing_is_looked_for_before_somebody_asks_and_then_once():
    asked = []

    def find():
        asked.append(1)
        yield from (Proposal("one"), Proposal("two"))

    later = Later(find)
    assert asked == []
    assert [each.label for each in later] == ["one", "two"] and len(later) == 2
    assert later[1].label == "two" and [each.label for each in later[:1]] == ["one"]
    assert asked == [1]
    assert later == (Proposal("one"), Proposal("two")) != Later(lambda: [Proposal("one")])


def test_where_looking_fails_it_is_logged_and_there_are_none(caplog):
    with caplog.at_level(logging.ERROR):
        assert not Later(lambda: [Proposal("one"), 1 / 0])
    assert "was not found" in caplog.text


def test_a_plan_that_is_only_tried_looks_for_none(monkeypatch):
    """A thread in a hole that is drilled and not tapped: what would cut it is looked for later."""
    asked = []
    monkeypatch.setattr(uncovered, "offers_there", lambda *_: asked.append(1) or iter(()))
    part = good().part.model_copy(update={"requirements": (PLUG,)})
    of = plan(FACE, DRILL).model_copy(update={"part": part})
    (told,) = (f for f in evaluate(of, LIBRARY, MEMO).findings if f.id == uncovered.ID)
    assert asked == []
    assert list(told.fixes) == [] and asked == [1]
