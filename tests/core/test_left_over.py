"""What still stands after the last setup, and what of it is no fault."""

from __future__ import annotations

from dataclasses import replace
from math import pi

import pytest

from machining.evaluate import evaluate
from machining.geometry.solids import bar, block, to_mesh, volume
from machining.plan.operation import Drill, Tap
from machining.plan.places import OnFeatures
from machining.world.feature import Hole
from machining.world.geometry import PartGeometry
from machining.world.part import Part
from machining.world.stock.block import sawn_block

from .build import FACE, LIBRARY, TOOLS, answer, good, plan, tool, turned_over

SIZE = block([-40, -25, 0], [40, 25, 20])
STOCK = sawn_block(x=(0, 0), y=(0, 0), z=(0, 1))


def left_of(hole: Hole, solid, *operations, tools=TOOLS):
    geometry = PartGeometry("drawn", to_mesh(solid), volume(solid), (hole,))
    library = replace(LIBRARY, geometries={"drawn": geometry})
    made = plan(FACE, *operations, part=Part(geometry="drawn"), stock=STOCK, tools=tools)
    return evaluate(made, library).left  # a memo of its own: solids are known by their names


def hole(diameter: float, length: float, through: bool) -> Hole:
    return Hole(
        id="h",
        point=(0.0, 0.0, 20.0 - length),
        axis="+z",
        diameter_mm=diameter,
        length_mm=length,
        through=through,
        opens=("+z", "-z") if through else ("+z",),
    )


ON = OnFeatures(ids=("h",))


@pytest.mark.parametrize(("tip", "what"), [(0.0, "flat"), (0.6, "flatter"), (3.4, "sharper")])
def test_the_point_of_a_drill_need_not_be_the_drawn_one(tip, what):
    """Drilled with 140°, 1.24 high on Ø6.8, whatever the drawn bottom is like."""
    solid = SIZE - bar(0, 0, 3.4, 8.0, 21.0, tip)
    drill = Drill(id="d", tool="t4", on=ON)
    assert left_of(hole(6.8, 12.0, False), solid, drill) == []


def test_a_blind_hole_that_is_not_deep_enough_is_left():
    solid = SIZE - bar(0, 0, 3.4, 8.0, 21.0, 2.0)
    drill = Drill(id="d", tool="t4", on=ON, depth_mm=9.0)
    left = left_of(hole(6.8, 12.0, False), solid, drill)
    cone = pi * 3.4**2 * 1.24 / 3.0
    assert left and left[0].volume == pytest.approx(pi * 3.4**2 * 3.0 - cone, rel=0.02)
    ((x, y, z),) = left[0].middles
    assert (x, y) == pytest.approx((0.0, 0.0), abs=0.01) and 6.0 < z < 11.0


def test_a_thread_drawn_at_its_outside_is_done_when_it_is_tapped():
    """M8 drawn as Ø8, drilled 6.8: the ring of 0.6 is the thread's."""
    solid = SIZE - bar(0, 0, 4.0, -1.0, 21.0)
    drill = Drill(id="d", tool="t4", on=ON)
    drawn = hole(8.0, 20.0, True)
    assert left_of(drawn, solid, drill) != []
    assert left_of(drawn, solid, drill, Tap(id="t", tool="t5", on=ON, depth_mm=20.0)) == []
    thin = (*TOOLS, tool(7, "drill-5-8"))
    narrow = drill.model_copy(update={"tool": "t7"})
    tapped = Tap(id="t", tool="t5", on=ON, depth_mm=20.0)
    assert left_of(drawn, solid, narrow, tapped, tools=thin) != []


def test_a_further_setup_with_nothing_in_it_finishes_nothing():
    bare = good().model_copy(update={"setups": (*good().setups, turned_over())})
    assert answer(bare).left_mm3 == pytest.approx(answer(good()).left_mm3)
    assert not answer(bare).ready
