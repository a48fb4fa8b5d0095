"""Turned cuts as found: a tip carried through the section of the stock, against closed forms."""

from __future__ import annotations

from itertools import pairwise
from math import pi

import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from shapely import box

from machining.ask import loads_along
from machining.facts.context import Ready
from machining.facts.found_turned import profile_of
from machining.facts.route import walk
from machining.geometry.contours import turned_volume
from machining.memo import Memo
from machining.motion.path import Leg, Path
from machining.plan.operation import Drill
from machining.plan.places import Points
from machining.plan.turned import (
    Groove,
    PartOff,
    Profile,
    TurnFinish,
    TurnGroove,
    TurnRough,
    TurnThread,
)
from machining.removal.turned import blade, corner, sweep
from machining.removal.turned_loads import Turning, found_turned

from .lathe import DRILL, FACE, FINISH, GOOD, LIBRARY, MEMO, ROUGH, figures, plan, result

ROUGHER = LIBRARY.tools["turn-rough-cn12"]
NEAR = 0.03  # a closed form and a path through stock
STEADY = Turning(150.0, 2000.0, 0.25)


def along(*spots: tuple[float, float]) -> Path:
    return Path((Leg("cut", np.array([(r, 0.0, z) for r, z in spots])),))


def at(path: Path, profile, section, turning: Turning = STEADY):
    swept, _ = sweep(path, profile, section)
    return swept, found_turned(swept, np.ones(len(swept.leg), dtype=bool), turning)


def of(*operations) -> list[Ready]:
    return walk(plan(*operations), LIBRARY, MEMO).operations()


# -- closed forms


@pytest.mark.parametrize("deep", [0.5, 3.0, 5.0])
def test_a_turned_step(deep):
    bar, before = box(0.0, -80.0, 25.0, 0.0), 2.0
    swept, found = at(
        along((25.0 - deep, before), (25.0 - deep, -30.0)), corner(ROUGHER, True), bar
    )
    assert found.depth == pytest.approx(deep, rel=NEAR)
    ring = pi * (25.0**2 - (25.0 - deep) ** 2)
    # its edge leans by 5°, so a wedge of the shoulder stays
    assert swept.volume.sum() == pytest.approx(ring * 30.0, rel=NEAR)
    assert found.share_in_cut == pytest.approx(30.0 / (30.0 + before), rel=1e-6)
    feed = 0.25 * 150_000.0 / (2.0 * pi * (25.0 - deep))
    assert found.removal == pytest.approx(ring * feed / 1000.0, rel=NEAR)


def test_an_end_faced_at_a_kept_speed():
    swept, found = at(along((27.0, -1.5), (0.0, -1.5)), corner(ROUGHER, True), box(0, -50, 25, 0))
    assert found.depth == pytest.approx(1.5, rel=NEAR)
    assert swept.volume.sum() == pytest.approx(pi * 25.0**2 * 1.5, rel=1e-6)
    # outside of where the spindle is at its limit the time goes with the square of the radius
    limit = 150_000.0 / (2.0 * pi * 2000.0)
    time = lambda r: (  # noqa: E731
        (r**2 - limit**2) * pi / (150_000.0 * 0.25) + limit / (0.25 * 2000.0)
    )
    assert found.share_in_cut == pytest.approx(time(25.0) / time(27.0), rel=0.01)


@pytest.mark.parametrize("share", [0.25, 0.5, 0.8])
def test_a_groove_widened(share):
    """The second plunge beside the first takes as much of the blade as it is moved by."""
    step, bar = 3.0 * share, box(0.0, -50.0, 25.0, 0.0)
    _, left = sweep(along((27.0, -20.0), (18.0, -20.0)), blade(3.0, -1.5), bar)
    swept, found = at(along((27.0, -20.0 - step), (18.0, -20.0 - step)), blade(3.0, -1.5), left)
    assert found.depth == pytest.approx(step, rel=1e-6)
    assert swept.volume.sum() == pytest.approx(pi * (25.0**2 - 18.0**2) * step, rel=1e-6)


