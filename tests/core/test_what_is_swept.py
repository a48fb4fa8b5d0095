"""What is open is where a clearing begins, and what a path sweeps is what its stock loses."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from shapely import Polygon
from shapely import box as shapely_box

from machining.facts.route import walk
from machining.geometry.laid import laid
from machining.geometry.regions import rectangle
from machining.geometry.solids import section
from machining.memo import Memo
from machining.motion.paths.clearing import off
from machining.plan.operation import Face, FinishFloor, RoughPocket
from machining.plan.places import OnFeatures, Rectangle
from machining.removal.loads import loads
from machining.world.geometry import from_examined
from machining.world.part import Part
from machining.world.stock.block import sawn_block
from tools.demo_parts import box, cut

from .build import FACE, LIBRARY, POCKET, TOOLS, WALLS, answer, plan, tool
from .shapes_in_step import fused, plate, read
from .test_true_cuts import RADIUS, cut_out

MEMO = Memo()
SHAPES = {
    "open at one side": lambda: cut(plate(), box(20, -12, 10, 50, 24, 40, 4)),
    "all round a boss": lambda: fused(box(-50, -30, 0, 100, 60, 10), box(-20, -15, 0, 40, 30, 25)),
    "a step": lambda: fused(box(-50, -30, 0, 100, 60, 10), box(-50, -30, 0, 60, 60, 25)),
}


def roughed(name: str, over: float):
    """Its open pocket roughed after the face alone, out of a block that stands over so far (mm)."""
    geometry = from_examined(name, laid(read(SHAPES[name]())))
    library = replace(LIBRARY, geometries={name: geometry})
    found = [each for each in geometry.features if each.kind == "pocket" and each.opens == "+z"]
    rough = RoughPocket(
        id="rough",
        tool="t2",
        on=OnFeatures(ids=(found[0].id,)),
        step_down_mm=9.0,
        step_over_mm=2.4,
        leave_mm=0.3,
    )
    of = plan(
        Face(id="face", tool="t1", step_down_mm=2.0),
        rough,
        part=Part(geometry=name),
        stock=sawn_block(x=(over, over), y=(over, over), z=(6, 1)),
    )
    return next(op for op in walk(of, library, MEMO).operations() if op.id == "rough")


@pytest.mark.parametrize("over", [1.0, 6.0, 20.0])
@pytest.mark.parametrize("name", SHAPES)
def test_the_tool_comes_in_from_the_side_and_no_pass_is_a_slot(name, over):
    op = roughed(name, over)
    assert op.found.trace.volume("ramp", "plunge", "rapid") == 0.0
    assert op.found.loads().widths_over(0.95)[0] <= 1.25 * 2.4
    assert op.found.hardest.width <= 1.4 * 2.4
    assert op.found.trace.volume() == pytest.approx(op.seen.cut_mm3, rel=0.01)


def opened_somewhere(seed: int):
    """A pocket with a few rectangles of it gone already, and the stock round it."""
    dice = np.random.default_rng(seed)
    long, wide = dice.uniform(40, 100), dice.uniform(20, 60)
    region, gone = rectangle(0, 0, long, wide, 7.2), Polygon()
    for _ in range(int(dice.integers(1, 4))):
        x, y = dice.uniform((-long / 2 - 5, -wide / 2 - 5), (long / 2, wide / 2))
        dx, dy = dice.uniform(2, 40, 2)
        gone = gone.union(shapely_box(x, y, x + dx, y + dy))
    return (
        region,
        region.difference(gone),
        region.buffer(10.0).difference(gone.intersection(region)),
    )


# some with openings that are no wider than the tool, or lie apart
@pytest.mark.parametrize("seed", [2, 10, 33, 105, 193, 209, 242, 320])
def test_whatever_is_open_all_the_rest_is_cut_and_nothing_on_the_way(seed):
    region, metal, stock = opened_somewhere(seed)
    reach = off(region, -RADIUS)
    met = cut_out(reach, metal, stock, 2.4)
    reached = off(reach, RADIUS).intersection(metal)
    assert met.volume() == pytest.approx(10.0 * reached.area, rel=0.01)
    assert met.volume("rapid", "link") < 0.002 * met.volume()
    assert loads(met, 2000.0, 2.0 * RADIUS).widths_over(0.95)[0] <= 1.25 * 2.4


def test_a_pocket_that_a_step_has_opened_by_a_corner_is_cleared_whole():
    """So little is free beside its wall that no round front finds room: it was ringed once."""
    region = rectangle(0, 0, 59.4, 39.4, 4.7)
    metal = region.difference(shapely_box(-30, -30, -20.05, 30))
    reach = off(region, -RADIUS)
    met = cut_out(reach, metal, metal.union(region.buffer(10).difference(region)), 2.4)
    reached = off(reach, RADIUS).intersection(metal)
    assert met.volume() == pytest.approx(10.0 * reached.area, rel=0.01)
    assert loads(met, 2000.0, 2.0 * RADIUS).widths_over(0.99)[0] <= 1.3 * 2.4


def test_a_finish_along_walls_leaves_what_its_tool_does_not_come_to():
    """Of 40 x 24 with corners of 4 a Ø8 goes once round: 24 x 8 stand in the middle, 8 high."""
    alone = plan(FACE, WALLS)
    op = next(each for each in walk(alone, LIBRARY, MEMO).operations() if each.id == "walls")
    assert op.found.trace.volume() == pytest.approx(op.seen.cut_mm3, rel=0.01)
    left = answer(alone).left_mm3 - answer(plan(FACE, POCKET, WALLS)).left_mm3
    assert left == pytest.approx(24 * 8 * 8, rel=0.02)


@pytest.mark.parametrize("step", [1.0, 4.4, 5.9])
@pytest.mark.parametrize("wide", [23.0, 34.0, 47.0])
def test_plain_rings_take_the_middle_and_what_they_leave_in_corners_stands(step, wide):
    """Of a Ø6: where more than its radius is left in the middle one more ring takes it."""
    on = Rectangle(
        x_mm=0, y_mm=0, length_mm=60, width_mm=wide, corner_radius_mm=4, top_mm=0, depth_mm=6
    )
    rough = RoughPocket(
        id="rough", tool="t9", on=on, step_down_mm=3.0, step_over_mm=step, clears="rings"
    )
    of = plan(FACE, rough, tools=(*TOOLS, tool(9, "end-mill-6-z3")))
    op = next(each for each in walk(of, LIBRARY, MEMO).operations() if each.id == "rough")
    assert op.found.trace.volume() == pytest.approx(op.seen.cut_mm3, rel=0.01)
    middle = section(op.after.solid, -3.0).intersection(shapely_box(-5, -wide / 4, 5, wide / 4))
    assert middle.area < 0.01
    whole = op.work.region.area * 6.0
    assert op.seen.cut_mm3 == pytest.approx(whole, rel=0.001 if step < 5.0 else 0.05)
    assert (op.seen.cut_mm3 < 0.998 * whole) == (step > 1.707 * 3.0)


def test_a_floor_finished_first_takes_all_over_it_and_a_skin_on_the_walls_is_left_to_them():
    floor = FinishFloor(id="floor", tool="t3", on=POCKET.on, depth_mm=0.3, step_over_mm=3.0)
    rough = POCKET.model_copy(update={"leave_floor_mm": 0.3})
    for before in ((), (rough,)):
        ops = walk(plan(FACE, *before, floor, WALLS), LIBRARY, MEMO).operations()
        cut = {op.id: op for op in ops}["floor"]
        assert cut.found.trace.volume() == pytest.approx(cut.seen.cut_mm3, rel=0.02)
    walls = ops[-1]  # 0.3 beside 120 of wall, 8 deep
    assert walls.seen.cut_mm3 == pytest.approx(0.3 * 120 * 8, rel=0.1)
    assert walls.found.trace.volume() == pytest.approx(walls.seen.cut_mm3, rel=0.02)
