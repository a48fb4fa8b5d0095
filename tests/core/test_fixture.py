"""A part in the shop's own fixture: what a file has of it, where the part lies in it, what it
touches there and what is refused.
"""

from __future__ import annotations

from dataclasses import replace
from math import pi

import pytest
from OCP.BRepAlgoAPI import BRepAlgoAPI_Cut
from pydantic import ValidationError

from machining.evaluation import to_plain
from machining.facts import hold
from machining.facts.held import located_by
from machining.facts.route import walk
from machining.plan.apply import apply
from machining.plan.trade import Hold
from machining.quantities.errors import OutOfRange
from machining.sheet.holding import words_of
from machining.ways.trade import meaning
from machining.world.fixture import Fixture, Locator, Seat
from machining.world.fixture_read import found_in
from machining.world.geometry import from_examined
from machining.world.part import Part
from machining.world.stock.shaped import Shaped
from tools.demo_parts import box

from .build import DRILL, FACE, MEMO, POCKET, after_fix, answer, changed, finding, ids, plan
from .fixtures import THREADS, fixture, found, library, put_in
from .shapes_in_step import fused, lying_drum, read

LIBRARY = library()
LEFT, BACK, SEAT = -44.0, 33.0, 26.0  # of the fixture: its stops, and how high its rails are
WIDE, DEEP = 84.0, 54.0  # of the blank


def station(of, own=LIBRARY):
    return walk(of, own, MEMO).setups[0].first


def touched(of, own=LIBRARY):
    facts = walk(of, own, MEMO)
    contacts = hold.as_it_comes(facts.setups[0].first, facts)
    assert contacts is not None, facts.setups[0].first.unknown
    return contacts


def problem(of, own=LIBRARY):
    return str(next(iter(station(of, own).unknown.values())))


# -- what a file has


def test_its_body_is_told_in_upright_pieces_that_leave_nothing_out():
    there = found()
    assert there.size == (180.0, 120.0, 34.0)
    volume = sum(each.region.area * (each.high_mm - each.low_mm) for each in there.blocks)
    solid = 180 * 120 * 20 + 2 * 12 * 80 * 6 + 2 * 12 * 8 * 6 + 8 * 12 * 14
    holes = 4 * pi * 2.5**2 * 16.0
    assert volume == pytest.approx(solid - holes, rel=2e-4)


def test_level_faces_upright_faces_and_tapping_holes_can_be_picked():
    there = found()
    assert {each.high_mm for each in there.seats} == {20.0, 26.0, 32.0, 34.0}
    plate = next(each for each in there.seats if each.high_mm == 20.0)
    rails = 2 * 12 * 80 + 8 * 12
    assert plate.region.area == pytest.approx(180 * 120 - rails - 4 * pi * 2.5**2, rel=1e-3)
    stop = next(
        e for e in there.locators if e.side == "-x" and e.at_mm[0] == LEFT and e.low_mm > 20
    )
    assert (stop.low_mm, stop.high_mm, stop.at_mm[1], stop.to_mm[1]) == (26.0, 34.0, -6.0, 6.0)
    assert [(each.at_mm, each.size_mm, each.high_mm) for each in there.threads] == [
        (at, 6.0, 20.0) for at in THREADS
    ]


def test_a_bore_is_no_thread():
    bored = read_with_holes((5.0, 50.0), (60.0, 0.0), (8.0, -50.0), (6.85, -75.0))
    sizes = [each.size_mm for each in found_in(from_examined("bored", bored)).threads]
    assert sorted(sizes) == [6.0, 8.0, 8.0]  # drilled for M6, drawn as M8, drilled for M8


def read_with_holes(*holes):
    shape = box(-90, -50, 0, 180, 100, 30)
    for diameter, x in holes:
        shape = BRepAlgoAPI_Cut(shape, lying_drum((x, 0, 5), (0, 0, 1), diameter, 40)).Shape()
    return read(shape)


def test_a_round_that_stands_up_is_a_pin_and_a_ball_is_no_fixture():
    pinned = fused(box(-40, -30, 0, 80, 60, 10), lying_drum((-25.0, 0, 10), (0, 0, 1), 8.0, 12.0))
    pin = next(e for e in found_in(from_examined("p", read(pinned))).locators if e.diameter_mm)
    assert (pin.side, pin.at_mm, pin.diameter_mm) == ("-x", (-25.0, 0.0), 8.0)
    assert (pin.low_mm, pin.high_mm) == (10.0, 22.0)
    lying = lying_drum((-20.0, 0.0, 0.0), (1, 0, 0), 20.0, 40.0)
    with pytest.raises(OutOfRange, match="faces that look up"):
        found_in(from_examined("drum", read(lying)))


@pytest.mark.parametrize(
    ("kind", "fields", "said"),
    [
        (Seat, {"outline": ((0, 0), (5, 5), (5, 0), (0, 5)), "high_mm": 3.0}, "crosses itself"),
        (
            Locator,
            {"side": "-x", "at_mm": (0, 0), "to_mm": (1, 9), "low_mm": 0, "high_mm": 5},
            "must be 0",
        ),
        (
            Locator,
            {"side": "-x", "at_mm": (0, 0), "to_mm": (0, 9), "low_mm": 5, "high_mm": 5},
            "over low_mm",
        ),
    ],
)
def test_what_is_no_seat_or_locator_is_refused(kind, fields, said):
    with pytest.raises(ValidationError, match=said):
        kind(id="a", **fields)


