"""Holes on a circle and on a grid: typed once, where each is, what they are answered."""

from __future__ import annotations

from math import hypot

import pytest
from pydantic import ValidationError

from machining.plan.apply import apply
from machining.plan.edit import Change
from machining.plan.operation import Drill
from machining.plan.places import HoleCircle, HoleGrid, Points

from .build import answer, plan, result

ALIKE = {"diameter_mm": 6.8, "depth_mm": 12.0}
CIRCLE = HoleCircle(x_mm=3.0, y_mm=-2.0, circle_mm=30.0, count=6, first_deg=90.0, **ALIKE)
GRID = HoleGrid(columns=3, rows=2, column_pitch_mm=10.0, row_pitch_mm=16.0, **ALIKE)


def drilled(on):
    return plan(Drill(id="drill", tool="t4", on=on, peck_mm=7.0))


def test_holes_of_a_circle_are_equally_far_from_each_other_the_first_where_it_is_said():
    x, y = CIRCLE.at_mm[0]
    assert (x, y) == (pytest.approx(3.0), pytest.approx(13.0))
    far = {round(hypot(a - 3.0, b + 2.0), 9) for a, b in CIRCLE.at_mm}
    assert far == {15.0}
    around = [*CIRCLE.at_mm, CIRCLE.at_mm[0]]
    chords = [hypot(c - a, d - b) for (a, b), (c, d) in zip(around, around[1:], strict=False)]
    assert chords == pytest.approx([15.0] * 6)  # of a hexagon: its radius


def test_a_grid_lies_about_its_middle_and_is_gone_through_row_by_row_and_back():
    assert GRID.at_mm == ((-10, -8), (0, -8), (10, -8), (10, 8), (0, 8), (-10, 8))


@pytest.mark.parametrize("on", [CIRCLE, GRID])
def test_they_are_answered_as_the_same_holes_typed_one_by_one(on):
    one_by_one = Points(at_mm=on.at_mm, **ALIKE)
    both = [result(answer(drilled(each)), "drill") for each in (on, one_by_one)]
    assert both[0].time_s == both[1].time_s
    assert both[0].removed_mm3 == both[1].removed_mm3 > 0
    assert both[0].title == both[1].title and both[0].detail == both[1].detail


def test_one_value_changes_all_of_them():
    before = result(answer(drilled(CIRCLE)), "drill")
    more = apply(drilled(CIRCLE), [Change(on="operation:drill", fields={"on.count": 8})])
    after = result(answer(more), "drill")
    assert after.removed_mm3 == pytest.approx(before.removed_mm3 * 8 / 6, rel=0.01)


def test_too_many_are_refused_with_what_may_be():
    with pytest.raises(ValidationError, match="columns times rows is 1000; it must be at most 500"):
        HoleGrid(columns=100, rows=10, column_pitch_mm=1.0, row_pitch_mm=1.0, **ALIKE)
    with pytest.raises(ValidationError, match="count"):
        HoleCircle(circle_mm=10.0, count=501, **ALIKE)
