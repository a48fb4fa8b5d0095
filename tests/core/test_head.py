"""A head that tilts over a table; by hand and against the motions themselves."""

from __future__ import annotations

import json
from dataclasses import replace
from datetime import date

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from machining.ask import QUESTIONS
from machining.facts import head, index
from machining.facts.offsets import all_codes, offsets_of
from machining.facts.route import walk
from machining.findings.finding import in_words
from machining.memo import Memo
from machining.plan.at import Row
from machining.world.library import Library
from machining.world.machine import Obstacle, SpindleNose, Table
from machining.world.rotary_axis import RotaryAxis

from .build import (
    FACE,
    LIBRARY,
    MEMO,
    after_fix,
    answer,
    changed,
    finding,
    ids,
    plan,
    result,
    rig,
    with_part,
)
from .build import setup as setup_of
from .test_aim import ON_END, SIDE, planned
from .test_sheet import sheets_of

PIVOT = 180.0
B = RotaryAxis(
    name="B",
    about="y",
    carries="tool",
    low_deg=-100.0,
    high_deg=100.0,
    speed_deg_s=60.0,
    clamp_s=1.0,
    pivot_mm=PIVOT,
)
A = B.model_copy(update={"name": "A", "about": "x"})
C = RotaryAxis(name="C", about="z", speed_deg_s=90.0, clamp_s=1.5, swing_mm=900.0)


def tilting(*rotaries: RotaryAxis, plane: bool = True) -> Library:
    """Heron with a head that tilts, and a control that knows of it."""
    machine = LIBRARY.machines["heron"]
    table = machine.places[0].model_copy(update={"rotaries": rotaries})
    told = machine.model_copy(update={"places": (table,), "tilted_plane": plane})
    return replace(LIBRARY, machines={**LIBRARY.machines, "heron": told})


def turned(about: str, deg: float) -> np.ndarray:
    """A right-handed turn about an axis, as anybody writes it."""
    c, s = np.cos(np.radians(deg)), np.sin(np.radians(deg))
    i, j = {"x": (1, 2), "y": (2, 0), "z": (0, 1)}[about]
    made = np.eye(3)
    made[i, i] = made[j, j] = c
    made[j, i], made[i, j] = s, -s
    return made


@given(st.floats(-1, 1), st.floats(-1, 1), st.floats(0.0, 1), st.sampled_from([A, B]))
def test_work_and_tool_come_together_whatever_turns_which(x, y, z, tilts):
    side = np.array([x, y, z])
    if np.linalg.norm(side) < 0.1:
        return
    side /= np.linalg.norm(side)
    table = tilting(tilts, C).machines["heron"].places[0]
    found = index.ways(table, side)
    assert len(found) == 2
    for each in found:
        (_, turn), (_, tilt) = each.to
        tool = turned(tilts.about, tilt) @ [0.0, 0.0, 1.0]
        assert turned("z", turn) @ side == pytest.approx(tool, abs=1e-9)
        assert each.rotation @ side == pytest.approx([0.0, 0.0, 1.0], abs=1e-9)
        assert each.of_work_rotation == pytest.approx(turned("z", turn), abs=1e-9)


@pytest.mark.parametrize("aim", ["+x", "+z 37 y", "+z -21.5 y"])
def test_room_of_the_slides_is_that_of_the_pivot(aim):
    """Every tip of the path carried back by the tilt, and from there along the tool to the pivot;
    the slide is where the spindle's end were, the head put upright under it.
    """
    of = planned("heron", aim=aim) if aim == "+x" else plan(FACE.model_copy(update={"aim": aim}))
    library = tilting(B)
    op = walk(of, library, MEMO).operations()[-1]
    axis, deg = head.tilt_of(op)
    assert axis.name == "B"
    tool = turned("y", deg) @ [0.0, 0.0, 1.0]
    assert tool == pytest.approx(index.side_of(op), abs=1e-9)
    station, table = op.station, rig("heron", library).place
    from_zero = np.vstack([leg.points for leg in op.path.legs]) @ turned("y", deg).T
    tips = from_zero + station.on_place(np.zeros(3), 0)
    gauge = op.loaded.stick_out_mm + op.holder.length_mm
    slide = tips + (gauge + PIVOT) * tool - [0.0, 0.0, PIVOT]
    travel = rig("heron", library).carrier.travel
    spare = {
        "travel_x": travel.x / 2.0 - abs(slide[:, 0]).max(),
        "travel_y": travel.y / 2.0 - abs(slide[:, 1]).max(),
        "travel_up": table.nose_to_table_max_mm - slide[:, 2].max(),
        "travel_down": slide[:, 2].min() - table.nose_to_table_min_mm,
    }
    for name, room in spare.items():
        assert op.figures[name].value == pytest.approx(room, abs=1e-6), name


