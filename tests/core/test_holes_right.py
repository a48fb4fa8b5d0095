"""Holes as they are found: through or blind, each by itself, and as wide as what made them."""

from __future__ import annotations

from math import pi
from pathlib import Path

import pytest

from machining.facts.bored import found_diameters
from machining.facts.context import Ready
from machining.facts.route import walk
from machining.geometry.kernel import examine
from machining.plan.apply import apply
from machining.plan.operation import Drill, Ream, Tap
from machining.plan.places import OnFeatures, Points
from machining.world.feature import Hole
from machining.world.recognise import recognise

from .build import (
    DRILL,
    FACE,
    LIBRARY,
    MEMO,
    PART,
    TAP,
    TOOLS,
    answer,
    finding,
    ids,
    plan,
    result,
    tool,
)

MORE = (*TOOLS, tool(7, "drill-5-8"), tool(8, "drill-8-5"), tool(9, "reamer-6"))


def drilled_block(path: Path) -> bytes:
    """A STEP file: a block of 60 x 40 x 30 with a blind hole of Ø10, 15 deep and a cone of 118°
    below, a through hole of Ø8 with a counterbore of Ø14, 6 deep, and a plain through hole of Ø5.
    """
    from OCP.BRepAlgoAPI import BRepAlgoAPI_Cut
    from OCP.BRepPrimAPI import BRepPrimAPI_MakeBox, BRepPrimAPI_MakeCone, BRepPrimAPI_MakeCylinder
    from OCP.gp import gp_Ax2, gp_Dir, gp_Pnt
    from OCP.STEPControl import STEPControl_StepModelType, STEPControl_Writer

    def down(x: float, y: float, z: float) -> gp_Ax2:
        return gp_Ax2(gp_Pnt(x, y, z), gp_Dir(0, 0, -1))

    body = BRepPrimAPI_MakeBox(60.0, 40.0, 30.0).Shape()
    for tool_ in (
        BRepPrimAPI_MakeCylinder(down(15, 20, 30), 5.0, 15.0).Shape(),
        BRepPrimAPI_MakeCone(down(15, 20, 15), 5.0, 0.0, 3.004).Shape(),
        BRepPrimAPI_MakeCylinder(down(35, 20, 30), 4.0, 30.0).Shape(),
        BRepPrimAPI_MakeCylinder(down(35, 20, 30), 7.0, 6.0).Shape(),
        BRepPrimAPI_MakeCylinder(down(52, 20, 30), 2.5, 30.0).Shape(),
    ):
        body = BRepAlgoAPI_Cut(body, tool_).Shape()
    writer = STEPControl_Writer()
    writer.Transfer(body, STEPControl_StepModelType.STEPControl_AsIs)
    writer.Write(str(path))
    return path.read_bytes()


def test_a_drill_s_cone_and_a_counterbore_s_step_close_a_hole(tmp_path):
    found = recognise(examine(drilled_block(tmp_path / "drilled.step")))
    holes = {each.diameter_mm: each for each in found if isinstance(each, Hole)}
    assert {wide: each.through for wide, each in holes.items()} == {
        14.0: False,
        10.0: False,
        8.0: True,
        5.0: True,
    }
    assert (holes[10.0].length_mm, holes[10.0].opens) == (15.0, ("+z",))
    assert holes[14.0].length_mm == 6.0


BLIND = Hole(
    id="blind",
    point=(-20.0, 20.0, 8.0),
    axis="+z",
    diameter_mm=6.8,
    length_mm=12.0,
    through=False,
    opens=("+z",),
)
MIXED = PART.model_copy(update={"typed": (*PART.typed, BLIND)})


