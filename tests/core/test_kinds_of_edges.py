"""Undercuts, engraving, rounded edges and slopes, each by worked numbers."""

from __future__ import annotations

from math import cos, pi, radians, sin, sqrt, tan

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from machining.cutting import pointed
from machining.evaluate import evaluate
from machining.geometry.lettering import SIGNS, written
from machining.geometry.solids import swept, volume
from machining.plan.apply import apply
from machining.plan.edit import AddOperation, LoadTool
from machining.plan.loading import loaded
from machining.plan.operation import (
    Chamfer,
    Engrave,
    FinishWalls,
    RoundEdge,
    Slope,
    Undercut,
)
from machining.plan.places import Outside, Text

from .build import (
    DRILL,
    FACE,
    LIBRARY,
    ROUGH,
    after_fix,
    answer,
    finding,
    ids,
    result,
)
from .test_kinds import EDGE, HOLES, with_, worked

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
