"""Why operations come in their order, and a shorter one: each reason and what is free of reasons
against plans that are evaluated whole.
"""

from __future__ import annotations

from heapq import heappop
from itertools import permutations

import pytest

from machining.ask.order import FURTHER, order
from machining.ask.order_search import Search
from machining.ask.trying import EDITS
from machining.facts import ledger
from machining.facts.context import PlanFacts, SetupFacts
from machining.facts.route import walk
from machining.ordering.in_setup import held_to, problem_of
from machining.ordering.reason import Reason, direct, ring_in
from machining.ordering.rules import reasons_of
from machining.ordering.solve import solve
from machining.plan.apply import EditRefused, apply
from machining.plan.document import Plan
from machining.plan.edit import Change, MoveOperation
from machining.quantities.said import Said, fill
from shop.demo import latch, manifold, ring

from . import lathe
from .build import (
    DRILL,
    FACE,
    LIBRARY,
    MEMO,
    OUTSIDE,
    POCKET,
    ROUGH,
    TAP,
    WALLS,
    answer,
    good,
    plan,
    setup,
    whole,
)

BETWEEN = ("change", "start", "range", "index", "move")
PLANS: dict[str, Plan] = {
    "good": good(),
    "whole": whole(),
    "one": whole().model_copy(update={"quantity": 1}),
    "pocket": plan(FACE, POCKET, WALLS),
    "outside": plan(FACE, ROUGH, OUTSIDE),
    "holes": plan(FACE, DRILL, TAP),
    "drills apart": plan(FACE, DRILL, POCKET, TAP, WALLS),
    "four faces": manifold.draft(),
    "ring": ring.draft(),
    "two stations": latch.draft(),
}


def seen(of: Plan, place: int = 0, library=LIBRARY) -> tuple[SetupFacts, PlanFacts]:
    facts = walk(of, library, MEMO)
    return facts.setups[place], facts


def why(of: Plan, then: str, first: str, library=LIBRARY) -> str:
    """The reason in words, empty where there is none."""
    setup, facts = seen(of, 0, library)
    pairs = {(each.first, each.then): each.said for each in reasons_of(setup, facts)}
    said = pairs.get((first, then))
    return fill(said.text, said.values) if said else ""


def moved(of: Plan, operation: str, index: int, place: int = 0) -> Plan:
    move = MoveOperation(operation=operation, setup=of.setups[place].id, index=index)
    return apply(of, [move])


def test_what_stands_over_a_cut_is_told_as_deep_as_it_is():
    """A millimetre is faced off; the pocket under the hole is 18 mm deep in the block."""
    assert why(good(), "drill", "face") == (
        "It would have to cut the 1.0 mm that operation 10 takes away where it cuts."
    )


def test_what_is_done_to_one_place_has_an_order_of_its_own():
    assert why(good(), "walls", "pocket") == "It finishes what operation 30 roughs."
    assert why(good(), "tap", "drill") == "Operation 60 makes the hole for it."
    turned = lathe.plan(*lathe.GOOD)
    last = turned.setups[0].operations
    threads = next(op for op in last if op.kind == "turn_thread")
    finish = next(op for op in last if op.kind == "turn_finish")
    assert why(turned, threads.id, finish.id, lathe.LIBRARY).endswith("turns what it threads.")
    assert all(
        why(turned, last[-1].id, op.id, lathe.LIBRARY).startswith("It parts off")
        for op in last[:-1]
    )


def test_holes_apart_have_none():
    setup, facts = seen(manifold.draft())
    pairs = {(each.first, each.then) for each in reasons_of(setup, facts)}
    drills = [op.id for op in setup.operations if op.operation.kind == "drill"]
    assert len(drills) == 4
    assert not {(drills[0], drills[2]), (drills[2], drills[0])} & pairs


@pytest.mark.parametrize("name", ["drills apart", "four faces", "ring"])
def test_neighbours_without_a_reason_cut_the_same_either_way(name):
    """Exactly: what they take is worked out anew in the other order."""
    of = PLANS[name]
    setup, facts = seen(of)
    reasons = {(e.first, e.then) for e in reasons_of(setup, facts)}
    taken = {op.id: op.before.volume() - op.after.volume() for op in setup.operations}
    ids = [op.id for op in setup.operations]
    free = [k for k in range(len(ids) - 1) if (ids[k], ids[k + 1]) not in reasons]
    assert free
    for k in free[:3]:
        other, _ = seen(moved(of, ids[k], k + 1))
        for op in other.operations:
            now = op.before.volume() - op.after.volume()
            assert now == pytest.approx(taken[op.id], rel=1e-3, abs=1.0)


