"""Paths of turning tools: where they cut, where they may not, and how long they are."""

from __future__ import annotations

from math import pi, sqrt, tan

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st
from shapely import LineString, Point, Polygon, box

from machining.facts.route import walk
from machining.geometry.contours import (
    contour_of,
    in_shadow,
    inside_of,
    kept_from,
    outside_of,
    spans_at,
    thickest,
    turned_volume,
)
from machining.geometry.solids import half_section, revolved, volume
from machining.memo import Memo
from machining.motion.path import Leg, Path
from machining.motion.paths import turned as paths
from machining.motion.spin import Spin
from machining.motion.timing import Drive, rapid_time
from machining.motion.turned import turned_time
from machining.world.capability import usual_rig

from .lathe import DRILL, FACE, FINISH, GOOD, LIBRARY, OFF, RECESS, ROUGH, THREAD, plan

HOME = (50.0, 30.0)
DRIVE = Drive.of(usual_rig(LIBRARY.machines["plover"]))
QUICK = Spin(4000.0, 1200.0, 0.001)


def cuts(path: Path) -> list[list[tuple[float, float]]]:
    return [
        [(float(r), float(z)) for r, _, z in leg.points] for leg in path.legs if leg.kind == "cut"
    ]


def rapids(path: Path) -> list[LineString]:
    return [
        LineString([(float(r), float(z)) for r, _, z in leg.points])
        for leg in path.legs
        if leg.kind == "rapid"
    ]


def joined_up(path: Path) -> bool:
    return all(
        np.allclose(a.points[-1], b.points[0])
        for a, b in zip(path.legs[:-1], path.legs[1:], strict=True)
    )


# -- each of them


def test_a_face_is_cut_from_outside_to_its_middle_at_each_level():
    path = paths.faced(25.0, -0.4, [0.5, 0.0], 2.0, HOME)
    assert [(way[0], way[-1]) for way in cuts(path)] == [
        ((27.0, 0.5), (-0.4, 0.5)),
        ((27.0, 0.0), (-0.4, 0.0)),
    ]
    assert joined_up(path)


def test_passes_run_to_the_shoulder_and_lift_off():
    stock = box(0, -40, 25, 0).difference(
        inside_of([(15.0, 0.0), (15.0, -30.0), (25.0, -30.0), (25.0, -40.0)])
    )
    path = paths.along(stock, Polygon(), [20.0, 15.0 + 1e-4], True, 0.0, 2.0, HOME)
    for way, radius in zip(cuts(path), (20.0, 15.0), strict=True):
        assert way[0] == pytest.approx((radius, 2.0), abs=1e-3)
        assert way[1] == pytest.approx((radius, -30.0), abs=1e-3)
        assert way[2] == pytest.approx((radius + 0.5, -29.5), abs=1e-3)
    assert joined_up(path)


def test_a_bore_is_opened_outwards_and_left_along_the_spindle():
    wall = box(0, -40, 11, 0).difference(box(0, -40, 10, 0))
    path = paths.along(wall, Polygon(), [10.5, 11.0 - 1e-4], False, 0.0, 2.0, HOME)
    assert [way[0][0] for way in cuts(path)] == pytest.approx([10.5, 11.0], abs=1e-3)
    assert all(way[2][0] < way[1][0] for way in cuts(path))  # lifted towards the axis
    *_, last = rapids(path)
    # out along Z first
    assert last.coords[0][0] < 11.0 and last.coords[1] == pytest.approx((last.coords[0][0], 30.0))


def test_a_groove_is_plunged_and_cleaned_along_its_bottom():
    path = paths.grooved([(-1.5, 25.0), (-4.0, 25.0), (-6.5, 27.0)], 20.0, 2.0, HOME)
    ways = cuts(path)
    assert [way[0] for way in ways[:3]] == [(27.0, -1.5), (27.0, -4.0), (29.0, -6.5)]
    assert ways[3][1:] == [(20.0, -1.5), (20.0, -6.5)]
    single = paths.grooved([(-1.5, 25.0)], 20.0, 2.0, HOME)
    assert len(cuts(single)) == 1
    assert joined_up(path) and joined_up(single)


