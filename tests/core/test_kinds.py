"""Operations that bring their own arithmetic: each against numbers worked out by hand, and what a
wrong tool is told.
"""

from __future__ import annotations

from math import degrees, pi, radians, sin, sqrt, tan

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from machining.cutting import entry, pointed, threads
from machining.evaluation import Evaluation
from machining.motion.paths import rounds
from machining.plan.document import Plan
from machining.plan.operation import (
    BackChamfer,
    Counterbore,
    Countersink,
    MillHole,
    MillThread,
    Operation,
    Spot,
    SpotFace,
)
from machining.plan.places import Lines, OnFeatures, Points
from machining.quantities.errors import OutOfRange

from .build import (
    DRILL,
    FACE,
    LIBRARY,
    TAP,
    TOOLS,
    after_fix,
    answer,
    finding,
    ids,
    plan,
    result,
    tool,
)

MORE = (
    *TOOLS,
    tool(7, "chamfer-8-90"),
    tool(8, "undercut-mill-20-60"),
    tool(9, "engraver-6-60"),
    tool(10, "corner-rounder-10-r2"),
    tool(11, "thread-mill-m8-one"),
    tool(12, "thread-mill-m8-full"),
    tool(13, "spot-10-90"),
    tool(14, "ball-mill-8"),
    tool(15, "chamfer-10-60"),
    tool(16, "end-mill-6-z3"),
    tool(17, "end-mill-10-z3"),
)
HOLES = OnFeatures(ids=("hole0", "hole1"))
AT = Points(at_mm=((0.0, 0.0),), top_mm=0.0, diameter_mm=10.0, depth_mm=20.0, through=True)
EDGE = Lines(at_mm=(((-60.0, 0.0), (60.0, 0.0)),), top_mm=0.0, tool_side="right")


def with_(*operations: Operation, **fields: object) -> Plan:
    return plan(*operations, tools=MORE, **fields)


def figures(of: Evaluation, operation: str) -> dict[str, float]:
    return {
        id.partition(".")[2]: figure.value
        for id, figure in of.figures.items()
        if id.startswith(f"{operation}.")
    }


def worked(operation: Operation, *before: Operation) -> tuple[dict[str, float], Evaluation]:
    found = answer(with_(FACE, *before, operation))
    return figures(found, operation.id), found


# -- cones


def test_a_countersink_goes_as_deep_as_its_mouth_asks():
    got, found = worked(Countersink(id="k", tool="t13", on=HOLES, mouth_diameter_mm=9.0), DRILL)
    assert got["cone_depth"] == pytest.approx(4.5)  # 90°: as deep as half the mouth
    assert got["cutting_speed"] == pytest.approx(pi * 9.0 * got["rpm"] / 1000.0)
    # from Ø 6.8 to Ø 9.0 over the hole: a frustum less the bar already gone
    h = (9.0 - 6.8) / 2.0
    ring = pi * h / 3.0 * (4.5**2 + 4.5 * 3.4 + 3.4**2) - pi * 3.4**2 * h
    assert result(found, "k").removed_mm3 == pytest.approx(2 * ring, rel=0.03)


def test_a_ball_sits_in_its_cone_or_on_its_rim():
    assert pointed.ball_top_over_mouth(12, 60, 9) == pytest.approx(9.969, abs=5e-4)
    got, _ = worked(
        Countersink(id="k", tool="t13", on=HOLES, mouth_diameter_mm=9.0, ball_diameter_mm=8.0),
        DRILL,
    )
    # touches at Ø 5.66, inside the mouth
    assert got["ball_top"] == pytest.approx(4.0 / sin(radians(45)) + 4.0 - 4.5)


def test_a_spot_drill_smaller_than_its_mouth_is_refused_with_another():
    found = finding(
        with_(FACE, Spot(id="k", tool="t13", on=HOLES, mouth_diameter_mm=11.0)),
        "reach.tool-impossible",
    )
    assert "smaller than the mouth" in found.message
    got, answered = worked(Spot(id="k", tool="t13", on=HOLES, mouth_diameter_mm=8.0))
    assert result(answered, "k").depth_mm == pytest.approx(4.0) and got["torque"] > 0


# -- flat mouths


