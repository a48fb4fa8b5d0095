"""A part that is held at an angle, so that a slanted face lies level; by hand and by solids."""

from __future__ import annotations

from dataclasses import replace
from functools import cache
from itertools import count
from math import cos, radians, sin, tan

import numpy as np
import pytest

from machining.ask.points import read
from machining.drawing.load import load_drawing
from machining.evaluate import evaluate
from machining.evaluation import to_plain
from machining.facts import at_angle, index
from machining.facts.loaded import load_seen
from machining.facts.read import named_as
from machining.facts.route import walk
from machining.geometry.frames import axis, raising, standing
from machining.geometry.solids import bounds, posed, volume
from machining.memo import Memo
from machining.plan.apply import apply
from machining.plan.at import Row
from machining.plan.document import Orientation
from machining.plan.edit import Change, FlipStation
from machining.plan.in_vise import Holding
from machining.plan.operation import Drill, Face, RoughPocket
from machining.plan.places import OnFeatures
from machining.plan.zero import From, Zero
from machining.quantities.said import fill
from machining.sheet import sheets
from machining.ways.offers import offers
from machining.ways.pointed import pointed
from tools.demo_parts import box, cut, turned

from .build import TOOLS, tool
from .by_offers import begun
from .shapes_in_step import lying_drum
from .shapes_in_step import read as step

LEAN = 20.0
S, C = sin(radians(LEAN)), cos(radians(LEAN))
MEMO = Memo()


@cache
def bracket():
    """80 x 40 x 50, its top sloping down by 20° to the right, with a bore of 8.5 square to it."""
    slope = turned(box(-200, -200, 50, 400, 400, 100), LEAN, (0, 1, 0), (-40, 0, 50))
    bore = lying_drum((10 - 60 * S, 0, 30 - 60 * C), (S, 0, C), 8.5, 200)
    return begun(step(cut(box(-40, -20, 0, 80, 40, 50), slope, bore)), "bracket", MEMO)


def slanted(shape):
    _, library = bracket()
    features = library.geometries["bracket"].features
    return next(f for f in features if f.kind == "slanted" and f.shape == shape)


def held(machine="heron", grip=6.0, fixed="+y", aim=None, **orientation):
    """Its face and its bore, in a vise at an angle or with an aim."""
    plan, _ = bracket()
    station = plan.setups[0].stations[0]
    lies = station.model_copy(
        update={
            "orientation": Orientation(**orientation),
            "holding": Holding(vise="vise-125", fixed=fixed, grip_depth_mm=grip, torque_nm=36.0),
        }
    )
    operations = (
        Face(id="face", tool="t1", step_over_mm=35.0, aim=aim),
        Drill(
            id="bore",
            tool="t8",
            on=OnFeatures(ids=(slanted("hole").id,)),
            peck_mm=7.0,
            aim=aim,
        ),
    )
    setup = plan.setups[0].model_copy(
        update={"machine": machine, "stations": (lies,), "operations": operations}
    )
    tools = tuple(
        each.model_copy(update={"machine": machine}) for each in (*TOOLS, tool(8, "drill-8-5"))
    )
    return plan.model_copy(update={"tools": tools, "setups": (setup,)})


RAISED = {"raised": "+x", "raised_deg": LEAN, "raised_by": "sine"}


def answered(plan):
    return evaluate(plan, bracket()[1], MEMO)


def station(plan):
    return walk(plan, bracket()[1], MEMO).stations[0]


def found(plan, id):
    return [each for each in answered(plan).findings if each.id == id]


@pytest.mark.parametrize("side", ["+x", "-x", "+y", "-y"])
@pytest.mark.parametrize("degrees", [0.0, 12.5, 45.0, 89.0])
def test_raising_a_side_turns_it_up_by_so_much_and_mirrors_nothing(side, degrees):
    turn = raising(side, degrees)
    assert turn @ turn.T == pytest.approx(np.eye(3), abs=1e-12)
    assert np.linalg.det(turn) == pytest.approx(1.0)
    assert (turn @ axis(side))[2] == pytest.approx(sin(radians(degrees)))
    back = raising({"+": "-", "-": "+"}[side[0]] + side[1], degrees)
    assert back @ turn == pytest.approx(np.eye(3), abs=1e-12)


def test_a_direction_stands_upright_without_mirroring():
    for along in np.random.default_rng(4).normal(size=(20, 3)):
        unit = along / np.linalg.norm(along)
        assert standing(unit) @ unit == pytest.approx([0, 0, 1])
        assert np.linalg.det(standing(unit)) == pytest.approx(1.0)


