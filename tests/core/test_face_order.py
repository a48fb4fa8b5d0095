"""Facing first or last, and a machine in doubt: what is told, against the plan as it would be."""

from __future__ import annotations

from dataclasses import replace

import pytest

from machining.facts import ledger
from machining.facts.facing import facings
from machining.facts.route import walk

from .build import (
    LIBRARY,
    MEMO,
    after_fix,
    changed,
    finding,
    good,
    ids,
    on_machine,
    plan,
    setup,
)


def late():
    ops = good().setups[0].operations
    return good().model_copy(update={"setups": (setup(*ops[1:3], ops[0], *ops[3:]),)})


def on_belts(of, *high):
    """Dunlin, whose ranges are changed by hand; some turn in the high one, the others low."""
    of = on_machine(of, "dunlin")
    for op in of.setups[0].operations:
        of = changed(of, f"operation:{op.id}", rpm=3600.0 if op.id in high else 900.0)
    return of


def test_what_it_spares_is_what_the_ledger_of_the_other_order_takes_less():
    of = late()
    facts = walk(of, LIBRARY, MEMO)
    [facing] = facings(facts.setups[0])
    assert (facing.first, facing.last) == (False, False) and facing.order[0] == "face"
    found = finding(of, "route.face-late")
    spared = facing.spared_s(facts.setups[0], facts)
    assert found.values["seconds"].value == pytest.approx(abs(spared))
    # nothing is cut otherwise in that ledger: it differs by changes and ways alone
    now = ledger.of_setup(facts.setups[0], facts)
    assert now.of("cut", "link") > 0
    first = after_fix(of, found)
    assert first.setups[0].operations[0].id == "face"
    assert "route.face-late" not in ids(first)


def test_on_belts_facing_first_is_told_where_last_spares_a_change_by_hand():
    """One part. High, low, and high again for the drill: faced last, the belt is laid over once."""
    of = on_belts(good().model_copy(update={"quantity": 1}), "face", "drill", "tap")
    belt = LIBRARY.machines["dunlin"].spindles[0].range_change_s
    found = finding(of, "route.face-first")
    assert found.values["seconds"].value == pytest.approx(belt, abs=30.0) and belt > 60.0
    facts = walk(of, LIBRARY, MEMO)
    cycles = [ledger.of_setup(facts.setups[0], facts)]
    last = after_fix(of, found)
    assert last.setups[0].operations[-1].id == "face"
    facts = walk(last, LIBRARY, MEMO)
    cycles.append(ledger.of_setup(facts.setups[0], facts))
    assert [each.count("range") for each in cycles] == [2, 1]
    # alone in the high range it is one change either way
    alone = on_belts(good().model_copy(update={"quantity": 1}), "face")
    assert "route.face-first" not in ids(alone)


def test_nothing_is_said_of_two_operations_two_faces_or_a_pinned_one():
    ops = good().setups[0].operations
    assert "route.face-late" not in ids(plan(ops[1], ops[0]))
    assert "route.face-late" not in ids(plan(*ops, ops[0].model_copy(update={"id": "again"})))
    assert "route.face-late" not in ids(changed(late(), "operation:face", pinned=True))


def doubted(*keys, library=LIBRARY):
    some = {
        key: library.machines[key].model_copy(update={"in_doubt": "spindle is noisy"})
        for key in keys
    }
    return replace(library, machines={**library.machines, **some})


def test_a_machine_in_doubt_names_those_that_work_like_it():
    known = finding(good(), "route.one-machine", doubted("heron"))
    assert known.severity == "note"
    offered = [fix.values["machine"].value for fix in known.fixes]
    assert offered and "Heron" not in offered and "Plover" not in offered  # which is a lathe
    moved = after_fix(good(), known)
    assert moved.setups[0].machine != "heron"
    assert "route.one-machine" not in ids(moved, doubted("heron"))
    assert "route.one-machine" not in ids(good())


def test_where_all_are_in_doubt_it_says_that_there_is_no_other():
    found = finding(good(), "route.one-machine", doubted(*LIBRARY.machines))
    assert found.message.endswith("no other machine of the shop works like it.") and not found.fixes
