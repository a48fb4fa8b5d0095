"""The schools of roughing as offered for a planned operation: inside every limit, ready to take,
and told why not.
"""

from __future__ import annotations

from dataclasses import replace
from math import pi

import pytest

from machining.cutting.hole_steps import Hole
from machining.evaluate import evaluate
from machining.facts.route import walk
from machining.memo import Memo
from machining.plan.apply import apply
from machining.plan.document import Plan
from machining.plan.operation import Drill, MillHole
from machining.plan.places import Points
from machining.ways.choices import Choice, finish_choices, hole_choices
from machining.ways.choices import choices as every_choice
from machining.ways.hole_ways import hole_ways

from .build import (
    FACE,
    GOOD,
    LIBRARY,
    PART,
    STOCK,
    TOOLS,
    answer,
    changed,
    good,
    on_machine,
    plan,
    result,
    rig,
    tool,
)

MEMO = Memo()
HEIGHT = 18.0  # ROUGH goes 18 below the part's top, which is faced before it

FASTER = "lighter width, faster than the data start"


def choices(of: Plan, operation: str = "rough", library=LIBRARY) -> list[Choice]:
    facts = walk(of, library, MEMO)
    return every_choice(
        next(op for op in facts.operations() if op.operation.id == operation), facts
    )


def named(of: Plan, name: str, operation: str = "rough", library=LIBRARY) -> Choice:
    return next(each for each in choices(of, operation, library) if each.label == name)


def taken(of: Plan, choice: Choice):
    return evaluate(apply(of, choice.edits), LIBRARY, MEMO)


@pytest.mark.parametrize("machine", ["heron", "dunlin"])
@pytest.mark.parametrize("material", ["en-aw-6082", "c45", "x5crnimo17-12-2", "ti-6al-4v"])
def test_what_is_offered_stays_inside_every_limit_once_it_is_taken(machine, material):
    of = on_machine(plan(*GOOD, material=material), machine)
    for choice in choices(of):
        if choice.cut is None:
            assert choice.because
            continue
        seen = taken(of, choice)
        figures = seen.figures
        share = LIBRARY.settings.power_share
        assert figures["rough.power"].value <= share * figures["rough.power_limit"].value * 1.001
        assert figures["rough.torque"].value <= share * figures["rough.torque_limit"].value * 1.001
        assert figures["rough.holding"].value >= LIBRARY.settings.holding_factor * 0.999
        cut_stops = [
            f.id
            for f in seen.findings
            if f.operation == "rough" and f.severity == "stop" and f.question in ("cut", "hold")
        ]
        assert cut_stops == []


def test_both_schools_and_a_high_feed_cutter_that_is_loaded_for_it():
    found = choices(good())
    assert [each.label for each in found] == [
        "full depth, light width",
        "shallow, wide",
        "high feed, very shallow",
    ]
    high = found[2]
    assert [edit.do for edit in high.edits] == ["load_tool", "change"]
    assert "loaded for it" in high.tool
    assert high.cut is not None
    assert high.cut.depth <= LIBRARY.tools["high-feed-20-z3"].cutting_depth_mm
    loaded = apply(good(), high.edits)
    again = choices(loaded)
    assert [each.label for each in again] == ["full depth, light width", "shallow, wide"]


def test_a_face_has_one_school():
    assert [each.label for each in choices(good(), "face")] == ["shallow, wide"]


def test_full_depth_takes_the_whole_height_in_equal_steps_of_the_flutes():
    cut = named(good(), "full depth, light width").cut
    assert cut is not None
    assert cut.depth == pytest.approx(HEIGHT, abs=0.011)
    assert cut.width <= 0.3 * 12


def test_sizes_are_round_and_speeds_come_in_the_shop_s_steps():
    library = replace(
        LIBRARY,
        settings=LIBRARY.settings.model_copy(
            update={"speed_step_rpm": 100.0, "feed_step_mm_min": 50.0}
        ),
    )
    for choice in choices(good(), library=library):
        assert choice.cut is not None
        assert choice.cut.rpm % 100 == 0
        assert choice.cut.feed % 50 == 0
        assert round(choice.cut.depth * 100) == pytest.approx(choice.cut.depth * 100)
        assert round(choice.cut.width * 100) == pytest.approx(choice.cut.width * 100)


