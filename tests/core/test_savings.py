"""What would save most: each row brings what it says, and stops nothing."""

from __future__ import annotations

from dataclasses import replace

import pytest

from machining.ask.changes import every
from machining.ask.costs import costs_of
from machining.ask.more_parts import more_loads, spared_s
from machining.ask.savings import MOST_WAITING, first_saving, pays_from, savings
from machining.ask.trying import EDITS
from machining.facts.retract import over_work
from machining.facts.route import walk
from machining.facts.totals import in_all
from machining.plan.apply import apply
from machining.plan.document import Plan
from machining.plan.edit import LoadTool, UnloadTool
from machining.plan.places import Points
from machining.quantities.said import Shown, fill
from machining.ways.fewer_tools import merges

from . import lathe
from .build import (
    DRILL,
    FACE,
    GOOD,
    LIBRARY,
    MEMO,
    OUTSIDE,
    POCKET,
    ROUGH,
    STOPPED,
    TAP,
    TOOLS,
    WALLS,
    answer,
    changed,
    good,
    plan,
    setup,
    tool,
    whole,
)
from .clamped import ON_TABLE, held_by
from .test_loose_piece import framed

TRIES = 5
PLANS: dict[str, Plan] = {
    "good": good(),
    "whole": whole(),
    "twenty of it": whole().model_copy(update={"quantity": 20}),
    "pocket": plan(FACE, POCKET, WALLS),
    "outside": plan(FACE, ROUGH, OUTSIDE),
    "holes": plan(FACE, DRILL, TAP),
    "in a frame": framed(10.0),
    "stopped": plan(setups=(setup(*GOOD, holding=STOPPED),), quantity=5),
    "out of order": plan(ROUGH, FACE, OUTSIDE, POCKET, quantity=10),
    "turned": lathe.plan(*lathe.GOOD),
}


def with_library(of: Plan):
    turned = of.tools[0].machine not in {each.machine for each in good().tools}
    return (lathe.LIBRARY, lathe.MEMO) if turned else (LIBRARY, MEMO)


@pytest.mark.parametrize("name", PLANS)
def test_the_first_row_brings_the_seconds_it_said_and_stops_nothing(name):
    of = PLANS[name]
    library, memo = with_library(of)
    found = savings(of, library, memo, most=TRIES)
    rows = found["rows"]
    assert found["tried"] <= TRIES
    assert rows == sorted(rows, key=lambda row: -row["batch_s"])
    assert len({row["of"] for row in rows}) == len(rows)
    for row in rows[:1]:
        before = answer(of, library)
        after = answer(apply(of, EDITS.validate_python(row["edits"])), library)
        assert (
            before.batch_s - after.batch_s == pytest.approx(row["batch_s"]) and row["batch_s"] > 0
        )
        assert before.one_part_s - after.one_part_s == pytest.approx(row["one_part_s"])
        stopped = {f.key for f in before.open if f.severity == "stop"}
        assert {f.key for f in after.open if f.severity == "stop"} <= stopped


@pytest.mark.parametrize("name", ["whole", "outside", "turned"])
def test_one_is_found_before_all_are_looked_for(name):
    of = PLANS[name]
    library, memo = with_library(of)
    (row,) = first_saving(of, library, memo)["rows"]
    before = answer(of, library)
    after = answer(apply(of, EDITS.validate_python(row["edits"])), library)
    assert before.batch_s - after.batch_s == pytest.approx(row["batch_s"]) and row["batch_s"] > 0
    few = savings(of, library, memo, most=1)["rows"]
    assert next(e for e in few if e["of"] == row["of"])["batch_s"] >= row["batch_s"]
    assert first_saving(plan(), LIBRARY, MEMO)["rows"] == []


def test_what_the_batch_costs_less_is_told_with_it():
    """Without a price of an hour nobody knows."""
    of = whole().model_copy(update={"quantity": 20})
    (row,) = first_saving(of, LIBRARY, MEMO)["rows"]
    after = apply(of, EDITS.validate_python(row["edits"]))
    before, then = (costs_of(walk(each, LIBRARY, MEMO)).known for each in (of, after))
    assert row["cost"] == pytest.approx(before - then) and row["cost"] != 0.0
    free = LIBRARY.machines["heron"].model_copy(update={"hourly_cost": 0.0})
    library = replace(LIBRARY, machines={**LIBRARY.machines, "heron": free})
    assert first_saving(of, library, MEMO)["rows"][0]["cost"] is None