@pytest.mark.parametrize("name", PLANS)
def test_what_lies_between_is_what_the_ledger_has(name):
    """Of a plan as it is: events of its cycle that are not of the operations themselves."""
    setup, facts = seen(PLANS[name])
    ids = range(len(setup.operations))
    of, found = ledger.of_setup(setup, facts), problem_of(setup, facts).seconds(ids)
    inside = sum(
        each.seconds
        for op in setup.operations
        for each in of.by_operation[op.id]
        if each.kind in BETWEEN and _is_at_same(each, setup)
    )
    assert found == pytest.approx(of.of(*BETWEEN) - inside, abs=1e-6)


def _is_at_same(event: ledger.Event, setup: SetupFacts) -> bool:
    """Does it lie between positions of one operation, which no order changes?"""
    return setup.planned.order == "by tool" and event.position > 0


@pytest.mark.parametrize("name", PLANS)
def test_no_allowed_order_takes_less(name):
    for place in range(len(PLANS[name].setups)):
        setup, facts = seen(PLANS[name], place)
        of = held_to(problem_of(setup, facts), setup, reasons_of(setup, facts))
        if of.many > 8:
            continue
        least = min(of.seconds(o) for o in permutations(range(of.many)) if of.allows(o))
        found = solve(of, range(of.many))
        assert found.proven and found.seconds == pytest.approx(least, abs=of.many / 1000)


@pytest.mark.parametrize("name", PLANS)
def test_a_better_order_brings_what_it_says(name):
    of, before = PLANS[name], answer(PLANS[name])
    found = order(of, LIBRARY, MEMO, of.setups[0].id)["found"]
    if found["better"] is None:
        assert found["least_s"] <= found["now_s"] + 1e-3 * len(of.setups[0].operations)
        return
    after = answer(apply(of, EDITS.validate_python(found["better"]["edits"])))
    assert before.one_part_s - after.one_part_s == pytest.approx(found["better"]["one_part_s"])
    assert found["better"]["one_part_s"] > 0
    assert {f.key for f in after.open if f.severity != "note"} <= {f.key for f in before.open}


@pytest.mark.parametrize("name", ["good", "drills apart"])
def test_what_no_reason_told_is_run_into_and_kept(name):
    """As if nothing were known of its order: what is found is no worse all the same."""
    of, before = PLANS[name], answer(PLANS[name])
    setup, facts = seen(of)
    search = Search(of, LIBRARY, MEMO, facts, setup, [], FURTHER)
    better = search.best()["better"]
    assert search.tried > 0 and (search.ran_into or better is not None)
    assert all(each.kind == "tried" for each in search.ran_into)
    if better is not None:
        after = answer(apply(of, EDITS.validate_python(better["edits"])))
        assert {f.key for f in after.open if f.severity != "note"} <= {f.key for f in before.open}
        assert before.one_part_s - after.one_part_s == pytest.approx(better["one_part_s"])


def test_what_takes_longer_in_the_other_order_is_said():
    """To rough before the face is cut saves a change, and costs more than that."""
    of = whole()
    setup, facts = seen(of)
    known = [e for e in reasons_of(setup, facts) if (e.first, e.then) != ("face", "rough")]
    search = Search(of, LIBRARY, MEMO, facts, setup, known, FURTHER)
    assert search.best()["better"] is None
    told = {(e.first, e.then): e.said for e in search.ran_into}
    assert "takes {more} longer" in told["face", "rough"].text


def test_what_is_pinned_stays_and_what_that_costs_is_told():
    of = ring.draft()
    free = order(of, LIBRARY, MEMO, of.setups[0].id)
    saves, (first, *_) = free["found"]["better"]["one_part_s"], free["found"]["better"]["moved"]
    pins = [
        Change(on=f"operation:{op.id}", fields={"pinned": True}) for op in of.setups[0].operations
    ]
    held = order(apply(of, pins), LIBRARY, MEMO, of.setups[0].id)
    assert held["found"]["better"] is None and held["stuck"] == []
    cost = {each["first"]: each["seconds"] for each in held["prices"]}
    positions = len(of.setups[0].stations[0].spots)
    assert cost == {"": pytest.approx(saves * positions, abs=0.01)}
    assert first in {op.id for op in of.setups[0].operations}


def test_a_habit_has_its_price():
    """To finish with the tool that is in would save its change; the part may move afterwards."""
    told = order(whole(), LIBRARY, MEMO, "s1")
    habits = {(e["first"], e["then"]) for e in told["reasons"] if e["kind"] == "practice"}
    costs = {(each["first"], each["then"]): each["seconds"] for each in told["prices"]}
    assert costs and set(costs) <= habits
    assert all(0 < each < 10 for each in costs.values())


def test_a_finish_before_its_rough_is_put_right():
    wrong = moved(plan(FACE, POCKET, WALLS), "walls", 1)
    assert "size.order" in {f.id for f in answer(wrong).open}
    found = order(wrong, LIBRARY, MEMO, "s1")["found"]
    right = apply(wrong, EDITS.validate_python(found["better"]["edits"]))
    assert "size.order" not in {f.id for f in answer(right).open}