def test_the_time_is_the_plan_s_own_with_the_choice_taken():
    """Take the faster school, and the operation is as fast as the offer's path makes it."""
    times = {each.label: result(taken(good(), each), "rough").time_s for each in choices(good())}
    assert len(set(times.values())) == len(times)
    assert min(times.values()) < result(evaluate(good(), LIBRARY, MEMO), "rough").time_s


def test_the_edge_lasts_by_taylor():
    choice = named(good(), "full depth, light width")
    assert choice.cut is not None
    speed = pi * 12 * choice.cut.rpm / 1000
    data = LIBRARY.materials["en-aw-6082"].data_for("rough", "carbide")
    tool = LIBRARY.tools["end-mill-12-z3"]
    assert choice.life_min == pytest.approx(tool.edge_life_min * (data.speed_start / speed) ** 4)


def test_a_sawn_blank_at_its_largest_asks_for_less():
    sawn = plan(*GOOD, stock=STOCK.model_copy(update={"saw_tolerance_mm": 2.0}))
    careful, plain = (
        named(sawn, "full depth, light width").cut,
        named(good(), "full depth, light width").cut,
    )
    assert careful is not None
    assert plain is not None
    assert careful.removal < plain.removal
    found = {
        f.id
        for f in taken(sawn, named(sawn, "full depth, light width")).findings
        if f.operation == "rough"
    }
    assert "cut.power-at-worst-stock" not in found


def test_a_weak_holding_holds_the_cut_back_and_says_so():
    loose = changed(good(), "station:st1", holding__torque_nm=6.0)
    cut = named(loose, "full depth, light width").cut
    assert cut is not None
    assert cut.limits[0] == "holding"
    assert named(loose, "full depth, light width").holding == pytest.approx(2.0, rel=0.05)


def test_without_a_holding_nothing_is_said_of_it():
    free = changed(good(), "station:st1", holding=None)
    choice = named(free, "full depth, light width")
    assert choice.cut is not None
    assert choice.holding is None


def test_a_long_tool_is_held_back_by_its_push_off():
    little_left = changed(good(), "operation:rough", leave_mm=0.1)
    cut = named(changed(little_left, "tool:t2", stick_out_mm=55.0), "full depth, light width").cut
    short = named(little_left, "full depth, light width").cut
    assert cut is not None
    assert short is not None
    assert cut.removal < short.removal
    assert "push-off" in cut.limits


def test_where_nothing_fits_it_says_why():
    hopeless = changed(good(), "station:st1", holding__torque_nm=0.05)
    assert {each.because.text for each in choices(hopeless)} == {
        "Nothing of this kind stays inside every limit here."
    }
    bare = LIBRARY.materials["en-aw-6082"].model_copy(update={"cutting_data": ()})
    library = replace(LIBRARY, materials={**LIBRARY.materials, "en-aw-6082": bare})
    assert "There are no cutting data of EN AW-6082 for carbide tools." in {
        each.because.text for each in choices(good(), library=library)
    }


@pytest.mark.parametrize(
    "of",
    [
        changed(good(), "operation:rough", tool=""),
        changed(good(), "plan", material=""),
        changed(good(), "setup:s1", machine="nowhere"),
    ],
    ids=["no tool", "no material", "no machine"],
)
def test_what_is_missing_leaves_nothing_to_choose(of):
    assert choices(of) == []


def test_a_finishing_cut_is_no_matter_of_schools():
    shallow = [each.label for each in choices(good(), "rough")]
    for other in ("walls", "drill"):
        assert not {each.label for each in choices(good(), other)} & {*shallow}


# -- finishing


def finishes(of, operation="outside"):
    facts = walk(of, LIBRARY, MEMO)
    op = next(each for each in facts.operations() if each.operation.id == operation)
    return {each.label: each for each in finish_choices(op, facts)}


