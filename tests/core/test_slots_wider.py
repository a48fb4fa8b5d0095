"""Slots wider than their tool: down the middle and along both walls, or in loops; open ends."""

from __future__ import annotations

from dataclasses import replace
from math import pi

import pytest

from machining.ask.ways import ways
from machining.evaluate import evaluate
from machining.facts.route import walk
from machining.geometry.laid import laid
from machining.geometry.regions import rectangle
from machining.geometry.solids import section
from machining.memo import Memo
from machining.plan.apply import apply
from machining.plan.document import Plan
from machining.plan.edit import AddOperation
from machining.plan.operation import Slot
from machining.plan.places import Lines, OnFeatures
from machining.ways.first_setup import first_setup
from machining.world.feature import Pocket
from machining.world.geometry import from_examined
from machining.world.part import Part
from tools.demo_parts import box, cut

from .build import FACE, LIBRARY, MEMO, answer, finding, ids, plan, result, tool
from .shapes_in_step import plate, read
from .test_slots import EIGHT, LONG, SLOT

TWELVE = LONG.model_copy(update={"width_mm": 12.0, "corner_radius_mm": 6.0})
SMALL = SLOT.model_copy(update={"on": TWELVE, "cuts": "walls"})  # a Ø8 in a slot 12 wide
TOOLS = (*EIGHT, tool(10, "end-mill-12-z3"))


def slotted(operation):
    return plan(FACE, operation, tools=TOOLS)


def seen(operation):
    facts = walk(slotted(operation), LIBRARY, MEMO)
    return next(op for op in facts.operations() if op.id == operation.id)


@pytest.mark.parametrize("leave", [0.0, 0.3])
@pytest.mark.parametrize("cuts", ["walls", "loops"])
def test_a_smaller_tool_takes_all_the_slot_but_for_what_it_leaves(cuts, leave):
    op = seen(SMALL.model_copy(update={"cuts": cuts, "leave_mm": leave}))
    half = 6.0 - leave
    by_hand = 6.0 * (28.0 * 2.0 * half + pi * half**2)  # 28 straight, a round at each end, 6 deep
    assert op.before.solid.volume() - op.after.solid.volume() == pytest.approx(by_hand, rel=5e-3)
    trace = op.found.trace
    assert trace.volume() == pytest.approx(by_hand, rel=1e-2)
    assert trace.volume("rapid") == 0 and trace.volume("link") < 0.005 * by_hand


def test_the_middle_is_full_width_and_a_wall_what_is_left_of_half():
    mine, figures = result(answer(slotted(SMALL)), "slot"), answer(slotted(SMALL)).figures
    op = seen(SMALL)
    assert mine.width_mm == 8.0 and op.found.loads().width.max() == pytest.approx(8.0, rel=0.05)
    flat = [leg for leg in op.path.legs if leg.kind == "cut" and leg.points[1:, 2].max() <= -5.99]
    assert op.found.met.usual_width == pytest.approx(2.0, abs=0.1)  # (12 - 8) / 2, most of its way
    assert any(abs(abs(leg.points[:, 1]).max() - 2.0) < 0.01 for leg in flat)
    (width,) = (i.value for i in figures["slot.wall_force"].inputs if i.name == "width")
    assert width == pytest.approx(2.0)


def test_in_loops_it_meets_hardly_more_than_its_step_all_the_way_down():
    loops = SMALL.model_copy(update={"cuts": "loops", "step_down_mm": 6.0, "step_over_mm": 0.6})
    op = seen(loops)
    fed = [each for leg in op.path.legs if leg.kind == "cut" for each in leg.points[:, 2]]
    assert set(fed) == {-6.0}
    assert op.found.hardest.width <= 1.25 * 0.6
    default = result(answer(slotted(loops.model_copy(update={"step_over_mm": None}))), "slot")
    assert default.width_mm == pytest.approx(0.8)  # a tenth of the tool


def test_its_walls_lie_to_the_right_of_the_way_round():
    """With a tool that turns clockwise that is down-cut."""
    op = seen(SMALL)
    ring = next(leg.points for leg in op.path.legs[::-1] if leg.kind == "cut")[1:, :2]
    x, y = ring.T
    assert (x[:-1] * y[1:] - x[1:] * y[:-1]).sum() > 0  # counter-clockwise within the slot


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"cuts": "loops", "tool": "t9"}, "too little room beside the middle"),
        ({"cuts": "walls", "tool": "t10"}, "too little room beside the middle"),
        ({"tool": "t8", "on": TWELVE.model_copy(update={"width_mm": 20.0})}, "leaves a rib"),
    ],
)
def test_a_tool_that_can_not_go_that_way_is_told_with_one_that_can(change, words):
    told = finding(slotted(SMALL.model_copy(update=change)), "reach.tool-impossible")
    assert words in told.message and told.fixes


