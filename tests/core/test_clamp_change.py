"""Clamps that come off and go on between two operations."""

from __future__ import annotations

import pytest

from machining.evaluate import evaluate
from machining.evaluation import to_plain
from machining.facts.clamp_change import change_after, said
from machining.facts.route import walk
from machining.findings.finding import in_words
from machining.plan.apply import apply
from machining.plan.base import ClampChange
from machining.plan.clamped import Clamp
from machining.plan.edit import Change, DuplicateOperation
from machining.quantities.said import fill
from machining.sheet import sheets
from machining.world.stock.block import sawn_block

from .build import (
    DRILL,
    FACE,
    LIBRARY,
    MEMO,
    POCKET,
    ROUGH,
    TAP,
    after_fix,
    answer,
    finding,
    ids,
    with_settings,
)
from .clamped import ON_TABLE, PINS, TWO, edge, held_by, operation, strap

COVERED, OPTIONAL = "hold.covered", "hold.change-optional"
OVER_HOLES = held_by(ON_TABLE, POCKET, DRILL)  # both straps lie over a hole
ASIDE = (strap("c3", "-x", at_mm=15.0), strap("c4", "+x", at_mm=15.0))
CHANGE = ClampChange(on=("c3", "c4"), off=("c1", "c2"))


def changed_after_pocket(change=CHANGE, clamps=(*TWO, *ASIDE), **pocket):
    held = ON_TABLE.model_copy(update={"clamps": clamps})
    first = POCKET.model_copy(update={"clamps_after": change, **pocket})
    return held_by(held, first, DRILL)


def steps(of):
    op = operation(of)
    return [fill(each.text, each.values) for each in said(change_after(op), op.station)]


def on_of(of):
    return [sorted(op.stand.on) for op in walk(of, LIBRARY, MEMO).operations()]


def test_a_clamp_over_what_is_cut_is_a_stop_and_either_way_out_is_offered():
    found = finding(OVER_HOLES, COVERED)
    assert in_words(found).startswith("Clamp 1 lies over what is cut here")
    moved = next(k for k, fix in enumerate(found.fixes) if fix.label.startswith("Put clamp 1"))
    aside = after_fix(OVER_HOLES, found, moved)
    assert COVERED not in ids(aside) and aside.setups[0].operations[0].clamps_after is None
    change = next(k for k, fix in enumerate(found.fixes) if fix.label.startswith("Change clamps"))
    changed = after_fix(OVER_HOLES, found, change)
    assert COVERED not in ids(changed)
    assert [each.side for each in changed.stations[0].holding.clamps] == ["-x", "+x"] * 2
    assert on_of(changed) == [["c1", "c2"], ["c3", "c4"]]


def test_each_side_of_a_change_is_answered_with_what_is_on():
    of = changed_after_pocket()
    for k, mine in ((0, {"clamp 1", "clamp 2"}), (1, {"clamp 3", "clamp 4"})):
        held = operation(of, k).seen.held
        assert {e.body for e in held.contacts.every if e.group} == mine
        assert held.seat.seated and held.factor > 2.0
        assert {body.name for body in operation(of, k).stand.of("clamp")} - {""} == mine
    assert {COVERED, OPTIONAL, "reach.path-hits-clamp"}.isdisjoint(ids(of))
    alone = operation(held_by(ON_TABLE.model_copy(update={"clamps": ASIDE}), DRILL))
    assert operation(of, 1).seen.held.factor == pytest.approx(alone.seen.held.factor, rel=0.02)


def test_what_is_put_on_later_is_not_there_at_first():
    held = ON_TABLE.model_copy(update={"clamps": (*TWO, *ASIDE)})
    with_all = held_by(held, POCKET, DRILL)
    assert on_of(with_all) == [[], []]  # they stand in each other's way
    assert "stands" in answer(with_all).setups[0].stations[0].unknown["hold"]
    again = changed_after_pocket()
    third = TAP.model_copy(update={"id": "third"})
    back = ClampChange(on=("c1",), off=("c3",))
    twice = apply(again, [Change(on="operation:drill", fields={"clamps_after": back.model_dump()})])
    twice = twice.model_copy(
        update={
            "setups": (
                twice.setups[0].model_copy(
                    update={"operations": (*twice.setups[0].operations, third)}
                ),
            )
        }
    )
    assert on_of(twice) == [["c1", "c2"], ["c3", "c4"], ["c1", "c4"]]


