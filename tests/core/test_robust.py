"""Whatever a planner writes: an answer or a sentence, never an exception, never NaN, and every fix can be taken."""

from __future__ import annotations

import os
from math import isfinite

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from machining.evaluate import evaluate
from machining.evaluation import to_bytes
from machining.facts.offers import offers
from machining.facts.route import walk
from machining.findings.finding import fill, in_words
from machining.memo import Memo
from machining.plan.apply import EditRefused, apply
from machining.plan.document import Plan
from machining.plan.edit import Change, Edit, FlipSetup, MoveOperation, SetStock
from machining.world.part import Stock

from .build import GOOD, LIBRARY, MEMO, plan, setup, turned_over

BASE = plan(setups=(setup(*GOOD), turned_over()))
OPERATIONS = {op.id: op for op in GOOD}
SIZES = st.one_of(st.floats(0.01, 200.0), st.sampled_from([0.05, 0.3, 1.0, 6.0, 12.0, 24.0, 50.0]))
SLOW = settings(max_examples=600 if os.environ.get("HYPOTHESIS_PROFILE") == "long" else 20, deadline=None, suppress_health_check=[HealthCheck.too_slow, HealthCheck.data_too_large])


@st.composite
def a_change(draw) -> Edit:
    kind = draw(st.sampled_from(["operation", "operation", "operation", "tool", "holding", "zero", "stock", "move", "flip", "material"]))
    if kind == "operation":
        id = draw(st.sampled_from(sorted(OPERATIONS)))
        names = [n for n in type(OPERATIONS[id]).model_fields if n.endswith(("_mm", "_deg")) or n in ("rpm", "feed_mm_min")]
        name = draw(st.sampled_from(names))
        value = draw(st.floats(1.0, 20_000.0)) if name in ("rpm", "feed_mm_min") else draw(SIZES)
        return Change(on=f"operation:{id}", fields={name: value})
    if kind == "tool":
        return Change(on=f"tool:t{draw(st.integers(1, 6))}", fields={"stick_out_mm": draw(SIZES)})
    if kind == "holding":
        field = draw(st.sampled_from(["holding.grip_depth_mm", "holding.torque_nm", "holding.shift_mm"]))
        return Change(on="setup:s1", fields={field: draw(SIZES)})
    if kind == "zero":
        of, z_of = draw(st.sampled_from(["stock", "part"])), draw(st.sampled_from(["stock", "part"]))
        return Change(on="setup:s1", fields={"zero.of": of, "zero.x": draw(st.sampled_from(["low", "middle", "high"])), "zero.z_of": z_of})
    if kind == "stock":
        over = draw(st.lists(st.floats(0.0, 12.0), min_size=6, max_size=6))
        names = ("x_low_mm", "x_high_mm", "y_low_mm", "y_high_mm", "z_low_mm", "z_high_mm")
        return SetStock(stock=Stock(**dict(zip(names, over, strict=True)), saw_tolerance_mm=draw(st.floats(0.0, 3.0))))
    if kind == "move":
        return MoveOperation(operation=draw(st.sampled_from(sorted(OPERATIONS))), setup=draw(st.sampled_from(["s1", "s2"])), index=draw(st.integers(0, 7)))
    if kind == "flip":
        return FlipSetup(setup=draw(st.sampled_from(["s1", "s2"])), about=draw(st.sampled_from(["x", "y", "z"])))
    return Change(on="plan", fields={"material": draw(st.sampled_from(["", "c45", "ti-6al-4v", "pom-c", "gone"]))})


def after(edits: list[Edit]) -> Plan:
    at = BASE
    for each in edits:
        try:
            at = apply(at, [each])
        except EditRefused as refused:
            assert "{" not in str(refused)
    return at


def test_a_width_over_the_cutter_s_diameter_is_answered():
    seen = evaluate(after([Change(on="operation:walls", fields={"width_mm": 9.0})]), LIBRARY, MEMO)
    assert "size.push-off" in {f.id for f in seen.findings}


@SLOW
@given(st.lists(a_change(), min_size=1, max_size=5))
def test_property_every_plan_has_an_answer(edits):
    seen = evaluate(after(edits), LIBRARY, MEMO)
    assert to_bytes(seen)  # refuses NaN and infinity
    for each in seen.setups:
        assert each.cycle_s >= 0
        for op in each.operations:
            assert op.time_s >= 0
            assert op.removed_mm3 >= -1e-3
            assert all(isfinite(gauge.value) for gauge in op.gauges)
            assert set(op.answers) == {"hold", "reach", "travel", "cut", "size"}
            assert all(answer.reason for answer in op.answers.values() if answer.state == "unknown")


@SLOW
@given(st.lists(a_change(), min_size=1, max_size=4))
def test_property_every_finding_reads_well_and_every_fix_can_be_taken(edits):
    made = after(edits)
    for found in evaluate(made, LIBRARY, MEMO).findings:
        for system in ("metric", "inch"):
            assert "{" not in in_words(found, system)
        assert found.fixes or not found.operation
        for fix in found.fixes:
            assert "{" not in fill(fix.label, {**found.values, **fix.values})
            assert apply(made, fix.edits) != made


@SLOW
@given(st.lists(a_change(), min_size=1, max_size=4))
def test_property_the_memo_never_changes_an_answer(edits):
    made, memo = after(edits), Memo(64)
    evaluate(BASE, LIBRARY, memo)
    assert to_bytes(evaluate(made, LIBRARY, memo)) == to_bytes(evaluate(made, LIBRARY))


@SLOW
@given(st.lists(a_change(), max_size=4))
def test_property_every_offer_can_be_taken(edits):
    made = after(edits)
    fresh = iter(f"new{k}" for k in range(10_000))
    for seen in walk(made, LIBRARY, MEMO).setups:
        for offer in offers(seen, walk(made, LIBRARY, MEMO), lambda: next(fresh)):
            grown = apply(made, offer.edits)
            assert len(grown.setup(seen.setup.id).operations) == len(seen.setup.operations) + 1
