"""Both ends of a distance made at once: with one tool, or in one holding."""

from __future__ import annotations

from machining.facts.route import walk
from machining.facts.stack_up import chains
from machining.plan.apply import apply
from machining.ways.made_together import made_together
from machining.world.part import Requirement

from .build import LIBRARY, MEMO, finding, ids, setup
from .cases_of_the_whole import asking
from .test_aim import ON_END, SIDE, planned
from .test_stack_up import BELOW, FACES, ID, asked, made, only

HIGH = Requirement(
    id="high",
    what="Height of the cross hole",
    nominal_mm=10.0,
    upper_mm=0.05,
    lower_mm=-0.05,
    feature="cross",
    datum=FACES["+z"],
)


def on_its_end(machine: str):
    """The top is faced in one setup, the hole across is drilled in another, from above."""
    plan = planned(machine)
    [first] = plan.setups
    first = first.model_copy(update={"operations": first.operations[:1]})
    second = setup(SIDE, id="s2", **{**ON_END, "machine": machine})
    return asking(plan.model_copy(update={"setups": (first, second)}), HIGH)


def ways(plan):
    return [*made_together(*only(plan).made)]


def test_a_pocket_and_the_face_it_is_measured_from_are_cut_with_one_tool():
    plan = made(asked(8.0, each_way=0.02, feature="recess"))
    with_one = next(fix for fix in finding(plan, ID).fixes if "with T{tool}" in fix.label)
    cut = apply(plan, with_one.edits)
    first = cut.setups[0]
    assert first.operation("face").tool == first.operation("pocket").tool
    assert ID not in ids(cut)
    assert chains(walk(cut, LIBRARY, MEMO)) == []


def test_a_hole_is_drilled_where_the_face_is_cut_it_is_measured_from():
    """Petrel turns the end to the tool: what saw, jaw and second zero added is gone."""
    plan = on_its_end("petrel")
    into_the_first, into_the_second = ways(plan)
    before = only(plan)
    moved = apply(plan, into_the_first.edits)
    side = moved.setups[0].operation("side")
    assert (side.aim, [op.id for op in moved.setups[0].operations]) == ("+x", ["face", "side"])
    assert not moved.setups[1].operations
    after = only(moved)
    assert after.worst_mm < before.worst_mm / 3.0
    assert not any(link.key.startswith(("again", "uneven")) for link in after.links)
    other = apply(plan, into_the_second.edits)
    assert (other.setups[1].operation("face").aim, other.setups[0].operations) == ("+z", ())


def test_where_no_axis_turns_there_it_stays():
    assert ways(on_its_end("heron")) == []
    plan = made(BELOW, **{"holding.stop": "low"})  # from below, from its end: Heron turns neither
    assert ways(plan) == []