def test_a_finish_has_its_ways_and_each_can_be_taken():
    found = finishes(good())
    assert set(found) == {
        "a narrower last cut",
        "once more at the same size",
        "faster",
        "slower",
        "a thinner chip",
        "measured before the last cut",
        "a tool of its own",
        "a spring pass by a size smaller",
    }
    now = answer(good())
    for choice in found.values():
        after = answer(apply(good(), choice.edits))
        assert after.figures["outside.push_off"].value > 0 and result(after, "outside").time_s > 0
    assert (
        result(answer(apply(good(), found["faster"].edits)), "outside").time_s
        < result(now, "outside").time_s
    )
    assert (
        result(answer(apply(good(), found["measured before the last cut"].edits)), "outside").time_s
        > result(now, "outside").time_s
    )


def test_predicted_size_and_finish_follow_the_choice():
    found, now = finishes(good()), answer(good()).figures

    def after(name, figure):
        return answer(apply(good(), found[name].edits)).figures[figure].value

    assert after("a narrower last cut", "outside.push_off") < now["outside.push_off"].value
    assert after("a thinner chip", "outside.feed_marks") == pytest.approx(
        0.36 * now["outside.feed_marks"].value, rel=0.03
    )
    assert after("once more at the same size", "outside.size_error") < now["outside.push_off"].value
    assert after("slower", "outside.edge_life") > now["outside.edge_life"].value


def test_a_spring_pass_by_a_smaller_tool_cuts_what_the_first_left():
    choice, now = finishes(good())["a spring pass by a size smaller"], answer(good()).figures
    made = apply(good(), choice.edits)
    spring = next(op for op in made.setups[0].operations if op.id == choice.last)
    assert (
        spring.width_mm == pytest.approx(now["outside.push_off"].value, abs=1e-3)
        and spring.passes == 1
    )
    after = answer(made).figures
    assert LIBRARY.tools[LIBRARY.assemblies[made.tool(spring.tool).assembly].tool].diameter_mm < 12
    assert after[f"{choice.last}.push_off"].value < now["outside.push_off"].value
    assert after["outside.push_off"].value == now["outside.push_off"].value


def test_feed_marks_by_hand_and_what_a_spring_pass_cannot_take():
    figures = answer(changed(good(), "operation:outside", passes=2)).figures
    chip, tool = figures["outside.chip"].value, LIBRARY.tools["end-mill-12-z3"]
    assert figures["outside.feed_marks"].value == pytest.approx(1000 * (chip * 3) ** 2 / (4 * 12))
    assert figures["outside.size_error"].value == pytest.approx(
        max(figures["outside.bent_2"].value, 0.3 * tool.edge_radius_mm)
    )
    # the second pass cuts what the first left
    assert (
        next(i.value for i in figures["outside.spring_force_2"].inputs if i.name == "width")
        == figures["outside.push_off"].value
    )


def test_a_roughing_cut_knows_how_far_it_is_pushed_into_what_it_leaves():
    seen = answer(good())
    gauge = next(each for each in result(seen, "rough").gauges if each.name == "Push-off")
    assert gauge.limit == pytest.approx(LIBRARY.settings.rough_push_off_share * 0.3)
    cut = named(good(), "shallow, wide")
    assert cut.cut is not None
    again = answer(apply(good(), cut.edits)).figures["rough.rough_push_off"].value
    # the search and the plan say the same
    assert again == pytest.approx(cut.cut.push_off, rel=0.02)


def test_a_finisher_that_roughs_nothing_needs_no_twin():
    assert "a tool of its own" not in finishes(changed(good(), "operation:outside", tool="t6"))


# -- holes


def holes(of, operation="drill"):
    facts = walk(of, LIBRARY, MEMO)
    op = next(each for each in facts.operations() if each.operation.id == operation)
    return {each.label: each for each in hole_choices(op, facts)}