def test_a_ring_is_plunged_along_the_spindle():
    ways = cuts(paths.grooved_in_face(0.0, -2.0, [18.5, 16.0], 2.0, HOME))
    assert ways[0] == [(18.5, 2.0), (18.5, -2.0)] and ways[2] == [
        (18.5, 2.0),
        (18.5, -2.0),
        (16.0, -2.0),
    ]


def test_a_thread_runs_its_length_at_every_infeed():
    path = paths.threaded(15.0, [0.4, 0.6, 0.6], 3.0, -20.0, 0.0, 2.0, HOME)
    assert cuts(path) == [
        [(14.6, 3.0), (14.6, -20.0)],
        [(14.4, 3.0), (14.4, -20.0)],
        [(14.4, 3.0), (14.4, -20.0)],
    ]
    pulled = cuts(paths.threaded(15.0, [0.6], 3.0, -20.0, 1.5, 2.0, HOME))
    assert pulled == [[(14.4, 3.0), (14.4, -18.5), (15.0, -20.0)]]
    away = cuts(paths.threaded(15.0, [0.6], -23.0, 1.5, 1.5, 2.0, HOME))
    assert away == [[(14.4, -23.0), (14.4, 0.0), (15.0, 1.5)]]


def test_a_contour_is_followed_as_often_as_asked():
    corners = [(15.0, 0.0), (15.0, -20.0), (24.0, -20.0)]
    path = paths.contoured(corners, 2, True, 24.0, 2.0, HOME)
    assert cuts(path) == [[(15.0, 2.0), *corners]] * 2
    assert joined_up(path)


# -- in a plan


@pytest.mark.parametrize("operation", [ROUGH, FINISH, RECESS, OFF])
def test_rapids_keep_out_of_what_stands(operation):
    """No move at rapid passes through stock: on the way to the first cut as it is, afterwards less
    what this operation takes.
    """
    before = {
        "finish": (FACE, ROUGH),
        "recess": (FACE, ROUGH, FINISH),
        "off": (FACE, ROUGH, FINISH, DRILL),
    }.get(operation.id, (FACE,))
    op = walk(plan(*before, operation), LIBRARY, Memo()).operations()[-1]
    standing = op.before.half_section().buffer(-0.01)
    cut = False
    for leg in op.path.legs:
        cut = cut or leg.kind == "cut"
        if leg.kind == "rapid":
            move = LineString([(float(r), float(z)) for r, _, z in leg.points])
            left = standing.difference(op.work.turned.buffer(0.02)) if cut else standing
            assert move.intersection(left).length < 0.05, list(move.coords)
    assert cut


def test_the_section_kept_in_the_plane_is_the_solid_s():
    for op in walk(plan(*GOOD), LIBRARY, Memo()).operations():
        if op.turns:
            again = half_section(op.after.solid)
            assert op.after.half_section().symmetric_difference(again).area < 0.05, op.operation.id
            assert turned_volume(again) == pytest.approx(volume(op.after.solid), rel=2e-3)


def test_threads_take_their_passes_times_their_length():
    op = walk(plan(*GOOD), LIBRARY, Memo()).operations()[4]
    assert op.operation is THREAD or op.operation.id == "thread"
    run = op.value("run_in")
    way = 22.0 + run + 1.5
    assert op.time.cutting_s == pytest.approx(7 * 60 * way / (1.5 * op.value("rpm")), rel=1e-6)


# -- geometry and time in general


@st.composite
def contours(draw):
    """Stepped and coned contours of two to six corners, from the free end down."""
    z, corners = 0.0, []
    for _ in range(draw(st.integers(2, 6))):
        corners.append((draw(st.floats(3.0, 30.0)), z))
        z -= draw(st.floats(1.0, 15.0))
    return corners


