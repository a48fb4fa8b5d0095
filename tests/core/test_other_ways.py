"""One machine or two, indexed or in several setups: each way is a plan that was evaluated, and the
way back is the plan itself.
"""

from __future__ import annotations

from itertools import permutations

import pytest

from machining.ask.other_ways import other_ways
from machining.ask.other_ways.told import between
from machining.ask.trying import EDITS
from machining.facts import ledger
from machining.facts.batch import shares
from machining.facts.flows import bottleneck, steps_of
from machining.facts.route import walk
from machining.plan.apply import apply
from machining.plan.document import Plan
from machining.plan.edit import Change
from machining.quantities.said import Shown, fill
from shop.demo import latch, manifold

from .build import LIBRARY, MEMO, answer, changed, good, on_machine, whole


def words(said) -> str:
    values = {name: Shown(each["value"], each["quantity"]) for name, each in said["values"].items()}
    return fill(said["text"], values)


def ways(of: Plan) -> dict[str, dict]:
    return {words(each["said"]): each for each in other_ways(of, LIBRARY, MEMO)["rows"]}


def taken(of: Plan, way: dict) -> Plan:
    return apply(of, EDITS.validate_python(way["edits"]))


def keys(of: Plan, severity: str) -> set[str]:
    return {each.key for each in answer(of).open if each.severity == severity}


def test_the_last_setup_goes_to_another_machine_at_the_same_time():
    of = whole()
    told = ways(of)
    way = told["On two machines: setup 2 on Curlew"]
    there = taken(of, way)
    assert [each.machine for each in there.setups] == ["heron", "curlew"]
    assert keys(there, "stop") <= keys(of, "stop")
    found = answer(there)
    assert way["figures"]["one_part_s"] == pytest.approx(found.one_part_s)
    assert way["figures"]["batch_s"] == pytest.approx(found.batch_s)
    # no machine is done before its own work is, and together they are sooner than after each other
    facts = walk(there, LIBRARY, MEMO)
    steps = steps_of(facts, shares(facts, {s.id: ledger.of_setup(s, facts) for s in facts.setups}))
    slow = bottleneck(steps, of.quantity)
    (own,) = (each for each in steps if each.machine == slow)
    assert own.build_s + own.each_s * of.quantity <= way["figures"]["at_once_s"]
    assert way["figures"]["at_once_s"] < found.batch_s


def test_what_is_on_two_machines_goes_back_to_one():
    of = whole()
    apart = taken(of, ways(of)["On two machines: setup 2 on Curlew"])
    back = ways(apart)["All on Heron"]
    assert back["figures"]["at_once_s"] is None and back["figures"]["machines"] == ["Heron"]
    assert back["figures"]["batch_s"] == pytest.approx(answer(of).batch_s)
    assert answer(taken(apart, back)).one_part_s == pytest.approx(answer(of).one_part_s)


def test_what_does_not_go_says_why_and_can_not_be_taken():
    """The other side of the block can't be turned up: its axis stops before."""
    (way,) = (each for said, each in ways(whole()).items() if said.startswith("Indexed on Petrel"))
    assert way["edits"] == [] and words(way["why"])
    small = ways(whole())["On two machines: setup 2 on Dunlin"]
    assert (small["why"] is None) == bool(small["edits"])


def test_indexed_or_in_several_setups_is_one_plan_both_ways():
    """A manifold cut from three sides: a setup each on a mill, and held once on its tombstone."""
    of = manifold.draft()
    several = ways(of)["In 3 setups on Heron, a side each"]
    there = taken(of, several)
    assert [each.stations[0].orientation.up for each in there.setups] == ["+z", "-x", "+x"]
    assert all(op.aim is None for each in there.setups for op in each.operations)
    assert keys(there, "stop") <= keys(of, "stop")
    assert several["figures"]["batch_s"] == pytest.approx(answer(there).batch_s)
    assert several["looks"]
    back = ways(there)["Indexed on Curlew: held once, turned to its sides"]
    again = taken(there, back)
    (setup,) = again.setups
    assert {op.id: op.aim for op in setup.operations} == {
        op.id: op.aim for op in of.setups[0].operations
    }
    assert back["figures"]["setups"] == 1 and back["figures"]["batch_s"] < answer(there).batch_s


def test_sides_at_an_angle_are_said_not_to_be_tried():
    of = manifold.draft()
    aimed = next(each.id for each in of.setups[0].operations if each.aim == "+x")
    (way,) = ways(changed(of, f"operation:{aimed}", aim="+x 30 z")).values()
    assert words(way["why"]).startswith("Not tried") and way["figures"] is None


def test_a_plan_of_one_side_on_one_machine_has_no_other_way():
    assert other_ways(good(), LIBRARY, MEMO)["rows"] == []
    nothing = good().model_copy(update={"setups": ()})
    assert other_ways(nothing, LIBRARY, MEMO) == {"now": None, "rows": []}


def test_a_machine_that_the_shop_has_no_more_is_told_by_its_key():
    told = other_ways(on_machine(good(), "gone"), LIBRARY, MEMO)
    assert told["now"]["machines"] == ["gone"] and told["rows"] == []


def test_each_way_is_told_as_it_comes():
    heard = []
    told = other_ways(whole(), LIBRARY, MEMO, lambda *each: heard.append(each))
    assert [len(so_far["rows"]) for _, _, so_far in heard] == [*range(len(told["rows"]))]
    assert heard[0][0] == 0.0 and all(so_far["now"] == told["now"] for _, _, so_far in heard)


def outside(of: Plan) -> Plan:
    after = of.setups[0].stations[0].id
    step = {"id": "o1", "after": after, "kind": "plated", "days": 3}
    return apply(of, [Change(on="plan", fields={"outside": [step]})])


@pytest.mark.parametrize(
    ("one", "other"),
    permutations([whole(), on_machine(whole(), "curlew"), outside(whole()), latch.draft()], 2),
)
def test_edits_bring_one_plan_to_another(one, other):
    kept = {"part": other.part, "stock": other.stock, "material": other.material}
    one = one.model_copy(update={**kept, "quantity": other.quantity, "units": other.units})
    after = apply(one, between(one, other))
    assert (after.setups, set(after.tools)) == (other.setups, set(other.tools))
    if other.outside:
        assert after.outside == other.outside
