"""What was measured of a machine once, and what hangs on it: how its spindle stands, where its axes
turn, where the jaws of a chuck are.
"""

from __future__ import annotations

from dataclasses import replace
from datetime import date, timedelta

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError
from shapely import box

from machining.cutting.lean import ridge
from machining.evaluate import evaluate
from machining.facts.index import turning_axes
from machining.facts.route import walk
from machining.findings.finding import in_words
from machining.motion.paths.areas import raster
from machining.plan.places import Points
from machining.world.library import Library
from machining.world.trued import Tram
from shop.demo import manifold, ring

from . import lathe
from .build import FACE, LIBRARY, MEMO, after_fix, changed, finding, good, ids, on_machine, plan

DAY = date(2031, 5, 20)


# -- a spindle that leans


@given(
    st.floats(1e-5, 5e-3),
    st.floats(20.0, 120.0),
    st.floats(0.2, 0.9),
    st.sampled_from([True, False]),
)
def test_property_a_ridge_is_what_leaning_circles_leave(slope, diameter, share, along):
    """Five passes a step apart; every place is as low as the lowest tip that came by."""
    radius, step = diameter / 2.0, share * diameter
    across = np.linspace(-step / 2.0, step / 2.0, 2001)
    lowest = np.full_like(across, np.inf)
    for k in range(-2, 3):
        off = across - k * step
        reached = np.abs(off) <= radius
        half = np.sqrt(np.maximum(radius**2 - off**2, 0.0))
        height = -slope * half if along else -slope * off
        lowest = np.where(reached, np.minimum(lowest, height), lowest)
    left = ridge(slope, diameter, step, along)
    if along:
        assert np.ptp(lowest) == pytest.approx(left, rel=1e-3)
    else:  # each lies lower than the one before it: a saw tooth, by what one step is
        assert np.abs(np.diff(lowest)).max() == pytest.approx(left, rel=2e-3)


def test_by_hand():
    """0.02 in 200 is 0.0001 on each mm; 35 of 50 across."""
    assert ridge(1e-4, 50.0, 35.0, False) == pytest.approx(0.0035)
    assert ridge(1e-4, 50.0, 35.0, True) == pytest.approx(1e-4 * (25.0 - 17.8536), rel=1e-4)


def test_a_reading_that_no_indicator_has_is_refused():
    with pytest.raises(ValidationError, match="at most 2, a hundredth of over_mm"):
        Tram(high_mm=3.0, over_mm=200.0, towards="x+")


@pytest.mark.parametrize(
    ("towards", "first", "axis"),
    [("", 1, 0), ("x+", 1, 0), ("x-", -1, 0), ("y+", 1, 1), ("y-", -1, 1)],
)
def test_passes_run_as_they_are_asked_to(towards, first, axis):
    path = raster(box(-40.0, -20.0, 40.0, 20.0), 10.0, 14.0, [0.0], 2.0, 20.0, True, towards)
    cuts = [leg.points for leg in path.legs if leg.kind == "cut"]
    for points in cuts:
        way = points[-1] - points[0]
        assert np.sign(way[axis]) == first and abs(way[1 - axis]) < 1e-9


def across_the_lean():
    """Dunlin leans along X; the blank, 84 long, is faced along Y in two passes."""
    return changed(on_machine(good(), "dunlin"), "operation:face", towards="y+", step_over_mm=42.0)


def test_a_face_across_the_lean_shows_steps_until_it_runs_along_it():
    of = across_the_lean()
    found = finding(of, "size.tram")
    assert found.severity == "look"
    assert found.values["step"].value == pytest.approx(42.0 * 0.02 / 200.0)
    assert "size.tram" not in ids(changed(of, "operation:face", step_over_mm=41.0))  # 28 apart
    assert "leans 0.02" in in_words(found) and "lower at X+" in in_words(found)
    fixed = after_fix(of, found)
    assert fixed.setups[0].operation("face").towards == "x+"
    assert "size.tram" not in ids(fixed)
    assert "size.tram" not in ids(after_fix(of, found, 1))  # half the step, half of it left
    assert "size.tram" not in ids(changed(of, "operation:face", leave_mm=0.3))
    assert "size.tram" not in ids(changed(good(), "operation:face", towards="y+"))  # on Heron


