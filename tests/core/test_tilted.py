"""Slopes cut by a tilted tool: the lean, the table's positions, the room they need, and when the
axes should stand still.
"""

from __future__ import annotations

from math import cos, pi, radians, sin, tan

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from machining.cutting.pointed import lean, tilted_edge
from machining.facts.route import walk
from machining.placing.rotary import index_time, tilted_pose
from machining.plan.apply import apply
from machining.plan.operation import Slope
from machining.plan.places import Lines
from machining.ways.choices import slope_choices
from machining.world.stock import Round
from machining.world.stock.block import sawn_block

from .build import (
    FACE,
    LIBRARY,
    MEMO,
    answer,
    changed,
    finding,
    ids,
    on_machine,
    plan,
    result,
    rig,
    tool,
    with_part,
)

TOOLS = (
    tool(1, "face-mill-50"),
    tool(2, "end-mill-12-z3"),
    tool(3, "chamfer-10-60"),
    tool(4, "ball-mill-8"),
)
LOCKED = Slope(id="k", tool="t2", size_mm=3.0, angle_deg=25.0, axes="locked")
LIVE = LOCKED.model_copy(update={"axes": "live"})
FLUSH = sawn_block(x=(0, 0), y=(0, 0), z=(8, 1))  # nothing stands beside the part
AROUND = 2 * (80 + 50) - 8 * 1.5  # of the slope's middle, 1.5 inside of the edges


def on_petrel(*operations, **fields):
    return on_machine(plan(*operations, tools=TOOLS, **fields), "petrel")


def figures(of):
    return {
        name.removeprefix("k."): figure.value
        for name, figure in answer(of).figures.items()
        if name.startswith("k.")
    }


def time_of(of):
    return next(op.time_s for each in answer(of).setups for op in each.operations if op.id == "k")


# -- geometry


def test_an_edge_is_laid_flat_by_its_table():
    """Whatever way an edge runs, its slope's normal points to the spindle and the edge lies along
    X.
    """
    for heading in (0.0, 33.0, 90.0, 180.0, -120.0):
        along = (cos(radians(heading)), sin(radians(heading)))
        outside = np.array([along[1], -along[0], 0.0])
        normal = outside * sin(radians(25)) + np.array([0, 0, cos(radians(25))])
        pose = tilted_pose(along, 25.0, np.zeros(3), 40.0)
        assert pose.rotation @ normal == pytest.approx([0, 0, 1], abs=1e-12)
        assert pose.rotation @ np.array([*along, 0.0]) == pytest.approx([1, 0, 0], abs=1e-12)


def test_the_tilting_axis_stays_where_it_is():
    pose = tilted_pose((1.0, 0.0), 30.0, np.zeros(3), 40.0)
    assert pose.apply(np.array([7.0, 0.0, 40.0])) == pytest.approx([7.0, 0.0, 40.0])
    down = pose.apply(np.array([0.0, -10.0, 40.0]))  # the outside comes up
    assert down == pytest.approx([0.0, -10 * cos(radians(30)), 40 + 10 * sin(radians(30))])


@given(st.floats(1.0, 89.0), st.floats(5.0, 85.0))
def test_the_lean_is_the_tilt_of_the_calculator_with_a_sign(surface, half):
    assert abs(lean(surface, half)) == pytest.approx(
        tilted_edge(half, surface, 5.0, 0.0)[0], abs=1e-9
    )
    assert lean(90.0 - half, half) == pytest.approx(0.0, abs=1e-9)


# -- figures


def test_locked_positions_cost_their_turns_and_clamping():
    """Four edges 90° apart and back upright: 25° of tilt beside 90° turns, each position released
    and clamped.
    """
    now = figures(on_petrel(FACE, LOCKED))
    assert now["lean"] == pytest.approx(25.0)
    headings = [0.0, *[run.heading for line in _runs(on_petrel(FACE, LOCKED)) for run in line], 0.0]
    turns = [
        abs((b - a + 180) % 360 - 180) for a, b in zip(headings[:-1], headings[1:], strict=True)
    ]
    assert sorted(turns[1:-1]) == pytest.approx([90, 90, 90])
    tilts = [25.0, 0, 0, 0, 25.0]
    by_hand = (
        sum(max(turn, tilt * 180 / 120) for turn, tilt in zip(turns, tilts, strict=True)) / 180
        + 5 * 1.2
    )
    assert now["index_time"] == pytest.approx(by_hand)
    assert index_time(270.0, 180.0, 4.0, 1.2) == pytest.approx(1.5 + 4.8)


def _runs(of):
    from machining.facts.tilted import runs

    return runs(next(op for op in walk(of, LIBRARY, MEMO).operations() if op.operation.id == "k"))


