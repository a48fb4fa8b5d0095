"""The findings that come from cutting practice: a plan that has each, its words, and fixes that
settle it.
"""

from __future__ import annotations

import re
import sys
from collections.abc import Callable
from dataclasses import dataclass, replace
from math import pi, sin
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.integrate import quad

from machining.cutting.speeds import feed_in_steps, speed_in_steps
from machining.findings.finding import in_words
from machining.findings.rules import OPERATION_RULES, SETUP_RULES, STATION_RULES
from machining.plan.apply import apply
from machining.plan.document import Plan
from machining.plan.edit import Keep, MoveOperation
from machining.plan.operation import (
    Chamfer,
    Drill,
    Engrave,
    FinishFloor,
    FinishWalls,
    RoughPocket,
    Slope,
)
from machining.plan.places import OnFeatures, Points, Rectangle, Text
from machining.reaching.deflection import tool_push_off
from machining.world.feature import Flat, Hole, Pocket
from machining.world.geometry import of_block
from machining.world.library import Library
from machining.world.part import Part, Requirement

from .build import (
    DRILL,
    FACE,
    GOOD,
    LIBRARY,
    PART,
    POCKET,
    ROUGH,
    STOCK,
    TAP,
    TOOLS,
    after_fix,
    answer,
    changed,
    finding,
    good,
    ids,
    on_machine,
    plan,
    result,
    tool,
    with_settings,
)

BLIND_HOLE = Hole(
    id="blind",
    point=(0.0, -20.0, 4.0),
    axis="+z",
    diameter_mm=6.8,
    length_mm=16.0,
    through=False,
    opens=("+z",),
)
BLIND = OnFeatures(ids=("blind",))
NARROW = Pocket(
    id="slot",
    loops=(((-20.0, -4.02, 14.0), (20.0, -4.02, 14.0), (20.0, 4.02, 14.0), (-20.0, 4.02, 14.0)),),
    opens="+z",
    depth_mm=6.0,
    corner_radius_mm=4.0,
)
SLOT = OnFeatures(ids=("slot",))
SMALL = "SMALL SIGNS BY THE HUNDRED - SMALL SIGNS BY THE SCORE"
DEEP = Rectangle(x_mm=0, y_mm=0, length_mm=60, width_mm=40, corner_radius_mm=8, depth_mm=14)
WIDE = Rectangle(x_mm=0, y_mm=0, length_mm=60, width_mm=40, corner_radius_mm=8, depth_mm=6)
MORE = (
    *TOOLS,
    tool(7, "roughing-mill-16-z4"),
    tool(8, "chamfer-8-90"),
    tool(9, "ball-mill-8"),
    tool(10, "end-mill-6-z3"),
    tool(11, "engraver-6-60"),
)


def tools_like(key: str, **change: object) -> Library:
    """The library with one tool changed."""
    return replace(
        LIBRARY, tools={**LIBRARY.tools, key: LIBRARY.tools[key].model_copy(update=change)}
    )


def material_like(**change: object) -> Library:
    return replace(
        LIBRARY,
        materials={
            **LIBRARY.materials,
            "en-aw-6082": LIBRARY.materials["en-aw-6082"].model_copy(update=change),
        },
    )


def drawn(of: Plan, what: str, each_way: float, finish_um: float | None = None) -> Plan:
    asked = Requirement(
        id="r",
        what=what,
        feature="recess",
        nominal_mm=40,
        upper_mm=each_way,
        lower_mm=-each_way,
        finish_um=finish_um,
    )
    return of.model_copy(update={"part": of.part.model_copy(update={"requirements": (asked,)})})


def steep(ramp: float, tool_id: str) -> Plan:
    return plan(
        FACE, POCKET.model_copy(update={"tool": tool_id, "ramp_deg": ramp, "on": WIDE}), tools=MORE
    )


def deep_slot() -> Plan:
    return plan(
        FACE,
        POCKET.model_copy(update={"tool": "t10", "step_over_mm": 5.0, "step_down_mm": 8.0}),
        tools=MORE,
    )


def deep_drill() -> Plan:
    holes = tuple(
        (
            each.model_copy(update={"length_mm": 40.0})
            if isinstance(each, Hole) and each.through
            else each
        )
        for each in PART.typed
    )
    return plan(
        DRILL.model_copy(update={"peck_mm": None}),
        material="c45",
        part=PART.model_copy(update={"size_mm": (80.0, 50.0, 40.0), "typed": holes}),
    )


