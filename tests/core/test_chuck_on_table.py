"""A chuck that stands on a mill's table: its axis is the middle of what it holds."""

from __future__ import annotations

from dataclasses import replace
from math import hypot

import numpy as np
import pytest

from machining.drawing.holding import holding_drawing
from machining.evaluate import evaluate
from machining.facts.route import walk
from machining.geometry.solids import bar, to_mesh
from machining.plan.holding import InChuck
from machining.plan.operation import Drill, Face
from machining.plan.places import Points
from machining.plan.zero import From, Zero
from machining.world.geometry import PartGeometry
from machining.world.part import Part
from machining.world.stock import Round
from machining.world.stock.base import Side

from . import build
from .build import MEMO, changed

SOLID = bar(0.0, 0.0, 30.0, 0.0, 30.0)
DISC = PartGeometry("disc", to_mesh(SOLID), float(SOLID.volume()), ())
LIBRARY = replace(build.LIBRARY, geometries={"disc": DISC})
TABLE = LIBRARY.chucks["chuck-160-table"]
HELD = InChuck(
    chuck="chuck-160-table",
    grip_mm=14.0,
    force_per_jaw_n=7000.0,
    bored_mm=60.0,
    spacer_mm=52.0,
    jaw_angle_deg=0.0,
)
HOLE = Drill(id="hole", tool="t2", on=Points(at_mm=((15.0, 0.0),), diameter_mm=12.0, depth_mm=8.0))
TOP = Face(id="top", tool="t1", step_over_mm=30.0)


def on(held=HELD, zero=None, *operations):
    setup = build.setup(*(operations or (TOP, HOLE)), holding=held)
    plan = build.plan(
        setups=(setup,),
        part=Part(geometry="disc"),
        stock=Round(diameter_mm=60.0, high=Side(over_mm=1.0)),
    )
    return plan if zero is None else changed(plan, "station:st1", zero=zero.model_dump(mode="json"))


def ops(plan):
    return {op.id: op for op in walk(plan, LIBRARY, MEMO).operations()}


ASIDE = Zero(
    x=From(of="stock", at="low"), y=From(of="stock", at="low"), z=From(of="stock", at="high")
)


@pytest.mark.parametrize("zero", [None, ASIDE])
def test_it_closes_about_the_middle_of_the_stock_wherever_zero_is(zero):
    station = walk(on(HELD, zero), LIBRARY, MEMO).stations[0]
    middle = (station.lie.stock_low + station.lie.stock_high)[:2] / 2.0
    held = ops(on(HELD, zero))["top"].seen.held.contacts.every
    jaws = [each for each in held if each.group]
    assert len(jaws) == 18
    for each in jaws:
        assert hypot(*(np.array(each.at[:2]) - middle)) == pytest.approx(30.0)
    for each in (each for each in held if each.body.startswith("step")):
        assert each.normal == (0.0, 0.0, 1.0)
    chuck = station.stand.of("chuck")[0].region.centroid
    assert (chuck.x, chuck.y) == pytest.approx(tuple(middle), abs=0.01)


def test_its_factor_does_not_hang_on_where_zero_is():
    here, there = ops(on()), ops(on(HELD, ASIDE))
    for id in ("top",):
        assert here[id].value("holding") == pytest.approx(there[id].value("holding"), rel=0.02)


def test_it_stands_as_high_as_its_record_says():
    station = walk(on(), LIBRARY, MEMO).stations[0]
    assert station.seat_mm == pytest.approx(82.0 + 28.0 - 14.0)
    body = station.stand.of("chuck")[0]
    assert body.top - body.bottom == pytest.approx(82.0)
    assert station.most_rpm > TABLE.max_rpm  # it does not turn: the tool does


def test_one_for_a_spindle_does_not_go_on_a_table_nor_the_other_way_round():
    wrong = changed(on(), "station:st1", holding__chuck="chuck-200-soft")
    assert "one for a table" in walk(wrong, LIBRARY, MEMO).stations[0].unknown["hold"]
    from . import lathe

    turned = changed(lathe.plan(*lathe.GOOD), "station:st1", holding__chuck="chuck-160-table")
    bare = changed(turned, "station:st1", holding__grip_mm=20.0, holding__force_per_jaw_n=9000.0)
    assert "one for a spindle" in walk(bare, lathe.LIBRARY, lathe.MEMO).stations[0].unknown["hold"]


def test_a_tailstock_on_a_table_is_none():
    tail = on(HELD.model_copy(update={"tailstock_n": 500.0}))
    assert "tailstock" in walk(tail, LIBRARY, MEMO).stations[0].unknown["hold"]


def test_it_is_offered_for_what_is_round():
    bare = changed(on(), "station:st1", holding=None)
    (told,) = [
        each for each in evaluate(bare, LIBRARY, MEMO).findings if each.id == "hold.none-chosen"
    ]
    assert any("160 chuck" in str(fix.values) for fix in told.fixes)
    block = changed(build.good(), "station:st1", holding=None)
    again = build.finding(block, "hold.none-chosen")
    assert not any("160 chuck" in str(fix.values) for fix in again.fixes)


def test_it_is_drawn_from_above_and_its_sheet_bolts_it_down():
    from machining.evaluation import to_plain
    from machining.sheet import sheets

    facts = walk(on(), LIBRARY, MEMO)
    drawing = holding_drawing(facts.stations[0], facts)
    assert "From above" in drawing and "Into the" not in drawing
    (sheet,) = sheets(facts, to_plain(evaluate(on(), LIBRARY, MEMO)), {})
    told = str(sheet)
    assert "Bolt the chuck to the table" in told and "kept cutting speed" not in told
