"""Driven tools from beside, the work held by its spindle at an angle: a sleeve with flats, cross
holes and a hole at 45°, turned from a bar on the machine with two spindles.
"""

from __future__ import annotations

from functools import cache
from itertools import count
from math import cos, radians, sin

import numpy as np
import pytest
from pydantic import ValidationError

from machining.evaluate import evaluate
from machining.facts import index
from machining.facts.offsets import codes_of, offsets_of
from machining.facts.route import walk
from machining.findings.finding import in_words
from machining.geometry.solids import bar, volume
from machining.memo import Memo
from machining.placing.rotary import ACROSS, turn_about
from machining.plan.apply import apply
from machining.plan.edit import Change, SetStock
from machining.plan.holding import InChuck
from machining.plan.operation import Drill, RoughPocket
from machining.plan.places import OnFeatures, Points, Rectangle
from machining.plan.turned import TurnFace
from machining.ways.offers import offers
from machining.world.stock import Round
from machining.world.stock.base import Side
from tools.demo_parts import box, cut, turned

from . import lathe
from .by_offers import begun
from .lathe import LIBRARY, finding
from .shapes_in_step import lying_drum
from .shapes_in_step import read as step
from .test_turn_mill import TOOLS, on_gannet

MEMO = Memo()
HOLD = InChuck(chuck="chuck-200", grip_mm=28.0, force_per_jaw_n=14000.0, jaw_angle_deg=30.0)
AT = Points(at_mm=((-25.0, 0.0),), top_mm=24.0, diameter_mm=6.8, depth_mm=5.0)
ACROSS_IT = Drill(id="side", tool="t11", aim="+y", on=AT)


@cache
def sleeve():
    """Ø50 x 40, bored 20; flats at 41 across over its last 15, right and left; a cross hole of 6.8
    and one of 6.8 at 45° about its axis, both 12 from the end.
    """
    whole = lying_drum((0, 0, 0), (0, 0, 1), 50, 40)
    flats = [turned(box(20.5, -40, 25, 40, 80, 40), 180 * k, (0, 0, 1), (0, 0, 0)) for k in (0, 1)]
    holes = [
        lying_drum((0, 0, 12), (1, 0, 0), 6.8, 60),
        lying_drum((0, 0, 12), (cos(radians(45)), sin(radians(45)), 0), 6.8, 60),
    ]
    bore = lying_drum((0, 0, -1), (0, 0, 1), 20, 60)
    plan, library = begun(step(cut(whole, *flats, *holes, bore)), "sleeve", MEMO)
    bar = Round(diameter_mm=50.0, low=Side(over_mm=40.0), high=Side(over_mm=1.0))
    here = {"place": "main", "holding": HOLD.model_dump()}
    edits = [
        SetStock(stock=bar),
        Change(on="setup:s1", fields={"machine": "gannet"}),
        Change(on="station:st1", fields=here),
    ]
    return apply(plan, edits), library


def feature(kind, **wanted):
    _, library = sleeve()
    return next(
        each
        for each in library.geometries["sleeve"].features
        if each.kind == kind and all(getattr(each, name) == v for name, v in wanted.items())
    )


def planned(*operations):
    plan, _ = sleeve()
    setup = plan.setups[0].model_copy(update={"operations": operations})
    return plan.model_copy(update={"setups": (setup,), "tools": TOOLS})


def seen_of(*operations):
    plan = planned(*operations)
    return walk(plan, sleeve()[1], MEMO)


def told(*operations):
    return evaluate(planned(*operations), sleeve()[1], MEMO)