def test_a_bore_opened():
    tube = box(6.0, -40.0, 25.0, 0.0)
    bar = LIBRARY.tools["boring-bar-16"]
    swept, found = at(along((8.0, 2.0), (8.0, -40.0)), corner(bar, False), tube)
    assert found.depth == pytest.approx(2.0, rel=NEAR)
    assert swept.volume.sum() == pytest.approx(pi * (8.0**2 - 6.0**2) * 40.0, rel=NEAR)


def test_a_skin_along_a_cone_is_as_deep_as_it_is_thick():
    skin, slope = 0.4, 0.5
    cone = box(0.0, -20.0, 30.0, 0.0)
    path = along((10.0, 0.0), (20.0, -20.0))
    _, left = sweep(along((10.0 + skin, 0.0), (20.0 + skin, -20.0)), corner(ROUGHER, True), cone)
    _, found = at(path, corner(ROUGHER, True), left)
    assert np.median(found.loads.depth) == pytest.approx(skin / (1.0 + slope**2) ** 0.5, rel=NEAR)


# -- of a plan


def test_a_roughing_is_found_as_it_was_said():
    got = result(plan(FACE, ROUGH), "rough")
    assert (
        got.found_depth_mm == pytest.approx(got.depth_mm, rel=NEAR) and got.found_width_mm is None
    )
    assert got.in_cut_s + got.air_s == pytest.approx(got.cutting_s)
    assert got.in_cut_s > 0.8 * got.cutting_s and got.found_power_kw > 0
    tip, middle = got.found_depth_mm * 0.25 * 130.0, got.found_removal_cm3_min
    assert tip < middle < 1.1 * tip  # metal outside of the tip goes by faster


@pytest.mark.parametrize("kind", [op.id for op in GOOD])
def test_every_turned_cut_says_what_it_met(kind):
    got = result(plan(*GOOD), kind)
    assert 0 < got.in_cut_s <= got.cutting_s and got.air_s >= 0


def test_what_stands_in_a_finish_is_what_it_meets():
    """Roughing that left 1 mm: the force of the finish is that of 1 mm."""
    left = ROUGH.model_copy(update={"leave_mm": 1.0, "leave_face_mm": 0.1})
    usual, more = (
        figures(plan(FACE, ROUGH, FINISH), "finish"),
        figures(plan(FACE, left, FINISH), "finish"),
    )
    share = more["cutting_force"] / usual["cutting_force"]
    assert share == pytest.approx(1.0 / usual.get("found_depth", 0.3), rel=0.15)


def test_power_along_a_turned_way_is_that_of_its_figures():
    import json

    told = json.loads(loads_along(plan(FACE, ROUGH), LIBRARY, MEMO, "rough"))
    assert max(told["power_kw"]) == pytest.approx(figures(plan(FACE, ROUGH))["power"], rel=0.02)
    assert min(told["power_kw"]) == 0.0  # it comes from the air
    assert all(y == 0 for _, y, _ in told["at"])


def test_a_path_of_too_many_moves_is_refused_in_a_sentence():
    fine = TurnGroove(
        id="g", tool="t3", step_mm=0.01, on=Groove(z_mm=-2.0, width_mm=40.0, diameter_mm=30.0)
    )
    got = result(plan(FACE, fine), "g")
    assert "at most 3000" in got.answers["cut"].reason and got.in_cut_s is None


# -- the demo's lathe work


