"""Tools that a plan asks for and the shop has too few of: how many, what they cost, and from how
many parts on they pay.
"""

from __future__ import annotations

from dataclasses import replace
from math import ceil

import pytest

from machining.ask import buying
from machining.ask.compare import compare
from machining.ask.costs import costs_of
from machining.ask.savings import savings
from machining.ask.trying import EDITS
from machining.facts.at_hand import at_hand
from machining.facts.lacking import Lacking, lacking
from machining.facts.route import walk
from machining.facts.worn import edges_of_a_part
from machining.memo import Memo
from machining.plan.apply import apply
from machining.plan.operation import Drill, Face
from machining.plan.places import Points
from machining.quantities.said import fill
from machining.world.standing import StandingTool

from .build import (
    BY_WHAT_HOLDS_IT,
    DRILL,
    FACE,
    LIBRARY,
    MEMO,
    STOPPED,
    TOOLS,
    answer,
    good,
    plan,
    setup,
    tool,
    turned_over,
)
from .cases_of_cutting import tools_like

OUT = tools_like("drill-6-8", on_hand=0)
UNWORN = tools_like("drill-6-8", on_hand=0, edge_life_min=None)


def found(of, library=LIBRARY):
    return [(each.tool.key, each.needed, each.on_hand) for each in lacking(walk(of, library, MEMO))]


def said(of, library):
    return [
        fill(f.message, f.values)
        for f in answer(of, library).open
        if f.id in ("cut.life", "cut.only-one")
    ]


def test_what_is_there_is_not_lacking_and_what_nobody_counted_is_not_known_to_be():
    assert found(good()) == []
    assert found(good(), tools_like("drill-6-8", on_hand=None)) == []


@pytest.mark.parametrize("library", [OUT, UNWORN])
def test_one_is_asked_for_where_there_is_none_whether_or_not_it_wears(library):
    assert found(good(), library) == [("drill-6-8", 1, 0)]
    assert said(good(), library) == ["None of drill 6.8 is on hand; 1 is asked for."]


def test_as_many_are_asked_for_as_the_batch_wears_out():
    of = good().model_copy(update={"quantity": 9_000})
    drill = next(op for op in walk(of, LIBRARY, MEMO).operations() if op.id == "drill")
    edges = 9_000 * edges_of_a_part(drill)
    assert 8 < edges < 9
    assert found(of, OUT)[-2:-1] == [("drill-6-8", 9, 0)]
    (lacks,) = (e for e in lacking(walk(of, OUT, MEMO)) if e.tool.key == "drill-6-8")
    assert lacks.worn == pytest.approx(edges)


def two_drills():
    """The same one in two pockets."""
    again = DRILL.model_copy(update={"id": "again", "tool": "t9"})
    return plan(FACE, DRILL, again, tools=(*TOOLS, tool(9, "drill-6-8")))


def test_one_stands_at_each_place_where_it_is_loaded():
    library = tools_like("drill-6-8", on_hand=1)
    assert found(two_drills(), library) == [("drill-6-8", 2, 1)]
    assert said(two_drills(), library) == [
        "T4, T9 are one tool, drill 6.8: 2 are asked for, and 1 is on hand."
    ]
    assert found(two_drills(), tools_like("drill-6-8", on_hand=2)) == []


def test_of_one_on_two_machines_they_take_turns():
    """Neither lacks it; both at the same time would."""
    foot = Face(id="foot", tool="t8", step_over_mm=35.0)
    second = turned_over(foot, machine="petrel", holding=STOPPED, zero=BY_WHAT_HOLDS_IT)
    tools = (*TOOLS, tool(8, "face-mill-50", machine="petrel"))
    of = plan(setups=(setup(FACE), second), tools=tools)
    library = tools_like("face-mill-50", on_hand=1)
    assert found(of, library) == [] and said(of, library) == [
        "face mill 50 z5 is loaded 2 times and 1 is on hand: its machines take turns."
    ]
    assert said(of, tools_like("face-mill-50", on_hand=2)) == []


def test_of_a_tool_with_inserts_those_wear_and_it_stays():
    """In one insert of eight edges every tooth wears one: over the batch five teeth's worth."""
    inserts = {"insert_edges": 8, "insert_cost": 14.0, "edge_life_min": 45.0, "on_hand": 1}
    of = plan(FACE, quantity=5000)

    def asked(there):
        return lacking(walk(of, tools_like("face-mill-50", **inserts, inserts_on_hand=there), MEMO))

    facts = walk(of, tools_like("face-mill-50", **inserts, inserts_on_hand=0), MEMO)
    sets = 5000 * edges_of_a_part(facts.ready()[0])
    needed = ceil(sets * 5 / 8)
    (found,) = asked(0)
    assert found.name == "inserts of face mill 50 z5" and found.missing == 0
    assert (found.needed, found.more, found.cost) == (needed, needed, needed * 14.0)
    assert asked(needed) == [] and asked(None) == []
    assert asked(needed - 1)[0].more == 1
    library = tools_like("face-mill-50", **inserts, inserts_on_hand=needed - 1)
    assert said(of, library) == [
        f"face mill 50 z5: 5000 parts wear out {needed} inserts, and {needed - 1} are on hand."
    ]
    (lacks,) = (f for f in answer(of, library).open if f.id == "cut.only-one")
    assert [fill(e.label, e.values) for e in lacks.fixes] == ["Keep it: more inserts ordered: 1"]
    assert library.tools["face-mill-50"].edges_cost == pytest.approx(5 * 14.0 / 8)