def test_a_tool_too_small_for_its_own_width_can_go_beside_its_middle():
    wrong = slotted(SLOT.model_copy(update={"on": TWELVE}))
    labels = [fix.label for fix in finding(wrong, "reach.tool-impossible").fixes]
    assert "Its middle, then both walls" in labels


def test_along_lines_it_is_as_wide_as_typed_and_no_wider_than_what_it_leaves():
    on = Lines(at_mm=(((-20.0, 0.0), (20.0, 0.0)),), top_mm=0.0)
    lines = SMALL.model_copy(update={"on": on, "depth_mm": 6.0, "width_mm": 12.0})
    taken = [o.solid.volume() for o in (seen(lines).before, seen(lines).after)]
    assert taken[0] - taken[1] == pytest.approx(6.0 * (40.0 * 12.0 + pi * 36.0), rel=5e-3)
    nothing = result(answer(slotted(lines.model_copy(update={"leave_mm": 6.0}))), "slot")
    assert "leave_mm is 6.0" in nothing.answers["reach"].reason


def test_the_other_ways_to_a_slot_are_compared_and_leave_no_stop():
    whole = SMALL.model_copy(update={"tool": "t10", "cuts": "width"})
    rows = ways(slotted(whole), LIBRARY, MEMO, "slot")
    assert [row["name"] for row in rows] == [
        "as it is now",
        "its middle, then both walls",
        "in loops from wall to wall",
    ]
    assert all(row["brings"] == 0 and row["time_s"] > 0 for row in rows[1:])
    full, walls, loops = (row["power_kw"] for row in rows)
    assert loops < walls < full
    back = ways(slotted(SMALL), LIBRARY, MEMO, "slot")
    assert "at the tool's own width" in [row["name"] for row in back]


@pytest.mark.parametrize(("west", "ends"), [(-60, 2), (0, 1)], ids=["both open", "one open"])
@pytest.mark.parametrize("cuts", ["width", "walls", "loops"])
def test_out_of_an_open_end_it_goes_until_nothing_of_its_round_is_left(west, ends, cuts):
    shape = cut(plate(), box(west, -6, 15, 120, 12, 30, 5.99 if ends == 1 else 0))
    memo, key = Memo(), f"open-slot-{ends}"
    geometry = from_examined(key, laid(read(shape)))
    library = replace(LIBRARY, geometries={key: geometry})
    bare = Plan(material="en-aw-6082", quantity=5, part=Part(geometry=key), tools=TOOLS)
    bare = apply(bare, [*first_setup(walk(bare, library, memo), "s1", "st1")])
    slot = Slot(
        id="slot",
        tool="t10" if cuts == "width" else "t7",
        on=OnFeatures(
            ids=(
                next(
                    f.id
                    for f in geometry.features
                    if getattr(f, "opens", "") == "+z" and isinstance(f, Pocket)
                ),
            )
        ),
        step_down_mm=3.0,
        cuts=cuts,
    )
    document = apply(bare, [AddOperation(setup="s1", operation=slot)])
    op = next(iter(walk(document, library, memo).operations()))
    low, high = op.lie.part_low, op.lie.part_high
    within = rectangle(
        (low[0] + high[0]) / 2.0 + (0 if ends == 2 else 28), 0, 99 if ends == 2 else 42, 11.98
    )
    assert section(op.after.solid, float(high[2]) - 5.0).intersection(within).area < 0.01
    told = {each.id for each in evaluate(document, library, memo).findings}
    assert not told & {"reach.gouges", "cut.at-rapid"}


def test_walls_cut_to_size_by_a_slot_are_judged_by_how_far_its_tool_is_pushed_off():
    library = replace(
        LIBRARY, settings=LIBRARY.settings.model_copy(update={"general_tolerance_mm": 0.01})
    )
    to_size = slotted(SMALL)
    assert "size.push-off" in ids(to_size, library)
    left = slotted(SMALL.model_copy(update={"leave_mm": 0.3}))
    assert "size.push-off" not in ids(left, library)
    (fix,) = finding(to_size, "size.push-off", library).fixes
    after = apply(to_size, fix.edits)
    assert [op.kind for op in after.setups[0].operations] == ["face", "slot", "finish_walls"]


def test_a_pulled_slot_is_offered_a_smaller_tool_for_both_walls():
    library = replace(
        LIBRARY, settings=LIBRARY.settings.model_copy(update={"general_tolerance_mm": 0.001})
    )
    whole = slotted(SMALL.model_copy(update={"tool": "t10", "cuts": "width"}))
    labels = [fix.label for fix in finding(whole, "size.pulled-slot", library).fixes]
    assert any(label.endswith("its middle, then both walls") for label in labels)