def blind_thread() -> Plan:
    part = PART.model_copy(update={"typed": (*PART.typed, BLIND_HOLE)})
    return plan(
        FACE,
        DRILL.model_copy(update={"on": BLIND}),
        TAP.model_copy(update={"on": BLIND, "depth_mm": 14.0}),
        material="x5crnimo17-12-2",
        part=part,
    )


def slot(*more: FinishWalls) -> Plan:
    return plan(
        FACE,
        RoughPocket(id="rough-slot", tool="t3", on=SLOT, step_down_mm=3, step_over_mm=4),
        *more,
        part=Part(size_mm=PART.size_mm, typed=(NARROW,)),
    )


def ball_floor() -> Plan:
    floor = FinishFloor(id="floor", tool="t9", on=POCKET.on, step_over_mm=0.8)
    return drawn(
        plan(FACE, POCKET.model_copy(update={"leave_floor_mm": 0.3}), floor, tools=MORE),
        "Floor",
        0.2,
        finish_um=5.0,
    )


def two_belts() -> Plan:
    """One part of steel on Dunlin: the face mill turns on the low belt, the end mills on the high
    one, and the face is cut in between.
    """
    return on_machine(plan(ROUGH, FACE, POCKET, material="c45", quantity=1), "dunlin")


def half_open() -> Plan:
    """A pocket whose wall runs through the middle of a hole that is drilled after it."""
    beside = RoughPocket(
        id="beside",
        tool="t3",
        on=Rectangle(x_mm=-37, y_mm=0, length_mm=10, width_mm=20, corner_radius_mm=4, depth_mm=10),
        step_down_mm=4,
        step_over_mm=1.6,
    )
    return plan(FACE, beside, DRILL)


def shown_face(each_way: float = 0.8) -> Plan:
    bare = plan(FACE.model_copy(update={"ways": "both"}))
    top = next(
        f.id for f in of_block(bare.part).features if isinstance(f, Flat) and f.faces == "+z"
    )
    asked = Requirement(id="r", what="Top", feature=top, finish_um=each_way)
    return bare.model_copy(update={"part": bare.part.model_copy(update={"requirements": (asked,)})})


def typed_for_steel() -> Plan:
    return changed(
        changed(good(), "plan", material="c45"), "operation:rough", rpm=4000.0
    ).model_copy(update={"material": "en-aw-6082"})


@dataclass(frozen=True)
class Case:
    id: str
    make: Callable[[], Plan]
    settled_by: tuple[int, ...] = (0,)  # which fixes settle it
    words: str = ""
    severity: str = "look"
    library: Library = LIBRARY


