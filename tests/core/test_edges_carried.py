"""Edges as their tools really meet them: paths beside the edge, sections by closed forms, what more
stands there, and what of the part lies in the way.
"""

from __future__ import annotations

from math import pi

import numpy as np
import pytest

from machining.facts.kinds import bevels
from machining.facts.kinds.edges import _round_places
from machining.facts.route import walk
from machining.plan.apply import apply
from machining.plan.operation import (
    BackChamfer,
    Chamfer,
    Countersink,
    Engrave,
    RoundEdge,
    Slope,
    Spot,
)
from machining.plan.places import Lines, OnFeatures, Points, Top
from machining.world.stock.block import sawn_block

from .build import (
    DRILL,
    FACE,
    GOOD,
    LIBRARY,
    MEMO,
    TOOLS,
    answer,
    finding,
    ids,
    plan,
    result,
    tool,
)

SQUARE = sawn_block(x=(0, 0), y=(0, 0), z=(0, 1))  # nothing stands beside the part
WIDE = OnFeatures(ids=("hole0", "hole1"))
MORE = (
    *TOOLS,
    tool(8, "undercut-mill-20-60"),
    tool(9, "chamfer-8-90"),
    tool(10, "corner-rounder-10-r2"),
    tool(11, "ball-mill-8"),
    tool(12, "engraver-6-60"),
    tool(13, "spot-10-90"),
)
ROUND = 2 * (80 + 50)  # of the part
TURNS = np.linspace(0.0, pi / 2, 90)
BROKEN = Chamfer(id="edge", tool="t9", on=Top(), size_mm=0.8, below_mm=1.5)


def made(*operations, stock=SQUARE):
    return plan(FACE, *operations, stock=stock, tools=MORE)


def last(*operations, stock=SQUARE):
    return walk(made(*operations, stock=stock), LIBRARY, MEMO).operations()[-1]


def ways(op):
    return np.concatenate([leg.points for leg in op.path.legs if leg.kind == "cut"])


def test_a_chamfer_s_tip_goes_as_far_beside_the_edge_as_its_flank_is_wide_there():
    """90°, a tip of 0.5: 1.5 below the chamfer its flank stands 0.25 + 1.5 out."""
    found = ways(last(BROKEN))
    assert found[:, 0].max() == pytest.approx(40 + 1.75) and found[:, 2] == pytest.approx(-2.3)


@pytest.mark.parametrize(
    ("edge", "section"),
    [
        (BROKEN, 0.8**2 / 2),
        (Slope(id="edge", tool="t9", size_mm=0.9, angle_deg=45.0), 0.9**2 / 2),
        (RoundEdge(id="edge", tool="t10", radius_mm=2.0), 4.0 * (1 - pi / 4)),
    ],
    ids=["chamfer", "slope", "round"],
)
def test_along_an_edge_it_meets_its_section_and_no_more(edge, section):
    op = last(edge)
    assert op.found.trace.volume() == pytest.approx(section * ROUND, rel=0.03)
    assert op.found.trace.volume("rapid", "link") == 0.0
    straight = np.median(op.found.loads().area[op.found.loads().in_cut])
    assert straight == pytest.approx(section, rel=0.03)
    assert not {"cut.more-than-planned", "cut.at-rapid"} & ids(made(edge))
    told = [f.severity for f in answer(made(edge)).findings if f.id == "reach.gouges"]
    assert told == []
    assert result(answer(made(edge)), "edge").in_cut_s > 0


def test_passes_of_a_ball_share_what_the_edge_loses():
    op = last(RoundEdge(id="edge", tool="t11", radius_mm=3.0, cusp_mm=0.05))
    assert op.value("passes") > 2
    assert op.found.trace.volume() == pytest.approx(9.0 * (1 - pi / 4) * ROUND, rel=0.1)
    shares = bevels.shares(
        [(-3.0, 0.0), *((3 * np.sin(a) - 3, 3 * np.cos(a) - 3) for a in TURNS), (0.0, 0.0)],
        op.tool,
        _round_places(op.operation, op.tool),
    )
    assert sum(shares) == pytest.approx(9.0 * (1 - pi / 4), rel=0.05)  # cusps stay
    assert op.found.hardest.area == pytest.approx(max(shares), rel=0.15)
    assert "cut.more-than-planned" not in ids(made(op.operation))


