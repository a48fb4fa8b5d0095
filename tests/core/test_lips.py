"""What stays at an open edge, what a straight tool would cut of a lip, and where a wall is met."""

from __future__ import annotations

from dataclasses import replace
from math import sqrt

import pytest
from OCP.BRepAlgoAPI import BRepAlgoAPI_Cut

from machining.plan.operation import RoughPocket, Slot
from machining.plan.places import DrawnArea, Lines, Rectangle
from machining.world.feature import Pocket
from machining.world.geometry import from_examined
from machining.world.part import Part, Requirement
from machining.world.stock.block import sawn_block
from tools.demo_parts import box

from .build import (
    FACE,
    LIBRARY,
    PART,
    POCKET,
    TOOLS,
    WALLS,
    after_fix,
    answer,
    changed,
    finding,
    ids,
    plan,
    tool,
)
from .shapes_in_step import read

EDGE = 25.0  # of the part and its blank, in Y
STEP = Pocket(
    id="step",
    loops=(((20.0, -EDGE, 14.0), (40.0, -EDGE, 14.0), (40.0, EDGE, 14.0), (20.0, EDGE, 14.0)),),
    opens="+z",
    depth_mm=6.0,
    corner_radius_mm=0.0,
    closed=False,
)
SHORT = "reach.stops-short"
AS_STEP = Rectangle(x_mm=30.0, y_mm=0.0, length_mm=20.0, width_mm=50.0, depth_mm=6.0)
EIGHT = tool(7, "end-mill-8-z3")


def cut(*operations):
    return plan(
        FACE,
        *operations,
        part=Part(size_mm=(80.0, 50.0, 20.0), typed=(STEP,)),
        stock=sawn_block(x=(0, 0), y=(0, 0), z=(8, 1)),
        tools=(*TOOLS, EIGHT),
    )


def roughed(on, **fields):
    own = {"step_down_mm": 3.0, "step_over_mm": 3.0, "leave_mm": 0.0, **fields}
    return RoughPocket(id="step", tool="t2", on=on, **own)


def slot(begin, end, **fields):
    lines = Lines(at_mm=(((30.0, begin), (30.0, end)),))
    return Slot(id="slot", tool="t7", on=lines, depth_mm=6.0, step_down_mm=3.0, **fields)


def test_a_step_typed_as_it_is_drawn_leaves_what_a_round_tool_leaves_in_its_corners():
    """Ø12 in a square corner: what stays of 6 by 6 beside its quarter."""
    found = finding(cut(roughed(AS_STEP)), SHORT)
    assert (found.severity, found.operation) == ("look", "step")
    assert found.values["count"].value == 4.0
    assert found.values["high"].value == pytest.approx(6.0)
    diagonal = 6.0 * sqrt(2.0) - 6.0  # from the corner to the round
    assert diagonal < found.values["wide"].value < 6.0


def test_drawn_out_past_the_edge_it_is_gone_and_nothing_else_comes():
    short = cut(roughed(AS_STEP))
    out = after_fix(short, finding(short, SHORT))
    on = out.setups[0].operations[-1].on
    assert (on.y_mm, on.width_mm) == (0.0, 2.0 * (EDGE + 6.0 + 1.0))
    assert on.x_mm + on.length_mm / 2.0 == pytest.approx(47.0)
    assert on.x_mm - on.length_mm / 2.0 == pytest.approx(20.0)  # the step's wall stays
    assert not {f.key for f in answer(out).open} - {f.key for f in answer(short).open}
    assert SHORT not in ids(out)


def test_lips_that_a_later_operation_takes_are_none():
    finer = RoughPocket(
        id="rest",
        tool="t7",
        on=AS_STEP.model_copy(update={"y_mm": -0.1, "width_mm": 80.0}),
        step_down_mm=3.0,
        step_over_mm=2.0,
        leave_mm=0.0,
    )
    assert SHORT not in {
        f.id for f in answer(cut(roughed(AS_STEP), finer)).open if f.operation == "step"
    }


def test_what_a_drawn_area_leaves_is_told_and_can_be_kept():
    corners = ((20.0, -25.0), (40.0, -25.0), (40.0, 25.0), (20.0, 25.0), (20.0, -25.0))
    drawn = cut(roughed(DrawnArea(lines=(corners,), depth_mm=6.0)))
    found = finding(drawn, SHORT)
    assert [fix.label for fix in found.fixes] == ["Keep it: {words}"]
    assert SHORT not in {f.id for f in answer(after_fix(drawn, found)).open if not f.kept}


@pytest.mark.parametrize(
    ("begin", "end", "severity"),
    [
        (-22.0, 40.0, "look"),  # its middle 3 before the edge
        (-20.5, 40.0, "look"),  # a web of 0.5 stays
        (-18.0, 40.0, None),  # a blind slot, 3 before the edge with its round
        (-25.0, 40.0, "note"),  # out by its middle
        (-28.0, 40.0, "note"),
        (-29.0, 40.0, None),
    ],
)
def test_a_slot_stops_before_its_edge_at_it_or_past_it(begin, end, severity):
    found = [f for f in answer(cut(slot(begin, end))).findings if f.id == SHORT]
    assert [f.severity for f in found] == ([severity] if severity else [])