CASES = [
    Case(
        "cut.slot-deep",
        deep_slot,
        (0, 1),
        "It cuts 5.0 mm wide, nearly its whole diameter, at 8.0 mm: the depth of a side cut.",
    ),
    Case(
        "cut.one-pass",
        lambda: plan(
            FACE, ROUGH.model_copy(update={"tool": "t3", "step_down_mm": 18.0, "step_over_mm": 2.4})
        ),
        (0, 1),
        "18.0 mm at 2.4 mm wide is ×2.3 its diameter in one pass; the depth wants several.",
    ),
    Case(
        "cut.peck", deep_drill, (0,), "×5.9 deep in C45 without a peck: chips pack in the flutes."
    ),
    Case(
        "cut.effective-speed",
        lambda: plan(*GOOD, Chamfer(id="edge", tool="t8", size_mm=0.3), tools=MORE),
        (0,),
        "Where it works, at Ø 1.1 mm, its edge runs 41 m/min; the material wants 150 m/min.",
    ),
    Case(
        "cut.drill-slow",
        lambda: plan(
            FACE,
            Drill(id="tiny", tool="t4", on=Points(at_mm=((0, 20),), diameter_mm=1.0, depth_mm=3)),
        ),
        (0,),
        "At 12000 rpm this drill cuts 38 m/min; the material wants 80 m/min or more. Another way to"
        " make the hole may be quicker.",
        library=tools_like("drill-6-8", diameter_mm=1.0),
    ),
    Case(
        "cut.tap-risk",
        blind_thread,
        (0,),
        "A blind thread, ×1.8 deep in X5CrNiMo17-12-2 (316): a broken tap costs the part.",
    ),
    Case("cut.life", lambda: good().model_copy(update={"quantity": 30_000}), ()),
    Case(
        "cut.only-one",
        lambda: good().model_copy(update={"quantity": 9_000}),
        (),
        library=tools_like("drill-6-8", on_hand=1),
    ),
    Case(
        "cut.plunge",
        lambda: steep(14.0, "t6"),
        (0,),
        "It goes down at 14.0°, steeper than the 10.0° this tool ramps at: chips pack under its"
        " centre.",
    ),
    Case(
        "cut.values-source",
        good,
        (0,),
        "Speed and chip are a supplier's (edge sheet 7), not proven here.",
        "note",
        material_like(
            cutting_data=tuple(
                row.model_copy(update={"kept_by": "supplier", "source": "edge sheet 7"})
                for row in LIBRARY.materials["en-aw-6082"].cutting_data
            )
        ),
    ),
    Case("cut.dust-mist", lambda: plan(*GOOD, material="ti-6al-4v"), (0,), severity="note"),
    Case("cut.interrupted", half_open, (0, 1)),
    Case(
        "cut.up-cut",
        shown_face,
        (0, 1),
        "Cut both ways, every second pass goes against the feed and shows; Top asks 0.80 µm.",
    ),
    Case(
        "cut.material-changed",
        typed_for_steel,
        (0, 1),
        "Its speed and feed were set for C45; the part is of EN AW-6082. Look at feeds, pecks and"
        " sizes again.",
    ),
    Case(
        "cut.special-tool",
        lambda: plan(FACE, Slope(id="slope", tool="t8", size_mm=0.8, angle_deg=45), tools=MORE),
        (0, 1),
        "chamfer 8×90 is made to order: 15 days and 180.",
        library=tools_like("chamfer-8-90", order_days=15, cost=180, on_hand=0),
    ),
    Case(
        "cut.range-change",
        two_belts,
        (),
        "The range is changed by hand 2 times, 8:00 of attendance; 1 would do.",
    ),
    Case(
        "reach.entry",
        lambda: steep(8.0, "t7"),
        (0, 1),
        "T7 does not cut over its centre and goes down at 8.0°; it takes 5.0° at most.",
        "stop",
    ),
    Case(
        "reach.entry",
        lambda: plan(
            FACE,
            POCKET.model_copy(update={"enter": "plunge", "tool": "t7", "on": WIDE}),
            tools=MORE,
        ),
        (0, 1),
        severity="stop",
    ),
    Case(
        "cut.plunge",
        lambda: plan(FACE, POCKET.model_copy(update={"enter": "plunge"})),
        (0, 1, 3),
        "T3 goes straight down: its middle hardly cuts, and the chips have nowhere to go.",
    ),
    Case(
        "reach.entry",
        lambda: plan(FACE, POCKET.model_copy(update={"enter": "hole", "on": DEEP})),
        (0, 1, 2),
        "T3, 8.0 mm wide, is to go down into a hole, and 0.0 mm stands open there.",
        "stop",
    ),
    Case(
        "reach.tool-impossible",
        lambda: changed(good(), "operation:tap", tool="t4"),
        (0,),
        "T4 is a drill: it can't do this.",
        "stop",
    ),
    Case(
        "reach.tool-impossible",
        lambda: changed(good(), "operation:rough", tool="t4"),
        (0,),
        severity="stop",
    ),
    Case(
        "reach.slender-tool",
        lambda: changed(good(), "tool:t3", stick_out_mm=42.0),
        (0,),
        "T3 stands out ×5.3 its diameter: it bends and sings.",
    ),
    Case(
        "reach.slot-width",
        lambda: slot(FinishWalls(id="after", tool="t3", on=SLOT, step_down_mm=6)),
        (0,),
        "T3 is as wide as the slot, 8.0 mm: nothing is left to finish its walls with.",
    ),
    Case(
        "size.pulled-slot",
        slot,
        (0,),
        "T3 cuts the slot of 8.0 mm at its own width: it is pulled towards one wall. Rough it"
        " smaller, then finish both walls.",
    ),
    Case(
        "travel.feed-unreachable",
        lambda: plan(
            FACE,
            Engrave(
                id="text",
                tool="t11",
                feed_mm_min=6000.0,
                on=Text(text=SMALL, height_mm=1.2, x_mm=-38, y_mm=18),
            ),
            tools=MORE,
        ),
        (0, 1),
    ),
    Case("size.spring-pass", lambda: drawn(good(), "Pocket", 0.025), (0, 1)),
    Case(
        "size.worn-finisher",
        lambda: changed(drawn(good(), "Pocket", 0.014), "operation:walls", passes=2),
        (0,),
        "T3 also roughs (operation 30) and finishes a band of 0.028 mm with what is left of its"
        " edge.",
    ),
    Case(
        "size.finish",
        ball_floor,
        (0,),
        "Passes 0.800 mm apart leave cusps of 20.05 µm; the drawing asks 5.00 µm.",
    ),
    Case(
        "size.floor-pass", lambda: drawn(on_machine(good(), "dunlin"), "Pocket depth", 0.005), (0,)
    ),
]