def test_it_is_a_stop_as_long_as_its_clamps_take_and_says_what_to_do():
    plain = changed_after_pocket(None, TWO)
    of = changed_after_pocket(clamps=(*TWO, strap("c3", "-y"), strap("c4", "+y", at_mm=10.0)))
    each = LIBRARY.settings.clamp_s
    assert answer(of).figures["s1.stops"].value == pytest.approx(4 * each)
    assert answer(of).one_part_s - answer(plain).one_part_s == pytest.approx(4 * each)
    told = changed_after_pocket(stop_s=45.0)
    assert answer(told).figures["s1.stops"].value == pytest.approx(45.0)
    assert steps(of) == [
        "Put on clamp 3, M6 strap, short, at its front, in the middle, 10.0 mm over the part;"
        " tighten to 8.0 N·m.",
        "Put on clamp 4, M6 strap, short, at its back, 10.0 mm right of the middle, 10.0 mm over"
        " the part; tighten to 8.0 N·m.",
        "Take off clamp 1 at its left, in the middle.",
        "Take off clamp 2 at its right, in the middle.",
    ]
    result = answer(of).setups[0].operations
    assert [op.clamps for op in result] == [[1, 2], [3, 4]]
    assert len(result[0].change) == 4 and result[1].change == []


def test_where_a_clamp_needs_the_place_of_another_that_comes_off_first():
    """Then nothing holds the part for a moment, and it is pushed against its dowels again."""
    words = steps(changed_after_pocket())
    assert [each.split(" ")[0] for each in words] == ["Take", "Take", "Nothing", "Put", "Put"]
    assert "against its dowels again" in words[2]
    one = changed_after_pocket(ClampChange(on=("c3",), off=("c1",)), (*TWO, ASIDE[0]))
    assert [each.split(" ")[0] for each in steps(one)] == ["Take", "Put"]  # clamp 2 stays on


@pytest.mark.parametrize(
    ("change", "words"),
    [
        (ClampChange(on=("c9",), off=("c1",)), "names c9, which is not there"),
        (ClampChange(off=("c9",)), "names c9"),
    ],
)
def test_a_change_that_can_not_be_done_is_a_stop(change, words):
    of = changed_after_pocket(change)
    found = finding(of, OPTIONAL)
    assert found.severity == "stop" and words in in_words(found)
    assert OPTIONAL not in ids(after_fix(of, found))


def test_a_stop_that_speaks_of_clamps_is_no_change():
    of = changed_after_pocket(None, TWO, stop_after="Move the straps to the middle")
    found = finding(of, OPTIONAL)
    assert found.severity == "look" and "is not worked out" in in_words(found)
    assert OPTIONAL not in ids(after_fix(of, found))
    planned = changed_after_pocket(stop_after="Move the straps, chips away")
    assert OPTIONAL not in ids(planned)
    assert answer(planned).figures["s1.stops"].value == pytest.approx(
        4 * LIBRARY.settings.clamp_s + LIBRARY.settings.stop_s
    )


def test_clamps_can_not_change_in_a_vise():
    vise = held_by(ON_TABLE, POCKET)
    vise = apply(vise, [Change(on="station:st1", fields={"holding": None})])
    of = apply(vise, [Change(on="operation:pocket", fields={"clamps_after": CHANGE.model_dump()})])
    assert "nothing here is held by clamps" in in_words(finding(of, OPTIONAL))


@pytest.mark.parametrize(
    ("fields", "words"),
    [({}, "are empty"), ({"on": ("c1",), "off": ("c1",)}, "one or the other")],
)
def test_a_change_of_nothing_is_none(fields, words):
    with pytest.raises(ValueError, match=words):
        ClampChange(**fields)


def test_a_tool_that_comes_down_beside_a_clamp_keeps_its_margin():
    """Round the part, 10 over the table: clamps 14 high stand in the way, others 8 high do not."""
    toes = tuple(
        Clamp(id=f"c{k}", clamp="toe-m8", side=side, torque_nm=12.0)
        for k, side in enumerate(("-y", "+x"), 1)
    )
    of = held_by(ON_TABLE.model_copy(update={"clamps": toes}), ROUGH)
    found = finding(of, "reach.path-hits-clamp")
    assert in_words(found) == (
        "The cutter comes 5.0 mm too low beside clamp 1; it must stay 1.0 mm above it."
    )
    low = ON_TABLE.model_copy(update={"clamps": (edge("c1", "-y"), edge("c2", "+x"))})
    assert {"reach.path-hits-clamp", COVERED}.isdisjoint(ids(held_by(low, ROUGH)))
    pins = tuple(each.model_copy(update={"high_mm": 12.0}) for each in PINS)
    tall = held_by(low.model_copy(update={"dowels": pins}), ROUGH)
    assert "beside dowel 1" in in_words(finding(tall, "reach.path-hits-clamp"))


SCREWS = tuple(
    Clamp(id=f"c{k}", clamp="screw-m6", side=side, over_mm=10.0, torque_nm=8.0)
    for k, side in ((3, "-x"), (4, "+x"))
)


