"""Hexagon bar, by hand."""

from __future__ import annotations

from dataclasses import replace
from math import sqrt

import pytest

from machining.evaluate import evaluate
from machining.facts.route import walk
from machining.geometry.solids import volume
from machining.memo import Memo
from machining.plan.holding import InChuck, InCollet
from machining.quantities.said import fill
from machining.world.geometry import of_block
from machining.world.settings import Settings
from machining.world.stock.base import Side
from machining.world.stock.hexagon import Hexagon

from . import lathe
from .build import LIBRARY, PART

GEOMETRY = of_block(PART)  # 80 x 50 x 20
BAR = Hexagon(across_mm=60.0, low=Side(over_mm=50.0), high=Side(over_mm=1.0))


def answered(bar: Hexagon, *operations, **held):
    holding = InChuck(chuck="chuck-200", grip_mm=30.0, force_per_jaw_n=15000.0, **held)
    setup = lathe.setup(*(operations or (lathe.FACE,)), holding=holding)
    return lathe.plan(stock=bar, setups=(setup,))


def test_its_section_is_half_root_three_of_the_square_across():
    """Across the corners 2/√3 of that across the flats, which lie along X where it isn't turned."""
    bar = BAR.model_copy(update={"axis": "x", "turn_deg": 0.0})
    assert bar.section_mm2() == pytest.approx(sqrt(3.0) / 2.0 * 60.0**2)
    low, high = bar.corners(GEOMETRY.bounds, {})
    assert list(high - low) == pytest.approx([131.0, 120.0 / sqrt(3.0), 60.0])
    assert volume(bar.solid(GEOMETRY.bounds, {})) == pytest.approx(
        bar.volume_mm3(GEOMETRY.bounds, {})
    )
    words = bar.words((80.0, 50.0, 20.0), {})
    assert fill(words.text, words.values) == "hexagon 60.000 mm × 131.000 mm"


def test_it_is_as_large_as_the_part_needs():
    """A section 50 x 20 on its corners: 25·cos 30° + 10·sin 30° = 26.65 is farther than 25."""
    made = Hexagon.usual(GEOMETRY, Settings())
    assert (made.axis, made.across_mm, made.turn_deg) == ("x", 53.5, 0.0)


def test_three_jaws_close_on_its_flats_and_not_on_its_edges():
    flats = evaluate(answered(BAR), lathe.LIBRARY)
    assert flats.setups[0].stations[0].unknown == {}
    edges = evaluate(answered(BAR.model_copy(update={"turn_deg": 30.0})), lathe.LIBRARY)
    assert "on an edge of the stock" in edges.setups[0].stations[0].unknown["hold"]
    turned = answered(BAR.model_copy(update={"turn_deg": 30.0}), jaw_angle_deg=30.0)
    assert evaluate(turned, lathe.LIBRARY).setups[0].stations[0].unknown == {}
    facts = walk(answered(BAR), lathe.LIBRARY, Memo())
    assert facts.setups[0].stations[0].stand.grips_at == pytest.approx(60.0)


def test_a_hexagon_collet_closes_on_it():
    collet = LIBRARY.holdings["collet-32"].model_copy(update={"profile": "hexagon"})
    library = replace(lathe.LIBRARY, holdings={"collet-32": collet})
    holding = InCollet(collet="collet-32", grip_mm=30.0)
    setup = lathe.setup(lathe.FACE, holding=holding)
    bar = BAR.model_copy(update={"across_mm": 32.0, "turn_deg": 11.0})
    assert (
        evaluate(lathe.plan(stock=bar, setups=(setup,)), library).setups[0].stations[0].unknown
        == {}
    )


def test_turning_it_meets_its_corners_once_every_sixth_of_a_turn():
    """At the corners 60/√3 - 30 = 4.64 stand over the round that is always there."""
    facts = walk(answered(BAR, lathe.FACE, lathe.ROUGH), lathe.LIBRARY, Memo())
    rough = facts.operations()[1]
    assert rough.seen.broken_mm == pytest.approx(60.0 / sqrt(3.0) - 30.0, abs=0.25)