def test_a_side_is_seen_with_the_spindle_along_x():
    """What lies at an angle about the spindle comes up by turning back by it; Z goes to X."""
    place = LIBRARY.machines["gannet"].places[0]
    for degrees in (0.0, 45.0, 90.0, 180.0, -120.0):
        side = np.array([cos(radians(degrees)), sin(radians(degrees)), 0.0])
        way = index.way(place, side)
        assert way.rotation @ side == pytest.approx([0.0, 0.0, 1.0], abs=1e-12)
        assert way.rotation @ [0.0, 0.0, 1.0] == pytest.approx([1.0, 0.0, 0.0], abs=1e-12)
        assert np.linalg.det(way.rotation) == pytest.approx(1.0)
        assert index.words({"C1": way.to[0][1]}) == f"C1={degrees:g}"
    assert index.way(place, np.array([0.0, 0.6, 0.8])) is None  # it leans from the spindle
    assert ACROSS @ turn_about("z", -90.0) @ [0.0, 1.0, 0.0] == pytest.approx([0.0, 0.0, 1.0])


def test_what_is_cut_from_beside_is_where_it_was_meant():
    """A hole 5 deep from the skin at 25 and one at 45° that the part has: by their volumes."""
    square, slanted = feature("hole", diameter_mm=6.8), feature("slanted", shape="hole")
    ops = seen_of(
        Drill(id="square", tool="t11", aim="+x", on=OnFeatures(ids=(square.id,))),
        Drill(id="slanted", tool="t11", aim=slanted.id, on=OnFeatures(ids=(slanted.id,))),
    ).operations()
    assert index.words(index.angles(ops[1], 0)) in ("C1=45", "C1=-135")
    for op in ops:
        assert op.work_problem is None and op.unknown == {}
        gone = volume(op.before.solid) - volume(op.after.solid)
        assert gone > 0.9 * np.pi * 3.4**2 * 14.0  # the wall from 10 to 25, round on its outside
        assert not [key for key in op.figures if op.figures[key].value < 0]


def test_its_ways_are_those_of_the_slides():
    """What its path takes of each slide: X out, Y beside, Z along, by hand."""
    plan = on_gannet(lathe.FACE, ACROSS_IT)
    op = walk(plan, LIBRARY, lathe.MEMO).operations()[1]
    low, high = op.path.bounds()
    gauge = op.loaded.stick_out_mm + op.holder.length_mm
    figures = {name: figure.value for name, figure in op.figures.items()}
    assert figures["travel_x"] == pytest.approx(260.0 - float(high[2]) - gauge)
    assert figures["travel_y"] == pytest.approx(50.0)
    assert figures["travel_z"] == pytest.approx(780.0 - (-25.0 - _back_of_the_jaws(op)))
    beside = AT.model_copy(update={"at_mm": ((-25.0, 12.0),)})
    aside = on_gannet(lathe.FACE, ACROSS_IT.model_copy(update={"on": beside}))
    moved = walk(aside, LIBRARY, lathe.MEMO).operations()[1]
    assert moved.figures["travel_y"].value == pytest.approx(38.0)
    assert low[0] == high[0] == -25.0


def _back_of_the_jaws(op):
    return min(jaw.bottom for jaw in op.station.stand.beside)


def test_the_grip_stands_a_push_from_beside():
    """The thrust comes from behind at the hole; the farther out of the jaws, the more it tips."""
    op = walk(on_gannet(lathe.FACE, ACROSS_IT), LIBRARY, lathe.MEMO).operations()[1]
    thrust, pull = op.seen.held.loads
    assert thrust.axis == pytest.approx([0.0, 1.0, 0.0], abs=1e-9)
    assert thrust.places[:, 2] == pytest.approx(-25.0) and pull.axial_n > 0.0 > thrust.axial_n
    near = ACROSS_IT.model_copy(
        update={"on": AT.model_copy(update={"at_mm": ((-55.0, 0.0),)}), "id": "near"}
    )
    nearer = walk(on_gannet(lathe.FACE, near), LIBRARY, lathe.MEMO).operations()[1]
    far, close = (each.figures["holding"].value for each in (op, nearer))
    assert close > 1.5 * far
    # tipped about the grip: what jaws stand falls with the lever from its middle, 51 and 21
    assert close / far == pytest.approx(51.0 / 21.0, rel=0.35)


