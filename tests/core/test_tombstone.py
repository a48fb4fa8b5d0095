"""Parts on the faces of a tombstone, and sides turned to the tool: offsets, travel, what is met and
what goes round, against points and solids carried by hand.
"""

from __future__ import annotations

import json
from dataclasses import replace
from itertools import count
from math import cos, hypot, radians, sin

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from machining.evaluation import to_plain
from machining.exchange.offset_block import from_g10, to_g10
from machining.exchange.offset_table import table
from machining.facts.offsets import offsets_of
from machining.facts.route import walk
from machining.facts.swing import swings
from machining.findings.finding import in_words
from machining.memo import Memo
from machining.placing.rotary import within_reach
from machining.plan.apply import apply
from machining.plan.at import Faces
from machining.plan.edit import Change
from machining.ways.loads import load_of
from machining.ways.offers import offers
from machining.ways.trade import use_machine
from machining.world.machine import Table, Tombstone
from shop.demo import manifold, ring

from .build import (
    LIBRARY,
    MEMO,
    after_fix,
    answer,
    changed,
    finding,
    good,
    ids,
    result,
    with_part,
)
from .test_aim import turning_s

TALL, OUT, BELOW = 600.0, 130.0, 330.0  # of Curlew's tombstone, and how far its table lies down
MIDDLE = np.array([-315.0, -280.0, -700.0])
SIDES = {"c40": "-x", "c60": "+x"}


def planned(**at):
    return changed(manifold.draft(), "station:st1", at={**FACES, **at})


FACES = manifold.STATION.at.model_dump(mode="json")


def about_y(points, degrees):
    """By hand: a table's turn by so much carries +X towards +Z, the spindle."""
    c, s = cos(radians(degrees)), sin(radians(degrees))
    x, y, z = np.moveaxis(np.asarray(points, float), -1, 0)
    return np.stack([c * x - s * z, y, s * x + c * z], axis=-1)


def by_hand(station, position):
    """Where the zero of a position is with the table at 0: from the middle of Y and its axis."""
    at = station.planned.at
    face = (at.face_of[position] - 1) * 90.0
    x, y = at.spots[position]
    low, high = station.lie.stock_low, station.lie.stock_high
    seat = LIBRARY.holdings["vise-60-slim"]
    up = OUT + seat.bed_height_mm + seat.jaw_height_mm - 8.0 - low[2]
    level = TALL / 2.0 - BELOW
    on_face = [x - (low[0] + high[0]) / 2.0, y + level - (low[1] + high[1]) / 2.0, up]
    return about_y(on_face, -face), face


@given(
    st.lists(st.sampled_from([1, 2, 3, 4]), min_size=1, max_size=4, unique=True),
    st.floats(-60.0, 60.0),
    st.floats(-50.0, 50.0),
    st.floats(70.0, 90.0),
)
def test_property_offsets_of_a_tombstone_are_points_carried_round(faces, x, y, pitch):
    of = planned(faces=faces, rows=2, at_mm=(x, y), row_pitch_mm=pitch)
    facts = walk(of, LIBRARY, MEMO)
    [station] = facts.stations
    aims = {None: 0.0, "-x": -90.0, "+x": 90.0}
    seen = [*offsets_of(facts)]
    assert len(seen) == 3 * station.planned.positions
    for each in seen:
        stands, face = by_hand(station, each.position - 1)
        there = about_y(stands, face + aims[each.side]) + MIDDLE
        assert each.at == pytest.approx(there, abs=1e-9)
        assert (each.angles["b"] - face - aims[each.side]) % 360.0 == pytest.approx(0.0)