def test_the_face_lies_level_and_stock_and_part_lie_as_they_are_held():
    seen = station(held(**RAISED))
    face = slanted("face")
    assert seen.lie.pose.rotation @ face.looks == pytest.approx([0, 0, 1], abs=1e-6)
    assert index.looks_up(seen, face.id) and index.looks_up(seen, slanted("hole").id)
    solid = bracket()[1].geometries["bracket"].solid
    low, high = bounds(posed(solid, seen.lie.pose))
    assert seen.lie.part_low == pytest.approx(low)
    assert seen.lie.part_high == pytest.approx(high)
    low, high = seen.arrives.bounds()
    assert (seen.lie.stock_low, seen.lie.stock_high) == (pytest.approx(low), pytest.approx(high))
    assert seen.lie.up is None and seen.lie.looks("+y") == "+y" and seen.lie.looks("+z") is None


def test_what_is_cut_is_what_stands_over_the_slope():
    """Against the blank cut by the plane of the slope, in part coordinates."""
    plan = held(**RAISED)
    seen, face = station(plan), slanted("face")
    blank = seen.arrives.in_part().solid
    over = blank.trim_by_plane(tuple(face.looks), face.out_mm)
    faced, bored = seen.operations
    cut_away = volume(faced.before.solid) - volume(faced.after.solid)
    assert cut_away == pytest.approx(volume(over), rel=1e-3)
    radius, answer = 4.25, answered(plan)
    drilled = volume(bored.before.solid) - volume(bored.after.solid)
    assert drilled == pytest.approx(np.pi * radius**2 * slanted("hole").length_mm, rel=0.06)
    assert [each.gouge_mm for each in answer.setups[0].operations] == [0.0, 0.0]
    told = [each for op in answer.setups[0].operations for each in op.answers.items()]
    assert {q for q, each in told if each.state == "stop"} == {"hold"}  # turns between its jaws


def test_lying_flat_the_bore_does_not_look_to_the_tool_and_the_fix_raises_the_part():
    (stop,) = found(held(), "reach.not-in-this-setup")
    assert stop.severity == "stop" and "hole 20° from its top" in fill(stop.message, stop.values)
    mended = apply(held(), stop.fixes[0].edits)
    assert mended.stations[0].orientation == Orientation(
        raised="+x", raised_deg=20.0, raised_by="block"
    )
    assert not found(mended, "reach.not-in-this-setup")


@pytest.mark.parametrize("grip", [6.0, 10.0])
def test_jaws_touch_a_corner_as_long_as_the_triangle_is_wide_there(grip):
    """A corner of 90°, leaning: up to a height of g it is g·(tan θ + cot θ) wide."""
    seen = station(held(grip=grip, **RAISED))
    regions = at_angle.touched(seen.planned.in_vise, seen.arrives.solid)
    wide = grip * (tan(radians(LEAN)) + 1.0 / tan(radians(LEAN)))
    assert at_angle.least_long(regions) == pytest.approx(wide, rel=1e-6)
    assert regions[0].area == pytest.approx(wide * grip / 2.0, rel=1e-6)


def test_a_short_touch_is_looked_at_and_a_deeper_grip_ends_it():
    (short,) = found(held(**RAISED), "hold.at-angle")
    assert short.severity == "look"
    deeper = apply(held(**RAISED), short.fixes[0].edits)
    assert deeper.stations[0].in_vise.grip_depth_mm == 11.0
    assert not found(deeper, "hold.at-angle")
    shallower = apply(deeper, [Change(on="station:st1", fields={"holding.grip_depth_mm": 10.0})])
    assert found(shallower, "hold.at-angle")


def test_along_its_jaws_a_vise_meets_edges_alone():
    """Turned by a quarter it touches faces; soft jaws cut at the angle hold it too."""
    (stop,) = found(held(fixed="+x", grip=11.0, **RAISED), "hold.at-angle")
    assert stop.severity == "stop"
    for fix in stop.fixes:
        assert not found(apply(held(fixed="+x", grip=11.0, **RAISED), fix.edits), stop.id)
    assert [fix.label.partition(":")[0] for fix in stop.fixes] == [
        "Turn the vise",
        "Stand the vise at the angle, on a sine plate",
        "Hold it in soft jaws cut at the angle",
    ]


def test_hard_jaws_set_no_angle():
    (stop,) = found(held(**{**RAISED, "raised_by": "jaws"}), "hold.at-angle")
    assert stop.severity == "stop" and "hard" in stop.message


def test_a_sine_bar_stands_on_its_angle_s_gauge_blocks():
    figures = answered(held(**RAISED)).figures
    assert figures["s1.gauge_stack"].value == pytest.approx(100.0 * S)
    assert figures["s1.angle_off"].value == pytest.approx(100.0 * tan(radians(0.005)))
    assert "s1.gauge_stack" not in answered(held(**{**RAISED, "raised_by": "block"})).figures
    assert "s1.angle_off" not in answered(held()).figures


