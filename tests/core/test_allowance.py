"""Z from a blank's top: what must stand over the part so that the smallest blank cleans up."""

from __future__ import annotations

import pytest

from machining.findings.finding import in_words
from machining.placing.allowance import least_allowance
from machining.plan.apply import apply
from machining.plan.zero import From
from machining.world.stock.block import sawn_block

from .build import answer, changed, whole

TOP = From(of="stock", at="high", off_mm=0.0)


def topped(over: float, tolerance: float = 1.0, each: bool = False, **fields):
    """The whole plan from a block sawn so far over on top, Z picked up there."""
    stock = sawn_block(z=(0, over)).model_copy(update={"saw_tolerance_mm": tolerance})
    plan = whole().model_copy(update={"stock": stock})
    zero = {"zero.z": TOP.model_dump(), "zero.each_part": each, **fields}
    return changed(plan, "station:st1", **zero)


def told(plan):
    found = [f for f in answer(plan).findings if f.id == "route.skin" and f.about == "picked-up"]
    return found[0] if found else None


def test_by_hand():
    assert least_allowance(0.3, 0.02, 1.0) == pytest.approx(1.32)


def test_the_next_blank_may_be_lower_than_the_one_it_was_picked_up_on():
    """0.3 for the saw's marks, 0.02 for touching off, 1 for what blanks differ on top and 1 for
    what they do below, where they stand: 2.32.
    """
    plan = topped(2.2)
    figure = next(v for k, v in answer(plan).figures.items() if k.endswith("least_allowance"))
    assert [each.value for each in figure.inputs] == pytest.approx([0.3, 0.02, 2.0])
    found = told(plan)
    assert found is not None and found.severity == "stop"
    assert "2.2 mm over the part" in in_words(found) and "from 2.3" in in_words(found)
    assert told(topped(2.4)) is None


def test_on_every_part_the_blanks_may_differ():
    assert told(topped(0.4, each=True)) is None
    assert told(topped(0.31, each=True)) is not None  # what it is picked up within counts too


def test_each_way_out_mends_it():
    plan, found = topped(2.2), told(topped(2.2))
    assert len(found.fixes) >= 2
    for fix in found.fixes:
        mended = apply(plan, list(fix.edits))
        assert told(mended) is None


def test_what_is_not_measured_from_the_blank_has_none():
    plan = changed(
        topped(2.2), "station:st1", **{"zero.z": From(of="part", at="high").model_dump()}
    )
    assert not [k for k in answer(plan).figures if k.endswith("least_allowance")]
    assert told(plan) is None