def test_jaws_stand_in_the_way_from_beside():
    """20 behind the front of the jaws a hole goes into one of them, unless it comes between."""
    into = AT.model_copy(update={"at_mm": ((-75.0, 0.0),)})
    held = lathe.CHUCK.model_copy(update={"jaw_angle_deg": 90.0})
    for angle, meets in ((90.0, True), (30.0, False)):
        plan = on_gannet(lathe.FACE, ACROSS_IT.model_copy(update={"on": into}))
        jaw = {"holding": held.model_copy(update={"jaw_angle_deg": angle}).model_dump()}
        plan = apply(plan, [Change(on="station:st1", fields=jaw)])
        found = {f.id for f in lathe.answer(plan).findings if f.operation == "side"}
        assert ("hold.jaw-in-cut" in found) == meets, angle
        assert "hold.jaw-angle" not in found


def test_the_zero_goes_round_with_the_work():
    """All sides of a spindle's work keep one offset, and nobody measures the centre of its axis."""
    facts = seen_of(_flat(), ACROSS_IT)
    station = facts.stations[0]
    assert len(index.sides(station)) == 2
    assert codes_of(station) == ["G54"] and len([*offsets_of(facts)]) == 1
    assert not index.turning_axes(station)


def _flat():
    on = OnFeatures(ids=(feature("pocket", opens="+x").id,))
    return RoughPocket(id="flat", tool="t12", aim="+x", on=on, step_down_mm=2.0, step_over_mm=4.0)


def test_flats_of_a_sleeve_are_milled_by_index():
    """What two flats take away from the bar, by the segment of a circle."""
    rough, left = _flat(), feature("pocket", opens="-x").id
    fields = {"id": "other", "aim": "-x", "on": OnFeatures(ids=(left,))}
    other = rough.model_copy(update=fields)
    ops = seen_of(rough, other).operations()
    gone = volume(ops[0].before.solid) - volume(ops[1].after.solid)
    half = np.arccos(20.5 / 25.0)
    segment = 25.0**2 * (half - sin(half) * cos(half))
    assert gone == pytest.approx(2 * 15.0 * segment + 2 * 1.0 * segment, rel=0.08)
    assert index.words(index.angles(ops[1], 0)) == "C1=180"
    result = told(rough, other)
    assert not [f for f in result.findings if f.severity == "stop"]
    assert result.figures["other.index_time"].value == pytest.approx(180 / 200 + 0.8)


def test_a_tool_is_driven_along_or_across_and_not_both():
    along = Drill(
        id="along",
        tool="t11",
        on=Points(at_mm=((0.0, 19.0),), top_mm=0.0, diameter_mm=6.8, depth_mm=5.0),
    )
    both = on_gannet(lathe.FACE, along, ACROSS_IT)
    found = finding(both, "travel.tool-unit")
    assert found.operation == "side" and "across the spindle here" in in_words(found)
    mended = apply(both, list(found.fixes[0].edits))
    assert "travel.tool-unit" not in lathe.ids(mended)
    tools = {op.id: op.tool for op in mended.setups[0].operations}
    assert tools["along"] == "t11" != tools["side"]
    assert "travel.tool-unit" not in lathe.ids(on_gannet(lathe.FACE, ACROSS_IT))


def test_what_driven_tools_could_cut_is_offered_before_it_is_parted_off():
    plan, library = sleeve()
    facts = walk(plan, library, MEMO)
    fresh = (f"o{k}" for k in count()).__next__
    found = offers(facts.stations[0], facts, fresh)
    named = [(each.group, each.label) for each in found]
    pocket = next(k for k, (group, _) in enumerate(named) if "Right side, C1=0: Open" in group)
    off = next(k for k, (_, label) in enumerate(named) if label == "Part off")
    assert pocket < off
    assert any("slanted by 45°" in group and "C1=" in group for group, _ in named)
    taken = apply(plan, list(found[pocket].edits))
    assert taken.setups[0].operations[-1].aim == "+x"
    plover = apply(plan, [Change(on="setup:s1", fields={"machine": "plover"})])
    still = walk(plover, library, MEMO)
    assert not any("C1" in each.group for each in offers(still.stations[0], still, fresh))