def test_live_axes_wait_only_at_the_corners():
    now = figures(on_petrel(FACE, LIVE))
    assert now["waiting_time"] == pytest.approx(270.0 / 180.0, rel=1e-6)
    assert time_of(on_petrel(FACE, LIVE)) < time_of(on_petrel(FACE, LOCKED))


def test_one_pass_is_as_long_as_its_edges():
    op = next(op for op in answer(on_petrel(FACE, LIVE)).setups[0].operations if op.id == "k")
    feed = op.feed_mm_min
    assert op.cutting_s == pytest.approx(60 * AROUND / feed, rel=0.25)
    assert op.path_mm > AROUND


def test_travel_and_stick_out_are_those_of_the_tilted_work():
    """The middle of the farthest slope, tilted: the table's middle is the stock's, 75 +
    34 over it.
    """
    now = figures(on_petrel(FACE, LOCKED))
    high = 3 * tan(radians(25))
    seat = 75 + 40 - 6
    # from the tilting axis, over the stock's bottom (8 under, 20 part)
    across, up = 50 / 2 - 1.5, seat + 28 - high / 2 - 40
    sideways = up * sin(radians(25)) + 0.0 - across * cos(radians(25))
    assert now["travel_y"] == pytest.approx(
        450 / 2
        - max(abs(sideways), abs(up * sin(radians(25)) - (80 / 2 - 1.5) * cos(radians(25)))),
        abs=0.01,
    )
    upright = figures(on_petrel(FACE, Slope(id="k", tool="t4", size_mm=3.0, angle_deg=25.0)))
    # beside a tilted part the holder comes down towards it
    assert now["stick_out_needed"] > upright["stick_out_needed"]


def test_a_short_tool_meets_the_tilted_part():
    steep = on_petrel(FACE, LOCKED.model_copy(update={"angle_deg": 60.0, "size_mm": 2.0}))
    short = changed(steep, "tool:t2", stick_out_mm=11.0)  # it needs 12.2
    found = finding(short, "reach.stick-out-short")
    assert found.operation == "k"
    after = apply(short, found.fixes[0].edits)
    assert not [
        f for f in answer(after).findings if f.id == "reach.stick-out-short" and f.operation == "k"
    ]


def test_a_chamfer_mill_leans_by_the_difference_of_angles():
    """Half angle 30, slope 25 from the face: its flank lies at 60 from the face, so it leans 35
    over the part.
    """
    now = figures(on_petrel(FACE, LOCKED.model_copy(update={"tool": "t3"})))
    assert now["lean"] == pytest.approx(-35.0)
    middle = (LIBRARY.tools["chamfer-10-60"].tip_diameter_mm + 10.0) / 2
    assert now["cutting_speed"] == pytest.approx(pi * middle * now["rpm"] / 1000)


# -- findings


def test_live_axes_for_straight_edges_are_noticed():
    live = on_petrel(FACE, LIVE)
    found = finding(live, "cut.simultaneous")
    assert found.values["edges"].value == 4
    for fix in found.fixes:
        assert "cut.simultaneous" not in ids(apply(live, fix.edits))
    assert "cut.simultaneous" not in ids(on_petrel(FACE, LOCKED))


def test_rounds_need_the_axes_live():
    bend = tuple((30 * cos(radians(a)), 20 * sin(radians(a))) for a in range(0, 100, 2))
    on = Lines(
        at_mm=(((-30.0, -20.0), (0.0, -20.0), *((x, y) for x, y in bend)),), tool_side="right"
    )
    round_ = on_petrel(FACE, LIVE.model_copy(update={"on": on}))
    assert "cut.simultaneous" not in ids(round_)
    locked = on_petrel(FACE, LOCKED.model_copy(update={"on": on}))
    found = finding(locked, "travel.tilt")
    assert "bend" in found.message
    assert "travel.tilt" not in ids(apply(locked, found.fixes[0].edits))
    assert figures(round_)["waiting_time"] >= 0


def test_a_machine_that_does_not_tilt_or_not_so_far_is_told():
    on_heron = plan(FACE, LOCKED, tools=TOOLS)
    found = finding(on_heron, "travel.tilt")
    assert found.values["machine"].value == "Heron"
    assert apply(on_heron, found.fixes[1].edits).setups[0].machine == "petrel"
    tilt, turn = rig("petrel").place.rotaries
    narrow = tilt.model_copy(update={"low_deg": -20.0, "high_deg": 20.0})
    stiff = with_part("petrel", "places", rotaries=(narrow, turn))
    assert finding(on_petrel(FACE, LOCKED), "travel.tilt", stiff).values[
        "tilt"
    ].value == pytest.approx(25.0)
    for axes in ((), (tilt,), (turn,)):
        fewer = with_part("petrel", "places", rotaries=axes)
        found = finding(on_petrel(FACE, LOCKED), "travel.tilt", fewer)
        assert found.severity == "stop" and found.values["machine"].value == "Petrel"


