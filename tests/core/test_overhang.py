"""A bar that stands out too far, by hand."""

from __future__ import annotations

import pytest

from machining.findings.finding import in_words
from machining.world.stock.base import Side

from .build import after_fix, finding
from .lathe import CHUCK, DRILL, FACE, LIBRARY, STOCK, ids, plan, setup


def long_bar(longer: float, *operations, grip=20.0, diameter=50.0):
    """A bar that goes on behind the part; ``grip`` of it lies in the jaws."""
    stock = STOCK.model_copy(update={"low": Side(over_mm=longer), "diameter_mm": diameter})
    held = CHUCK.model_copy(update={"grip_mm": grip})
    return plan(stock=stock, setups=(setup(*(operations or (FACE,)), holding=held),))


def stands_out(of) -> float:
    found = finding(of, "hold.overhang", LIBRARY)
    return float(found.values["out"].value)


def test_three_times_its_diameter_is_enough_and_a_little_more_is_told():
    short = stands_out(long_bar(200.0)) - 200.0  # what stands out besides what goes on behind
    just = 150.0 - short
    assert "hold.overhang" not in ids(long_bar(just - 0.1))
    over = finding(long_bar(just + 0.1), "hold.overhang", LIBRARY)
    assert over.severity == "look" and over.values["out"].value == pytest.approx(150.1)
    assert "×3.0 its mean diameter of 50.0 mm" in in_words(over)


def test_a_deeper_grip_mends_it_where_the_jaws_are_long_enough():
    short = stands_out(long_bar(200.0)) - 200.0
    of = long_bar(150.0 - short + 6.0)
    assert finding(of, "hold.overhang", LIBRARY).fixes[0].label == "Grip {grip} deep"
    assert "hold.overhang" not in ids(after_fix(of, finding(of, "hold.overhang", LIBRARY)))
    far = finding(long_bar(200.0), "hold.overhang", LIBRARY)
    assert far.fixes == ()


def test_only_turning_asks_for_it():
    assert "hold.overhang" not in ids(long_bar(200.0, DRILL))