def test_the_horns_of_a_slot_are_as_wide_as_its_round_leaves_them():
    """3 before the edge with a radius of 4: half of 8 less √(16 − 9)."""
    short = cut(slot(-22.0, 40.0))
    found = finding(short, SHORT)
    assert found.values["count"].value == 2.0
    assert found.values["wide"].value == pytest.approx(4.0 - sqrt(7.0), abs=0.05)
    out = after_fix(short, found)
    assert out.setups[0].operations[-1].on.at_mm[0] == ((30.0, -30.0), (30.0, 40.0))
    assert SHORT not in ids(out)


def test_a_slot_typed_as_a_rectangle_goes_out_with_all_of_its_round():
    typed = AS_STEP.model_copy(update={"length_mm": 8.0})
    short = cut(Slot(id="slot", tool="t7", on=typed, step_down_mm=3.0))
    found = finding(short, SHORT)
    assert found.values["count"].value == 4.0
    out = after_fix(short, found)
    assert out.setups[0].operations[-1].on.width_mm == 2.0 * (EDGE + 8.0 + 1.0)
    assert SHORT not in {f.id for f in answer(out).findings}


# -- a lip of the part


def under_a_lip(length=20.0, depth=12.0):
    """A groove 10 wide, 20 wide from 6 below the top on: cut as wide as it is below."""
    body = box(-40, -25, 0, 80, 50, 20)
    for west, low, wide, high in ((-5, 8, 10, 12), (-10, 8, 20, 6)):
        groove = box(west, -25, low, wide, 50, high)
        body = BRepAlgoAPI_Cut(body, groove).Shape()
    geometry = from_examined("tee", read(body))
    library = replace(LIBRARY, geometries={"tee": geometry})
    on = Rectangle(x_mm=0.0, y_mm=0.0, length_mm=length, width_mm=70.0, depth_mm=depth)
    of = plan(
        FACE,
        roughed(on),
        part=Part(geometry="tee"),
        stock=sawn_block(x=(0, 0), y=(0, 0), z=(8, 1)),
    )
    return of, library


def test_a_straight_tool_would_cut_the_lip_over_what_it_clears():
    of, library = under_a_lip()
    found = finding(of, "reach.undercut-lip", library)
    assert (found.severity, found.operation) == ("stop", "step")
    assert found.values["over"].value == pytest.approx(6.0, abs=0.05)
    lips = 2 * 5.0 * 50.0 * 6.0
    assert found.values["volume"].value == pytest.approx(lips, rel=0.05)
    assert "reach.gouges" not in ids(of, library)


def test_only_the_opening_is_offered_and_nothing_of_the_part_is_cut_then():
    of, library = under_a_lip()
    found = finding(of, "reach.undercut-lip", library)
    open_only = after_fix(changed(of, "operation:step", tool="t3"), found)
    assert open_only.setups[0].operations[-1].on.length_mm == pytest.approx(10.0, abs=0.01)
    assert not {"reach.undercut-lip", "reach.gouges"} & ids(open_only, library)


def test_a_wall_that_stands_up_from_its_floor_is_a_gouge_and_no_lip():
    wide = cut(roughed(AS_STEP.model_copy(update={"x_mm": 28.0, "length_mm": 24.0})))
    assert finding(wide, "reach.gouges").severity == "stop"
    assert "reach.undercut-lip" not in ids(wide)


# -- where a wall is met


def asked(**fields):
    """The plain part, its recess finished, with a width that is asked of that."""
    wide = Requirement(id="w", what="Recess 24 wide", feature="recess", **fields)
    return plan(FACE, POCKET, WALLS, part=PART.model_copy(update={"requirements": (wide,)}))


def test_a_wall_that_is_asked_for_is_not_met_straight_down():
    of = asked(nominal_mm=24.0, upper_mm=0.05)
    found = finding(of, "reach.turn-in")
    assert (found.severity, found.operation) == ("look", "walls")
    assert [fix.label for fix in found.fixes[:-1]] == ["Come in {how}"] * 2
    for place in (0, 1):
        assert "reach.turn-in" not in ids(after_fix(of, found, place))
    assert not {f.key for f in answer(after_fix(of, found)).open} - {f.key for f in answer(of).open}


def test_nothing_is_said_of_a_wall_of_which_nothing_is_asked():
    assert "reach.turn-in" not in ids(asked())
    assert "reach.turn-in" not in ids(plan(FACE, POCKET, WALLS))
    assert "reach.turn-in" in ids(asked(finish_um=3.2))
    assert "reach.turn-in" not in ids(asked(nominal_mm=8.0, upper_mm=0.05))  # that is its depth