def test_a_counterbore_of_the_tools_size_is_plunged_and_a_wider_one_is_milled():
    plunged, a = worked(
        Counterbore(id="k", tool="t2", on=HOLES, diameter_mm=12.0, depth_mm=5.0), DRILL
    )
    milled, b = worked(
        Counterbore(id="k", tool="t3", on=HOLES, diameter_mm=12.0, depth_mm=5.0), DRILL
    )
    assert "helix_angle" not in plunged and plunged["plunge_feed"] == pytest.approx(
        0.3 * plunged["feed"]
    )
    ring = (12.0 - 6.8) / 2.0
    assert plunged["cutting_torque"] == pytest.approx(
        plunged["specific_force"] * ring * plunged["feed_per_turn"] * (12.0 - ring) / 2000.0
    )
    assert milled["helix_angle"] == pytest.approx(degrees(np.arctan(1.0 / (pi * 4.0))))
    assert milled["centre_feed"] == pytest.approx(milled["feed"] * 4.0 / 12.0)
    gone = 2 * pi / 4 * (12.0**2 - 6.8**2) * 5.0
    assert (
        result(a, "k").removed_mm3
        == pytest.approx(gone, rel=0.01)
        == pytest.approx(result(b, "k").removed_mm3, rel=0.01)
    )


def test_a_spot_face_is_no_wider_than_its_tool_allows():
    assert (
        "larger than what it is to open"
        in finding(
            with_(FACE, SpotFace(id="k", tool="t6", on=HOLES, diameter_mm=12.0)),
            "reach.tool-impossible",
        ).message
    )


# -- holes on a helix


def test_a_milled_hole_takes_the_time_of_its_helix():
    got, found = worked(
        MillHole(
            id="k",
            tool="t17",
            on=AT.model_copy(update={"diameter_mm": 14.0}),
            step_down_mm=1.0,
            past_mm=0.0,
        )
    )
    one = result(found, "k")
    around = sqrt((pi * 4.0) ** 2 + 1.0)
    down = 20.0 + LIBRARY.settings.first_clearance_mm
    # in, helix, once round, back to the middle
    assert one.path_mm == pytest.approx(2.0 + down * around + pi * 4.0 + 2.0, rel=0.005)
    assert got["centre_feed"] == pytest.approx(got["feed"] * 4.0 / 14.0)
    assert one.cutting_s == pytest.approx(60.0 * one.path_mm / got["centre_feed"], rel=0.05)


def test_a_steep_helix_is_told_and_a_lower_pitch_settles_it():
    steep = with_(
        FACE,
        MillHole(
            id="k", tool="t6", on=AT.model_copy(update={"diameter_mm": 18.0}), step_down_mm=4.0
        ),
    )
    ramp = LIBRARY.tools["end-mill-16-z3"].max_ramp_deg
    assert entry.helix_angle(4.0, 18.0, 16.0) > ramp > 0
    found = finding(
        steep, "cut.plunge" if LIBRARY.tools["end-mill-16-z3"].centre_cutting else "reach.entry"
    )
    assert found.id not in ids(after_fix(steep, found))


@given(st.floats(3, 16), st.floats(1.02, 6), st.floats(0, 0.95))
def test_property_the_last_helix_leaves_the_size_and_no_ring_between(tool_mm, times, open_share):
    from machining.facts.kinds.milled_hole import radii as _radii

    hole = tool_mm * times
    radii = _radii(hole, tool_mm, open_share * hole)
    assert radii[-1] == pytest.approx((hole - tool_mm) / 2.0)
    covered = max(open_share * hole / 2.0, 0.0)
    for radius in radii:
        # each helix overlaps what is open, or the middle
        assert radius - tool_mm / 2.0 <= covered + 1e-9
        covered = radius + tool_mm / 2.0
    assert covered == pytest.approx(hole / 2.0)


# -- behind a hole


def test_the_far_edge_is_chamfered_by_a_tool_that_passes_the_hole():
    wide = AT.model_copy(update={"diameter_mm": 24.0, "depth_mm": 12.0})
    kind = BackChamfer(id="k", tool="t8", on=wide, size_mm=0.5, below_mm=0.5)
    got, _ = worked(kind)
    assert got["aside"] == pytest.approx(12.0 + 0.5 - 10.0 + 0.5 * tan(radians(30)))
    assert "reach.tool-impossible" not in ids(with_(FACE, kind))
    assert (
        "does not pass the hole"
        in finding(
            with_(FACE, kind.model_copy(update={"on": HOLES})), "reach.tool-impossible"
        ).message
    )
    far = kind.model_copy(update={"size_mm": 5.0})
    assert "neck" in finding(with_(FACE, far), "reach.tool-impossible").message


