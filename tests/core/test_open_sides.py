"""Pockets with open sides are cleared from beside the stock, however far that stands out."""

from __future__ import annotations

from dataclasses import replace

import pytest

from machining.facts.route import walk
from machining.geometry.laid import laid
from machining.memo import Memo
from machining.plan.operation import Face, RoughPocket
from machining.plan.places import OnFeatures
from machining.world.geometry import from_examined
from machining.world.part import Part
from machining.world.stock.block import sawn_block
from tools.demo_parts import box, cut

from .build import LIBRARY, plan
from .shapes_in_step import fused, plate, read

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
    assert op.found.loads.width_over(0.95) <= 1.25 * 2.4
    assert op.found.hardest.width <= 1.4 * 2.4
    assert op.found.trace.volume() == pytest.approx(op.seen.cut_mm3, rel=0.01)
