"""Another side of a held part, turned to the tool by the machine's axes; by hand."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import pytest

from machining.ask import QUESTIONS
from machining.facts import index
from machining.facts.route import walk
from machining.findings.finding import in_words
from machining.geometry.solids import volume
from machining.memo import Memo
from machining.plan.apply import apply
from machining.plan.document import Orientation
from machining.plan.edit import Change
from machining.plan.operation import Drill, Face
from machining.plan.places import OnFeatures
from machining.world.feature import Hole

from .build import (
    FACE,
    LIBRARY,
    MEMO,
    PART,
    after_fix,
    answer,
    changed,
    finding,
    ids,
    on_machine,
    result,
    rig,
    setup,
)
from .build import plan as plan_of

CROSS = Hole(
    id="cross",
    point=(-40.0, 10.0, 10.0),
    axis="+x",
    diameter_mm=6.8,
    length_mm=80.0,
    through=True,
    opens=("+x", "-x"),
)
ON_END = {"takes": "st1", "orientation": Orientation(up="+x"), "machine": "petrel"}
SIDE = Drill(id="side", tool="t4", on=OnFeatures(ids=("cross",)), peck_mm=7.0)


def turning_s(seen, op):
    turned = result(seen, op).turned
    return turned.seconds if turned is not None else 0.0


def planned(machine: str = "petrel", **fields):
    part = PART.model_copy(update={"typed": (CROSS,)})
    side = SIDE.model_copy(update=fields)
    return on_machine(plan_of(part=part, setups=(setup(FACE, side),)), machine)


def test_a_hole_that_opens_to_the_side_is_offered_to_be_turned_to_the_tool():
    found = finding(planned(), "reach.not-in-this-setup")
    labels = [fix.label for fix in found.fixes]
    assert labels[:2] == ["Turn the part's {side} to the tool"] * 2
    turned = after_fix(planned(), found, 0)
    assert turned.setups[0].operation("side").aim == "+x"
    assert "reach.not-in-this-setup" not in ids(turned)
    plain = finding(planned("heron"), "reach.not-in-this-setup")
    assert not any("Turn the part" in fix.label for fix in plain.fixes)


def test_it_takes_what_a_setup_of_its_own_would_and_the_next_one_sees_it():
    one_side = planned(aim="+x")
    facts = walk(one_side, LIBRARY, Memo())
    face, side = facts.operations()
    removed = side.before.volume() - side.after.volume()
    own = one_side.model_copy(update={"setups": (setup(FACE), setup(SIDE, id="s2", **ON_END))})
    alone = walk(own, LIBRARY, Memo()).operations()[1]
    assert removed == pytest.approx(alone.before.volume() - alone.after.volume(), rel=1e-9)
    # from the part's end to 2 beyond the other: 80 and what the point needs
    assert math.pi / 4.0 * 6.8**2 * 80.0 < removed < math.pi / 4.0 * 6.8**2 * 84.0
    assert side.lie.pose.rotation[2] == pytest.approx([1.0, 0.0, 0.0])
    back = side.after.seen_in(face.lie)
    assert back.volume() == pytest.approx(side.after.volume(), rel=1e-9)
    low, high = back.bounds()
    assert low == pytest.approx(face.after.bounds()[0], abs=1e-6)
    assert high == pytest.approx(face.after.bounds()[1], abs=1e-6)


def test_what_a_side_in_the_same_holding_saves_is_a_setup_by_hand():
    """One side more: loading one part once, papers of one setup."""
    figures, settings = answer(planned(aim="+x")).figures, LIBRARY.settings
    assert figures["s1.sides_hand"].value == figures["s1.put_in"].value == 15 + 10 + 10 + 20
    assert figures["s1.sides_build"].value == pytest.approx(settings.setup_s)
    assert "s1.sides_hand" not in answer(planned()).figures
    assert "s1.sides_hand" not in answer(planned("heron", aim="+x")).figures


def test_the_other_way_two_axes_could_go_is_said():
    """By hand: Petrel brings the right end up with A90 and C90, or with A−90, where A ends at −30;
    a table that tilts both ways could do either. One axis alone has one way.
    """

    def other(machine, side="+x", **low):
        [station] = walk(planned(machine), LIBRARY, MEMO).stations
        if low:
            tilt, turn = station.place.rotaries
            axes = (tilt.model_copy(update=low), turn)
            station = replace(station, place=station.place.model_copy(update={"rotaries": axes}))
        return index.other_way(station, side)

    assert other("petrel") == "A-90 C90 is out of reach: A goes from -30° to 110°"
    assert other("petrel", low_deg=-110.0) == "A-90 C90 would do it too"
    assert other("curlew") == "" == other("heron")


def test_a_side_lies_round_the_same_zero():
    station = walk(planned(), LIBRARY, MEMO).stations[0]
    lie = station.lie
    turned = index.turned_lie(station, "+x")
    zero = lie.pose.inverse().apply(np.zeros(3))
    assert turned.pose.apply(zero) == pytest.approx([0.0, 0.0, 0.0], abs=1e-12)
    assert turned.part_high[2] == pytest.approx(lie.part_high[0])
    assert turned.stock_low[2] == pytest.approx(lie.stock_low[0])
    # as Petrel brings it there: turned a quarter by C, then tilted by A
    assert turned.pose.rotation @ [0.0, 0.0, 1.0] == pytest.approx([0.0, 1.0, 0.0])


def test_a_turned_side_is_answered_in_full():
    told = result(answer(planned(aim="+x")), "side").answers
    assert all(told[each].state != "unknown" for each in ("hold", "reach", "travel", "cut"))
    never = result(answer(planned("heron", aim="+x")), "side").answers
    assert "does not come to the tool" in never["hold"].reason


def test_it_waits_for_its_side_and_the_next_one_for_the_way_back():
    """90 degrees at 120 a second and the clamp of 1.2 s; the first operation of the next cycle
    turns back.
    """
    tilts, turns = rig("petrel").place.rotaries
    of = planned(aim="+x")
    seen = answer(changed(of, "plan", quantity=10))
    waits = 90.0 / tilts.speed_deg_s + tilts.clamp_s
    assert seen.figures["side.index_time"].value == pytest.approx(waits)
    assert (tilts.speed_deg_s, tilts.clamp_s, turns.speed_deg_s) == (120.0, 1.2, 180.0)
    assert waits == pytest.approx(1.95)
    once = answer(changed(of, "plan", quantity=1))
    turning = [turning_s(each, op) for each in (seen, once) for op in ("face", "side")]
    assert turning == pytest.approx([waits, waits, 0.0, waits])
    cycles = seen.figures["s1.cycle"].value - once.figures["s1.cycle"].value
    assert cycles == pytest.approx(waits)


def test_a_table_that_turns_about_y_brings_its_sides_round():
    """A quarter turn of B at 90 a second, and its clamp of 1.5 s; the far side of the table a half
    turn.
    """
    for aim, turn in (("+x", 90.0), ("-x", 90.0), ("-z", 180.0)):
        face = FACE.model_copy(update={"aim": aim})
        seen = answer(on_machine(plan_of(setups=(setup(face),)), "curlew"))
        waits = turn / 90.0 + 1.5
        assert seen.figures["face.index_time"].value == pytest.approx(waits), aim


def test_turning_first_may_take_longer_than_tilting():
    """Petrel raises −Y by tilting alone; for +Y it turns 180 at 180 a second first, which takes
    longer than 90 at 120.
    """
    for aim, waits in (("-y", 90 / 120 + 1.2), ("+y", 180 / 180 + 1.2)):
        face = FACE.model_copy(update={"aim": aim})
        seen = answer(on_machine(plan_of(setups=(setup(face),)), "petrel"))
        assert seen.figures["face.index_time"].value == pytest.approx(waits), aim


@pytest.mark.parametrize(
    ("machine", "aim", "words"),
    [
        ("heron", "+x", "turns its work to no other side"),
        ("petrel", "-z", "asks for a tilt of 180"),
        ("curlew", "+y", "turns its work with B"),
    ],
)
def test_a_side_that_does_not_come_to_the_tool_is_a_stop(machine, aim, words):
    face = FACE.model_copy(update={"aim": aim})
    over = on_machine(plan_of(setups=(setup(face),)), machine)
    found = finding(over, "travel.aim")
    assert found.severity == "stop" and words in in_words(found)
    assert after_fix(over, found, 0).setups[0].operation("face").aim is None
    assert "travel.aim" not in ids(after_fix(over, found, 0))


def test_the_side_that_is_up_is_no_other_side():
    same, plain = (answer(planned(aim=aim)) for aim in ("+z", None))
    assert [f.id for f in same.findings] == [f.id for f in plain.findings]
    flat = planned()
    typed = apply(flat, [Change(on="operation:face", fields={"aim": "+z"})])
    assert result(answer(typed), "face").time_s == result(answer(flat), "face").time_s


def test_a_face_of_a_side_meets_the_skin_that_is_there():
    """The right side of the blank is sawn 0.7 over; faced from there, it is met."""
    face = Face(id="end", tool="t1", step_over_mm=35.0, aim="+x")
    of = on_machine(plan_of(setups=(setup(face),)), "petrel")
    of = changed(of, "plan", stock__x_high={"over_mm": 2.0, "tolerance_mm": 0.7})
    end = walk(of, LIBRARY, MEMO).operations()[0]
    assert (end.seen.blank_side, end.seen.blank_over_mm) == ("+x", 0.7)
    assert volume(end.before.solid) - volume(end.after.solid) > 0


def test_the_stock_is_drawn_as_it_stands_at_its_station():
    of = planned(aim="+x")
    side = result(answer(of), "side")
    mesh = QUESTIONS["stock"](of, LIBRARY, MEMO, key=side.stock_key)
    assert mesh[:4] == b"glTF"
    assert side.tool_axis == pytest.approx([1.0, 0.0, 0.0])
    # the tip, at the far end of the hole, in the frame of the stage
    assert side.tool_at[0] < -40.0 and side.tool_at[1] == pytest.approx(10.0)
