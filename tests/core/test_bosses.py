"""Bosses: found in a solid, pointed at, a zero swept round one."""

from __future__ import annotations

from functools import cache

import numpy as np
import pytest

from machining.evaluate import evaluate
from machining.facts.read import named_as, picked
from machining.facts.route import walk
from machining.facts.zero import axes, zero_said
from machining.findings.finding import in_words
from machining.geometry.laid import laid
from machining.memo import Memo
from machining.plan.apply import apply
from machining.plan.edit import Change, SetStock
from machining.plan.operation import Drill
from machining.plan.places import OnFeatures
from machining.plan.zero import From
from machining.quantities.said import fill
from machining.ways.pointed import pointed
from machining.world.feature import Boss
from machining.world.geometry import from_examined
from machining.world.stock.block import sawn_block
from tools.demo_parts import box, cut, drum, gland

from .by_offers import begun
from .shapes_in_step import fused
from .shapes_in_step import read as step

MEMO = Memo()
AT = np.array([15.0, 5.0, 30.0])


@cache
def plate():
    """60 x 40 x 20 with a boss of Ø24, 10 high at 15, 5, and a hole of Ø8 down through it."""
    whole = fused(box(-30, -20, 0, 60, 40, 20), drum(15, 5, 20, 24, 10))
    plan, library = begun(step(cut(whole, drum(15, 5, -1, 8, 40))), "plate", MEMO)
    stock = sawn_block(x=(2, 2), y=(2, 2), z=(2, 2))
    return apply(plan, [SetStock(stock=stock)]), library


def boss():
    _, library = plate()
    return next(f for f in library.geometries["plate"].features if isinstance(f, Boss))


def on_boss(*operations):
    plan, library = plate()
    on = From(of="hole", feature=boss().id)
    zero = {"zero.x": on.model_dump(), "zero.y": on.model_dump()}
    setup = plan.setups[0].model_copy(update={"operations": operations})
    plan = plan.model_copy(update={"setups": (setup,)})
    return apply(plan, [Change(on="station:st1", fields=zero)]), library


def test_a_boss_is_found_and_the_corners_of_a_plate_are_none():
    found = [f for f in plate()[1].geometries["plate"].features if isinstance(f, Boss)]
    assert [(f.axis, f.diameter_mm, f.length_mm, f.point) for f in found] == [
        ("+z", 24.0, 10.0, (15.0, 5.0, 20.0))
    ]
    rounded = from_examined("rounded", laid(step(box(0, 0, 0, 80, 50, 20, 6))))
    assert not [f for f in rounded.features if isinstance(f, Boss)]
    steps = from_examined("gland", laid(step(gland())))
    told = {(f.diameter_mm, f.length_mm) for f in steps.features if isinstance(f, Boss)}
    assert told == {(48.0, 8.0), (27.0, 10.0), (30.0, 24.0)}


def test_a_zero_on_its_axis_is_there_and_said():
    plan, library = on_boss()
    station = walk(plan, library, MEMO).stations[0]
    part = plate()[1].geometries["plate"]
    middle = station.lie.pose.apply(AT)
    assert middle[:2] == pytest.approx([0.0, 0.0], abs=1e-9)
    said = zero_said(station.planned.zero, False, part)[0]
    assert fill(said.text, said.values) == "X Y on the axis of the boss of 24.000 mm"
    choices = axes(station, walk(plan, library, MEMO))[0].choices
    assert any(each.feature == boss().id for each in choices)
    lying = apply(plan, [Change(on="station:st1", fields={"orientation.up": "+x"})])
    unknown = walk(lying, library, MEMO).stations[0].unknown
    assert any("stands upright" in why for why in unknown.values())


def test_one_inside_the_stock_is_a_stop_until_it_stands_clear():
    plan, library = on_boss()
    found = [f for f in evaluate(plan, library, MEMO).findings if f.id == "route.zero-not-there"]
    assert "a boss of 24.000 mm" in in_words(found[0]) and found[0].severity == "stop"
    mended = apply(plan, list(found[0].fixes[0].edits))
    left = {f.id for f in evaluate(mended, library, MEMO).findings}
    assert "route.zero-not-there" not in left


def test_it_is_pointed_at_on_its_round_and_offers_its_axis():
    plan, library = plate()
    facts = walk(plan, library, MEMO)
    wall = np.array([15.0 + 12.0, 5.0, 27.0])
    point = picked(wall, np.array([1.0, 0.0, 0.0]), 0.5, facts, MEMO)
    assert point.feature == boss().id and point.at == pytest.approx(AT)
    assert named_as(boss().id, facts).at == pytest.approx(AT)
    labels = [each.label for each in pointed(point, facts.stations[0], facts)]
    assert any(label.startswith("Take {axes} zero") for label in labels)
    beside = picked(np.array([27.0, 5.0, 12.0]), None, 0.5, facts, MEMO)
    assert beside.feature != boss().id  # below its foot


def test_it_is_no_hole_to_any_operation():
    plan, library = plate()
    op = Drill(id="o", on=OnFeatures(ids=(boss().id,)))
    setup = plan.setups[0].model_copy(update={"operations": (op,)})
    seen = evaluate(plan.model_copy(update={"setups": (setup,)}), library, MEMO)
    (told,) = seen.setups[0].operations
    assert {each.state for each in told.answers.values()} == {"unknown"}
