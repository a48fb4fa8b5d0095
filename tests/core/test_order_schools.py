"""An order that is searched on for, and both sides of what the trade disagrees about: told bit by
bit, each against the plan as it would be.
"""

from __future__ import annotations

from importlib import import_module

import pytest

from machining.ask.order import order, order_further
from machining.ask.trying import EDITS
from machining.facts.route import walk
from machining.plan.apply import apply
from machining.plan.edit import Change
from machining.plan.operation import Chamfer
from machining.plan.places import Points, Top

from .build import DRILL, FACE, LIBRARY, MEMO, POCKET, TAP, WALLS, answer, good, plan, tool, whole

asked = import_module("machining.ask.order")
MANY = 20  # holes


def schools(of):
    return order_further(of, LIBRARY, MEMO, "s1")["schools"]


def test_the_other_school_has_its_numbers():
    """To face last: the roughing goes through what stands over it, and drills start high."""
    of = good()
    (school,) = schools(of)
    assert school["said"]["text"].startswith("Face last")
    other = apply(of, EDITS.validate_python(school["edits"]))
    assert [op.id for op in other.setups[0].operations][-1] == "face"
    more = answer(other).one_part_s - answer(of).one_part_s
    assert school["one_part_s"] == pytest.approx(more) and more > 0
    assert school["stops"] == 0 and school["looks"]
    (back,) = schools(other)
    assert back["said"]["text"].startswith("Face first")
    assert back["one_part_s"] == pytest.approx(-more)


def broken():
    """The part with the edges of its top broken on the machine."""
    edges = Chamfer(id="edges", tool="t11", on=Top(), size_mm=0.4)
    first, second = whole().setups
    first = first.model_copy(update={"operations": (*first.operations, edges)})
    tools = (*whole().tools, tool(11, "chamfer-8-90"))
    return whole().model_copy(update={"setups": (first, second), "tools": tools})


def test_edges_by_hand_or_on_the_machine_have_their_numbers():
    """By hand: a minute a metre at the bench against the seconds of the operation."""
    of = broken()
    told = {each["said"]["text"][:20]: each for each in schools(of)}
    hand = told["Break edges by hand,"]
    after = apply(of, EDITS.validate_python(hand["edits"]))
    assert after.part.edges == "hand" and "edges" not in [
        op.id for op in after.setups[0].operations
    ]
    less = answer(of).one_part_s - answer(after).one_part_s
    assert hand["one_part_s"] == pytest.approx(-less) and less > 1.0
    facts = walk(of, LIBRARY, MEMO)
    way = next(op for op in facts.operations() if op.id == "edges").path.way("cut")
    assert hand["said"]["values"]["hand"]["value"] == pytest.approx(way / 1000.0 * 60.0)
    assert hand["said"]["values"]["numbers"]["value"] == "80"


def test_what_is_pinned_or_faced_twice_has_no_other_school():
    pinned = apply(good(), [Change(on="operation:face", fields={"pinned": True})])
    assert schools(pinned) == []
    twice = plan(FACE, POCKET, WALLS, FACE.model_copy(update={"id": "again"}))
    assert schools(twice) == []


def test_what_is_worked_out_further_is_told_bit_by_bit():
    """As the plan stands nothing is left to search for: each other way comes one by one."""
    heard = []
    of = broken()
    soon = order(of, LIBRARY, MEMO, "s1")
    told = order_further(of, LIBRARY, MEMO, "s1", lambda *each: heard.append(each))
    assert soon["further"] == len(told["schools"]) == 2 and soon["schools"] == []
    assert {**soon, "further": 0, "schools": told["schools"]} == told
    shares = [share for share, _, _ in heard]
    assert shares == sorted(shares) and shares[0] == 0.0 and shares[-1] < 1.0
    assert [len(so_far["schools"]) for _, _, so_far in heard[1:]] == [0, 1]
    assert heard[0][2] == {}


