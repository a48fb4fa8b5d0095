"""Proven in brass, then steel: what changes, as one list, and nothing gets bolder."""

from __future__ import annotations

from dataclasses import replace

import pytest

from machining.facts.route import walk
from machining.plan.apply import apply
from machining.quantities.said import fill
from machining.ways.anew import set_anew

from .build import DRILL, LIBRARY, MEMO, answer, changed, finding, ids, whole

BRASS, STEEL = "cuzn39pb3", "c45"
HEAVY = {"step_down_mm": 20.0, "step_over_mm": 6.0}


def proven(material=BRASS):
    """Speeds typed for brass, an outside roughed in heavy steps, and a deep hole without a peck."""
    of = whole().model_copy(update={"material": material})
    of = changed(of, "operation:rough", rpm=9000.0, feed_mm_min=3000.0, **HEAVY)
    of = changed(of, f"operation:{DRILL.id}", peck_mm=None, rpm=6000.0, feed_mm_min=900.0)
    return of


def in_(material):
    return proven().model_copy(update={"material": material})


def shop(**values):
    return LIBRARY.settings.model_copy(update=values)


def test_in_the_material_it_was_proven_in_nothing_is_set_anew():
    assert set_anew(walk(proven(), LIBRARY, MEMO)) == []
    assert "cut.material-changed" not in ids(proven())


def test_in_steel_speeds_follow_the_data_and_steps_get_smaller():
    found = {each.op.id: each.fields for each in set_anew(walk(in_(STEEL), LIBRARY, MEMO))}
    rough = found["rough"]
    assert (rough["rpm"], rough["feed_mm_min"]) == (None, None)
    assert found[DRILL.id] == {"rpm": None, "feed_mm_min": None}
    before = next(op for op in in_(STEEL).setups[0].operations if op.id == "rough")
    assert rough["step_over_mm"] <= before.step_over_mm
    assert rough["step_down_mm"] <= before.step_down_mm
    assert rough["step_over_mm"] * rough["step_down_mm"] < 0.98 * 6.0 * 20.0


def test_all_of_it_is_one_fix_that_names_what_changes_and_brings_no_stop():
    found = finding(in_(STEEL), "cut.material-changed")
    fix = found.fixes[0]
    words = fill(fix.label, {**found.values, **fix.values})
    assert words.startswith(
        "Set all anew for C45: 20 in setup 1: speed and feed by the data, steps"
    )
    assert "60 in setup 1: speed and feed by the data" in words and "{" not in words
    after = apply(in_(STEEL), fix.edits)
    assert "cut.material-changed" not in ids(after)
    stops = [f.key for f in answer(after).findings if f.severity == "stop"]
    assert set(stops) <= {f.key for f in answer(in_(STEEL)).findings if f.severity == "stop"}
    assert set_anew(walk(after, LIBRARY, MEMO)) == []


@pytest.mark.parametrize(("from_", "wanted"), [(2.5, 6.8), (4.0, None)])
def test_a_peck_comes_where_the_material_wants_one_and_none_is_taken_away(from_, wanted):
    """20 deep is 2.9 times 6.8; brass lets a drill go 1.75 times as deep as steel."""
    library = replace(LIBRARY, settings=shop(peck_from=from_))
    found = {each.op.id: each.fields for each in set_anew(walk(in_(STEEL), library, MEMO))}
    assert found[DRILL.id].get("peck_mm") == wanted
    pecked = changed(in_(STEEL), f"operation:{DRILL.id}", peck_mm=5.0)
    kept = {each.op.id: each.fields for each in set_anew(walk(pecked, library, MEMO))}
    assert "peck_mm" not in kept[DRILL.id]
