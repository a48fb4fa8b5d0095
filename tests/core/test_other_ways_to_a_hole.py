"""Another way to a hole: what the planner said of it stays."""

from __future__ import annotations

from machining.facts.route import walk
from machining.plan.edit import AddOperation
from machining.ways.choices import hole_choices

from .build import LIBRARY, MEMO, changed, good


def test_another_way_to_a_hole_keeps_where_it_is_cut_and_what_comes_after_it():
    """Its side and place in the order stay with every step, a stop comes once the last is done."""
    said = {"aim": "+z", "pinned": True, "stop_after": "Turn it over", "stop_s": 40.0}
    facts = walk(changed(good(), "operation:drill", **said), LIBRARY, MEMO)
    op = next(each for each in facts.ready() if each.id == "drill")
    ways = [
        [e.operation for e in each.edits if isinstance(e, AddOperation)]
        for each in hole_choices(op, facts)
        if each.edits
    ]
    assert any(len(steps) == 1 for steps in ways)
    for *others, last in ways:
        assert {name: getattr(last, name) for name in said} == said
        assert all(each.aim == "+z" and each.pinned for each in others)
        assert all(each.stop_after == "" and each.stop_s is None for each in others)