def test_a_pin_against_a_reason_is_named():
    wrong = moved(plan(FACE, POCKET, WALLS), "walls", 1)
    pinned = apply(wrong, [Change(on="operation:walls", fields={"pinned": True})])
    told = order(pinned, LIBRARY, MEMO, "s1")
    assert told["none"] and told["stuck"] == ["walls"] and told["found"]["better"] is None


def test_a_ring_names_its_reasons():
    a, b, c, d = (Reason(x, y, "practice", Said()) for x, y in ("ab", "bc", "ca", "ad"))
    assert ring_in("abcd", [d, a, b, c]) == [a, b, c]
    assert ring_in("abcd", [a, b, d]) == []


def test_what_others_say_already_is_not_direct():
    a, b, c = (Reason(x, y, "stock", Said()) for x, y in ("ab", "bc", "ac"))
    assert direct([a, b, c]) == {("a", "b"), ("b", "c")}


def test_searches_that_take_as_long_go_on_in_turn():
    of = plan(FACE, DRILL)
    setup, facts = seen(of)
    search = Search(of, LIBRARY, MEMO, facts, setup, [], FURTHER)
    again = Reason("face", "drill", "tried", Said())
    for more in ((), (again,), (again, again)):
        search._open(more, search.shortest)
    assert heappop(search.ways).more == ()
    search._open((again,) * 3, search.shortest)
    assert [len(heappop(search.ways).more) for _ in range(3)] == [1, 2, 3]


def test_an_empty_setup_has_no_order():
    told = order(plan(), LIBRARY, MEMO, "s1")
    assert told["reasons"] == [] and told["found"] is None and setup().id == "s1"


def said(of, *rules):
    plain = [
        {"first": first, "then": then, "free": free, "why": why} for first, then, free, why in rules
    ]
    return apply(of, [Change(on="setup:s1", fields={"said_order": plain})])


def test_what_the_planner_says_is_kept_as_a_reason():
    """The drill may come before the pocket; said otherwise it does not."""
    free, _ = seen(good())
    assert ("pocket", "drill") not in {(r.first, r.then) for r in reasons_of(free, seen(good())[1])}
    of = said(good(), ("pocket", "drill", False, "chips of the pocket plug the holes"))
    told = order(of, LIBRARY, MEMO, "s1")
    own = [each for each in told["reasons"] if each["kind"] == "own"]
    assert [(each["first"], each["then"]) for each in own] == [("pocket", "drill")]
    assert own[0]["said"]["values"]["why"]["value"] == "chips of the pocket plug the holes"
    best = told["found"]["better"]
    ids = best["order"] if best else [op.id for op in of.setups[0].operations]
    assert ids.index("pocket") < ids.index("drill")


def test_what_the_planner_says_against_the_metal_leaves_no_order():
    of = said(good(), ("tap", "drill", False, "by mistake"))
    told = order(of, LIBRARY, MEMO, "s1")
    assert {(each["first"], each["then"]) for each in told["ring"]} == {
        ("drill", "tap"),
        ("tap", "drill"),
    }
    assert told["found"] is None
    [found] = [f for f in answer(of).findings if f.id == "route.said-order"]
    assert found.severity == "look" and found.operation == "drill"
    assert [op.id for op in apply(of, found.fixes[0].edits).setups[0].operations][-1] == "drill"


def test_a_habit_that_is_set_aside_speaks_no_more():
    of = whole()
    setup, facts = seen(of)
    habits = [r for r in reasons_of(setup, facts) if r.kind == "practice"]
    assert habits
    one = habits[0]
    aside = said(of, (one.first, one.then, True, "the part is stiff"))
    left = reasons_of(*seen(aside))
    pair = {one.first, one.then}
    assert (
        not any({r.first, r.then} == pair for r in left)
        and len(left) == len(reasons_of(setup, facts)) - 1
    )
    turned = said(of, (one.then, one.first, False, "finish while it is stiff"))
    kinds = {(r.first, r.then): r.kind for r in reasons_of(*seen(turned))}
    assert kinds[(one.then, one.first)] == "own" and (one.first, one.then) not in kinds


def test_what_is_said_of_operations_that_are_gone_says_nothing():
    of = said(good(), ("pocket", "gone", False, "why not"))
    assert "own" not in {r.kind for r in reasons_of(*seen(of))}
    assert "route.said-order" not in {f.id for f in answer(of).findings}


@pytest.mark.parametrize(
    ("rules", "words"),
    [
        ([("face", "face", False, "x")], "another operation than first"),
        ([("face", "rough", False, "x"), ("rough", "face", True, "y")], "it is said once"),
        ([("face", "rough", False, "")], "Why is ''"),
    ],
)
def test_what_can_not_be_said_of_an_order_is_refused(rules, words):
    with pytest.raises(EditRefused, match=words):
        said(good(), *rules)