def test_what_is_not_found_soon_is_searched_on_for(monkeypatch):
    """Where one order may be tried and the shortest stops something, the next is found further."""
    of, heard = plan(FACE, DRILL, POCKET, TAP, WALLS), []
    monkeypatch.setattr(asked, "reasons_of", lambda seen, facts: [])
    whole_search = order(of, LIBRARY, MEMO, "s1")
    assert whole_search["tried"] > 1 and not whole_search["found"]["gave_up"]
    monkeypatch.setattr(asked, "WHOLE", 5)
    soon = order(of, LIBRARY, MEMO, "s1")
    assert soon["found"]["gave_up"] and soon["found"]["better"] is None and soon["tried"] == 1
    told = order_further(of, LIBRARY, MEMO, "s1", lambda *each: heard.append(each))
    assert told["found"] == whole_search["found"] and told["tried"] == whole_search["tried"]
    counts = [so_far["tried"] for _, _, so_far in heard if so_far]
    assert counts[0] == 0 and counts == sorted(counts)
    on_the_way = [so_far["found"] for _, _, so_far in heard if so_far and not so_far["schools"]]
    assert on_the_way and all(each["gave_up"] for each in on_the_way if not each["better"])
    assert soon["further"] == 1 + len(told["schools"])


def test_what_an_order_of_many_runs_into_is_all_kept_for_the_next(monkeypatch):
    """Without a reason the shortest order stops something; the next keeps what that ran into, and
    is as good as what it says. Searched on for, it is never longer than that.
    """
    of = plan(FACE, DRILL, POCKET, TAP, WALLS)
    monkeypatch.setattr(asked, "reasons_of", lambda seen, facts: [])
    monkeypatch.setattr(asked, "FEW", 0)
    found = order(of, LIBRARY, MEMO, "s1")
    better = found["found"]["better"]
    assert found["tried"] > 1 and better["one_part_s"] > 0.0
    then = answer(apply(of, EDITS.validate_python(better["edits"])))
    known = {f.key for f in answer(of).open}
    assert answer(of).one_part_s - then.one_part_s == pytest.approx(better["one_part_s"])
    assert all(f.severity == "note" or f.key in known for f in then.open)
    assert found["found"]["least_s"] <= better["seconds"] and found["further"] > 0
    monkeypatch.setattr(asked, "WHOLE", 5 * (found["tried"] - 1))  # all but the last
    short = order(of, LIBRARY, MEMO, "s1")
    assert short["tried"] == found["tried"] - 1 and short["found"]["gave_up"]
    # what is not worked out yet is the next one, not one that was
    assert short["found"]["short_s"] == pytest.approx(better["seconds"])
    further = order_further(of, LIBRARY, MEMO, "s1")["found"]
    assert further["better"]["one_part_s"] >= better["one_part_s"] - 0.05
    assert further["least_s"] <= further["better"]["seconds"] + 0.01


def test_of_many_operations_a_short_order_is_told_before_any_is_worked_out_whole():
    """Forty-one: each hole is drilled and tapped by itself. All drills, then all taps,
    is what no order beats by a tenth.
    """
    work = [FACE]
    for k in range(MANY):
        at = Points(at_mm=((-33.0 + 3.4 * k, 0.0),), diameter_mm=6.8, depth_mm=8.0)
        work += [
            DRILL.model_copy(update={"id": f"drill{k}", "on": at, "peck_mm": None}),
            TAP.model_copy(update={"id": f"tap{k}", "on": at, "depth_mm": 5.0}),
        ]
    found = order(plan(*work), LIBRARY, MEMO, "s1")
    told = found["found"]
    assert found["tried"] == 0 and told["gave_up"] and told["better"] is None
    assert told["least_s"] <= told["short_s"] < 1.1 * told["least_s"]
    assert told["short_s"] < 0.5 * told["now_s"]
    assert found["further"] > 0