def test_each_side_of_each_face_keeps_a_zero_of_its_own_unless_the_control_carries_it():
    lines = table(offsets_of(walk(manifold.draft(), LIBRARY, MEMO)))
    codes = {}
    for line in lines:
        codes.setdefault((line.side, line.values["b"] % 360.0), set()).add(line.code)
    assert len(codes) == 12 and all(len(each) == 1 for each in codes.values())
    assert len(set.union(*codes.values())) == 12
    curlew = LIBRARY.machines["curlew"].model_copy(update={"carries_zero": True})
    carries = replace(LIBRARY, machines={**LIBRARY.machines, "curlew": curlew})
    alone = table(offsets_of(walk(manifold.draft(), carries, Memo())))
    assert {line.code for line in alone} == {"G54"} and {line.side for line in alone} == {""}
    few = LIBRARY.machines["curlew"].model_copy(update={"work_offsets": ("G54", "G55")})
    library = replace(LIBRARY, machines={**LIBRARY.machines, "curlew": few})
    found = finding(manifold.draft(), "route.offset-unknown", library)
    assert "keeps 12 zeros" in in_words(found) and "has 2 there" in in_words(found)


def test_the_block_of_offsets_gives_the_table_back_with_its_angles():
    lines = table(offsets_of(walk(manifold.draft(), LIBRARY, MEMO)))
    read = from_g10(to_g10(lines, "metric"))
    first = {line.code: line for line in reversed(lines)}
    assert read.keys() == first.keys()
    for code, line in first.items():
        assert read[code] == pytest.approx(line.values, abs=5e-4)
    assert {round(each["b"]) for each in read.values()} == {-90, 0, 90, 180}


def test_travel_is_that_of_the_points_at_their_index():
    facts = walk(manifold.draft(), LIBRARY, MEMO)
    [station] = facts.stations
    for op in facts.ready():
        low, high = op.path.bounds()
        farthest, tips = np.zeros(2), []
        for position in range(24):
            stands, face = by_hand(station, position)
            side = {None: 0.0, "-x": -90.0, "+x": 90.0}[op.operation.aim]
            zero = about_y(stands, face + side)
            farthest = np.maximum(farthest, np.abs(np.stack([low, high]) + zero).max(axis=0)[:2])
            tips += [zero[2] + low[2], zero[2] + high[2]]
        assert op.value("travel_x") == pytest.approx(315.0 - farthest[0])
        assert op.value("travel_y") == pytest.approx(280.0 - farthest[1])
        gauge = op.loaded.stick_out_mm + op.holder.length_mm
        assert op.value("travel_up") == pytest.approx(700.0 - max(tips) - gauge)
        assert op.value("travel_down") == pytest.approx(min(tips) + gauge - 100.0)


def test_the_demo_goes_and_turns_as_often_as_its_faces_ask():
    """At 90 degrees a second, clamped in 1.5 s each: three quarters; then a quarter on to 360 that
    is 0, and back from there to 90, three quarters in one, before two more.
    """
    seen = answer(changed(manifold.draft(), "plan", quantity=24))
    assert not [f for f in seen.findings if f.severity == "stop"]
    quarter, three = 2.5, 4.5
    assert turning_s(seen, "c10") == pytest.approx(3 * quarter)
    assert turning_s(seen, "c20") == pytest.approx(quarter + three + 2 * quarter)


def test_what_is_answered_of_a_turned_side_is_plain():
    for of in (manifold.draft(), ring.draft()):
        plain = json.loads(json.dumps(to_plain(answer(of))))
        turned = [each["turned"] for each in plain["setups"][0]["operations"] if each["turned"]]
        assert {each["side"] for each in turned} >= {"right side", "left side"}


def test_five_sides_of_the_ring_come_to_the_tool_in_one_holding():
    """A tilts by 90 for each of four sides, C turns it there; the head keeps clear of the table."""
    seen = answer(ring.draft())
    assert not [f for f in seen.findings if f.severity == "stop"] and seen.ready
    at = {op.turned.side: op.turned.index for op in seen.setups[0].operations if op.turned}
    assert at == {
        "right side": "A90 C-90",
        "left side": "A90 C90",
        "back": "A90 C180",
        "front": "A90",
        "": "A0 C0",
    }