def names(case: Case) -> str:
    return f"{case.id}-{CASES.index(case)}"


@pytest.mark.parametrize("case", CASES, ids=names)
def test_the_finding_is_there_with_its_severity_and_words(case):
    found = finding(case.make(), case.id, case.library)
    assert found.severity == case.severity
    assert found.fixes
    sentence = in_words(found)
    assert "{" not in sentence
    if case.words:
        assert sentence == case.words


@pytest.mark.parametrize("case", CASES, ids=names)
def test_its_fixes_settle_it_and_all_can_be_applied(case):
    before = case.make()
    found = finding(before, case.id, case.library)
    for place in range(len(found.fixes)):
        after = after_fix(before, found, place)
        assert after != before
        if place in case.settled_by:
            assert found.key not in {f.key for f in answer_of(after, case.library)}, place
    assert all(place < len(found.fixes) for place in case.settled_by)


def answer_of(of: Plan, library: Library):
    from machining.evaluate import evaluate

    return evaluate(of, library).open


@pytest.mark.parametrize("case", CASES, ids=names)
def test_words_in_a_note_quiet_nothing_and_keeping_quiets_only_what_is_to_be_looked_at(case):
    before = case.make()
    found = finding(before, case.id, case.library)
    if not found.operation:
        return
    said = changed(
        before,
        f"operation:{found.operation}",
        reason="coolant hole is on the left",
        stop_after="gauge the first three",
    )
    assert {f.key for f in answer_of(said, case.library)} == {
        f.key for f in answer_of(before, case.library)
    }
    held = apply(
        said,
        [
            Keep(
                on=f"operation:{found.operation}", finding=case.id, words="proven on the last batch"
            )
        ],
    )
    still = {f.key for f in answer_of(held, case.library)}
    quiet = {f.key for f in answer_of(said, case.library)} - still
    assert quiet == ({found.key} if found.severity == "look" else set())
    assert answer_of(
        apply(held, [Keep(on=f"operation:{found.operation}", finding=case.id)]), case.library
    ) == answer_of(said, case.library)


def test_a_slot_pulls_by_its_mean_force_and_the_bending_of_the_tool():
    figures = answer(changed(slot(), "operation:rough-slot", leave_mm=0.0)).figures
    pull, force = figures["rough-slot.slot_pull"], figures["rough-slot.slot_force"]
    given = {i.name: i.value for i in force.inputs}
    # full engagement without a helix: of Fy only Ft·sin stays over half a turn, and of Fr·cos
    # nothing
    found = finding(changed(slot(), "operation:rough-slot", leave_mm=0.0), "size.pulled-slot")
    assert found.values["pull"].value == pull.value
    share = quad(lambda phi: sin(phi) * sin(phi) ** (1.0 - given["mc"]), 0.0, pi)[0] / (2.0 * pi)
    chip = given["feed_per_tooth"] ** (1.0 - given["mc"])
    assert force.value == pytest.approx(
        given["edges"] * given["kc11"] * given["depth"] * chip * share, rel=0.01
    )
    assert pull.value == pytest.approx(tool_push_off(**{i.name: i.value for i in pull.inputs}))


def test_the_reached_feed_is_path_over_time():
    seen = answer(good())
    reached = seen.figures["walls.reached_feed"]
    assert reached.value == pytest.approx(60.0 * reached.inputs[0].value / reached.inputs[1].value)
    assert reached.value < result(seen, "walls").feed_mm_min


