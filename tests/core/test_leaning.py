"""A vise that stands at an angle on a sine plate, against solids carried by hand."""

from __future__ import annotations

from math import radians, sin

import numpy as np
import pytest
from shapely import Point, box

from machining.drawing.holding import holding_drawing
from machining.facts.route import walk
from machining.geometry.frames import raising
from machining.geometry.prisms import turned
from machining.plan.document import Orientation
from machining.plan.zero import From

from .build import (
    FACE,
    LIBRARY,
    MEMO,
    VISE,
    after_fix,
    answer,
    changed,
    finding,
    ids,
    plan,
    result,
    setup,
)
from .test_sheet import sheets_of

LEANS = Orientation(raised="+x", raised_deg=20.0, raised_by="vise")
SETTINGS = LIBRARY.settings


def leaning(*operations, orientation=LEANS, **fields):
    return plan(setups=(setup(*operations or (FACE,), orientation=orientation, **fields),))


def station_of(of):
    return walk(of, LIBRARY, MEMO).stations[0]


def test_what_holds_it_leans_as_it_does():
    """Every corner of the upright vise, turned by hand, lies within a piece of the one that leans;
    no piece reaches higher than a corner does.
    """
    upright = station_of(leaning(orientation=Orientation())).stand
    leans = station_of(leaning())
    turn = raising("+x", 20.0)
    zero = station_of(leaning(orientation=Orientation())).lie.pose.origin
    for body in upright.of("jaw"):
        corners = [
            (x, y, z) for x, y in body.region.exterior.coords for z in (body.bottom, body.top)
        ]
        in_part = np.array(corners) - zero
        by_hand = in_part @ turn.T + leans.lie.pose.origin
        pieces = [p for p in leans.stand.bodies if p.name == body.name]
        assert max(p.top for p in pieces) == pytest.approx(by_hand[:, 2].max(), abs=1e-6)
        assert min(p.bottom for p in pieces) == pytest.approx(by_hand[:, 2].min(), abs=1e-6)
        west, east = by_hand[:, 0].min(), by_hand[:, 0].max()
        assert min(p.region.bounds[0] for p in pieces) == pytest.approx(west, abs=1e-6)
        assert max(p.region.bounds[2] for p in pieces) == pytest.approx(east, abs=1e-6)


def test_a_prism_that_leans_lies_in_its_slabs_and_they_are_no_higher_than_it_is_there():
    rng = np.random.default_rng(7)
    region, bottom, top = box(-30.0, -10.0, 50.0, 25.0), -5.0, 40.0
    turn = raising("+x", 25.0) @ raising("-y", 10.0)
    slabs = list(turned((region, bottom, top), turn))
    inside = rng.uniform([-30.0, -10.0, bottom], [50.0, 25.0, top], (4000, 3)) @ turn.T
    highest = dict.fromkeys(range(len(slabs)), -1e9)
    for x, y, z in inside:
        within = [k for k, (r, _, _) in enumerate(slabs) if r.buffer(1e-6).contains(Point(x, y))]
        assert any(slabs[k][1] - 1e-6 <= z <= slabs[k][2] + 1e-6 for k in within)
        for k in within:
            highest[k] = max(highest[k], z)
    lean = np.array(turn[:2, 2])
    assert len(slabs) > 10 and np.hypot(*lean) > 0.1
    middle = len(slabs) // 2
    assert highest[middle] <= slabs[middle][2] + 1e-6
    assert slabs[middle][2] < max(each[2] for each in slabs) - 1.0


def test_how_high_it_stands_is_that_of_its_lowest_edge():
    """By hand: the bed's lower corner at the end that is not raised touches the table, with the
    plate under it.
    """
    of = leaning()
    square, leans = station_of(leaning(orientation=Orientation())), station_of(of)
    turn, [bed] = raising("+x", 20.0), square.stand.of("bed")
    zero = square.lie.pose.origin
    corners = [
        (x, y, bed.bottom - SETTINGS.sine_plate_high_mm) for x, y in bed.region.exterior.coords
    ]
    lowest = ((np.array(corners) - zero) @ turn.T)[:, 2].min()
    low = ((np.array(corners) - zero) @ turn.T).min(axis=0)
    stock_low = leans.lie.stock_low[2] - leans.lie.pose.origin[2]
    assert leans.seat_mm == pytest.approx(stock_low - lowest, abs=1e-6)
    assert low[2] == lowest and leans.seat_mm > square.seat_mm