# -- threads


def test_a_milled_thread_by_the_worked_numbers():
    kind = MillThread(
        id="k",
        tool="t11",
        on=HOLES,
        major_mm=8.0,
        pitch_mm=1.25,
        depth_mm=16.0,
        passes=4,
        spring_passes=1,
    )
    got, found = worked(kind, DRILL)
    assert got["turns"] == pytest.approx(12.8)
    assert got["helix_length"] == pytest.approx(12.8 * sqrt((pi * 2.2) ** 2 + 1.25**2))
    assert got["centre_feed"] == pytest.approx(got["feed"] * 2.2 / 8.0)
    assert got["infeed"] == pytest.approx(0.6 / 2.0)  # h/√4
    table = result(found, "k").table
    assert table is not None and [row[1] for row in table.rows] == pytest.approx(
        [0.6 * sqrt(k / 4) for k in range(1, 5)] + [0.6]
    )
    assert [row[3] for row in table.rows][-1] == pytest.approx(8.0)


def test_a_full_form_cutter_goes_round_in_whole_turns():
    kind = MillThread(id="k", tool="t12", on=HOLES, major_mm=8.0, pitch_mm=1.25, depth_mm=16.0)
    assert worked(kind, DRILL)[0]["turns"] == 1.0


def test_a_thread_wants_its_hand_and_its_room():
    kind = MillThread(id="k", tool="t11", on=HOLES, major_mm=8.0, pitch_mm=1.25, depth_mm=16.0)
    wrong = with_(FACE, DRILL, kind.model_copy(update={"cuts": "down"}))
    found = finding(wrong, "cut.thread")
    assert "cut.thread" not in ids(after_fix(wrong, found))
    assert "cut.thread" not in ids(
        with_(FACE, DRILL, kind.model_copy(update={"cuts": "down", "hand": "left"}))
    )
    blind = kind.model_copy(
        update={
            "on": AT.model_copy(update={"diameter_mm": 6.8, "depth_mm": 16.5, "through": False})
        }
    )
    tight = with_(FACE, blind)
    found = finding(tight, "cut.thread")  # 0.5 below the thread, one pitch wanted
    assert found.severity == "stop" and "cut.thread" not in ids(after_fix(tight, found))
    coarse = kind.model_copy(update={"pitch_mm": 1.5})
    assert "pitch" in finding(with_(FACE, DRILL, coarse), "reach.tool-impossible").message


def test_a_thread_knows_how_full_its_pilot_leaves_it():
    got, _ = worked(TAP, DRILL)
    assert got["thread_share"] == pytest.approx((8.0 - 6.8) / (1.299 * 1.25))
    # a drill has no pitch
    assert worked(TAP.model_copy(update={"tool": "t4"}), DRILL)[0].get("thread_share") is None


def test_a_taper_thread_narrows_by_a_sixteenth():
    kind = MillThread(
        id="k",
        tool="t11",
        on=HOLES,
        major_mm=8.0,
        pitch_mm=1.25,
        depth_mm=16.0,
        taper_per_mm=0.0625,
    )
    assert worked(kind, DRILL)[0]["diameter_below"] == pytest.approx(7.0)
    with pytest.raises(OutOfRange, match="diameter"):
        threads.diameter_at_depth(1.0, 0.3, 16.0)


@given(st.booleans(), st.booleans())
def test_property_a_thread_climbs_the_way_its_hand_asks(up, right):
    path = rounds.threaded([(0.0, 0.0, 0.0, -10.0)], [3.0], 8.0, 1.25, 0.0, up, right, 2.0, 20.0)
    along = next(leg.points for leg in path.legs if leg.kind == "cut")[1:]
    turned = np.unwrap(np.arctan2(along[:, 1], along[:, 0]))
    climbs = (along[-1, 2] - along[0, 2]) * (turned[-1] - turned[0])
    assert (climbs > 0) == right  # a right-hand screw rises as it turns counter-clockwise


def test_a_helix_angle_undoes_its_pitch():
    assert entry.helix_pitch(20, 12, entry.helix_angle(1.3, 20, 12)) == pytest.approx(1.3)
