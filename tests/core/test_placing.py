"""Zeros as named places, resolved in every setup, and the arithmetic of turning over."""

from __future__ import annotations

import numpy as np
import pytest

from machining.facts.route import walk
from machining.facts.zero import zero_said
from machining.geometry.solids import volume
from machining.placing.zero import lie_of
from machining.plan.document import Orientation
from machining.plan.zero import From, Zero, in_the_middle, on_hole
from machining.quantities.errors import Missing, OutOfRange
from machining.quantities.said import fill
from machining.world.geometry import of_block
from machining.world.stock import Round
from machining.world.stock.base import Side

from .build import GOOD, LIBRARY, MEMO, PART, STOCK, good, plan, setup, turned_over

GEOMETRY = of_block(PART)
BLANK = STOCK.corners(GEOMETRY.bounds, {})
LEFT = From(of="part", at="low")


def lie(**fields):
    return lie_of(setup(**fields).stations[0], GEOMETRY, BLANK)


def test_the_middle_of_the_blank_with_z_on_the_finished_top():
    seen = lie(zero=in_the_middle("stock"))
    assert seen.stock_low == pytest.approx([-42, -27, -28])
    assert seen.stock_high == pytest.approx([42, 27, 1])
    assert seen.part_high[2] == 0


def test_a_corner_of_the_part_with_z_at_the_bottom():
    seen = lie(zero=Zero(x=LEFT, y=From(of="part", at="high"), z=From(of="part", at="low")))
    assert seen.part_low == pytest.approx([0, -50, 0])
    assert seen.part_high == pytest.approx([80, 0, 20])


def test_a_hole_is_a_zero_where_it_stands_upright():
    seen = lie(zero=on_hole("hole1"))
    assert seen.pose.apply(np.array([32.0, 0.0, 20.0])) == pytest.approx([0, 0, 0])
    with pytest.raises(OutOfRange, match="stands upright"):
        lie(zero=on_hole("hole1"), orientation=Orientation(up="+x"))
    with pytest.raises(Missing, match="'nobody' doesn't exist"):
        lie(zero=on_hole("nobody"))


def test_a_point_of_one_setup_is_read_in_the_other():
    """Both zeros in the middle of the part; over X, z from the other face: (x, −y, −20 − z)."""
    first, second = (
        lie(zero=in_the_middle("part")),
        lie(zero=in_the_middle("part"), orientation=Orientation(up="-z")),
    )
    point = np.array([11.0, 7.0, -3.0])
    across = second.pose.apply(first.pose.inverse().apply(point))
    assert across == pytest.approx([11.0, -7.0, -17.0])


def test_zeros_are_said_in_words():
    assert said(Zero()) == ["X Y middle of the blank", "Z top of the finished part"]
    assert said(
        Zero(x=LEFT, y=From(of="jaw", off_mm=-4.0), z=From(of="stock", at="high", off_mm=-0.5))
    ) == [
        "X left end of the finished part",
        "Y 4.000 mm in front of the fixed jaw",
        "Z 0.500 mm below the top of the blank",
    ]
    assert (
        said(on_hole("hole1"))[0]
        == "X Y on the axis of the hole of 6.800 mm at X 32.0 mm Y 0.0 mm of the part"
    )
    assert said(Zero(z=From(of="part", at="high", off_mm=34.16)), turns=True) == [
        "X on the spindle’s axis",
        "Z 34.160 mm towards the tail from the free end of the finished part",
    ]


def said(zero, turns=False):
    return [fill(each.text, each.values) for each in zero_said(zero, turns, GEOMETRY)]


def test_round_stock_stands_round_its_axis():
    stock = Round(diameter_mm=100.0, low=Side(over_mm=3.0), high=Side(over_mm=1.0))
    low, high = stock.corners(GEOMETRY.bounds, {})
    assert (high - low) == pytest.approx([100, 100, 24])
    exact = np.pi * 50**2 * 24
    assert volume(stock.solid(GEOMETRY.bounds, {})) == pytest.approx(exact, rel=2e-3)
    assert stock.volume_mm3(GEOMETRY.bounds, {}) == pytest.approx(exact)
    lying = Round(diameter_mm=60.0, axis="x", low=Side(over_mm=2.0))
    low, high = lying.corners(GEOMETRY.bounds, {})
    assert (high - low) == pytest.approx([82, 60, 60])


def test_stock_shrinks_by_what_each_operation_takes():
    facts = walk(good(), LIBRARY, MEMO)
    operations = facts.operations()
    volumes = [op.after.volume() for op in operations]
    assert all(a >= b for a, b in zip(volumes, volumes[1:], strict=False))
    face = operations[0]
    assert face.before.volume() - face.after.volume() == pytest.approx(84 * 54 * 1.0)
    assert volumes[-1] >= GEOMETRY.volume_mm3


def test_the_next_setup_starts_from_what_the_last_one_left():
    facts = walk(plan(setups=(setup(*GOOD), turned_over())), LIBRARY, MEMO)
    left = facts.setups[0].operations[-1].after
    assert facts.setups[1].stations[0].arrives.volume() == pytest.approx(left.volume(), rel=1e-9)
    assert facts.setups[1].stations[0].lie.stock_high[2] == pytest.approx(
        8.0
    )  # the grip side, now on top


def test_skins_tell_sawn_from_cut():
    facts = walk(good(), LIBRARY, MEMO)
    seen = facts.setups[0].first
    before, after = (
        seen.arrives.skins(),
        seen.operations[0].after.skins(),
    )
    assert set(before.faces.tolist()) == {0}
    assert set(after.faces.tolist()) == {0, 1}
    top = after.vertices[after.triangles][after.faces == 1]
    assert np.ptp(top[:, :, 2]) == pytest.approx(0.0)