@pytest.mark.parametrize(
    "edge",
    [BROKEN, RoundEdge(id="edge", tool="t10", radius_mm=2.0)],
    ids=["chamfer", "round"],
)
def test_an_edge_broken_before_the_outside_is_roughed_meets_more(edge):
    """Two millimetres stand all round the part, and go after it."""
    _, rough, *others = GOOD
    assert rough.kind == "rough_outside"
    early = plan(FACE, edge, rough, *others, tools=MORE)
    found = finding(early, "cut.more-than-planned")
    assert found.operation == "edge" and found.values["times"].value > 2
    mended = apply(early, found.fixes[0].edits)
    assert mended.setups[0].operations[-1].id == "edge"
    assert "cut.more-than-planned" not in ids(mended)
    harder, planned = answer(early).figures, answer(made(edge)).figures
    assert harder["edge.power"].value > planned["edge.power"].value


def test_into_a_mouth_it_goes_down_until_its_flank_is_as_wide_as_the_chamfer():
    op = last(DRILL, Chamfer(id="edge", tool="t9", on=WIDE, size_mm=0.5))
    ring = pi * 0.5 / 3.0 * (3.4**2 + 3.4 * 3.9 + 3.9**2) - pi * 3.4**2 * 0.5
    assert op.found.trace.volume() == pytest.approx(2 * ring, rel=0.03)
    assert op.figures["cutting_speed"].value == pytest.approx(
        pi * 7.8 * op.figures["rpm"].value / 1000
    )


def test_a_mouth_wider_than_its_flank_is_gone_round():
    wide = Points(at_mm=((0.0, 0.0),), diameter_mm=24.0, depth_mm=8.0)
    bored = Chamfer(id="edge", tool="t9", on=wide, size_mm=1.0, below_mm=0.5)
    op = last(bored)
    assert np.hypot(*ways(op)[:, :2].T).max() == pytest.approx(12.0 - 0.75)
    assert ways(op)[:, 2].min() == pytest.approx(-1.5)


@pytest.mark.parametrize(
    ("edge", "words"),
    [
        (BROKEN.model_copy(update={"below_mm": 3.2}), "edge ends at"),
        (
            Chamfer(
                id="edge",
                tool="t9",
                on=Points(at_mm=((0.0, 0.0),), diameter_mm=0.4, depth_mm=4.0),
            ),
            "does not go into the hole",
        ),
    ],
)
def test_a_tool_whose_flank_or_tip_does_not_fit_is_none_for_it(edge, words):
    assert words in finding(made(edge), "reach.tool-impossible").message


def test_mouths_and_lines_take_what_their_cones_do():
    spot = last(Spot(id="edge", tool="t13", on=WIDE, mouth_diameter_mm=8.0))
    assert spot.found.trace.volume() == pytest.approx(2 * pi * 16 * 4 / 3, rel=0.03)
    sunk = last(DRILL, Countersink(id="edge", tool="t9", on=WIDE, mouth_diameter_mm=7.8))
    assert sunk.found.trace.volume() == pytest.approx(
        sunk.before.solid.volume() - sunk.after.solid.volume(), rel=0.05
    )
    line = Lines(at_mm=(((-30.0, 20.0), (30.0, 20.0)),), top_mm=0.0)
    mark = last(Engrave(id="edge", tool="t12", on=line, depth_mm=0.5))
    wide = 0.1 + 2 * 0.5 * np.tan(np.radians(30))
    assert mark.found.trace.volume() == pytest.approx(60 * 0.5 * (0.1 + wide) / 2, rel=0.05)


def test_a_chamfer_behind_a_hole_that_is_not_there_yet_is_a_rapid_into_metal():
    behind = BackChamfer(
        id="edge",
        tool="t8",
        on=Points(at_mm=((0.0, 0.0),), diameter_mm=24.0, depth_mm=20.0, through=True),
    )
    assert finding(made(behind), "cut.at-rapid").operation == "edge"


def test_what_stands_up_beside_an_edge_is_not_cut_through():
    """Along the bottom of the recess's wall: the tool is wider than what the line leaves it."""
    line = Lines(at_mm=(((-15.0, 11.0), (15.0, 11.0)),), top_mm=-8.0, tool_side="left")
    edge = Chamfer(id="edge", tool="t9", on=line, size_mm=0.3)
    found = finding(plan(*GOOD, edge, tools=MORE), "reach.gouges")
    assert (found.severity, found.operation) == ("stop", "edge")