def test_speeds_and_feeds_stand_in_the_shop_s_steps_and_cross_no_limit():
    coarse = with_settings(speed_step_rpm=250.0, feed_step_mm_min=50.0)
    plain = answer(good()).figures
    for op in answer(good(), coarse).setups[0].operations:
        limited = plain[f"{op.id}.limited_rpm"].value
        assert op.rpm % 250.0 == 0 and limited - 250.0 < op.rpm <= limited
        if op.kind == "tap":
            # a tap follows its pitch, not the steps
            assert op.feed_mm_min == pytest.approx(op.rpm * 1.25)
        else:
            assert op.feed_mm_min % 50.0 == 0
    typed = changed(good(), "operation:rough", rpm=9123.0, feed_mm_min=4567.0)
    assert (
        result(answer(typed, coarse), "rough").rpm,
        result(answer(typed, coarse), "rough").feed_mm_min,
    ) == (9123.0, 4567.0)


@given(st.floats(0.5, 30_000), st.floats(0.1, 500))
def test_property_steps_only_go_down_and_never_to_nothing(wanted, step):
    for in_steps in (speed_in_steps, feed_in_steps):
        stands = in_steps(wanted, step)
        assert 0 < stands <= wanted * (1 + 1e-9) and wanted - stands < step


def sawn_long(**more: object) -> Plan:
    return changed(
        plan(*GOOD, stock=STOCK.model_copy(update={"saw_tolerance_mm": 1.1})),
        "operation:rough",
        step_down_mm=18.0,
        step_over_mm=3.2,
        **more,
    )


def test_a_sawn_blank_is_trued_up_ordered_closer_or_cut_lighter():
    found = finding(sawn_long(), "cut.power-at-worst-stock")
    labels = [fix.label for fix in found.fixes]
    assert labels[-3:] == [
        "True the blank up first",
        "Begin {over} outside of it, through air on most blanks",
        "Order it sawn to {closer}",
    ]
    for place in range(len(labels)):
        assert "cut.power-at-worst-stock" not in ids(after_fix(sawn_long(), found, place)), labels[
            place
        ]
    trued = after_fix(sawn_long(), found, len(labels) - 3)
    first = trued.setups[0].operations[1]
    # 2 mm stand on each side
    assert (first.id, first.leave_mm, first.step_over_mm) == ("roughtrue", 1.8, 0.2)
    now, after = answer(sawn_long()), answer(trued)
    assert after.one_part_s > now.one_part_s and result(after, "roughtrue").removed_mm3 > 0
    closer = after_fix(sawn_long(), found, len(labels) - 1).stock.saw_tolerance_mm
    assert 0.1 <= closer < 1.1


def test_passes_may_begin_in_air_for_the_largest_blank():
    """1.1 mm outside of the blank as drawn: a ring more round it, none of it wider than its step on
    the largest one.
    """
    found = finding(sawn_long(), "cut.power-at-worst-stock")
    through_air = after_fix(sawn_long(), found, len(found.fixes) - 2)
    now, after = answer(sawn_long()), answer(through_air)
    assert through_air.setups[0].operations[1].over_mm == 1.1
    assert "rough.worst_power" in now.figures and "rough.worst_power" not in after.figures
    assert result(after, "rough").time_s > result(now, "rough").time_s
    assert result(after, "rough").removed_mm3 == pytest.approx(result(now, "rough").removed_mm3)
    half = changed(sawn_long(), "operation:rough", over_mm=0.5)
    width = next(
        each.value
        for each in answer(half).figures["rough.worst_cutting_power"].inputs
        if each.name == "width"
    )
    assert width == pytest.approx(3.2 + 0.6)
    faced = changed(
        plan(FACE, stock=STOCK.model_copy(update={"saw_tolerance_mm": 1.0})),
        "operation:face",
        over_mm=1.0,
    )
    assert "face.worst_power" not in answer(faced).figures
    assert result(answer(faced), "face").path_mm >= result(answer(plan(FACE)), "face").path_mm


def test_a_short_cut_may_use_the_short_time_curve_where_the_shop_says_so():
    heavy = changed(good(), "operation:rough", step_down_mm=18.0, step_over_mm=4.0)
    steady = finding(heavy, "cut.power")
    assert steady.severity in ("stop", "look")
    bold = with_settings(short_peak_s=60.0)
    allowed = finding(heavy, "cut.power", bold)
    assert (
        allowed.severity == "note" and allowed.values["short"].value > allowed.values["limit"].value
    )
    hasty = with_settings(short_peak_s=1.0)  # the cut takes longer than that
    assert finding(heavy, "cut.power", hasty).severity == steady.severity