def test_every_way_to_a_hole_becomes_operations_of_the_plan():
    big = plan(
        FACE,
        Drill(
            id="drill",
            tool="t4",
            on=Points(at_mm=((0, 0), (20, 0)), diameter_mm=20, depth_mm=20, through=True),
        ),
        material="c45",
        tools=(*TOOLS, tool(7, "drill-20-hss")),
    )
    big = changed(big, "operation:drill", tool="t7")
    found = holes(big)
    assert {"insert drill", "mill on a helix"} <= {name for name, way in found.items() if way.edits}
    assert "drill" not in found  # with this drill it is planned already
    # at the data's speed it is another way
    assert "drill" in holes(changed(big, "operation:drill", rpm=500.0))
    for way in found.values():
        if not way.edits:
            assert way.because
            continue
        after = answer(apply(big, way.edits))
        assert result(after, "drill").time_s > 0, way.label
    helix = apply(big, found["mill on a helix"].edits).setups[0].operations[-1]
    assert isinstance(helix, MillHole) and helix.id == "drill" and helix.diameter_mm == 20
    drilled = apply(big, found["insert drill"].edits)
    assert drilled.tool(drilled.setups[0].operations[-1].tool).assembly == "insert-drill-20"


def test_a_way_of_two_tools_is_two_operations_in_order():
    deep = Points(at_mm=((0, 0),), diameter_mm=6.8, depth_mm=80, through=True)
    tall = plan(
        Drill(id="drill", tool="t4", on=deep),
        material="c45",
        part=PART.model_copy(update={"size_mm": (80.0, 50.0, 80.0), "typed": ()}),
    )
    way = holes(tall)["pilot and deep drill"]
    assert way.pockets == 1 and way.limits
    first, last = apply(tall, way.edits).setups[0].operations
    assert (first.id, last.id) == ("drillfirst", "drill") and first.depth_mm == pytest.approx(
        2 * 6.8
    )
    assert first.tool == "t4" and last.tool != "t4"


def test_the_helix_keeps_the_feed_at_its_edge():
    step = next(
        m
        for m in hole_ways(Hole(20, 26, 1), LIBRARY.materials["c45"], rig("heron"), LIBRARY).methods
        if m.name == "mill on a helix"
    ).steps[0]
    big = plan(
        MillHole(
            id="drill",
            tool="t2",
            on=Points(at_mm=((0, 0),), diameter_mm=20, depth_mm=26, through=True),
        ),
        material="c45",
    )
    made = apply(big, holes(big)["mill on a helix"].edits).setups[0].operations[0]
    assert made.feed_mm_min == pytest.approx(
        step.feed * 20 / (20 - step.bit.diameter), abs=LIBRARY.settings.feed_step_mm_min
    )
    assert answer(apply(big, holes(big)["mill on a helix"].edits)).figures[
        "drill.centre_feed"
    ].value == pytest.approx(step.feed, rel=0.02)


@pytest.mark.parametrize("wide", [15.0, 20.0])
def test_a_helix_is_priced_as_it_is_found_once_planned(wide):
    """A turn takes π/4·H² while the edge goes π·H: as wide as H/4, not as the tool."""
    on = Points(at_mm=((0, 0),), diameter_mm=wide, depth_mm=26, through=True)
    plain = plan(MillHole(id="drill", tool="t2", on=on), material="c45")
    ranking = hole_ways(Hole(wide, 26, 1), LIBRARY.materials["c45"], rig("heron"), LIBRARY)
    step = next(m for m in ranking.methods if m.name == "mill on a helix").steps[0]
    figures = answer(apply(plain, holes(plain)["mill on a helix"].edits)).figures
    [found] = (i.value for i in figures["drill.removal"].inputs if i.name == "width")
    assert found == pytest.approx(wide / 4.0, rel=0.03)
    assert figures["drill.power"].value == pytest.approx(step.power, rel=0.04)
    assert figures["drill.torque"].value == pytest.approx(step.torque, rel=0.04)
    assert (step.limit, step.power < step.power_limit) == ("feed", True)