def test_level_the_spindle_stands_a_pivot_lower_than_its_hole():
    """By hand: at B90 the pivot is as high as the hole, and the slide PIVOT under that."""
    [op] = [
        o for o in walk(planned("heron", aim="+x"), tilting(B), MEMO).operations() if o.id == "side"
    ]
    high = op.station.on_place(np.array([0.0, 0.0, op.station.lie.part_low[2] + 10.0]), 0)[2]
    lowest = rig("heron").place.nose_to_table_min_mm
    assert op.figures["travel_down"].value == pytest.approx(high - PIVOT - lowest, abs=1e-6)


def test_it_takes_the_metal_and_the_time_of_a_side():
    side = walk(planned("heron", aim="+x"), tilting(B), Memo()).operations()[1]
    own = plan(setups=(setup_of(FACE), setup_of(SIDE, id="s2", **{**ON_END, "machine": "heron"})))
    own = own.model_copy(update={"part": planned("heron").part})
    alone = walk(own, LIBRARY, Memo()).operations()[1]
    taken = [each.before.volume() - each.after.volume() for each in (side, alone)]
    assert taken[0] == pytest.approx(taken[1], rel=1e-9)
    assert side.figures["index_time"].value == pytest.approx(90.0 / 60.0 + 1.0)


def test_a_head_that_lies_down_meets_what_stands_there():
    """The spindle's end, made wider than its hole is high over the table."""
    found = finding(planned("heron", aim="+x"), "travel.neighbour", tilting(B))
    assert found.severity == "stop" and "fixed jaw" in in_words(found)
    library = tilting(B)
    [spindle] = library.machines["heron"].spindles
    wide = spindle.nose[0].model_copy(update={"diameter_mm": 700.0, "above_mm": 0.0})
    library = with_part("heron", "spindles", library, nose=(wide,))
    op = walk(planned("heron", aim="+x"), library, MEMO).operations()[1]
    assert (op.meets.who, op.meets.body) == ("head", "table")
    # the table's end, and how far the spindle's end goes past it with the tip at its deepest
    tip = float(op.path.bounds()[0][2] + op.station.on_place(np.zeros(3), 0)[0])
    nose = tip + op.loaded.stick_out_mm + op.holder.length_mm
    past = rig("heron", library).place.x_mm / 2.0 + LIBRARY.settings.below_margin_mm - nose
    assert op.meets.low_mm == pytest.approx(past)


def test_a_head_leaves_offsets_alone_and_a_turn_of_the_table_does_not():
    ends = [FACE.model_copy(update={"id": a, "aim": a}) for a in ("+x", "+z 30 y", "+y", "-y")]
    station = walk(plan(*ends), tilting(B, C), MEMO).stations[0]
    assert [*index.sides(station)] == ["+x", "+z 30 y", "+y", "-y"]
    offsets = [*offsets_of(walk(plan(*ends), tilting(B, C), MEMO))]
    assert [each.side for each in offsets] == [None, "+y", "-y"]
    assert [each.angles for each in offsets] == [{"c": 0.0}, {"c": -90.0}, {"c": 90.0}]
    assert all_codes(station) == ["G54", "G55", "G56"]
    middle = np.array(rig("heron").place.middle)
    first, second = (np.array(each.at) - middle for each in offsets[:2])
    # a quarter turn about the middle of the table
    assert second == pytest.approx(turned("z", -90.0) @ first, abs=1e-9)


def test_a_row_is_cut_from_a_side_at_every_position():
    row = Row(count=3, pitch_mm=150.0)
    of = plan(setups=(setup_of(FACE.model_copy(update={"aim": "+z 30 y"}), at=row),))
    [op] = walk(of, tilting(B), MEMO).operations()
    alone = walk(changed(of, "station:st1", at=None), tilting(B), MEMO).operations()[0]
    assert len({*map(tuple, index.origins(op).round(6))}) == 3
    spare = op.figures["travel_x"].value, alone.figures["travel_x"].value
    assert spare[0] < spare[1] or row.along == "y"
    assert op.figures["travel_up"].value == pytest.approx(alone.figures["travel_up"].value)


def test_a_control_that_turns_no_plane_is_a_stop():
    of = planned("heron", aim="+x")
    plain, knows = tilting(B, plane=False), tilting(B)
    found = finding(of, "route.tilted-plane", plain)
    assert found.severity == "stop" and "B90" in in_words(found)
    assert "route.tilted-plane" not in ids(of, knows)
    labels = [fix.label for fix in found.fixes]
    assert labels[0] == "Cut it from the side that is up"
    assert "route.tilted-plane" not in ids(after_fix(of, found, 0), plain)
    elsewhere = after_fix(of, found, 1)
    assert isinstance(rig(elsewhere.setups[0].machine).place, Table)
    assert elsewhere.setups[0].machine != "heron"
    assert "route.tilted-plane" not in ids(elsewhere, plain)