def test_jaws_hold_it_as_they_do_upright():
    upright, leans = (answer(leaning(orientation=each)) for each in (Orientation(), LEANS))
    for name in ("clamping", "grip_needed"):
        assert leans.figures[f"s1.{name}"].value == pytest.approx(
            upright.figures[f"s1.{name}"].value, rel=1e-9
        ), name
    stack = leans.figures["s1.gauge_stack"].value
    assert stack == pytest.approx(SETTINGS.sine_plate_mm * sin(radians(20.0)))


def test_raised_along_the_jaws_it_rolls_out_of_them_and_a_plate_under_the_vise_does_it():
    along = f"+{VISE.fixed[1]}"
    of = leaning(orientation=Orientation(raised=along, raised_deg=20.0, raised_by="block"))
    found = finding(of, "hold.at-angle")
    at = [fix.label for fix in found.fixes].index("Stand the vise at the angle, on a sine plate")
    put = after_fix(of, found, at)
    assert put.setups[0].stations[0].orientation.raised_by == "vise"
    assert "hold.at-angle" not in ids(put)


@pytest.mark.parametrize("raised", ["+x", "-x", "+y", "-y"])
def test_a_face_is_cut_level_over_jaws_that_lean(raised):
    """What is taken off is what the same face takes off with the part held at the angle by hand."""
    by_vise, by_jaws = (
        Orientation(raised=raised, raised_deg=6.0, raised_by=by) for by in ("vise", "jaws")
    )
    removed = []
    for each in (by_vise, by_jaws):
        op = walk(leaning(orientation=each), LIBRARY, MEMO).operations()[0]
        removed.append(op.before.volume() - op.after.volume())
    assert removed[0] == pytest.approx(removed[1], rel=1e-9) and removed[0] > 0


@pytest.mark.parametrize("axis", ["y", "z"])
def test_a_zero_on_what_leans_is_refused_with_words(axis):
    taken = From(of="jaw" if axis == "y" else "seat")
    of = changed(leaning(), "station:st1", **{f"zero__{axis}": taken.model_dump(mode="json")})
    reason = station_of(of).unknown["travel"]
    assert "leans" in reason


def test_the_setter_is_told_how_the_plate_is_set():
    of = leaning()
    (sheet,) = sheets_of(of)
    said = " ".join(str(each) for each in sheet["loading"])
    assert "Set the sine plate" in said and "85.505" in said
    assert "parallels" in said.lower() or "seat" in said.lower()
    drawing = holding_drawing(station_of(of), walk(of, LIBRARY, MEMO))
    assert "20°" in drawing and "From the front" in drawing


def test_bodies_on_the_stage_are_turned_not_cut_up():
    bodies = answer(leaning()).setups[0].stations[0].bodies
    turns = [each["turn"] for each in bodies]
    assert all(turn is not None for turn in turns) and len(bodies) < 8
    assert np.array(turns[0]).reshape(3, 3) == pytest.approx(raising("+x", 20.0))
    assert all(e["turn"] is None for e in answer(plan(FACE)).setups[0].stations[0].bodies)


def test_travel_is_that_of_where_it_stands():
    """The seat and the tip over it are those of what leans; by hand from the tip of its path."""
    op = walk(leaning(), LIBRARY, MEMO).operations()[0]
    table = op.rig.place
    tip = float(op.path.bounds()[1][2]) - float(op.lie.stock_low[2]) + op.station.seat_mm
    gauge = op.loaded.stick_out_mm + op.holder.length_mm
    room = table.nose_to_table_max_mm - tip - gauge
    assert op.figures["travel_up"].value == pytest.approx(room)
    assert result(answer(leaning()), "face").answers["reach"].state != "unknown"