def test_a_hole_with_whole_walls_is_not_interrupted():
    assert "cut.interrupted" not in ids(good())
    assert "cut.interrupted" not in ids(plan(FACE, DRILL))


def test_what_is_typed_remembers_the_material_it_was_typed_for():
    typed = changed(good(), "operation:rough", rpm=4000.0)
    assert typed.setups[0].operation("rough").proven_in == "en-aw-6082"
    assert changed(typed, "operation:rough", rpm=None).setups[0].operation("rough").proven_in == ""


def test_a_long_through_hole_in_light_metal_needs_no_peck():
    assert "cut.peck" not in ids(plan(FACE, DRILL.model_copy(update={"peck_mm": None})))


def test_an_edge_that_turns_slower_lasts_longer():
    """The fix slows a lone tool so that the batch is made with what is on hand: T grows by (1/n) in
    the speed.
    """
    lone = plan(FACE.model_copy(update={"tool": "t1"})).model_copy(update={"quantity": 900})
    library = tools_like("face-mill-50", on_hand=1, edge_life_min=45.0)
    found = finding(lone, "cut.only-one", library)
    turn = next(fix for fix in found.fixes if "Turn at" in fix.label)
    after = after_fix(lone, found, found.fixes.index(turn))
    assert "cut.only-one" not in {f.id for f in answer_of(after, library)}


def test_the_order_that_saves_a_belt_change_then_the_stop_for_the_last():
    better = after_fix(two_belts(), finding(two_belts(), "cut.range-change"))
    found = finding(better, "cut.range-change")
    assert in_words(found) == "The range is changed by hand once, 4:00 of attendance."
    assert "cut.range-change" not in ids(after_fix(better, found))


def test_a_belt_goes_back_for_the_next_part():
    """High, low, high or low, high, high: of more than one part, both change it twice each."""
    many = changed(two_belts(), "plan", quantity=10)
    words = "The range is changed by hand 2 times, 8:00 of attendance."
    assert in_words(finding(many, "cut.range-change")) == words
    first = apply(many, [MoveOperation(operation="face", setup="s1", index=0)])
    assert in_words(finding(first, "cut.range-change")) == words


def test_values_the_shop_has_proven_come_before_a_supplier_s_and_the_tables():
    rows = LIBRARY.materials["en-aw-6082"].cutting_data
    rough = next(row for row in rows if (row.process, row.tool_material) == ("rough", "carbide"))
    shop, supplier = (
        rough.model_copy(update={"kept_by": kept, "speed_start": speed})
        for kept, speed in (("shop", 420.0), ("supplier", 500.0))
    )
    material = LIBRARY.materials["en-aw-6082"].model_copy(
        update={"cutting_data": (*rows, supplier, shop)}
    )
    assert material.data_for("rough", "carbide").speed_start == 420.0
    without = material.model_copy(update={"cutting_data": (*rows, supplier)})
    assert without.data_for("rough", "carbide").speed_start == 500.0


def test_every_id_has_its_page():
    root = Path(__file__).parent.parent.parent
    known = {
        id
        for file in (root / "machining" / "findings").rglob("*.py")
        for id in re.findall(
            r"\b(?:hold|reach|travel|cut|size|route)\.[a-z]+(?:-[a-z]+)*", file.read_text()
        )
    }
    known = {id for id in known if not id.endswith((".py", ".value", ".tool"))}
    pages = set(
        re.findall(
            r"^### (\S+)$", (root / "docs" / "findings" / "README.md").read_text(), re.MULTILINE
        )
    )
    written = {case.id for case in CASES}
    assert written <= pages
    assert {id for id in known if "-" in id} <= pages


@pytest.mark.parametrize(
    "rule", [*OPERATION_RULES, *SETUP_RULES, *STATION_RULES], ids=lambda each: each.__name__
)
def test_a_rule_s_file_says_which_findings_it_makes(rule):
    """Its first words are their ids, and it stands with the question of one of them."""
    file = Path(sys.modules[rule.__module__].__file__)
    told = sys.modules[rule.__module__].__doc__.partition(": ")[0].split(", ")
    text = file.read_text().partition('"""\n')[2] or file.read_text()
    made = set(re.findall(r'"((?:hold|reach|travel|cut|size|route)\.[a-z]+(?:-[a-z]+)*)"', text))
    assert set(told) == made
    assert file.parent.name in {id.partition(".")[0] for id in told}