@pytest.mark.parametrize("demo", [manifold, ring])
def test_what_opens_to_a_side_is_offered_from_there_in_the_same_holding(demo):
    """The demo's part with its face alone; drilling what is offered first from every side leaves
    no side hole and brings no stop.
    """
    whole = demo.draft()
    setup = whole.setups[0]
    bare = setup.model_copy(update={"operations": setup.operations[:1]})
    of, drilled = whole.model_copy(update={"setups": (bare,)}), set()
    fresh = (f"n{k}" for k in count()).__next__
    for _ in range(6):
        facts = walk(of, LIBRARY, MEMO)
        found = offers(facts.stations[0], facts, fresh)
        sides = [e for e in found if e.label == "Drill" and e.edits[-1].operation.aim]
        if not sides:
            break
        drilled |= set(sides[0].edits[-1].operation.on.ids)
        of = apply(of, list(sides[0].edits))
    opens = {h.id for h in demo.PART.typed if "+z" not in h.opens}
    assert drilled == opens
    assert not [f for f in answer(of).findings if f.severity == "stop"]
    assert [e.group for e in found][-1] == "By hand"


def test_a_second_column_stands_in_the_way_of_what_comes_from_the_side():
    two = planned(columns=2, rows=1, column_pitch_mm=220.0, at_mm=(44.0, 30.0), faces=[1])
    words = [in_words(f) for f in answer(two).findings if f.id == "travel.neighbour"]
    assert words and any("T3" in each or "T4" in each for each in words)


def test_lower_rows_bring_the_head_over_the_table():
    low = planned(at_mm=(0.0, 0.0))
    found = finding(low, "travel.neighbour")
    assert "the spindle’s head over T3" in in_words(found) and "for the table" in in_words(found)


def test_what_goes_round_is_the_farthest_corner():
    """A vise of 200 by 64 with the part between its jaws, on faces 130 out."""
    facts = walk(manifold.draft(), LIBRARY, MEMO)
    [setup], [table_] = facts.setups, [facts.setups[0].stations[0].place]
    [swing] = swings(setup, table_)
    bodies = setup.stations[0].stand.bodies
    corners = [
        hypot(x - 0.0 + 44.0 - _middle(setup), z + _up(setup))
        for body in bodies
        for x in (body.region.bounds[0], body.region.bounds[2])
        for z in (body.bottom, body.top)
    ]
    table_corner = hypot(200.0, 200.0)
    assert swing.axis.name == "B"
    assert swing.radius_mm == pytest.approx(max(*corners, table_corner))


def _middle(setup):
    lie = setup.stations[0].lie
    return float(lie.stock_low[0] + lie.stock_high[0]) / 2.0


def _up(setup):
    station = setup.stations[0]
    return OUT + station.seat_mm - float(station.lie.stock_low[2])


def test_more_than_goes_round_is_a_stop_and_unknown_a_look():
    for swing_mm, severity in ((500.0, "stop"), (0.0, "look")):
        library = with_axis(swing_mm)
        found = finding(manifold.draft(), "travel.swing", library)
        assert found.severity == severity
    assert "travel.swing" not in ids(manifold.draft())


def with_axis(swing_mm):
    table_ = LIBRARY.machines["curlew"].places[0]
    axes = tuple(each.model_copy(update={"swing_mm": swing_mm}) for each in table_.rotaries)
    return with_part("curlew", "places", rotaries=axes)


def test_a_long_tool_is_in_the_way_of_what_goes_round():
    near = with_part("curlew", "places", nose_to_table_max_mm=440.0)
    found = finding(manifold.draft(), "travel.swing", near)
    assert found.severity == "stop" and "goes round" in in_words(found)


