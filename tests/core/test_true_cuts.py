"""What is cut is what is there, what is left is the part, and passes are as wide as they say."""

from __future__ import annotations

import json
from itertools import product

import numpy as np
import pytest
from shapely import box

from machining.ask import ANY_EDITS, QUESTIONS
from machining.evaluate import evaluate
from machining.facts.context import Ready
from machining.facts.route import walk
from machining.findings.finding import in_words
from machining.geometry import solids
from machining.geometry.columns import Grid, columns_of
from machining.geometry.regions import disc, rectangle
from machining.memo import Memo
from machining.motion.paths.cleared import Level, cleared
from machining.motion.paths.clearing import off, step_for
from machining.motion.paths.entries import Entry
from machining.motion.paths.picks import turned_in
from machining.plan.apply import apply
from machining.plan.operation import Drill, FinishWalls, RoughOutside, RoughPocket
from machining.plan.places import OnFeatures, Outside, Rectangle
from machining.removal.loads import loads
from machining.removal.shape import ABOVE, Shape
from machining.removal.trace import trace_of
from machining.world.part import Part
from machining.world.stock.block import sawn_block
from tests.at_length import some

from .build import (
    FACE,
    GOOD,
    LIBRARY,
    MEMO,
    OUTSIDE,
    POCKET,
    ROUGH,
    THICK,
    TOOLS,
    WALLS,
    after_fix,
    answer,
    changed,
    finding,
    good,
    ids,
    plan,
    result,
    tool,
    whole,
)

RADIUS = 6.0


def cut_out(reach, metal, stock, width, radius=RADIUS, entry="helix"):
    """A path that clears a metal 10 deep, and what it meets."""
    path = cleared(
        reach, [Level(-10.0, 0.0, metal)], radius, width, Entry(entry), 2.0, 25.0, 2.0, stock
    )
    solid = solids.prism(stock, -15.0, 0.0)
    low, high = solids.bounds(solid)
    cell = max(0.1, min(radius / 12.0, width / 6.0))
    columns = columns_of(solids.to_mesh(solid), Grid.over(low - 1.0, high + 1.0, cell))
    flat = Shape(radius, np.zeros(8), np.full(8, ABOVE), True)
    return trace_of(path, flat, columns)


ISLAND = rectangle(0, 0, 80, 60, 8).difference(disc(5, 3, 12))
BENT = off(
    off(rectangle(0, 0, 80, 60, 8).difference(rectangle(30, 20, 60, 50)), -RADIUS - 1), RADIUS + 1
)


POCKETS = {
    "pocket": rectangle(0, 0, 60, 40, 7.2),
    "long": rectangle(0, 0, 150, 30, 8),
    "narrow": rectangle(0, 0, 80, 18, 7),
}


@pytest.mark.parametrize(("name", "share"), some(product(POCKETS, (0.1, 0.2, 0.4)), each=2))
def test_passes_of_a_pocket_are_as_wide_as_asked_and_hardly_more(name, share):
    region, width = POCKETS[name], share * RADIUS
    met = cut_out(off(region, -RADIUS), region, region.buffer(10.0), width)
    found = loads(met, 2000.0, 2.0 * RADIUS)
    assert found.widths_over(0.95)[0] <= 1.25 * width
    assert met.volume("rapid", "link") < 0.002 * met.volume()
    assert met.volume() == pytest.approx(10.0 * region.area, rel=0.005)


@pytest.mark.parametrize("region", [ISLAND, BENT], ids=["island", "bent"])
def test_so_are_those_round_an_island_and_a_bend(region):
    met = cut_out(off(region, -RADIUS), region, region.buffer(10.0), 2.4)
    assert loads(met, 2000.0, 12.0).widths_over(0.95)[0] <= 1.25 * 2.4
    assert met.volume() == pytest.approx(10.0 * region.area, rel=0.005)


def test_an_outside_is_cut_from_beside_the_stock_and_what_is_open_is_not_cut_again():
    part, stock = rectangle(0, 0, 80, 50, 5), box(-51, -35, 51, 35)
    reach = off(stock, 65.0).difference(off(part, RADIUS))
    met = cut_out(reach, stock.difference(part), stock, 2.4)
    assert loads(met, 2000.0, 12.0).widths_over(0.99)[0] <= 1.15 * 2.4
    assert met.volume("ramp", "plunge") == 0.0
    half = stock.difference(part).intersection(box(-60, -40, 0, 40))
    rest = cut_out(reach, half, half.union(part), 2.4)
    assert rest.way_mm("cut") < 0.65 * met.way_mm("cut")


def test_a_pocket_with_a_hole_is_entered_there_without_a_ramp():
    region = rectangle(0, 0, 60, 40, 7.2)
    metal = region.difference(disc(10.0, 5.0, 8.0))
    met = cut_out(off(region, -RADIUS), metal, metal.union(region.buffer(10).difference(region)), 2)
    assert met.way_mm("ramp") == 0.0 and met.volume("plunge") < 30.0
    assert met.volume() == pytest.approx(10.0 * metal.area, rel=0.005)


