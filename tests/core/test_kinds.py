"""Operations that bring their own arithmetic: each against numbers worked out by hand, and what a
wrong tool is told.
"""

from __future__ import annotations

from math import cos, degrees, pi, radians, sin, sqrt, tan

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from machining.cutting import entry, pointed, threads
from machining.evaluate import evaluate
from machining.evaluation import Evaluation
from machining.facts.route import walk
from machining.geometry.lettering import SIGNS, written
from machining.geometry.solids import swept, volume
from machining.memo import Memo
from machining.motion.paths import rounds
from machining.plan.apply import apply
from machining.plan.document import Plan
from machining.plan.edit import AddOperation, LoadTool
from machining.plan.loading import loaded
from machining.plan.operation import (
    BackChamfer,
    Chamfer,
    Counterbore,
    Countersink,
    Engrave,
    FinishWalls,
    MillHole,
    MillThread,
    Operation,
    RoundEdge,
    Slope,
    Spot,
    SpotFace,
    Undercut,
)
from machining.plan.places import Lines, OnFeatures, Outside, Points, Text
from machining.quantities.errors import OutOfRange
from machining.ways.offers import offers

from .build import (
    DRILL,
    FACE,
    LIBRARY,
    ROUGH,
    TAP,
    TOOLS,
    after_fix,
    answer,
    finding,
    ids,
    plan,
    result,
    setup,
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


# -- undercuts


def test_an_undercut_shares_its_load_and_knows_its_last_edge():
    kind = Undercut(id="k", tool="t8", on=EDGE, depth_mm=6.0, width_mm=3.0, passes=3)
    got, found = worked(kind, ROUGH)
    table = result(found, "k").table
    assert table is not None
    assert [row[1] for row in table.rows] == pytest.approx([3.0 * sqrt(k / 3) for k in (1, 2, 3)])
    assert [row[4] for row in table.rows] == pytest.approx([1.0, 1.0, 1.0])
    assert got["flank_in_cut"] == pytest.approx(3.0 / sin(radians(30)))
    # all passes take a third of the triangle
    assert got["last_step"] * got["engaged_height"] == pytest.approx(
        3.0**2 / (2 * tan(radians(30))) / 3
    )
    assert got["overrun"] == pytest.approx(11.0)


def test_equal_steps_grow_and_the_fix_evens_them():
    stepped = with_(
        FACE,
        Undercut(id="k", tool="t8", on=EDGE, depth_mm=6.0, width_mm=3.0, passes=3, equal="step"),
    )
    table = result(answer(stepped), "k").table
    assert table is not None and [row[4] for row in table.rows] == pytest.approx([1.0, 3.0, 5.0])
    found = finding(stepped, "cut.angled-load-grows")
    assert found.values["times"].value == 5.0 and "cut.angled-load-grows" not in ids(
        after_fix(stepped, found)
    )


def test_an_undercut_enters_and_leaves_outside_the_part():
    short = with_(
        FACE,
        Undercut(
            id="k",
            tool="t8",
            on=EDGE.model_copy(update={"at_mm": (((-10.0, 0.0), (10.0, 0.0)),)}),
            depth_mm=6.0,
            width_mm=3.0,
        ),
    )
    found = finding(short, "reach.entry")
    mended = after_fix(short, found)
    assert "reach.entry" not in ids(mended)
    line = next(op for op in mended.setups[0].operations if op.id == "k").on.at_mm[0]
    assert line == ((-42.0, 0.0), (42.0, 0.0))  # the stock's edges


def test_a_flank_too_short_for_the_undercut_is_refused():
    found = finding(
        with_(FACE, Undercut(id="k", tool="t8", on=EDGE, depth_mm=8.0, width_mm=5.0)),
        "reach.tool-impossible",
    )
    assert found.values["has"].value == pytest.approx(6.0 * tan(radians(30)))


# -- engraving


def test_engraving_by_width_and_by_depth_agree():
    text = Text(text="HERON 12", x_mm=-20.0, y_mm=-5.0, height_mm=6.0)
    by_depth, a = worked(Engrave(id="k", tool="t9", on=text, depth_mm=0.4))
    assert by_depth["cutting_diameter"] == pytest.approx(0.562, abs=5e-4)
    by_width, b = worked(
        Engrave(id="k", tool="t9", on=text, depth_mm=None, width_mm=by_depth["cutting_diameter"])
    )
    assert by_width["cone_depth"] == pytest.approx(0.4)
    assert result(a, "k").z_to_mm == pytest.approx(-0.4) == pytest.approx(result(b, "k").z_to_mm)
    assert by_depth["cutting_speed"] == pytest.approx(
        pi * by_depth["cutting_diameter"] * by_depth["rpm"] / 1000.0
    )
    assert "cut.effective-speed" in ids(
        with_(FACE, Engrave(id="k", tool="t9", on=text, depth_mm=0.4))
    )
    assert 0.5 < result(a, "k").removed_mm3 < 60.0


def test_depth_or_width_and_only_signs_that_can_be_written():
    with pytest.raises(ValidationError, match="one of the two"):
        Engrave(id="k", on=Text(text="A"), depth_mm=0.3, width_mm=0.5)
    with pytest.raises(ValidationError, match="not 'Ä'"):
        Text(text="NÄH")
    with pytest.raises(ValidationError, match="letter or digit"):
        Text(text="  ")
    assert (
        "up to Ø"
        in finding(
            with_(FACE, Engrave(id="k", tool="t9", on=Text(text="A"), depth_mm=None, width_mm=8.0)),
            "reach.tool-impossible",
        ).message
    )


@given(
    st.text(sorted(SIGNS - {" "}), min_size=1, max_size=12),
    st.floats(0.5, 50),
    st.floats(-180, 180),
)
def test_property_letters_stay_within_their_height(text, height, angle):
    spots = np.array(
        [spot for stroke in written(text, 3.0, -4.0, height, angle) for spot in stroke]
    ) - (3.0, -4.0)
    turn = radians(angle)
    along, up = spots @ (cos(turn), sin(turn)), spots @ (-sin(turn), cos(turn))
    assert (up >= -1e-9).all() and (up <= height + 1e-9).all()
    assert (along >= -1e-9).all() and along.max() <= len(text) * height * 5.6 / 6.0


# -- edges


def test_a_rounder_leaves_its_own_radius_and_a_ball_any():
    assert (
        "radius of"
        in finding(
            with_(FACE, RoundEdge(id="k", tool="t10", radius_mm=3.0)), "reach.tool-impossible"
        ).message
    )
    _, a = worked(RoundEdge(id="k", tool="t10", radius_mm=2.0))
    ball, b = worked(RoundEdge(id="k", tool="t14", radius_mm=3.0, cusp_mm=0.01))
    assert result(a, "k").z_to_mm == pytest.approx(-2.0)
    assert ball["passes"] >= 5 and result(b, "k").time_s > result(a, "k").time_s
    coarse, _ = worked(RoundEdge(id="k", tool="t14", radius_mm=3.0, cusp_mm=0.1))
    assert coarse["passes"] < ball["passes"]


def test_every_pass_of_a_ball_touches_the_round():
    from machining.facts.kinds.edges import _round_places

    ball = LIBRARY.tools["ball-mill-8"]
    for away, z in _round_places(RoundEdge(id="k", radius_mm=3.0), ball):
        # from the round's middle to the ball's
        assert np.hypot(away + 3.0, z + 4.0 + 3.0) == pytest.approx(3.0 + 4.0)


def test_a_slope_by_ball_steps_as_its_cusp_allows_and_touches_the_surface():
    from machining.facts.kinds.edges import _slope_places

    kind = Slope(id="k", tool="t14", size_mm=3.0, angle_deg=25.0, cusp_mm=0.01)
    got, _ = worked(kind)
    assert got["slope_length"] == pytest.approx(3.0 / cos(radians(25)))
    assert got["cusp_step"] == pytest.approx(2 * sqrt(2 * 4.0 * 0.01 - 0.01**2))
    assert got["passes"] == np.ceil(got["slope_length"] / got["cusp_step"])
    assert got["cutting_diameter"] == pytest.approx(8.0 * sin(radians(25)))
    for away, z in _slope_places(kind, LIBRARY.tools["ball-mill-8"]):
        # distance of the ball's middle from the line through (-3, 0) falling at 25° to (0, -3·tan
        # 25°)
        assert (away + 3.0) * sin(radians(25)) + (z + 4.0) * cos(radians(25)) == pytest.approx(4.0)


def test_an_edge_broken_by_a_spot_drill_is_no_reamed_ring():
    """A chamfer has no force worked out, whichever pointed tool breaks it."""
    for pointed_tool in ("t7", "t13"):
        got, _ = worked(Chamfer(id="k", tool=pointed_tool, on=HOLES), DRILL)
        assert got["rpm"] > 0 and not {"cutting_torque", "power", "holding"} & set(got)


def test_a_pointed_tool_cuts_only_its_own_angle():
    assert (
        "another angle"
        in finding(
            with_(FACE, Slope(id="k", tool="t15", size_mm=1.0, angle_deg=25.0)),
            "reach.tool-impossible",
        ).message
    )
    own, found = worked(Slope(id="k", tool="t15", size_mm=1.0, angle_deg=60.0))
    at = (
        2.0 * (0.5 + tan(radians(60))) * tan(radians(30))
        + LIBRARY.tools["chamfer-10-60"].tip_diameter_mm
    )
    assert own["cutting_speed"] == pytest.approx(pi * at * own["rpm"] / 1000.0)
    assert result(found, "k").z_to_mm == pytest.approx(-tan(radians(60)) - 0.5)
    assert (
        "steps, not a slope"
        in finding(
            with_(FACE, Slope(id="k", tool="t2", size_mm=1.0, angle_deg=60.0)),
            "reach.tool-impossible",
        ).message
    )


# -- what a tool sweeps


@given(st.floats(0.5, 10), st.floats(0, 10), st.floats(0.2, 10), st.floats(1, 60))
def test_property_a_swept_frustum_has_its_volume(low, high, height, along):
    solid = swept([(0.0, low), (height, high)], [(0.0, 0.0, 0.0), (along, 0.0, 0.0)], 96)
    round_part = pi * height / 3.0 * (low * low + low * high + high * high)
    assert volume(solid) == pytest.approx(round_part + along * height * (low + high), rel=0.01)


def test_finish_cuts_measured_in_a_chain():
    straight, one = worked(
        FinishWalls(id="k", tool="t2", on=Outside(depth_mm=18.0), step_down_mm=9.0, width_mm=0.3),
        ROUGH,
    )
    chained, three = worked(
        FinishWalls(
            id="k", tool="t2", on=Outside(depth_mm=18.0), step_down_mm=9.0, width_mm=0.3, chain=3
        ),
        ROUGH,
    )
    table = result(three, "k").table
    assert table is not None and [row[1] for row in table.rows] == pytest.approx([0.2, 0.1, 0.0])
    assert [row[2] for row in table.rows] == pytest.approx([0.4, 0.2, 0.0])
    assert result(three, "k").path_mm == pytest.approx(3 * result(one, "k").path_mm, rel=0.02)
    assert chained["push_off"] < straight["push_off"]


@given(st.floats(0.1, 30), st.floats(1, 12), st.floats(5, 80))
def test_property_passes_of_an_undercut_take_the_whole_triangle(width, passes, half):
    passes = int(passes)
    for equal in ("step", "load"):
        reached = pointed.undercut_widths(width, passes, equal)
        steps = np.diff([0.0, *reached])
        taken = sum(
            step * pointed.engaged_height(wide, step, half)
            for wide, step in zip(reached, steps, strict=True)
        )
        assert taken == pytest.approx(width**2 / (2 * tan(radians(half))))
    assert pointed.equal_step(width, passes) >= pointed.last_even_step(width, passes) - 1e-12


def test_a_helix_angle_undoes_its_pitch():
    assert entry.helix_pitch(20, 12, entry.helix_angle(1.3, 20, 12)) == pytest.approx(1.3)


def test_engraving_one_side_changes_nothing_of_the_other(demo):
    """A face takes its whole side, whatever rounding has done to the rim of the stock."""
    whole, library = demo
    new = loaded(whole, "heron", library.assemblies["engraver-6-60"])
    text = Engrave(id="text", tool=new.id, on=Text(text="TW-118 B", x_mm=-40, y_mm=-30))
    marked = apply(
        whole, [LoadTool(tool=new), AddOperation(setup=whole.setups[0].id, operation=text)]
    )
    before, after = evaluate(whole, library).setups[1], evaluate(marked, library).setups[1]
    assert [op.path_mm for op in after.operations] == pytest.approx(
        [op.path_mm for op in before.operations], rel=1e-6
    )


# -- how they are called, offered and listed

TITLES = [
    (Spot(id="k", tool="t13", on=HOLES, mouth_diameter_mm=8), "Spot", "{d} on 2 holes", {"d": 8}),
    (Countersink(id="k", tool="t13", on=AT, mouth_diameter_mm=9), "Countersink", "{d}", {"d": 9}),
    (
        Counterbore(id="k", tool="t2", on=HOLES, diameter_mm=12, depth_mm=5),
        "Counterbore",
        "2 × {d}, {z} deep",
        {"d": 12, "z": 5},
    ),
    (
        SpotFace(id="k", tool="t2", on=AT, diameter_mm=14),
        "Spot-face",
        "1 × {d}, {z} deep",
        {"d": 14, "z": 0.5},
    ),
    (BackChamfer(id="k", tool="t8", on=HOLES), "Chamfer behind", "{s} on 2 holes", {"s": 0.4}),
    (
        MillHole(id="k", tool="t3", on=HOLES, diameter_mm=14, leave_mm=0.25),
        "Mill hole",
        "2 × {d}",
        {"d": 13.5},
    ),
    (
        MillThread(id="k", tool="t11", on=HOLES, major_mm=8, pitch_mm=1.25, depth_mm=16),
        "Mill thread",
        "2 × M8",
        {},
    ),
    (
        MillThread(
            id="k",
            tool="t11",
            on=AT,
            major_mm=8,
            pitch_mm=1.0,
            depth_mm=9,
            hand="left",
            taper_per_mm=0.0625,
        ),
        "Mill thread",
        "1 × M8×1 tapered left",
        {},
    ),
    (
        Undercut(id="k", tool="t8", on=EDGE, depth_mm=6, width_mm=3),
        "Undercut",
        "{w} in 3 passes",
        {"w": 3},
    ),
    (Engrave(id="k", tool="t9", on=Text(text="no 7")), "Engrave", "NO 7", {}),
    (Engrave(id="k", tool="t9", on=EDGE), "Engrave", "a line", {}),
    (RoundEdge(id="k", tool="t10", radius_mm=2), "Round edges", "R {r}", {"r": 2}),
    (Slope(id="k", tool="t14", size_mm=3, angle_deg=25), "Slope", "{s} at 25°", {"s": 3}),
]


@pytest.mark.parametrize(
    ("operation", "title", "detail", "sizes"),
    TITLES,
    ids=[f"{k}-{row[0].kind}" for k, row in enumerate(TITLES)],
)
def test_each_kind_is_called_by_what_it_makes(operation, title, detail, sizes):
    one = result(answer(with_(FACE, operation)), "k")
    assert (one.title, one.detail, one.sizes) == (title, detail, pytest.approx(sizes))
    assert not {"NaN", "inf"} & {str(each.value) for each in one.worked}


def test_the_rarer_jobs_are_offered_with_a_tool_that_suits_them():
    bare = plan(setups=(setup(),), tools=())
    facts, ids_ = walk(bare, LIBRARY, Memo()), (f"new{k}" for k in range(999))
    rare = [
        offer
        for offer in offers(facts.setups[0].first, facts, lambda: next(ids_))
        if offer.rare or offer.group == "By hand"
    ]
    assert {offer.label for offer in rare} >= {
        "Spot",
        "Countersink",
        "Counterbore",
        "Mill thread",
        "Round",
        "Slope at an angle",
        "Undercut",
        "Engrave a text",
        "Mill a hole",
    }
    for offer in rare:
        assert offer.tool, offer.label
        found = answer(apply(bare, offer.edits))
        assert "reach.tool-impossible" not in {f.id for f in found.findings}, offer.label
        assert all(op.time_s > 0 for op in found.setups[0].operations), offer.label


def test_the_worksheet_lists_its_arithmetic_by_name():
    names = {
        each.name
        for each in result(
            answer(
                with_(
                    FACE,
                    DRILL,
                    MillThread(
                        id="k", tool="t11", on=HOLES, major_mm=8, pitch_mm=1.25, depth_mm=16
                    ),
                )
            ),
            "k",
        ).worked
    }
    assert names >= {
        "Feed of the middle",
        "Turns",
        "Helix",
        "Thread of",
        "Thread deep",
        "First pass in",
    }
    face = {each.name: each.value for each in result(answer(with_(FACE)), "face").worked}
    assert face["Passes"] == 2 and face["Past the edge by"] == pytest.approx(25.0 + 2.0)