def test_a_tool_is_changed_over_what_stands_there():
    """T4 is 155 long and goes 700 up; drawn out by 120, with the nose at 560, its tip is 285 over
    the axis about which 283 goes round, by 130 it is not.
    """
    for draws_out, told in ((120.0, False), (130.0, True)):
        fields = {"change_nose_mm": 560.0, "draws_out_mm": draws_out}
        library = with_part("curlew", "carriers", **fields)
        assert ("travel.tool-change" in ids(manifold.draft(), library)) == told
    found = finding(manifold.draft(), "travel.tool-change", library)
    assert found.operation == "c50" and "7.8" in in_words(found)
    assert not [f for f in answer(manifold.draft()).findings if f.id == "travel.tool-change"]


def test_over_a_plain_table_the_highest_that_stands_there_counts():
    """A vise of 84 with parallels: its jaws, or the part over them."""
    high = with_part("heron", "carriers", change_nose_mm=200.0)
    found = finding(good(), "travel.tool-change", high)
    station = walk(good(), LIBRARY, MEMO).stations[0]
    top = station.seat_mm + float(station.lie.stock_high[2] - station.lie.stock_low[2])
    assert found.values["top"].value == pytest.approx(top)
    assert found.values["body"].value == "part"


def test_a_load_of_so_many_is_put_on_the_faces():
    facts = walk(manifold.draft(), LIBRARY, MEMO)
    [station] = facts.stations
    for parts, faces, rows in ((24, 4, 6), (6, 3, 2), (5, 1, 5), (1, 1, 1)):
        at = load_of(station, parts, facts, MEMO)
        assert (len(at.faces), at.rows, at.columns) == (faces, rows, 1)
        assert len(at.spots) == parts


@pytest.mark.parametrize(
    ("at", "words"),
    [
        ({"on": "none"}, "has no tombstone 'none'"),
        ({"on": "two", "faces": [1, 3]}, "has no face 3"),
        (None, "nobody has said on which"),
    ],
)
def test_what_nobody_knows_it_stands_on_is_not_fine(at, words):
    of = changed(manifold.draft(), "station:st1", at=None if at is None else {**FACES, **at})
    told = result(answer(of), "c10").answers["travel"]
    assert told.state != "fine" and words in told.reason
    found = finding(of, "travel.stands-on")
    assert words in in_words(found) and found.severity == "stop"
    assert "travel.stands-on" not in ids(after_fix(of, found))


def test_a_setup_is_put_on_a_tombstone_with_the_machine_and_comes_off_it():
    edits = use_machine(good().setups[0], LIBRARY.machines["curlew"])
    there = apply(good(), list(edits))
    at = there.setups[0].stations[0].at
    assert isinstance(at, Faces) and (at.on, at.faces) == ("four", (1,))
    assert "travel.stands-on" not in ids(there)
    back = apply(there, list(use_machine(there.setups[0], LIBRARY.machines["heron"])))
    assert back.setups[0].stations[0].at is None
    row = changed(good(), "station:st1", at={"kind": "row", "count": 3, "pitch_mm": 200.0})
    same = use_machine(row.setups[0], LIBRARY.machines["dunlin"])
    assert not any("at" in each.fields for each in same if isinstance(each, Change))


def test_a_face_is_named_once_and_a_table_that_lies_along_turns_about_y():
    with pytest.raises(ValidationError, match="faces have 2 twice"):
        Faces(on="four", faces=(1, 2, 2))
    table_ = LIBRARY.machines["curlew"].places[0].model_dump()
    with pytest.raises(ValidationError, match="must turn about Y"):
        Table.model_validate({**table_, "rotaries": ()})
    with pytest.raises(ValidationError, match="surface_below_mm is empty"):
        Table.model_validate({**table_, "surface_below_mm": None})
    two = (Tombstone.model_validate(table_["tombstones"][0]),) * 2
    with pytest.raises(ValidationError, match="must be used only once"):
        Table.model_validate({**table_, "tombstones": two})


def test_an_angle_is_found_within_the_way_of_an_axis():
    assert within_reach(270.0, -120.0, 120.0) == pytest.approx(-90.0)
    assert within_reach(270.0, 0.0, 360.0) == pytest.approx(270.0)
    assert within_reach(100.0, -30.0, 90.0) is None