@pytest.mark.parametrize("order", [("hole0", "blind"), ("blind", "hole0")])
def test_each_hole_of_an_operation_goes_as_deep_as_it_is_itself(order):
    """Through ones past the bottom, blind ones to it, whichever comes first."""
    of = plan(FACE, DRILL.model_copy(update={"on": OnFeatures(ids=order)}), part=MIXED)
    op = walk(of, LIBRARY, MEMO).operations()[-1]
    depths = {
        id: mouth - bottom for id, (_, _, mouth, bottom) in zip(order, op.work.holes, strict=True)
    }
    point = op.work.point_height
    assert depths["blind"] == pytest.approx(12.0 + point)
    assert depths["hole0"] == pytest.approx(20.0 + op.operation.past_mm + point)
    assert "reach.gouges" not in ids(of)


def test_a_hole_is_as_wide_as_the_drill_that_made_it():
    of = plan(FACE, DRILL.model_copy(update={"tool": "t7"}), TAP, tools=MORE)
    tapped = next(op for op in walk(of, LIBRARY, MEMO).operations() if op.id == "tap")
    assert isinstance(tapped, Ready)
    assert found_diameters(tapped) == pytest.approx([5.8, 5.8], abs=0.01)
    assert answer(of).figures["tap.thread_share"].value == pytest.approx(
        (8 - 5.8) / (1.299 * 1.25), rel=0.01
    )
    before = next(op for op in walk(of, LIBRARY, MEMO).operations() if op.id == "drill")
    assert found_diameters(before) == (0.0, 0.0)


@pytest.mark.parametrize("drill", ["t7", "t8"])
def test_a_tap_in_a_hole_of_the_wrong_size_stops_and_another_drill_settles_it(drill):
    """Ø5.8 asks for 135 % of an M8 thread; in Ø8.5 there is none."""
    of = plan(FACE, DRILL.model_copy(update={"tool": drill}), TAP, tools=MORE)
    found = finding(of, "size.hole-before")
    assert found.severity == "stop" and found.fixes
    after = apply(of, found.fixes[0].edits)
    assert "size.hole-before" not in ids(after)
    assert result(answer(after), "drill").tool_name.startswith("drill 6.8")


def test_a_sound_tap_and_a_sound_reamer_are_not_told():
    assert "size.hole-before" not in ids(plan(FACE, DRILL, TAP))
    hole = Points(at_mm=((0.0, -20.0),), diameter_mm=6.0, depth_mm=20.0, through=True)
    first, then = Drill(id="d", tool="t7", on=hole), Ream(id="r", tool="t9", on=hole)
    assert "size.hole-before" not in ids(plan(FACE, first, then, tools=MORE))


def test_a_reamer_in_a_hole_that_is_wide_already():
    hole = Points(at_mm=((0.0, -20.0),), diameter_mm=6.0, depth_mm=20.0, through=True)
    of = plan(FACE, Drill(id="d", tool="t4", on=hole), Ream(id="r", tool="t9", on=hole), tools=MORE)
    found = finding(of, "size.hole-before")
    assert (found.severity, found.values["has"].value) == ("stop", pytest.approx(6.8, abs=0.01))


def test_a_hole_that_is_not_there_is_another_finding():
    of = plan(FACE, Tap(id="tap", tool="t5", on=DRILL.on, depth_mm=20.0))
    assert "size.hole-before" not in ids(of) and "size.order" in ids(of)


def test_what_a_drill_takes_and_how_long_a_tap_is_in_its_hole():
    """π/4·D² for its feed; a tap is in air over the hole's mouth, in and out."""
    of = answer(plan(FACE, DRILL, TAP))
    drilled, tapped = result(of, "drill"), result(of, "tap")
    assert drilled.found_removal_cm3_min == pytest.approx(
        pi / 4 * 6.8**2 * drilled.feed_mm_min / 1000.0, rel=0.03
    )
    deep = TAP.depth_mm
    over = next(
        op for op in walk(plan(FACE, DRILL, TAP), LIBRARY, MEMO).operations() if op.id == "tap"
    )
    start = max(float(leg.points[0, 2]) for leg in over.path.legs if leg.kind == "plunge")
    share = deep / (deep + start - over.work.holes[0][2])
    assert tapped.in_cut_s == pytest.approx(share * tapped.cutting_s)
    assert tapped.air_s == pytest.approx((1.0 - share) * tapped.cutting_s)