def test_what_it_lies_on_reaches_no_lower_than_its_underside():
    """In strips of 2 mm: each as high as the underside is at its upper end."""
    seen = station(held(**RAISED))
    strips, wedge = seen.stand.of("angle"), seen.stand.wedge
    assert wedge.axis == "y" and float(wedge.points[:, 2].min()) == strips[0].bottom
    low = float(seen.lie.stock_low[2])
    foot = at_angle._foot(seen.arrives.solid, 0)
    for strip in strips:
        west, _, east, _ = strip.region.bounds
        assert strip.top == pytest.approx(low + tan(radians(LEAN)) * max(west - foot, east - foot))
        assert strip.bottom < low
    assert not seen.stand.of("parallel")
    assert not station(held()).stand.of("angle")


def test_a_drill_that_goes_far_past_its_end_meets_what_sets_the_angle():
    far = apply(held(**RAISED), [Change(on="operation:bore", fields={"past_mm": 9.0})])
    (stop,) = found(far, "hold.below")
    assert "what sets its angle" in stop.message
    assert not found(held(**RAISED), "hold.below")


def test_a_zero_on_the_slanted_bore_is_where_it_stands_once_it_is_there():
    on = From(of="hole", feature=slanted("hole").id)
    plan = held(**RAISED)
    zeroed = (
        plan.setups[0]
        .stations[0]
        .model_copy(
            update={"zero": Zero(x=on, y=on, z=From(of="face", feature=slanted("face").id))}
        )
    )
    plan = plan.model_copy(
        update={"setups": (plan.setups[0].model_copy(update={"stations": (zeroed,)}),)}
    )
    seen = station(plan)
    x, y, _ = seen.lie.pose.apply(np.array(slanted("hole").point))
    assert (x, y) == (pytest.approx(0.0, abs=1e-9), pytest.approx(0.0, abs=1e-9))
    assert seen.lie.part_high[2] == pytest.approx(0.0, abs=1e-4)
    assert len(found(plan, "route.zero-not-there")) == 2  # neither is on the blank
    flat = apply(plan, [Change(on="station:st1", fields={"orientation.raised_deg": 0.0})])
    assert "upright" in station(flat).unknown["travel"]


def test_pointing_at_the_slope_offers_to_raise_the_part():
    facts = walk(held(), *bracket()[1:], MEMO)
    point = named_as(slanted("face").id, facts)
    labels = [each.label for each in pointed(point, facts.stations[0], facts)]
    assert "Raise its {end} by {angle}, so that it lies level" in labels
    level = walk(held(**RAISED), bracket()[1], MEMO)
    taken = [each.label for each in pointed(point, level.stations[0], level)]
    assert "Take {axes} zero from it" in taken
    assert not any(label.startswith("Raise") for label in taken)


def test_a_side_that_is_turned_up_lies_square_again():
    plan = held(**RAISED)
    facts = walk(plan, bracket()[1], MEMO)
    bottom = next(f.id for f in facts.geometry.features if f.kind == "flat" and f.faces == "-z")
    turn = next(pointed(named_as(bottom, facts), facts.stations[0], facts))
    now = apply(plan, turn.edits).stations[0].orientation
    assert (turn.label, now.up, now.raised_deg) == ("Turn its {side} up", "-z", 0.0)


def test_two_picks_tell_the_angle_of_the_slope():
    """By their names, and by where they are pointed at as the part lies."""
    plan, library = held(**RAISED), bracket()[1]
    flats = (f for f in library.geometries["bracket"].features if f.kind == "flat")
    bottom = next(f.id for f in flats if f.faces == "-z")
    face = slanted("face")
    there = station(plan).lie.pose.apply(np.array(face.point)).tolist()
    for slope in (face.id, (there, [0.0, 0.0, 1.0])):
        told = read(plan, library, MEMO, [bottom, slope], "st1", 0.5)
        assert told["between"]["angle_deg"] == pytest.approx(180.0 - LEAN)
        assert told["points"][1]["feature"] == face.id


def test_turned_over_it_lies_flat_again():
    flipped = apply(held(**RAISED), [FlipStation(station="st1", about="x")])
    assert flipped.stations[0].orientation == Orientation(up="-z")


def test_only_a_vise_holds_it_at_an_angle():
    plan = apply(held(**RAISED), [Change(on="station:st1", fields={"holding": None})])
    assert station(plan).unknown["hold"] == "Nothing says yet how the part is held."
    clamped = replace(bracket()[1], holdings={})
    assert evaluate(held(**RAISED), clamped, Memo()).unknown > 0