def test_one_pass_over_all_of_it_is_out_of_true_and_one_over_nothing_is_silent():
    wide = changed(across_the_lean(), "operation:face", towards="y+", step_over_mm=90.0)
    said = in_words(finding(wide, "size.tram"))
    assert "the one pass of this face leaves it" in said
    flush = changed(wide, "plan", **{"stock.z_high.over_mm": 0.0})
    assert "size.tram" not in ids(flush)


def test_the_last_reading_counts():
    dunlin = LIBRARY.machines["dunlin"]
    true = Tram(high_mm=0.002, over_mm=200.0, towards="x+", read_on=DAY)
    again = dunlin.model_copy(update={"tram": (*dunlin.tram, true)})
    mended = replace(LIBRARY, machines={**LIBRARY.machines, "dunlin": again})
    assert "size.tram" not in ids(across_the_lean(), mended)


# -- a centre of rotation


def measured(days: int | None, machine: str) -> Library:
    """Today, with all axes of a machine measured so many days ago."""
    record = LIBRARY.machines[machine]
    day = None if days is None else DAY - timedelta(days=days)
    [table] = record.places
    axes = tuple(each.model_copy(update={"centre_on": day}) for each in table.rotaries)
    moved = record.model_copy(update={"places": (table.model_copy(update={"rotaries": axes}),)})
    return replace(LIBRARY, machines={**LIBRARY.machines, machine: moved}, today=DAY)


@pytest.mark.parametrize(
    ("days", "said"), [(None, "Nobody has said when"), (180, ""), (181, "181 days ago")]
)
def test_a_centre_that_sides_hang_on_is_measured_now_and_then(days, said):
    seen = evaluate(manifold.draft(), measured(days, "curlew"), MEMO)
    told = [in_words(f) for f in seen.open if f.id == "route.centre-old"]
    assert [said in each for each in told] == ([True] if said else [])


def test_each_axis_that_turns_is_asked_and_none_that_does_not():
    [station] = walk(ring.draft(), LIBRARY, MEMO).stations
    assert {each.name for each in turning_axes(station)} == {"A", "C"}
    assert not turning_axes(walk(on_machine(good(), "petrel"), LIBRARY, MEMO).stations[0])
    about = {f.about for f in evaluate(ring.draft(), measured(400, "petrel"), MEMO).open}
    assert {"A", "C"} <= about


def test_a_day_makes_another_library_only_where_something_grows_old():
    tomorrow = DAY + timedelta(days=1)
    young = replace(LIBRARY, today=DAY)
    assert young.key == replace(LIBRARY, today=tomorrow).key == LIBRARY.key
    old = measured(5, "curlew")
    assert replace(old, today=tomorrow).key != old.key


# -- the jaws of a chuck


def beside_the_axis(x: float):
    hole = lathe.DRILL.model_copy(
        update={"on": Points(at_mm=((x, 0.0),), diameter_mm=6.8, depth_mm=10.0)}
    )
    return lathe.plan(lathe.FACE, hole)


def test_where_jaws_stand_matters_to_what_does_not_go_round():
    assert "hold.jaw-angle" not in lathe.ids(beside_the_axis(0.0))
    of = beside_the_axis(9.0)
    [found] = [f for f in lathe.answer(of).findings if f.id == "hold.jaw-angle"]
    fixed = after_fix(of, found)
    assert fixed.stations[0].in_chuck.jaw_angle_deg == 0.0
    assert "hold.jaw-angle" not in lathe.ids(fixed)


def test_a_machine_that_nobody_measured_says_nothing():
    assert LIBRARY.machines["heron"].leans is None
    assert "size.tram" not in ids(plan(FACE))
