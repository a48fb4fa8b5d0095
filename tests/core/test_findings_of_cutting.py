"""The findings that come from cutting practice: a plan that has each, its words, and fixes that
settle it.
"""

from __future__ import annotations

import re
import sys
from math import gamma, pi, sqrt
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from machining.cutting.speeds import feed_in_steps, speed_in_steps
from machining.findings.finding import in_words
from machining.findings.rules import (
    OPERATION_RULES,
    PLAN_RULES,
    SETUP_RULES,
    STATION_RULES,
    TURNED_RULES,
)
from machining.plan.apply import apply
from machining.plan.document import Plan
from machining.plan.edit import Keep, MoveOperation
from machining.reaching.deflection import tool_push_off
from machining.world.library import Library
from tests.at_length import some

from .build import (
    DRILL,
    FACE,
    GOOD,
    LIBRARY,
    STOCK,
    THICK,
    after_fix,
    answer,
    changed,
    finding,
    good,
    ids,
    plan,
    result,
    with_settings,
)
from .cases_of_cutting import CASES, Case, slot, tools_like, two_belts


def names(case: Case) -> str:
    return f"{case.id}-{CASES.index(case)}"


@pytest.mark.parametrize("case", CASES, ids=names)
def test_the_finding_is_there_with_its_severity_and_words(case):
    found = finding(case.make(), case.id, case.library)
    assert found.severity == case.severity
    assert found.fixes or found.severity == "note"
    sentence = in_words(found)
    assert "{" not in sentence
    if case.words:
        assert sentence == case.words


@pytest.mark.parametrize("case", some(CASES, each=3), ids=names)
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
    return answer(of, library).open


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
        stop_after="wipe the first three dry",
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
    # the mean of sin^p over half a turn, p = 2 - mc, in closed form
    power = 2.0 - given["mc"]
    share = sqrt(pi) * gamma((power + 1.0) / 2.0) / gamma(power / 2.0 + 1.0) / (2.0 * pi)
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
        plan(*GOOD, stock=THICK.model_copy(update={"saw_tolerance_mm": 1.1})),
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
    # 6 mm stand on each side
    assert (first.id, first.leave_mm, first.step_over_mm) == ("roughtrue", 5.8, 0.2)
    pass_ = result(answer(trued), "roughtrue")
    assert 2.0 < pass_.time_s < 25.0 and pass_.removed_mm3 > 0
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
    thick = plan(*GOOD, stock=THICK)
    heavy = changed(thick, "operation:rough", step_down_mm=18.0, step_over_mm=4.5)
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
    library = tools_like("face-mill-50", on_hand=1, edge_life_min=45.0, insert_edges=None)
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


QUESTIONS = "(?:hold|reach|travel|cut|size|route|sheet)"


def test_every_id_has_its_page():
    root = Path(__file__).parent.parent.parent
    known = {
        id
        for file in (root / "machining" / "findings").rglob("*.py")
        for id in re.findall(rf"\b{QUESTIONS}\.[a-z]+(?:-[a-z]+)*", file.read_text())
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
    "rule",
    [*OPERATION_RULES, *TURNED_RULES, *SETUP_RULES, *STATION_RULES, *PLAN_RULES],
    ids=lambda each: each.__name__,
)
def test_a_rule_s_file_says_which_findings_it_makes(rule):
    """Its first words are their ids, and it stands with the question of one of them."""
    file = Path(sys.modules[rule.__module__].__file__)
    told = sys.modules[rule.__module__].__doc__.partition(": ")[0].split(", ")
    text = file.read_text().partition('"""\n')[2] or file.read_text()
    made = set(re.findall(rf'"({QUESTIONS}\.[a-z]+(?:-[a-z]+)*)"', text))
    assert set(told) == made
    assert file.parent.name in {id.partition(".")[0] for id in told}


def test_feeds_are_round_in_the_units_of_the_plan():
    """Steps of 10 mm/min are of 0.5 in/min, the nearest that is round there."""
    of_inches = good().model_copy(update={"units": "inch"})
    for document, step in ((good(), 10.0), (of_inches, 12.7)):
        for each in ("rough", "pocket", "drill"):
            steps = result(answer(document), each).feed_mm_min / step
            assert steps == pytest.approx(round(steps), abs=1e-6)
    for asked, inches in ((10.0, 0.5), (50.0, 2.0), (100.0, 5.0), (25.4, 1.0)):
        shop = LIBRARY.settings.model_copy(update={"feed_step_mm_min": asked})
        assert shop.feed_step("inch") == pytest.approx(25.4 * inches)
        assert shop.feed_step() == asked