def test_the_sheet_says_what_to_set():
    plan = held(**RAISED)
    facts = walk(plan, bracket()[1], MEMO)
    (sheet,) = sheets(facts, to_plain(answered(plan)), {})
    said = str(sheet)
    assert "its right end raised 20°" in said
    assert "34.202" in said and "sine bar" in said
    assert "the moving jaw left out" in sheet["drawing"] and ">20°<" in sheet["drawing"]


# -- the same by the axes of a machine


def test_a_table_turns_the_slope_to_the_tool():
    face = slanted("face")
    plan = held("petrel", aim=face.id)
    seen = station(plan)
    lie = seen.operations[0].lie
    assert lie.pose.rotation @ face.looks == pytest.approx([0, 0, 1], abs=1e-6)
    solid = bracket()[1].geometries["bracket"].solid
    assert lie.part_high == pytest.approx(bounds(posed(solid, lie.pose))[1])
    assert lie.stock_high == pytest.approx(bounds(posed(seen.arrives.in_part().solid, lie.pose))[1])
    told = answered(plan).setups[0].operations[0]
    assert told.turned.side == "face 20° from its top"
    assert told.turned.index == "A20 C-90"
    raised = answered(held(**RAISED)).setups[0].operations[0]
    assert told.removed_mm3 == pytest.approx(raised.removed_mm3, rel=1e-3)


def test_a_table_that_does_not_tilt_says_why_not():
    (stop,) = found(held("heron", aim=slanted("face").id), "travel.aim")[:1]
    assert stop.severity == "stop"
    assert "face 20° from its top" in fill(stop.message, stop.values)


def test_an_aim_at_what_is_gone_is_not_worked_out():
    told = answered(held("petrel", aim="s0"))
    for op in told.setups[0].operations:
        assert {each.state for each in op.answers.values()} <= {"unknown", "stop"}


def test_slanted_places_are_offered_where_they_look_to_the_tool():
    plan = held(**RAISED)
    bare = plan.model_copy(
        update={"setups": (plan.setups[0].model_copy(update={"operations": ()}),)}
    )
    facts = walk(bare, bracket()[1], MEMO)
    fresh = (f"n{k}" for k in count()).__next__
    groups = {each.group for each in offers(facts.stations[0], facts, fresh)}
    assert {"Face slanted by 20°", "Hole Ø8.5 through, slanted by 20°"} <= groups
    assert not any("Top" in group or "Outside" in group for group in groups)
    flat = bare.model_copy(
        update={"setups": (held("petrel").setups[0].model_copy(update={"operations": ()}),)}
    )
    facts = walk(flat, bracket()[1], MEMO)
    groups = {each.group for each in offers(facts.stations[0], facts, fresh)}
    assert any(group.startswith("Face 20° from its top, A") for group in groups)


def test_a_slanted_face_is_cleared_as_far_as_nothing_stands_higher():
    """What a pocket on it takes is what stands over its plane, but for what it leaves there."""
    rough = RoughPocket(
        id="rough",
        tool="t2",
        on=OnFeatures(ids=(slanted("face").id,)),
        step_down_mm=4.0,
        step_over_mm=6.0,
        leave_mm=0.0,
    )
    plan = held(grip=11.0, **RAISED)
    plan = plan.model_copy(
        update={"setups": (plan.setups[0].model_copy(update={"operations": (rough,)}),)}
    )
    seen, face = station(plan), slanted("face")
    over = seen.arrives.in_part().solid.trim_by_plane(tuple(face.looks), face.out_mm)
    (op,) = seen.operations
    taken = volume(op.before.solid) - volume(op.after.solid)
    assert taken == pytest.approx(volume(over), rel=2e-3)
    assert answered(plan).setups[0].operations[0].gouge_mm == 0.0


def test_two_beside_each_other_are_seen_from_above_and_drawn():
    """What sets the angle is under them."""
    plan = apply(
        held(**RAISED),
        [Change(on="station:st1", fields={"at": Row(count=2, pitch_mm=220.0).model_dump()})],
    )
    facts = walk(plan, bracket()[1], MEMO)
    load = load_seen(facts.setups[0], facts, MEMO)
    assert len(load.stations[0].spots) == 2
    assert {shape.role for shape in load.stations[0].shapes} == {"jaw", "bed", "part"}
    assert load_drawing(load, "two", "metric").startswith("<svg")
    assert not found(plan, "travel.neighbour")


def test_a_sawn_end_that_looks_up_counts_at_the_first_cut():
    """Top and right end stand over it: of both the one that can be more."""
    plan = held(**RAISED)
    plan = apply(plan, [Change(on="plan", fields={"stock.x_high.tolerance_mm": 1.5})])
    first = station(plan).operations[0].seen
    assert (first.blank_side, first.blank_over_mm) == ("+x", pytest.approx(1.5))