def test_a_step_follows_from_the_width_its_front_may_meet():
    """s·(2(ρ + R) − s)/(2ρ) is the width, a fifth over what is asked; far out that itself."""
    step = step_for(1.0, 12.0, 6.0, growing=False)
    assert step * (2 * 18.0 - step) / 24.0 == pytest.approx(1.2)
    assert step_for(1.0, 1e4, 6.0, growing=False) == 1.0


def test_a_ring_is_come_to_as_fast_as_its_width_allows():
    """d + d'·√(2·R·d) stays under the step, with d' as drawn."""
    way, share = turned_in(1.2, 6.0)
    slope = np.diff(1.2 * share[:-1]) / np.diff(way[:-1])
    deep = 1.2 * (share[1:-1] + share[:-2]) / 2.0
    assert (deep + slope * np.sqrt(12.0 * deep) < 1.05 * 1.2).all()
    assert way[0] == 0.0 and share[-1] == 1.0


def test_what_paths_take_is_what_the_solids_lose(demo):
    """Of every operation of the demo and the plain plan; a tap takes nothing off its solid."""
    seen = []
    for of, library in (demo, (whole(), LIBRARY)):
        for op in walk(of, library, Memo()).operations():
            assert isinstance(op, Ready)
            if op.operation.kind == "tap":
                assert op.found is None and op.seen.cut_mm3 == 0.0
                continue
            seen.append(op.id)
            assert op.found.trace.volume() == pytest.approx(op.seen.cut_mm3, rel=0.01), op.id
            assert op.found.trace.volume("rapid") == 0.0, op.id
    assert len(seen) == 25


STEEL_POCKET = RoughPocket(
    id="deep",
    tool="t2",
    on=Rectangle(
        x_mm=0, y_mm=0, length_mm=60, width_mm=40, corner_radius_mm=8, top_mm=0, depth_mm=25
    ),
    step_down_mm=25.0,
    step_over_mm=0.6,
    leave_mm=0.0,
    enter="helix",
)


def in_steel(**fields):
    return plan(
        STEEL_POCKET.model_copy(update=fields),
        part=Part(size_mm=(100.0, 80.0, 40.0)),
        stock=sawn_block(x=(1, 1), y=(1, 1), z=(1, 0)),
        material="c45",
    )


def test_a_deep_pocket_in_steel_takes_the_time_of_its_volume_and_rings_stop():
    facts = walk(in_steel(), LIBRARY, MEMO)
    (op,) = facts.operations()
    assert op.found.loads().widths_over(0.95)[0] <= 1.25 * 0.6
    rate = 25.0 * 0.6 * op.figures["feed"].value
    assert op.time.cutting_s >= 60.0 * op.seen.cut_mm3 / rate
    rings = answer(in_steel(clears="rings"))
    assert "cut.power" in {f.id for f in rings.findings if f.severity == "stop"}
    now = result(rings, "deep")
    assert now.found_width_mm > 5 * 0.6 and now.found_power_kw > 7.5


def test_an_outside_spends_its_time_in_the_cut():
    seen = result(
        answer(changed(plan(*GOOD, stock=THICK), "operation:rough", step_over_mm=1.2)), "rough"
    )
    assert seen.in_cut_s / seen.time_s > 0.65
    assert seen.in_cut_s + seen.air_s + seen.link_s == pytest.approx(seen.cutting_s)


def test_a_blank_is_trued_up_in_a_few_seconds():
    true_up = ROUGH.model_copy(update={"leave_mm": 1.8, "step_over_mm": 0.2, "step_down_mm": 18.0})
    assert 2.0 < result(answer(plan(FACE, true_up)), "rough").time_s < 15.0


def test_the_demo_s_blank_is_trued_up_square_whatever_the_part_s_corners(demo):
    plan_, library = demo
    found = next(f for f in answer(plan_, library).findings if f.id == "cut.power-at-worst-stock")
    fix = next(each for each in found.fixes if each.label.startswith("True"))
    first = result(answer(apply(plan_, fix.edits), library), "a20true")
    assert 4.0 < first.in_cut_s < first.time_s < 15.0
    assert first.found_width_mm == pytest.approx(0.2, rel=0.1)


# -- wrong plans


def recess(depth: float, **fields):
    on = Rectangle(
        x_mm=0, y_mm=0, length_mm=40, width_mm=24, corner_radius_mm=4, top_mm=0, depth_mm=depth
    )
    return POCKET.model_copy(update={"on": on, "id": "recess", **fields})


def test_a_pocket_too_deep_says_by_how_much_and_is_mended():
    wrong = plan(FACE, recess(12.0))
    found = finding(wrong, "reach.gouges")
    assert found.severity == "stop" and found.values["deep"].value == pytest.approx(4.0, abs=0.05)
    assert "into the finished part" in in_words(found)
    assert result(answer(wrong), "recess").gouge_mm == found.values["deep"].value
    assert "reach.gouges" not in ids(after_fix(wrong, found))
    assert "reach.gouges" not in ids(plan(FACE, recess(8.0)))