def test_a_fixture_needs_a_body_and_a_seat():
    plain = fixture().model_dump()
    for name in ("blocks", "seats"):
        with pytest.raises(ValidationError, match=name):
            Fixture(**{**plain, name: ()})


# -- where the part lies


def test_it_is_pushed_against_its_stops_and_its_straps_stand_on_its_threads():
    """The blank's left and back on the stops: so its middle is half of it away from them."""
    held = put_in(POCKET).setups[0].stations[0].holding
    assert (held.x_mm, held.y_mm) == pytest.approx((LEFT + WIDE / 2.0, BACK - DEEP / 2.0))
    assert held.hangs_mm == 0.0
    seen = station(put_in(POCKET))
    assert seen.seat_mm == SEAT
    x, y = (seen.lie.stock_low[:2] + seen.lie.stock_high[:2]) / 2.0
    studs = [each.region.centroid for each in seen.stand.of("heel")[1::2]]
    there = [(round(s.x - x + held.x_mm, 3), round(s.y - y + held.y_mm, 3)) for s in studs]
    assert sorted(there) == sorted(THREADS)


def test_it_lies_on_its_seats_and_against_its_locators():
    contacts = touched(put_in(POCKET))
    bodies = {each.body for each in contacts.every}
    assert {"seat 1", "seat 2", "locator 1", "locator 2", "locator 3"} <= bodies
    seats = [each for each in contacts.every if each.body.startswith("seat")]
    assert {each.normal for each in seats} == {(0.0, 0.0, 1.0)}
    assert not located_by(contacts).free
    assert not {"hold.not-located", "hold.over-located", "hold.not-seated"} & ids(
        put_in(POCKET), LIBRARY
    )


def test_pulled_off_its_stops_it_can_slide_and_is_pushed_back():
    """Where its studs go anywhere: else they would stand beside its threads then."""
    plain = fixture().model_copy(update={"threads": ()})
    own, of = library(plain), put_in(POCKET, own=plain)
    off = changed(of, "station:st1", holding__x_mm=3.0)
    found = finding(off, "hold.not-located", own)
    assert found.fixes[0].label == "Push it against the locators of {base}"
    back = after_fix(off, found)
    assert back.setups[0].stations[0].holding.x_mm == pytest.approx(LEFT + WIDE / 2.0)
    assert "hold.not-located" not in ids(back, own)


def test_a_part_in_its_body_or_a_stud_beside_its_threads_is_refused():
    inside = changed(put_in(POCKET), "station:st1", holding__x_mm=-6.0)
    assert "in its body" in problem(inside)
    held = put_in(POCKET).setups[0].stations[0].holding
    moved = held.clamps[0].model_copy(update={"at_mm": held.clamps[0].at_mm + 4.0})
    clamps = [each.model_dump(mode="json") for each in (moved, *held.clamps[1:])]
    beside = changed(put_in(POCKET), "station:st1", holding__clamps=clamps)
    assert "at one of its threads of 6" in problem(beside)
    assert "raised_mm" in problem(changed(put_in(POCKET), "station:st1", holding__raised_mm=5.0))


def test_what_reaches_below_its_seats_hangs_between_the_rails():
    """A block with a foot 4 deep under its middle."""
    foot = fused(box(-40, -25, 4, 80, 50, 16), box(-20, -10, 0, 30, 20, 4))
    known = replace(LIBRARY, geometries={"foot": from_examined("foot", read(foot))})
    of = plan(FACE, part=Part(geometry="foot"), stock=Shaped(geometry="foot"))
    of = apply(of, list(meaning(Hold(station="st1", item="own"), of, known, MEMO)))
    assert of.setups[0].stations[0].holding.hangs_mm == pytest.approx(4.0)
    assert station(of, known).seat_mm == SEAT - 4.0
    seats = [e for e in touched(of, known).every if e.body.startswith("seat")]
    bottom = float(station(of, known).lie.stock_low[2])
    assert [each.at[2] for each in seats] == [pytest.approx(bottom + 4.0)] * 8


def test_a_round_pin_stops_it_where_it_touches():
    pin = Locator(
        id="pin",
        side="-x",
        at_mm=(-47.0, 10.0),
        to_mm=(-47.0, 10.0),
        diameter_mm=8.0,
        low_mm=20.0,
        high_mm=36.0,
    )
    own = fixture()
    pinned = own.model_copy(update={"locators": (pin, *own.locators[1:])})
    of = put_in(POCKET, own=pinned)
    assert of.setups[0].stations[0].holding.x_mm == pytest.approx(-43.0 + WIDE / 2.0, abs=0.01)
    at = [e for e in touched(of, library(pinned)).every if e.body == "locator 1"]
    assert at and all(each.normal == (1.0, 0.0, 0.0) for each in at)


# -- what is checked there


def test_a_drill_through_the_part_meets_a_rail_under_it():
    deep = DRILL.model_copy(update={"past_mm": 10.0, "id": "deep"})
    assert "hold.below" in ids(put_in(deep), LIBRARY)
    told = answer(put_in(deep), LIBRARY).findings
    assert "Lay it on parallels {high} high" not in {
        fix.label for each in told for fix in each.fixes
    }


def test_the_sheet_says_how_it_is_put_in():
    of = put_in(POCKET)
    told = to_plain(answer(of, LIBRARY))["setups"][0]["stations"][0]
    words = words_of(of.setups[0], of.setups[0].stations[0], LIBRARY, told)
    assert words.seat.text == "on the seats of Rail fixture"
    said = " ".join(step.text for step in words.steps)
    assert "Wipe seats and locators of Rail fixture" in said
    assert "Push it against its 3 locators." in said
