"""Slots at the tool's own width: where they go, what they take and ask, by hand; what is none."""

from __future__ import annotations

from math import pi, radians, tan

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from shapely import LineString

from machining.facts.kinds.slots import _middle_line
from machining.facts.route import walk
from machining.motion.path import Pen
from machining.motion.paths.slots import along_slot
from machining.plan.operation import FinishWalls, Slot
from machining.plan.places import OnFeatures, Rectangle
from machining.quantities.errors import OutOfRange

from .build import FACE, LIBRARY, MEMO, TOOLS, answer, finding, ids, plan, result, tool

LONG = Rectangle(x_mm=0, y_mm=0, length_mm=40, width_mm=8, corner_radius_mm=4, depth_mm=6, top_mm=0)
EIGHT = (*TOOLS, tool(7, "end-mill-8-z3"), tool(8, "end-mill-6-z3"), tool(9, "end-mill-10-z3"))
SLOT = Slot(id="slot", tool="t7", on=LONG, step_down_mm=3.0, ramp_deg=2.0)


def slotted(operation=SLOT, **fields):
    return plan(FACE, operation, tools=EIGHT, **fields)


def along(line, heights, ramp):
    pen = Pen(20.0, 2.0)
    along_slot(pen, line, 0.0, heights, ramp)
    return pen.path()


def figures(of):
    return {
        name.partition(".")[2]: each.value
        for name, each in answer(of).figures.items()
        if name.startswith("slot.")
    }


def test_it_goes_down_to_and_fro_and_once_flat_along_each_level():
    path = along(((0.0, 0.0), (32.0, 0.0)), [-3.0, -6.0], 2.0)
    cuts = [leg for leg in path.legs if leg.kind == "cut"]
    assert len(cuts) == 2
    down = 3.0 / tan(radians(2.0))  # 85.9 along a slope: 32, 32, then 21.9, the rest flat
    first = cuts[0].points
    assert first[:, 2] == pytest.approx(
        [0.0, -32 * tan(radians(2)), -64 * tan(radians(2)), -3.0, -3.0, -3.0]
    )
    assert first[:, 0] == pytest.approx([0.0, 32.0, 0.0, down - 64.0, 32.0, 0.0])
    assert cuts[1].points[-1] == pytest.approx([0.0, 0.0, -6.0])


@given(st.floats(1.0, 80.0), st.floats(0.2, 20.0), st.floats(1.5, 45.0))
def test_property_no_step_is_steeper_than_its_ramp_and_all_of_it_is_cut(length, deep, ramp):
    path = along(((0.0, 0.0), (length, 0.0)), [-deep], ramp)
    points = np.concatenate([leg.points for leg in path.legs if leg.kind == "cut"])
    flat, fall = np.abs(np.diff(points[:, 0])), -np.diff(points[:, 2])
    assert (fall <= flat * tan(radians(ramp)) + 1e-9).all() and (fall >= -1e-9).all()
    at_floor = points[points[:, 2] <= -deep + 1e-9][:, 0]
    assert at_floor.min() == pytest.approx(0.0) and at_floor.max() == pytest.approx(length)


def test_it_takes_its_own_shape_and_cuts_with_all_its_width():
    seen = answer(slotted())
    mine = result(seen, "slot")
    # a straight piece 32 long and a round at each end, 6 deep under the faced top
    assert mine.removed_mm3 == pytest.approx(6.0 * (32.0 * 8.0 + pi * 16.0), rel=0.01)
    assert (mine.depth_mm, mine.width_mm) == (3.0, 8.0)
    assert mine.title == "Slot" and {each.state for each in mine.answers.values()} == {"fine"}
    now = figures(slotted())
    # its whole width, as deep as the slope has left it
    assert now["found_width"] == pytest.approx(8.0, rel=0.03)
    assert now["removal"] == pytest.approx(
        now["found_depth"] * now["found_width"] * now["feed"] / 1000.0
    )
    assert 1.0 < now["found_depth"] <= 3.0
    assert now["slot_pull"] > 0


def test_it_is_pulled_by_more_than_a_close_tolerance_and_says_so():
    loose = LIBRARY.settings
    tight = loose.model_copy(update={"general_tolerance_mm": 0.001})
    library = type(LIBRARY)(
        **{
            name: getattr(LIBRARY, name)
            for name in ("materials", "tools", "holders", "assemblies", "machines", "holdings")
        },
        settings=tight,
    )
    found = finding(slotted(), "size.pulled-slot", library)
    assert found.severity == "look" and "each way is asked for" in found.message
    assert "size.pulled-slot" not in ids(slotted())


@pytest.mark.parametrize(
    ("assembly", "words"),
    [("t9", "is wider than the slot"), ("t8", "leaves a part of the slot")],
)
def test_a_tool_of_another_width_is_no_tool_for_it(assembly, words):
    wrong = slotted(SLOT.model_copy(update={"tool": assembly}))
    assert words in finding(wrong, "reach.tool-impossible").message
    labels = [fix.label for fix in finding(wrong, "reach.tool-impossible").fixes]
    assert any(label.startswith(("Use T7", "Use T{number}")) for label in labels)


def test_too_steep_for_the_tool_is_told():
    steep = slotted(SLOT.model_copy(update={"ramp_deg": 40.0}))
    assert {"reach.entry", "cut.plunge"} & ids(steep)


@pytest.mark.parametrize(
    "on",
    [
        LONG.model_copy(update={"length_mm": 8.0, "width_mm": 8.0}),  # as long as wide: a hole
        OnFeatures(ids=("hole0",)),
    ],
)
def test_what_is_no_straight_slot_is_unknown_with_its_reason(on):
    mine = result(answer(slotted(SLOT.model_copy(update={"on": on}))), "slot")
    assert mine.answers["reach"].state == "unknown"
    assert (
        "straight" in mine.answers["reach"].reason or "one pocket" in mine.answers["reach"].reason
    )


def test_it_was_not_plannable_as_a_pocket_and_finishing_it_still_is_not():
    walls = FinishWalls(id="slot", tool="t7", on=LONG, step_down_mm=3.0)
    assert "small enough" in result(answer(slotted(walls)), "slot").answers["reach"].reason
    assert walk(slotted(), LIBRARY, MEMO).operations()[1].work is not None


@given(st.floats(-90, 90), st.floats(1.0, 60.0), st.floats(2.0, 20.0))
def test_property_the_middle_of_a_straight_slot_is_found_however_it_lies(turn, longer, wide):
    c, s = np.cos(radians(turn)), np.sin(radians(turn))
    ends = [(-longer / 2 * c, -longer / 2 * s), (longer / 2 * c, longer / 2 * s)]
    found, width = _middle_line(LineString(ends).buffer(wide / 2.0, quad_segs=64))
    assert width == pytest.approx(wide, rel=0.01)
    assert LineString(found).hausdorff_distance(LineString(ends)) < 0.02 * (wide + longer)


def test_a_bent_slot_is_none():
    bent = LineString([(0, 0), (20, 0), (20, 20)]).buffer(4.0)
    with pytest.raises(OutOfRange, match="straight and longer than it is wide"):
        _middle_line(bent)