def test_a_lathe_without_driven_tools_says_so():
    upright = on_gannet(lathe.FACE, ACROSS_IT)
    plan = apply(upright, [Change(on="tool:t11", fields={"carrier": "lower"})])
    side = next(op for op in lathe.answer(plan).setups[0].operations if op.id == "side")
    assert "not driven tools" in side.answers["cut"].reason


def test_a_side_is_turned_on_by_an_angle():
    """45° on from the right side is where the slanted hole looks; −30° about X on the 4th axis of a
    machine that turns about X, by hand.
    """
    slanted = feature("slanted", shape="hole")
    ops = seen_of(
        Drill(id="typed", tool="t11", aim="+x 45 z", on=AT),
        Drill(id="named", tool="t11", aim=slanted.id, on=OnFeatures(ids=(slanted.id,))),
    ).operations()
    station = ops[0].station
    assert index.turns_on_about(station) == "z"
    assert index.aim_words(station, "+x 45 z") == "right side turned on by 45°"
    assert index.words(index.angles(ops[0], 0)) == "C1=45"
    way = index.towards(station, "+x 45 z")
    assert np.abs(way @ slanted.direction) == pytest.approx(1.0, abs=1e-6)
    assert index.towards(station, "+y -30 x") == pytest.approx([0.0, cos(radians(30)), -0.5])
    askew = next(iter(seen_of(Drill(id="no", tool="t11", aim="+x 30 y", on=AT)).operations()))
    assert index.way_to(station, "+x 30 y") is None and askew.unknown["travel"]


@pytest.mark.parametrize(
    "aim", ["+x 30", "+x 30 w", "+x 1000 z", "+z 30 z", "up 30 z", "+x 30.0001 z"]
)
def test_an_aim_that_says_nothing_is_refused(aim):
    with pytest.raises(ValidationError, match="aim"):
        Drill(id="side", tool="t11", aim=aim, on=AT)


def test_what_is_turned_has_no_side():
    with pytest.raises(ValidationError, match="what is turned has no side"):
        TurnFace(id="face", tool="t1", aim="+x")


def test_what_is_typed_across_is_drawn_in_the_cut_s_own_frame():
    """A seat 16 along the spindle, 10 across and 3 deep from the skin of Ø50, 12 to 28 behind the
    end: its volume less what the round lies under its top, and none of the bar's end.
    """
    on = Rectangle(x_mm=-20.0, y_mm=0.0, length_mm=16.0, width_mm=10.0, top_mm=25.0, depth_mm=3.0)
    seat = RoughPocket(
        id="seat",
        tool="t12",
        aim="+y",
        on=on,
        step_down_mm=1.0,
        step_over_mm=4.0,
        leave_mm=0.0,
        leave_floor_mm=0.0,
    )
    op = walk(on_gannet(lathe.FACE, seat), LIBRARY, lathe.MEMO).operations()[1]
    round_off = 2.5 * (25.0**2 - 5.0**2) ** 0.5 + 25.0**2 / 2.0 * np.arcsin(5.0 / 25.0)
    under = 2 * (25.0 * 5.0 - round_off)
    left_over = (4.0 - np.pi) * 4.0**2 * 2.9  # the corners that its Ø8 does not come into
    gone = volume(op.before.solid) - volume(op.after.solid)
    assert gone == pytest.approx(16.0 * (10.0 * 3.0 - under) - left_over, rel=0.02)
    across = op.after.seen_in(op.station.lie).solid  # from the front a spot of 1 at its middle
    spot = bar(0.0, 24.5, 0.4, -27.0, -13.0)
    assert volume(spot - across) == pytest.approx(volume(spot), rel=1e-6)
    assert volume(spot - op.station.arrives.solid) == pytest.approx(0.0, abs=1e-6)