def apart():
    """Two cuts with one tool, another tool between them."""
    return plan(FACE, POCKET, ROUGH, WALLS.model_copy(update={"id": "again"}), quantity=10)


def moved(of):
    rows = savings(of, LIBRARY, MEMO)["rows"]
    return [row for row in rows if row["of"] in ("s1/order", "s1/habits")]


def test_a_tool_that_is_put_in_twice_is_put_in_once():
    """The walls come right behind their pocket: one change of 4.5 s less."""
    (row,) = moved(apart())
    assert row["said"]["text"] == "A shorter order: {moved} moved" and row["of"] == "s1/order"
    assert row["because"]["text"] == ""
    assert row["one_part_s"] == pytest.approx(4.5, abs=1.0)
    after = apply(apart(), EDITS.validate_python(row["edits"]))
    order = [op.id for op in after.setups[0].operations]
    assert order.index("again") == order.index("pocket") + 1
    assert moved(after) == []


def test_a_habit_that_is_broken_is_told():
    """To finish the outside with what roughed it, before the pocket is roughed."""
    found = {row["of"]: row for row in moved(whole())}
    assert set(found) == {"s1/habits"}
    told = found["s1/habits"]["because"]
    assert told["text"].startswith("Against a habit, for {then}: Operation {first} takes {share}")
    assert told["values"]["then"]["value"] in ("40", "50")


def test_what_keeps_its_place_is_not_moved():
    """The pocket comes up to it instead."""
    of = changed(apart(), "operation:again", pinned=True)
    (row,) = moved(of)
    after = apply(of, EDITS.validate_python(row["edits"])).setups[0].operations
    assert [op.id for op in after] == ["face", "rough", "pocket", "again"]


def test_what_is_not_tried_is_counted_and_a_plan_without_a_part_has_none():
    few = savings(whole(), LIBRARY, MEMO, most=2)
    assert few["tried"] == 2 and few["untried"] > 3
    assert savings(plan(), LIBRARY, MEMO)["rows"] == []


@pytest.mark.parametrize(
    ("each", "once", "quantity", "pays"),
    [(10.0, 75.0, 20, 8), (10.0, 80.0, 20, 9), (100.0, 75.0, 2, 1), (10.0, -5.0, 20, 1)],
)
def test_a_tool_that_is_loaded_for_it_pays_from_so_many_parts_on(each, once, quantity, pays):
    """75 s to put it in and measure it, 10 s less a part: 7 don't pay for it, 8 do."""
    loads = [LoadTool(tool=good().tools[0])]
    of = good().model_copy(update={"quantity": quantity})
    assert pays_from(loads, of, quantity * each - once, each) == pays
    assert pays_from([], of, 1.0, each) is None


def test_a_hole_of_another_size_is_no_saving():
    """A narrower drill is through sooner; of a hole that is typed nothing of the metal says so."""
    bores = Points(at_mm=((0, 0), (20, 0)), diameter_mm=20, depth_mm=20, through=True)
    slow = DRILL.model_copy(update={"tool": "t7", "on": bores, "peck_mm": None})
    of = plan(FACE, slow, material="c45", tools=(*TOOLS, tool(7, "drill-20-hss")))
    narrow = answer(changed(of, "operation:drill", tool="t4"))
    assert narrow.batch_s < answer(of).batch_s
    assert "size.fixed-size" in {f.id for f in narrow.open if f.severity == "look"}
    rows = savings(of, LIBRARY, MEMO)["rows"]
    assert rows and not any(
        edit["fields"].get("tool") == "t4"
        for row in rows
        for edit in row["edits"]
        if edit["do"] == "change"
    )


def test_what_it_has_so_far_is_told_after_each_that_was_tried():
    heard = []
    told = savings(apart(), LIBRARY, MEMO, tell=lambda *each: heard.append(each))
    assert [share for share, _, _ in heard] == sorted(share for share, _, _ in heard)
    assert heard[-1][0] == 1.0 and heard[-1][2] == told
    assert len(heard[0][2]["rows"]) == 1  # before it is known what there is to try
    heard = heard[1:]
    assert [each["tried"] for _, _, each in heard] == list(range(told["tried"] + 1))
    assert fill(heard[1][1].text, heard[1][1].values) == f"1 of {told['tried']} tried"