def test_a_side_out_of_its_reach_is_told_of_the_head():
    below, behind = (
        in_words(finding(plan(FACE.model_copy(update={"aim": aim})), "travel.aim", tilting(B)))
        for aim in ("-z", "+y")
    )
    assert "tilts from -100" in below and "tilts its head with B" in behind


def test_its_pivot_grows_old():
    day = LIBRARY.settings.centre_days
    library = replace(tilting(B), today=date(2026, 11, 2))
    found = finding(planned("heron", aim="+x"), "route.centre-old", library)
    assert day > 0 and "where a tip goes" in in_words(found)
    assert "route.centre-old" not in ids(planned("heron"), library)


def test_the_sheet_says_which_way_it_tilts_and_that_its_plane_does():
    of, library = planned("heron", aim="+x"), tilting(B)
    assert result(answer(of, library), "side").turned.askew
    said = str(sheets_of(of, library))
    assert "B90 tilts it to the right side" in said and "in the plane that is tilted so" in said


def test_what_the_slide_takes_past_the_column_counts_and_not_where_the_tip_is():
    """By hand: tilted to the front the spindle stands gauge and pivot before the tip, and the jaw
    behind the part that much deeper in the column.
    """
    of = plan(FACE.model_copy(update={"aim": "-y"}))
    [op] = walk(of, tilting(A), MEMO).operations()
    jaw = max(body.region.bounds[3] for body in op.station.stand.of("jaw"))
    assert head.tilt_of(op)[1] == 90.0
    tips = np.vstack([leg.points for leg in op.path.legs]) @ turned("x", 90.0).T
    behind = jaw - float(tips[:, 1].min()) + op.gauge_mm + PIVOT
    room = LIBRARY.settings.side_margin_mm
    for short, meets in ((0.5, True), (-0.5, False)):
        stands = Obstacle(name="column", towards="y+", from_mm=behind + room - short, wide_mm=900.0)
        library = tilting(A)
        has = library.machines["heron"].model_copy(update={"obstacles": (stands,)})
        library = replace(library, machines={**library.machines, "heron": has})
        assert ("travel.column" in ids(of, library)) == meets


def test_load_shows_what_runs_out_as_the_answer_does():
    far = plan(
        setups=(
            setup_of(FACE.model_copy(update={"aim": "+z 40 y"}), at=Row(count=2, pitch_mm=350.0)),
        )
    )
    [op] = walk(far, tilting(B), MEMO).operations()
    load = QUESTIONS["load"](far, tilting(B), MEMO, setup="s1")
    out = max(spot["out_mm"] for each in json.loads(load)["stations"] for spot in each["spots"])
    over = -min(op.figures[name].value for name in ("travel_x", "travel_y"))
    assert over > 0.0 and out == pytest.approx(over, abs=1e-3)


def test_an_axis_without_a_clamp_is_told():
    loose = B.model_copy(update={"clamp_s": 0.0})
    told = [
        result(answer(planned("heron", aim="+x"), tilting(each)), "side").turned
        for each in (B, loose)
    ]
    assert [each.loose for each in told] == ["", "B"]
    assert "B not clamped" in str(sheets_of(planned("heron", aim="+x"), tilting(loose)))


@pytest.mark.parametrize(
    ("fields", "words"),
    [
        ({"about": "z"}, "it must be x or y"),
        ({"pivot_mm": 0.0}, "it must be over 0"),
        ({"swing_mm": 300.0}, "swing_mm is 300; it must be 0"),
        ({"carries": "work"}, "pivot_mm is 180; it must be 0"),
    ],
)
def test_an_axis_that_can_not_be_is_refused(fields, words):
    with pytest.raises(ValidationError, match=words):
        RotaryAxis.model_validate({**B.model_dump(), **fields})


def test_a_head_beside_a_table_that_tilts_is_refused():
    tilts = C.model_copy(update={"name": "T", "about": "x"})
    table = LIBRARY.machines["heron"].places[0]
    assert isinstance(table, Table)
    with pytest.raises(ValidationError, match="about of T is 'x'"):
        Table.model_validate({**table.model_dump(), "rotaries": [B, tilts]})
    with pytest.raises(ValidationError, match="it must be 'work'"):
        SpindleNose(spindle="main", swing_mm=200.0, rotaries=(B,))