def keeps(*, many, number=7, pocket=7, of="J-9", on="petrel"):
    """So many on hand of the drill that the plan loads as T7, one of them in a magazine."""
    library = tools_like("drill-6-8", on_hand=many)
    kept = StandingTool(
        number=number, pocket=pocket, assembly="drill-6-8", stick_out_mm=drill().stick_out_mm, of=of
    )
    machine = library.machines[on].model_copy(update={"standing": (kept,)})
    return replace(library, machines={**library.machines, on: machine})


def drill():
    return next(each for each in good().tools if each.assembly == "drill-6-8")


def test_what_stays_in_a_magazine_for_something_else_has_to_come_from_there():
    (told,) = said(good(), keeps(many=1))
    assert told == (
        "drill 6.8: 1 on hand, 1 asked for here, and pocket 7 of Petrel keeps one for J-9,"
        " from where it has to come."
    )
    assert said(good(), keeps(many=2)) == []
    number, pocket = drill().number, drill().pocket
    other = {"number": number + 10, "pocket": pocket + 10, "on": "heron", "of": ""}
    (told,) = said(good(), keeps(many=1, **other))
    assert f"pocket {pocket + 10} of Heron keeps one, from" in told
    there = {"number": number, "pocket": pocket, "on": "heron"}
    assert said(good(), keeps(many=1, **there)) == []


def test_a_fix_has_it_ordered_or_takes_one_that_is_there():
    """No second one is set ready of a tool that the shop has not."""
    (lacks,) = (f for f in answer(good(), OUT).open if f.id == "cut.life")
    labels = [fill(fix.label, fix.values) for fix in lacks.fixes]
    assert labels == ["Load drill 6.8 12×D as T7", "Keep it: 1 more ordered"]
    for fix in lacks.fixes:
        after = answer(apply(good(), fix.edits), OUT)
        assert lacks.key not in {f.key for f in after.open}


def test_of_tools_that_fit_one_that_is_there_comes_first():
    facts = walk(plan(FACE, tools=TOOLS[:1]), OUT, MEMO)

    def nearest(library):
        facts.library = library
        return at_hand(
            facts,
            "heron",
            lambda each: each.kind == "drill" and each.diameter_mm < 9.0,
            lambda each: -abs(each.diameter_mm - 6.8),
        ).tool.key

    assert nearest(tools_like("drill-6-8-long", on_hand=0)) == "drill-6-8"
    assert nearest(OUT) == "drill-6-8-long"


@pytest.mark.parametrize(
    ("cost", "each", "once", "pays"),
    [
        (100.0, 2.0, 30.0, 44),  # 43 save 56 in all, and 57 of it is not worn yet
        (100.0, 2.0, 0.0, 34),
        (100.0, 0.5, 60.0, 121),  # it is worn out, and paid, before
        (0.0, 2.0, -5.0, 1),
        (100.0, 0.0, 0.0, None),
        (None, 2.0, 0.0, None),
    ],
)
def test_what_is_bought_pays_from_so_many_parts_on(cost, each, once, pays):
    """A part wears a hundredth of it, and that is in what it costs."""
    drill = LIBRARY.tools["drill-6-8"].model_copy(update={"cost": cost, "on_hand": 0})
    missing = Lacking(drill, places=1, needed=1, worn=0.2, on_hand=0)
    assert buying.pays_from([missing], lambda many: each * many - once, 20) == pays
    worn_out = replace(missing, needed=3, worn=2.2, on_hand=2)
    assert buying.pays_from([worn_out], lambda many: each * many - once, 20) is None


def test_a_saving_that_asks_for_a_tool_says_so_and_from_when_it_pays():
    """With so many parts the batch costs less by more than the tool, with one fewer it doesn't."""
    bores = Points(at_mm=((0, 0), (20, 0)), diameter_mm=20, depth_mm=20, through=True)
    slow = Drill(id="drill", tool="t7", on=bores)
    tools = (*TOOLS, tool(7, "drill-20-hss"))
    of, memo = plan(FACE, slow, material="c45", tools=tools, quantity=100), Memo()
    library = tools_like("insert-drill-20", on_hand=0, cost=30.0)
    rows = savings(of, library, memo)["rows"]
    asked = {"tool": "insert drill 20", "more": 1, "missing": 1, "cost": 30.0, "days": None}
    row = next(each for each in rows if each["buys"] == [asked])
    after = apply(of, EDITS.validate_python(row["edits"]))

    def gains(many: int) -> float:
        """Less what of the tool is not worn yet: what is worn is in what the batch costs."""
        before, then = (
            walk(each.model_copy(update={"quantity": many}), library, memo) for each in (of, after)
        )
        (drill,) = (each for each in lacking(then) if each.missing)
        unpaid = 30.0 * max(1.0 - drill.worn, 0.0)
        return costs_of(before).known - costs_of(then).known - unpaid

    assert gains(row["buys_from"]) > 0.0 >= gains(row["buys_from"] - 1)
    assert all(each["buys"] or each["buys_from"] is None for each in rows)


def test_of_two_plans_each_says_what_the_shop_has_not():
    told = compare(good(), OUT, MEMO, plan(FACE).model_dump(mode="json"))
    assert [side["buys"] for side in told["sides"]] == [
        [{"tool": "drill 6.8", "more": 1, "missing": 1, "cost": 44.0, "days": None}],
        [],
    ]