def test_what_is_not_tried_yet_is_told_with_what_it_may_save():
    """Fewer of them, the more was tried."""
    of, heard = apart(), []
    told = savings(of, LIBRARY, MEMO, tell=lambda *each: heard.append(each[2]))
    first, last = heard[1]["waiting"], told["waiting"]
    assert first and last == []
    known = [each["batch_s"] for each in first if each["batch_s"] is not None]
    assert known == sorted(known, reverse=True)
    assert len({each["of"] for each in first}) == len(first) <= MOST_WAITING
    came = {row["of"]: row["batch_s"] for row in told["rows"]}
    hoped = {each["of"]: each["batch_s"] for each in first if each["batch_s"] is not None}
    assert {*came} & {*hoped}
    assert all(each > 0.0 for each in hoped.values())
    half = savings(of, LIBRARY, MEMO, most=3)
    assert 0 < len(half["waiting"]) <= half["untried"]


def test_more_parts_at_a_time_are_reckoned_with_what_is_built_for_them():
    """Half of 30 s of changes and half a door; for ten parts another vise set beside the first."""
    of, settings = good(), LIBRARY.settings
    facts = walk(of, LIBRARY, MEMO)
    two, four = more_loads(facts.setups[0], of)
    assert (two, four) == ({"st1": 2}, {"st1": 4})
    for loads, share, more in ((two, 1 / 2, 1), (four, 3 / 4, 3)):
        spared = share * (30.0 + settings.door_s) - more * settings.set_more_s / of.quantity
        assert spared_s(loads, facts.setups[0], facts, 30.0) == pytest.approx(spared)
    few = of.model_copy(update={"quantity": 3})
    assert [*more_loads(facts.setups[0], few)] == [two]


def test_what_another_row_does_too_says_so():
    """One tool for two others, and for each of the two."""
    found = {row["of"]: row for row in savings(good(), LIBRARY, MEMO)["rows"]}
    inner = {name: row for name, row in found.items() if row["within"]}
    assert inner
    for row in inner.values():
        outer = found[row["within"]]
        assert all(each in outer["edits"] for each in row["edits"])
        assert len(outer["edits"]) > len(row["edits"])


@pytest.mark.parametrize("name", ["whole", "turned"])
def test_several_who_try_find_the_same(name):
    of = PLANS[name]
    library, memo = with_library(of)
    assert savings(of, library, memo, hands=2) == savings(of, library, memo)


@pytest.mark.parametrize("name", PLANS)
def test_what_a_batch_takes_is_known_before_anything_is_noticed(name):
    of = PLANS[name]
    library, memo = with_library(of)
    facts = walk(of, library, memo)
    assert in_all(facts).of("batch") == answer(of, library).batch_s


def rows(of: Plan, **about) -> dict[str, dict]:
    return {each["of"]: each for each in savings(of, LIBRARY, MEMO, **about)["rows"]}


def test_going_nearer_over_the_work_saves_what_its_rapids_take_less():
    """Every tool goes 20 mm less down and up at its moves across."""
    of = good()
    row = rows(of, most=40)["s1/low"]
    words = fill(row["said"]["text"], {n: Shown(**v) for n, v in row["said"]["values"].items()})
    assert words == "Go from cut to cut 5.0 mm over all that stands there, not 25.0 mm"
    assert "forgotten clamp" in row["because"]["text"]
    after = apply(of, EDITS.validate_python(row["edits"]))
    assert after.setups[0].retract_mm == 5.0
    for was, now in zip(
        walk(of, LIBRARY, MEMO).operations(), walk(after, LIBRARY, MEMO).operations(), strict=True
    ):
        high, low = (float(each.path.bounds()[1][2]) for each in (was, now))
        assert high - low == pytest.approx(20.0)
        assert was.path.way("cut") == pytest.approx(now.path.way("cut"))
    assert answer(of).one_part_s - answer(after).one_part_s == pytest.approx(row["one_part_s"])
    assert "s1/low" not in rows(after)


