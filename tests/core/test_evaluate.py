"""The one call: what it answers, that a memo changes nothing, that its answer can be sent."""

from __future__ import annotations

import json
from math import isfinite

import pytest

from machining.data import seed
from machining.evaluate import evaluate
from machining.evaluation import formulas, to_bytes, to_plain
from machining.facts.route import walk
from machining.geometry.solids import volume
from machining.memo import Memo, digest
from machining.plan.apply import apply
from machining.plan.document import Plan
from machining.plan.edit import AddOperation, LoadTool
from machining.quantities.computed import FORMULAS
from machining.ways.offers import offers
from machining.world.part import Part

from .build import (
    DRILL,
    FACE,
    GOOD,
    LIBRARY,
    MEMO,
    TAP,
    answer,
    changed,
    good,
    plan,
    result,
    setup,
    turned_over,
)


def test_the_demo_has_one_stop_and_one_look(demo):
    plan_, library = demo
    seen = answer(plan_, library)
    assert [(f.severity, f.id, f.operation) for f in seen.findings] == [
        ("stop", "reach.stick-out-short", "a40"),
        ("look", "cut.power-at-worst-stock", "a20"),
    ]
    assert not seen.ready
    assert all(f.fixes for f in seen.findings)


def test_the_demo_s_red_finding_is_gone_with_its_first_fix(demo):
    plan_, library = demo
    found = answer(plan_, library).findings[0]
    assert [f.id for f in answer(apply(plan_, found.fixes[0].edits), library).findings] == [
        "cut.power-at-worst-stock"
    ]


SHOP = seed().settings


def test_times_add_up(demo):
    seen = answer(*demo)
    for each in seen.setups:
        assert each.cycle_s == pytest.approx(
            sum(op.time_s + op.change_s for op in each.operations)
            + sum(e.seconds for e in each.events if e.kind in ("start", "move", "stop", "range"))
        )
        for op in each.operations:
            assert op.time_s == pytest.approx(op.cutting_s + op.moving_s)
            fastest = max(
                [
                    op.feed_mm_min,
                    *(each.value for each in op.worked if each.figure.endswith(".link_feed")),
                ]
            )
            # nothing is faster than its feed
            assert op.path_mm / fastest * 60 <= op.cutting_s * 1.001
        starts = [op.starts_s for op in each.operations]
        assert starts == sorted(starts)
    assert seen.one_part_s == pytest.approx(sum(s.cycle_s for s in seen.setups) + seen.handling_s)
    tools = len({op.tool for op in demo[0].setups[0].operations + demo[0].setups[1].operations})
    build = 2 * (SHOP.setup_s + SHOP.vise_set_s + SHOP.zero_s) + tools * SHOP.tool_s
    prove_out = (SHOP.prove_out_factor - 1) * sum(s.cycle_s for s in seen.setups)
    assert seen.build_s == pytest.approx(build + prove_out)
    first = 9 * SHOP.gauge_s + seen.figures["plan.edges"].value  # a band or a thread
    assert seen.batch_s == pytest.approx(48 * seen.one_part_s + build + prove_out + first)


def test_a_tool_change_is_charged_once_a_run_of_the_same_tool(demo):
    changes = [op.change_s > 0 for op in answer(*demo).setups[0].operations]
    assert changes == [True, True, False, True, True, True, True, True, True, True]


def test_removed_volumes_and_weights_agree(demo):
    plan_, library = demo
    seen = answer(plan_, library)
    facts = walk(plan_, library, Memo())
    first = facts.setups[0].first
    removed = sum(op.removed_mm3 for op in seen.setups[0].operations)
    left = first.operations[-1].after.solid
    assert volume(first.arrives.solid) - volume(left) == pytest.approx(removed, rel=1e-6)
    assert seen.part_low == (-48.0, -32.0, 0.0)
    assert seen.stock_mass_kg == pytest.approx(102 * 70 * 36 * 2.70e-6)
    assert seen.part_mass_kg == pytest.approx(149997.27 * 2.70e-6, rel=1e-4)


def test_what_is_left_at_the_end_is_the_part(demo):
    """Booleans through both setups end within the corner bits a cutter leaves of the finished
    solid.
    """
    plan_, library = demo
    last = walk(plan_, library, Memo()).setups[1].operations[-1].after.solid
    assert volume(last) == pytest.approx(149997.27, rel=0.01)


def test_the_memo_changes_nothing_but_time():
    plan_, library = good(), LIBRARY
    memo = Memo()
    evaluate(plan_, library, memo)
    edited = changed(plan_, "operation:rough", step_over_mm=2.1)
    hits = memo.hits
    assert to_bytes(evaluate(edited, library, memo)) == to_bytes(evaluate(edited, library))
    assert memo.hits > hits
    assert to_bytes(evaluate(edited, library, Memo(size=3))) == to_bytes(evaluate(edited, library))


def test_a_memo_forgets_the_oldest_first():
    memo = Memo(size=2)
    for key in ("a", "b", "a", "c"):
        memo.get(key, lambda key=key: key)
    assert (memo.hits, memo.misses) == (1, 3)
    memo.get("b", lambda: "made again")
    assert memo.misses == 4
    assert digest(1, (2.5, "x")) == digest(1, (2.5, "x")) != digest(1, (2.5, "y"))