def test_a_wall_cut_too_far_says_how_far():
    wide = Rectangle(
        x_mm=1.5, y_mm=0, length_mm=40, width_mm=23, corner_radius_mm=4, top_mm=0, depth_mm=8
    )
    wrong = plan(FACE, POCKET.model_copy(update={"on": wide, "leave_mm": 0.0}))
    assert finding(wrong, "reach.gouges").values["deep"].value == pytest.approx(1.5, abs=0.15)


def test_a_drill_too_large_for_its_hole_goes_into_the_part():
    tools = (*TOOLS, tool(9, "drill-19"))
    wrong = plan(
        FACE, Drill(id="drill", tool="t9", on=OnFeatures(ids=("hole0",)), past_mm=1.0), tools=tools
    )
    found = finding(wrong, "reach.gouges")
    # (19 − 6.8)/2 beside the hole, all through the part
    assert found.values["deep"].value == pytest.approx(6.1, abs=0.3)


def test_an_outside_finished_without_roughing_is_a_slot_and_is_roughed_first():
    bare = changed(plan(FACE, OUTSIDE, stock=THICK), "operation:outside", step_down_mm=18.0)
    found = finding(bare, "cut.more-than-planned")
    assert found.values["width"].value > 5.0 and found.values["said_width"].value == 0.3
    assert found.severity == "stop"
    assert [fix.label for fix in found.fixes] == ["Rough it first", "Let it take the {width}"]
    mended = after_fix(bare, found)
    assert "cut.more-than-planned" not in ids(mended)
    assert [op.kind for op in mended.setups[0].operations] == [
        "face",
        "rough_outside",
        "finish_walls",
    ]


def test_half_a_tenth_left_by_the_roughing_is_met_by_its_finish():
    less = changed(good(), "operation:outside", width_mm=0.15)
    found = finding(less, "cut.more-than-planned")
    assert found.severity == "look" and found.values["width"].value == pytest.approx(0.3, rel=0.05)
    left = after_fix(less, found)
    assert left.setups[0].operation("rough").leave_mm == 0.15
    assert "cut.more-than-planned" not in ids(left)


@pytest.mark.parametrize(
    "sound",
    [
        good(),
        plan(FACE),
        plan(FACE, POCKET, WALLS),
        plan(FACE, ROUGH, OUTSIDE, stock=THICK),
        plan(
            FACE,
            FinishWalls(
                id="w", tool="t3", on=OnFeatures(ids=("recess",)), step_down_mm=8.0, width_mm=4.0
            ),
        ),
        plan(
            FACE,
            RoughOutside(
                id="o",
                tool="t2",
                on=Outside(depth_mm=18.0),
                step_down_mm=18.0,
                step_over_mm=1.0,
                clears="rings",
            ),
        ),
    ],
    ids=lambda each: "+".join(op.id for op in each.setups[0].operations),
)
def test_sound_plans_are_not_told_so(sound):
    assert not {"reach.gouges"} & ids(sound)


# -- what is left


def test_a_plan_that_only_faces_leaves_the_rest_of_the_blank():
    seen = answer(plan(FACE))
    assert seen.left
    assert seen.left_mm3 == pytest.approx(_stock_less_part(), rel=0.01)


def _stock_less_part() -> float:
    """The faced blank less the part of build.py: 84 x 54 x 28 less 80 x 50 x 20 with its holes."""
    part = 80 * 50 * 20 - 40 * 24 * 8 - 2 * np.pi * 3.4**2 * 20 - np.pi * 2.9**2 * 8
    return 84 * 54 * 28 - part


def test_where_nothing_is_planned_nothing_is_left_over():
    assert evaluate(plan(), LIBRARY, MEMO).left == []


def test_what_it_asks_of_the_spindle_along_its_way():
    told = json.loads(QUESTIONS["along"](good(), LIBRARY, MEMO, operation="rough"))
    now = result(answer(good()), "rough")
    assert len(told["power_kw"]) == len(told["at"]) <= 240
    assert max(told["power_kw"]) == pytest.approx(now.found_power_kw, rel=0.1)
    assert max(told["width_mm"]) >= now.found_width_mm - 1e-3
    assert json.loads(QUESTIONS["along"](good(), LIBRARY, MEMO, operation="tap")) is None


@pytest.mark.parametrize("material", ["c45", "x5crnimo17-12-2"])
@pytest.mark.parametrize("stock", [THICK, None])
def test_full_depth_and_shallow_are_ranked_as_their_cutting_times_are(material, stock):
    now = plan(FACE, ROUGH, OUTSIDE, **({"stock": stock} if stock else {}))
    now = now.model_copy(update={"material": material})
    rows = json.loads(QUESTIONS["ways"](now, LIBRARY, MEMO, operation="rough"))
    cuts = []
    schools = ("full depth, light width", "shallow, wide", "high feed, very shallow")
    for row in (row for row in rows if row["name"] in schools):
        taken = result(answer(apply(now, ANY_EDITS.validate_python(row["edits"]))), "rough")
        assert taken.in_cut_s > 0.85 * taken.cutting_s
        cuts.append((row["time_s"], taken.in_cut_s))
    assert len(cuts) == 3 and sorted(cuts) == sorted(cuts, key=lambda each: each[1])
