"""Slots and chamfers along typed and drawn lines, by closed forms."""

from __future__ import annotations

from math import hypot, pi, radians, tan

import numpy as np
import pytest
from shapely import Polygon

from machining.facts.route import walk
from machining.motion.path import Pen
from machining.motion.paths.slots import along_slot
from machining.plan.operation import Chamfer, Slot
from machining.plan.places import Drawn, Lines

from .build import FACE, LIBRARY, MEMO, TOOLS, answer, changed, ids, plan, result, tool

BENT = ((-20.0, -10.0), (0.0, 10.0), (20.0, -10.0))
SQUARE = ((-20.0, -10.0), (20.0, -10.0), (20.0, 10.0), (-20.0, 10.0), (-20.0, -10.0))
MORE = (*TOOLS, tool(8, "chamfer-8-90"))


def slot(lines, **fields):
    where = Lines(at_mm=(lines,), top_mm=0.0, tool_side="right")
    own = {"tool": "t3", "step_down_mm": 2.0, "depth_mm": 4.0, "ramp_deg": 3.0, **fields}
    return Slot(id="slot", on=where, **own)


def seen(operation):
    facts = walk(plan(FACE, operation, tools=MORE), LIBRARY, MEMO)
    return next(op for op in facts.operations() if op.id == operation.id)


def test_a_bent_slot_takes_what_is_as_wide_as_its_tool():
    op = seen(slot(BENT))
    way = 2 * hypot(20, 20)
    bend = 16 * pi / 4 - 16  # the sector outside of a right angle, less what lies twice inside
    plan_mm2 = 8 * way + pi * 16 + bend
    taken = op.before.solid.volume() - op.after.solid.volume()
    assert taken == pytest.approx(4 * plan_mm2, rel=5e-3)
    assert op.found.trace.volume() == pytest.approx(taken, rel=1e-2)
    assert op.found.trace.volume("rapid") == 0
    assert op.found.met.usual_width == pytest.approx(8, abs=0.2)


def test_a_closed_line_is_gone_round_and_round_no_steeper_than_its_ramp():
    pen = Pen(25.0, 2.0)
    along_slot(pen, SQUARE, 0.0, [-2.0, -4.0], 3.0)
    points = np.concatenate([leg.points for leg in pen.legs if leg.kind == "cut"])
    steps = np.diff(points, axis=0)
    across = np.hypot(steps[:, 0], steps[:, 1])
    moving = across > 1e-9
    assert (-steps[moving, 2] / across[moving]).max() <= tan(radians(3.0)) + 1e-9
    assert (np.abs(steps[~moving, 2]) < 1e-9).all()  # never straight down in the metal
    for low in (-2.0, -4.0):
        flat = (np.abs(points[:-1, 2] - low) < 1e-9) & (np.abs(steps[:, 2]) < 1e-9)
        assert across[flat].sum() == pytest.approx(120.0)
    on_it = np.minimum(np.abs(np.abs(points[:, 0]) - 20), np.abs(np.abs(points[:, 1]) - 10))
    assert on_it.max() < 1e-6


def test_beside_a_closed_line_it_cuts_round_what_the_line_encloses():
    """Counter-clockwise with the tool on the right: the 40 × 20 stays."""
    op = seen(slot(SQUARE, runs="beside"))
    (hole,) = op.work.region.interiors
    assert Polygon(hole).area == pytest.approx(40 * 20, rel=1e-6)
    other = seen(slot(SQUARE, runs="on"))
    (hole,) = other.work.region.interiors
    assert Polygon(hole).area == pytest.approx((40 - 8) * (20 - 8), rel=1e-6)


def test_a_slot_along_lines_wants_a_depth_and_is_answered_like_any_other():
    told = result(answer(plan(FACE, slot(BENT, depth_mm=None), tools=MORE)), "slot")
    assert any("depth_mm is left out" in each.reason for each in told.answers.values())
    deep = plan(FACE, slot(BENT, ramp_deg=20.0), tools=MORE)
    assert "cut.plunge" in ids(deep)
    assert "cut.plunge" not in ids(changed(deep, "operation:slot", ramp_deg=2.0))
    moved = Drawn(file="a.svg", lines=(BENT,), x_mm=5.0, angle_deg=90.0)
    drawn = seen(Slot(id="slot", tool="t3", on=moved, step_down_mm=2.0, depth_mm=3.0))
    first = drawn.work.lines[0][0]
    assert first == pytest.approx((5 + 10, -20, -3))


def test_a_chamfer_along_a_line_takes_its_triangle():
    on = Lines(at_mm=(((-40.0, -25.0), (40.0, -25.0)),), top_mm=0.0, tool_side="right")
    op = seen(Chamfer(id="c", tool="t8", on=on, size_mm=1.5))
    of_part = op.after.solid.volume() - op.before.solid.volume()
    assert -of_part > 0.5 * 1.5**2 * 80 * 0.99
    ways = np.concatenate([leg.points for leg in op.path.legs if leg.kind == "cut"])
    assert ways[:, 2] == pytest.approx(-1.5)
    assert set(np.round(ways[:, 1], 6)) == {-25.25}  # half its tip of 0.5 outside