def test_a_square_end_mill_may_lean_instead():
    upright = on_petrel(FACE, LOCKED.model_copy(update={"axes": "upright"}))
    found = finding(upright, "reach.tool-impossible")
    after = apply(upright, found.fixes[0].edits)
    assert "reach.tool-impossible" not in ids(after)
    wide = on_petrel(FACE, LOCKED.model_copy(update={"size_mm": 14.0}))
    assert finding(wide, "reach.tool-impossible").values["wanted"].value == pytest.approx(
        14 / cos(radians(25))
    )


def test_the_ways_to_a_slope_are_ready_edits():
    of = on_petrel(FACE, LOCKED)
    facts = walk(of, LIBRARY, MEMO)
    op = facts.operations()[1]
    ways = {way.label: way for way in slope_choices(op, facts)}
    assert set(ways) == {"upright, in steps", "tilted, axes live"}
    for way in ways.values():
        assert not [
            f
            for f in answer(apply(of, way.edits)).findings
            if f.operation == "k" and f.severity == "stop"
        ], way.label
    still = walk(
        plan(FACE, Slope(id="k", tool="t4", size_mm=3.0, angle_deg=25.0), tools=TOOLS),
        LIBRARY,
        MEMO,
    )
    assert slope_choices(still.operations()[1], still) == []  # Heron does not tilt


# -- what it meets


@pytest.mark.parametrize(("tool_id", "size"), [("t2", 3.0), ("t3", 2.0)])
@pytest.mark.parametrize("angle", [25.0, 45.0])
@pytest.mark.parametrize("axes", ["locked", "live"])
def test_a_tilted_tool_meets_the_slope_s_section_along_every_edge(axes, angle, tool_id, size):
    """Each edge through what the ones before it left. A chamfer mill has the middle of its flank
    there.
    """
    slope = LOCKED.model_copy(
        update={"axes": axes, "angle_deg": angle, "tool": tool_id, "size_mm": size}
    )
    document = on_petrel(FACE, slope, stock=FLUSH)
    op = next(o for o in walk(document, LIBRARY, MEMO).operations() if o.operation.id == "k")
    section = size * size * tan(radians(angle)) / 2.0
    assert op.found.hardest.area == pytest.approx(section, rel=0.03)
    assert op.found.trace.volume() == pytest.approx(op.seen.cut_mm3, rel=0.01)
    assert "cut.more-than-planned" not in ids(document)
    if tool_id == "t2":  # where it is, as the work lies in its vise: in the middle of the slope
        assert op.found.hardest.at[2] == pytest.approx(-size * tan(radians(angle)) / 2.0, abs=0.01)


def test_tilted_into_stock_that_stands_beside_the_part_it_meets_more():
    assert finding(on_petrel(FACE, LOCKED), "cut.more-than-planned").values["times"].value > 2


BEND = tuple((40 * cos(radians(a)), 40 * sin(radians(a))) for a in range(-90, 92, 2))


@pytest.mark.parametrize(("tool_id", "size"), [("t2", 3.0), ("t3", 2.0)])
def test_round_a_bend_it_meets_the_same_section_by_turning_and_moving(tool_id, size):
    """Half round a disc in moves of 1.4 mm, each with a pose of its own, each through what those
    before it left.
    """
    on = Lines(at_mm=(BEND,), tool_side="right")
    live = LIVE.model_copy(update={"on": on, "tool": tool_id, "size_mm": size})
    document = on_petrel(FACE, live, stock=Round(diameter_mm=80.0, axis="z"))
    op = next(o for o in walk(document, LIBRARY, MEMO).operations() if o.operation.id == "k")
    high = size * tan(radians(25.0))
    assert np.median(op.found.loads().area) == pytest.approx(size * high / 2.0, rel=0.08)
    half = pi * (40.0 - size / 3.0) * size * high / 2.0
    past_its_ends = 0.09 if tool_id == "t2" else 0.03  # as far as the tool is wide
    assert half < op.found.trace.volume() < (1.0 + past_its_ends) * half
    assert "cut.more-than-planned" not in ids(document)
    assert result(answer(document), "k").answers["cut"].state == "fine"


def test_a_bend_in_more_moves_than_are_followed_is_not_said_to_be_fine():
    fine = tuple((40 * cos(a), 40 * sin(a)) for a in np.linspace(-1.5, 1.5, 500))
    live = LIVE.model_copy(update={"on": Lines(at_mm=(fine, fine, fine), tool_side="right")})
    seen = result(answer(on_petrel(FACE, live, stock=Round(diameter_mm=80.0, axis="z"))), "k")
    for question in ("cut", "reach"):
        assert seen.answers[question].state == "unknown"
        assert "moves round bends" in seen.answers[question].reason