@given(contours())
def test_any_contour_is_read_back_from_its_solid(corners):
    body = inside_of(corners)
    again = half_section(revolved(body))
    assert again.symmetric_difference(body).area < 0.02 * body.area
    assert turned_volume(body) == pytest.approx(
        sum(
            pi / 3 * (za - zb) * (ra * ra + ra * rb + rb * rb)
            for (ra, za), (rb, zb) in zip(corners[:-1], corners[1:], strict=True)
        ),
        rel=1e-9,
    )


@given(contours(), st.floats(0.0, 1.0), st.floats(0.0, 1.0))
def test_an_allowance_only_adds(corners, radial, axial):
    body, thicker = inside_of(corners), kept_from(corners, True, radial, axial)
    assert body.difference(thicker).area < 1e-6
    assert (
        thickest(thicker.difference(body))
        <= sqrt(2)
        * (radial + axial)
        * (
            1
            + max(
                abs((a[0] - b[0]) / (a[1] - b[1]))
                for a, b in zip(corners[:-1], corners[1:], strict=True)
            )
        )
        + 0.02
    )


@given(contours(), st.floats(0.0, 80.0), st.floats(0.0, 80.0))
def test_a_steeper_tool_leaves_less_behind(corners, one, other):
    assume(abs(one - other) > 1.0)
    body = inside_of(corners)
    flat, steep = sorted((one, other))
    assert (
        in_shadow(body, True, steep).difference(in_shadow(body, True, flat).buffer(1e-6)).area
        < 1e-3
    )
    assert in_shadow(body, True, flat).intersection(body.buffer(-1e-6)).area < 1e-6


def test_a_bore_s_shadow_lies_behind_its_narrow_mouth():
    wall = outside_of([(12.0, 0.0), (12.0, -10.0), (20.0, -10.0), (20.0, -30.0)])
    assert in_shadow(wall, False, 0.0).area == pytest.approx(8 * 20)
    wedge = in_shadow(wall, False, 45.0)
    assert (
        wedge.area == pytest.approx(8 * 8 / 2, rel=1e-6)
        and wedge.distance(Point(12.5, -10.2)) < 1e-9
    )


def test_spans_are_found_from_the_free_end():
    ring = box(10, -5, 12, 0).union(box(10, -20, 12, -15))
    assert spans_at(ring, 11.0) == [(0.0, -5.0), (-20.0 + 5.0, -20.0)]
    assert spans_at(ring, 13.0) == []


def test_the_contour_of_a_cone_keeps_its_two_corners():
    assert contour_of(inside_of([(10.0, 0.0), (20.0, -30.0)])) == [
        pytest.approx((10.0, 0.0), abs=1e-3),
        pytest.approx((20.0, -30.0), abs=1e-3),
    ]


def test_time_counts_feeds_by_the_spindle_and_rapids_by_the_drive():
    path = Path(
        (
            Leg("rapid", np.array([[50.0, 0, 30], [20, 0, 2]])),
            Leg("cut", np.array([[20.0, 0, 2], [20, 0, -48], [30, 0, -48]])),
        )
    )
    kept = turned_time(path, 150.0, 0.2, 3000.0, DRIVE, QUICK)
    straight = 60 * 50 * pi * 40 / (1000 * 150 * 0.2)
    across = 60 * pi * (30**2 - 20**2) / (1000 * 150 * 0.2)
    assert kept.cutting_s == pytest.approx(straight + across)
    assert kept.rapid_s == pytest.approx(
        rapid_time(path.legs[0].points[0], path.legs[0].points[1], DRIVE)
    )
    fixed = turned_time(path, None, 0.2, 1000.0, DRIVE, QUICK)
    assert fixed.cutting_s == pytest.approx(60 * 60 / 200) and fixed.sideways_mm == pytest.approx(
        60.0
    )
    assert tan(0.0) == 0.0