def screwed_down_after_its_holes(*last):
    """Straps aside of the holes till they are drilled, then screws through them."""
    aside = tuple(each.model_copy(update={"at_mm": 15.0}) for each in TWO)
    held = ON_TABLE.model_copy(update={"clamps": (*aside, *SCREWS)})
    through = DRILL.model_copy(update={"clamps_after": CHANGE})
    flush = sawn_block(x=(2, 2), y=(2, 2), z=(0, 0))
    raised = held.model_copy(update={"raised_mm": 6.0})
    pins = tuple(each.model_copy(update={"high_mm": 12.0}) for each in PINS)
    return held_by(raised.model_copy(update={"dowels": pins}), through, *last, stock=flush)


def test_a_screw_goes_through_a_hole_that_was_drilled_before_it_is_put_on():
    of = screwed_down_after_its_holes(POCKET)
    drill, pocket = (operation(of, k) for k in range(2))
    assert sorted(drill.stand.on) == ["c1", "c2"] and sorted(pocket.stand.on) == ["c3", "c4"]
    held = pocket.seen.held
    heads = [each for each in held.contacts.every if each.body == "clamp 3"]
    assert len(heads) == 4 and {each.normal for each in heads} == {(0.0, 0.0, -1.0)}
    middle = sum(each.at[0] for each in heads) / 4.0
    assert middle == pytest.approx(-32.0, abs=0.01)
    assert held.contacts.groups["c3"] == pytest.approx(1000.0 * 8.0 / (0.2 * 6.0))
    assert held.factor > 2.0 and not ids(of) & {COVERED, OPTIONAL}


def test_without_its_hole_it_is_not_judged_from_then_on():
    of = screwed_down_after_its_holes(POCKET)
    moved = of.stations[0].holding.model_dump()
    moved["clamps"][2]["at_mm"] = 10.0
    aside = apply(of, [Change(on="station:st1", fields={"holding": moved})])
    drill, pocket = answer(aside).setups[0].operations
    assert drill.answers["hold"].state != "unknown"
    assert pocket.answers["hold"].state == "unknown"
    assert "no hole for its thread" in pocket.answers["hold"].reason


def test_the_sheet_loads_what_is_on_first_and_changes_the_rest_at_a_stop():
    of = screwed_down_after_its_holes(POCKET)
    facts = walk(of, LIBRARY, MEMO)
    (sheet,) = sheets(facts, to_plain(answer(of)), {})
    loading = " ".join(sheet["loading"])
    assert "Clamp 1, M6 strap, short: tighten to 8.0 N·m" in loading and "Clamp 3" not in loading
    assert "Push it against its 3 dowels." in loading
    first, last = sheet["operations"]
    assert last["change"] is None
    change = first["change"]
    assert (change["tag"], change["code"]) == ("Stop", "M0")
    assert [each.split(",")[0] for each in change["steps"]] == [
        "Put on clamp 3",
        "Put on clamp 4",
        "Take off clamp 1 at its left",
        "Take off clamp 2 at its right",
    ]
    assert change["picture"].count("<circle") == 2  # of those that are on then, each numbered
    assert "8.0 N·m" in change["picture"] and "8.0 N·m" in sheet["drawing"]
    asked = with_settings(clamp_stop="prompt")
    prompted = sheets(walk(of, asked, MEMO), to_plain(evaluate(of, asked, MEMO)), {})
    assert prompted[0]["operations"][0]["change"]["tag"] == "Tool by hand"
    assert any(each["where"] == "Clamps." for each in sheet["care"])


def test_a_copy_of_an_operation_changes_no_clamps():
    of = apply(changed_after_pocket(), [DuplicateOperation(operation="pocket", new_id="again")])
    first, again, _ = of.setups[0].operations
    assert first.clamps_after is not None and again.clamps_after is None
    assert on_of(of) == [["c1", "c2"], ["c3", "c4"], ["c3", "c4"]]


def test_where_a_clamp_was_put_on_counts_though_the_rest_is_alike():
    """Onto the stock's top before the face is cut, or onto that face: the same clamps are on at the
    last operation, at other heights.
    """
    held = ON_TABLE.model_copy(
        update={"clamps": (edge("c1", "-y"), edge("c2", "+x"), strap("c3", "-x", at_mm=-15.0))}
    )
    change = ClampChange(on=("c3",))
    heights = []
    for early in (True, False):
        first = POCKET.model_copy(update={"clamps_after": change if early else None})
        face = FACE.model_copy(update={"clamps_after": None if early else change})
        op = operation(held_by(held, first, face, DRILL), 2)
        heights.append({e.at[2] for e in op.seen.held.contacts.every if e.group == "c3"})
        assert op.stand.on == {"c1", "c2", "c3"}
    on_stock, on_face = heights
    assert on_stock == set() and on_face == {0.0}  # what it lay on was faced away