def test_what_a_setup_says_of_its_height_is_never_under_where_feeding_starts():
    near = LIBRARY.settings.first_clearance_mm
    least = changed(good(), "setup:s1", retract_mm=0.1)
    (op, *_) = walk(least, LIBRARY, MEMO).operations()
    assert over_work(op.setup, walk(least, LIBRARY, MEMO)) == (near, near)


def test_a_shorter_tool_bears_a_heavier_cut():
    """A long end mill roughs the pocket: set back to what it needs it takes more a minute."""
    of = changed(good(), "tool:t3", stick_out_mm=60.0)
    row = rows(of)["pocket"]
    tool, *cut = EDITS.validate_python(row["edits"])
    assert tool.on == "tool:t3" and tool.fields["stick_out_mm"] < 60.0
    assert [each.on for each in cut] == ["operation:pocket"]
    alone = answer(apply(of, [tool])).one_part_s
    assert answer(of).one_part_s - alone < row["one_part_s"]
    assert row["said"]["text"].startswith("{tool} only {out} out of its holder")


def test_another_holding_is_tried_as_a_plan_of_its_own():
    """Under two straps it takes longer to put in than in a vise."""
    of = held_by(ON_TABLE, DRILL, TAP)
    row = rows(of)["st1/hold"]
    after = apply(of, EDITS.validate_python(row["edits"]))
    assert after.setups[0].stations[0].in_vise is not None
    assert answer(of).batch_s - answer(after).batch_s == pytest.approx(row["batch_s"])


def test_one_tool_for_several_says_what_that_costs_each():
    """What it takes longer with the smaller tool is told of each operation that changes tools."""
    of = good()
    told = {each["of"]: each for each in savings(of, LIBRARY, MEMO)["rows"]}
    merged = [each for name, each in told.items() if name.endswith("/tools")]
    assert merged
    for row in merged:
        edits = EDITS.validate_python(row["edits"])
        after = answer(apply(of, edits))
        took = {op.id: op.time_s for op in answer(of).setups[0].operations}
        then = {op.id: op.time_s for op in after.setups[0].operations}
        assert row["each"] and all(
            each["seconds"] == pytest.approx(then[each["operation"]] - took[each["operation"]])
            for each in row["each"]
        )
        changed_tools = {e.on.removeprefix("operation:") for e in edits if hasattr(e, "fields")}
        assert {each["operation"] for each in row["each"]} == changed_tools


def test_a_finisher_that_would_rough_too_is_said_to_be_dulled():
    """The end mill of 12 roughs and finishes outside, that of 8 the pocket."""
    by_tools = {
        (each.tool.id, *(one.id for one in each.gone)): each
        for each in merges(good().tools, walk(good(), LIBRARY, MEMO))
    }
    assert by_tools["t3", "t2"].dulls_a_finisher
    assert [op.id for op in by_tools["t3", "t2"].operations] == ["rough", "outside"]
    alone = walk(plan(FACE, ROUGH), LIBRARY, MEMO)
    found = [*merges(good().tools, alone)]
    assert found and not any(each.dulls_a_finisher for each in found)


def test_of_many_tools_those_go_whose_work_another_does_without_a_stop():
    """What roughs the outside does not go into the corners of the pocket."""
    of = good()
    facts, before = walk(of, LIBRARY, MEMO), answer(of)
    known = {f.key for f in before.open if f.severity == "stop"}
    found = [each for each in every(of, facts, before, MEMO) if each.of == "heron/tools"]
    together = [each.made() for each in found]
    many = [each for each in merges(of.tools, facts) if len(each.gone) > 1]
    for merge, made in zip(many, together, strict=True):
        fit = set()
        for one in merge.gone:
            alone = answer(apply(of, merge.only([one]).edits))
            if {f.key for f in alone.open if f.severity == "stop"} <= known:
                fit.add(one.id)
        edits = made[2] if made is not None else ()
        assert {e.tool for e in edits if isinstance(e, UnloadTool)} == (fit if edits else set())
        assert bool(edits) == (len(fit) > 1)
    assert None in together and any(made is not None for made in together)
    assert "heron/tools" in rows(of)
