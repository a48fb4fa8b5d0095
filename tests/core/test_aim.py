"""Another side of a held part, turned to the tool by the machine's axes; by hand."""

from __future__ import annotations

import math

import numpy as np
import pytest

from machining.ask import QUESTIONS
from machining.facts.route import walk
from machining.findings.finding import in_words
from machining.geometry.solids import volume
from machining.memo import Memo
from machining.placing.zero import aimed
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


def test_a_side_lies_round_the_same_zero():
    lie = walk(planned(), LIBRARY, MEMO).stations[0].lie
    turned = aimed(lie, "+x")
    zero = lie.pose.inverse().apply(np.zeros(3))
    assert turned.pose.apply(zero) == pytest.approx([0.0, 0.0, 0.0], abs=1e-12)
    assert turned.part_high[2] == pytest.approx(lie.part_high[0])
    assert turned.stock_low[2] == pytest.approx(lie.stock_low[0])
    straight = aimed(lie, "+z")
    assert straight.pose.rotation == pytest.approx(lie.pose.rotation)
    assert straight.stock_high == pytest.approx(lie.stock_high)


def test_what_is_not_looked_at_of_a_turned_side_says_so():
    seen = answer(planned(aim="+x"))
    told = result(seen, "side").answers
    for question in ("hold", "reach", "travel"):
        assert told[question].state in ("unknown", "stop")  # a drill too short is told all the same
    assert "turn to the tool" in told["hold"].reason
    assert told["cut"].state in ("fine", "look")
    assert not seen.ready


def test_it_waits_for_its_side_and_for_the_way_back():
    """Twice 90 degrees at 120 a second, and twice the clamp of 1.2 s."""
    tilts, turns = rig("petrel").place.rotaries
    seen = answer(planned(aim="+x"))
    waits = 2 * 90.0 / tilts.speed_deg_s + 2 * tilts.clamp_s
    assert seen.figures["side.index_time"].value == pytest.approx(waits)
    assert (tilts.speed_deg_s, tilts.clamp_s, turns.speed_deg_s) == (120.0, 1.2, 180.0)
    assert waits == pytest.approx(3.9)
    side = result(seen, "side")
    assert side.time_s - side.cutting_s - side.moving_s == pytest.approx(0.0)
    assert side.moving_s > waits


def test_a_table_that_turns_about_y_brings_its_sides_round():
    """A quarter turn of B at 90 a second each way, and twice its clamp of 1.5 s; the far side of
    the table a half turn.
    """
    for aim, turn in (("+x", 90.0), ("-x", 90.0), ("-z", 180.0)):
        face = FACE.model_copy(update={"aim": aim})
        seen = answer(on_machine(plan_of(setups=(setup(face),)), "curlew"))
        waits = 2 * turn / 90.0 + 2 * 1.5
        assert seen.figures["face.index_time"].value == pytest.approx(waits), aim


def test_turning_first_may_take_longer_than_tilting():
    """Petrel raises −Y by tilting alone; for +Y it turns 180 at 180 a second first, which takes
    longer than 90 at 120.
    """
    for aim, waits in (("-y", 2 * 90 / 120 + 2.4), ("+y", 2 * 180 / 180 + 2.4)):
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