def test_the_answer_is_plain_json_without_nan(demo):
    sent = json.loads(to_bytes(answer(*demo)))
    assert set(sent["setups"][0]["operations"][0]["answers"]) == {
        "hold",
        "reach",
        "travel",
        "cut",
        "size",
    }

    def numbers(value):
        if isinstance(value, dict):
            for inner in value.values():
                yield from numbers(inner)
        elif isinstance(value, list):
            for inner in value:
                yield from numbers(inner)
        elif isinstance(value, float):
            yield value

    assert all(isfinite(each) for each in numbers(sent))


def test_every_figure_can_be_explained_down_to_what_was_given(demo):
    sent = to_plain(answer(*demo))
    known = formulas()
    for id, (_, formula, inputs) in sent["figures"].items():
        assert formula in known, id
        assert set(known[formula]["inputs"]) >= {name for name, _, _ in inputs}
        for _, value, origin in inputs:
            if origin.startswith("figure:"):
                assert sent["figures"][origin.removeprefix("figure:")][0] == value
    for each in sent["setups"]:
        for op in each["operations"]:
            assert all(gauge["figure"] in sent["figures"] for gauge in op["gauges"])


def test_every_formula_used_is_registered():
    assert set(formulas()) == set(FORMULAS)


def test_a_plan_without_a_part_says_so():
    lost = plan(FACE, part=Part(geometry="f" * 64))
    seen = answer(lost)
    assert "doesn't exist" in seen.problem
    assert not seen.ready
    assert seen.setups == []


def test_an_empty_plan_is_not_ready():
    assert not answer(Plan()).ready


def test_a_thinned_chip_is_fed_faster_and_no_more_than_twice(demo):
    seen = answer(*demo)
    rough = result(seen, "b20")
    data = LIBRARY.materials["en-aw-6082"].data_for("rough", "carbide")
    plain = data.chip_mm(12) * 3 * rough.rpm
    assert plain < rough.feed_mm_min <= 2 * plain * 1.0001


def test_shop_friendly_typed_values_are_kept():
    typed = result(
        answer(changed(good(), "operation:rough", rpm=8000.0, feed_mm_min=2000.0)), "rough"
    )
    assert (typed.rpm, typed.feed_mm_min) == (8000, 2000)


def test_tapping_follows_its_pitch():
    op = result(answer(good()), "tap")
    assert op.feed_mm_min == pytest.approx(op.rpm * 1.25)


def test_worse_stock_asks_more_of_the_first_cut_only():
    sawn = plan(FACE, *GOOD[1:], stock=good().stock.model_copy(update={"saw_tolerance_mm": 0.6}))
    seen = answer(sawn)
    assert "rough.worst_power" in seen.figures
    assert seen.figures["rough.worst_power"].value > seen.figures["rough.power"].value
    assert "outside.worst_power" not in seen.figures


def fresh():
    fresh.count = getattr(fresh, "count", 0) + 1
    return f"new{fresh.count}"


def test_offers_name_what_this_side_shows():
    bare = plan(setups=(setup(), turned_over()))
    facts = walk(bare, LIBRARY, MEMO)
    top = [(o.group, o.label) for o in offers(facts.setups[0].first, facts, fresh)]
    assert ("Top", "Face") in top
    assert ("2 × Ø6.8 through", "Tap") in top
    assert ("Pocket 40 × 24, 8 deep", "Rough") in top
    assert not any("Ø5.8" in group for group, _ in top)
    below = [(o.group, o.label) for o in offers(facts.setups[1].first, facts, fresh)]
    assert ("1 × Ø5.8 8 deep", "Drill") in below
    assert not any("Pocket" in group for group, _ in below)


def test_offers_shrink_as_the_plan_grows_and_load_what_is_missing():
    facts = walk(good(), LIBRARY, MEMO)
    labels = [(o.group, o.label) for o in offers(facts.setups[0].first, facts, fresh)]
    assert ("2 × Ø6.8 through", "Drill") not in labels
    assert ("Top", "Face") not in labels
    bare = plan(setups=(setup(),), tools=())
    facts = walk(bare, LIBRARY, MEMO)
    for offer in offers(facts.setups[0].first, facts, fresh):
        assert [type(e) for e in offer.edits] == [LoadTool, AddOperation], offer
        assert apply(bare, offer.edits).setups[0].operations


def test_taking_offers_in_order_makes_a_plan_without_a_stop(demo):
    """What a newcomer gets by taking what is offered, with a grip: nothing that will not work on
    the first side.
    """
    whole, library = demo
    at = whole.model_copy(
        update={"setups": (whole.setups[0].model_copy(update={"operations": ()}),), "tools": ()}
    )
    for group, label in (
        ("Top", "Face"),
        ("Outside", "Rough"),
        ("Pocket", "Rough"),
        ("Outside", "Finish"),
        ("Pocket", "Finish walls"),
        ("4 ×", "Drill"),
        ("4 ×", "Tap"),
    ):
        facts = walk(at, library, MEMO)
        choice = next(
            o
            for o in offers(facts.setups[0].first, facts, fresh)
            if o.label == label and o.group.startswith(group)
        )
        at = apply(at, choice.edits)
    seen = answer(at, library)
    assert len(seen.setups[0].operations) == 7
    assert [
        f.id
        for f in seen.findings
        if f.severity == "stop" and f.question in ("reach", "travel", "size")
    ] == []


def test_the_order_of_the_good_plan_is_kept():
    assert [op.kind for op in good().setups[0].operations][-2:] == [DRILL.kind, TAP.kind]