def test_every_operation_of_the_gland_takes_what_its_section_loses(gland_plan):
    """Exactly, since both are regions; a parting tool its own ring, whatever falls off."""
    seen = {}
    for op in walk(*gland_plan, Memo()).operations():
        if isinstance(op.operation, TurnThread):
            continue
        before = op.before.half_section()
        swept, _ = sweep(op.path, profile_of(op), before)
        lost = turned_volume(before) - turned_volume(op.after.half_section())
        if isinstance(op.operation, PartOff):
            lost = pi * (24.0**2 - 11.0**2) * op.tool.insert_width_mm
        seen[op.id] = swept.volume.sum() / lost
    assert len(seen) == 8 and seen == pytest.approx(dict.fromkeys(seen, 1.0), rel=0.001)


# -- any contour


@st.composite
def turned(draw):
    """A contour outside from the free end down, and one of the tools that turn it."""
    z, corners = 0.0, []
    for _ in range(draw(st.integers(2, 5))):
        corners.append((round(z, 2), round(draw(st.floats(12.0, 49.0)), 1)))
        z -= draw(st.floats(2.0, 9.0))
    assume(all(a[0] > b[0] for a, b in pairwise(corners)))
    return tuple(corners), draw(st.sampled_from(["t1", "t2"])), draw(st.floats(0.3, 4.0))


@settings(max_examples=settings().max_examples // 3)
@given(turned())
def test_a_path_takes_what_its_stock_loses_and_nothing_at_rapid(case):
    corners, tool, deep = case
    on = Profile(at_mm=corners)
    for op in of(
        FACE,
        TurnRough(id="r", tool=tool, on=on, depth_mm=round(deep, 2)),
        TurnFinish(id="f", tool="t2", on=on),
    ):
        if not op.path.legs:
            continue
        swept, left = sweep(op.path, corner(op.tool, True), op.before.half_section())
        lost = turned_volume(op.before.half_section()) - turned_volume(op.after.half_section())
        fed = np.array([leg.kind != "rapid" for leg in op.path.legs])[swept.leg]
        assert swept.volume.sum() == pytest.approx(lost, rel=0.01, abs=1.0)
        assert swept.volume[~fed].sum() < 1e-3 * max(lost, 1.0)
        assert op.after.half_section().difference(left.buffer(0.01)).area < 0.02


def test_a_recess_is_entered_at_feed_behind_what_stands_before_it():
    on = Profile(at_mm=((0.0, 40.0), (-10.0, 40.0), (-20.0, 30.0), (-30.0, 30.0), (-30.0, 48.0)))
    _, op = of(FACE, TurnRough(id="r", tool="t2", on=on, depth_mm=1.5))
    inside = [leg for leg in op.path.legs if leg.kind == "cut" and leg.points[-1][0] < 19.0]
    assert inside
    for leg in inside:  # down along the slope its tool follows, never straight into the shoulder
        (r0, _, z0), (r1, _, z1) = leg.points[:2]
        assert (r0 - r1) / (z0 - z1) == pytest.approx(np.tan(np.radians(27.0)), rel=1e-6)


def test_a_bore_of_a_drill_s_own_size_is_all_air():
    on = Points(at_mm=((0.0, 0.0),), diameter_mm=12.0, depth_mm=46.0)
    again = Drill(id="again", tool="t7", on=on)
    _, first, second = of(FACE, DRILL, again)
    assert first.found_turned.share_in_cut > 0.9 and second.found_turned.share_in_cut < 0.01


def test_a_hole_that_is_there_already_leaves_the_stock_it_found():
    """Drilled again, and again with a smaller drill: the very same stock, and nothing is cut."""
    again = DRILL.model_copy(update={"id": "again"})
    less = DRILL.on.model_copy(update={"diameter_mm": DRILL.on.diameter_mm - 1.0})
    smaller = DRILL.model_copy(update={"id": "smaller", "on": less})
    of = plan(FACE, DRILL, again, smaller)
    face, drill, *others = walk(of, LIBRARY, MEMO).ready()
    assert drill.after is not drill.before and face.after is not face.before
    assert [op.after is op.before for op in others] == [True, True]
    assert [op.seen.cut_mm3 for op in others] == [0.0, 0.0]
