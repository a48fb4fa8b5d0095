"""Threads milled tooth by tooth through the stock, and holes milled on a helix: what is taken, how
much at once.
"""

from __future__ import annotations

from math import pi, radians, tan

import numpy as np
import pytest

from machining.evaluate import evaluate
from machining.facts.route import walk
from machining.geometry import solids
from machining.geometry.columns import Grid, columns_of
from machining.motion.path import Leg, Path
from machining.motion.paths import rounds
from machining.plan.operation import MillHole, MillThread
from machining.plan.places import Points
from machining.removal.carry import carry, steps_of
from machining.removal.shape import shape_of

from . import build
from .build import DRILL, FACE, LIBRARY, MEMO

PITCH, MAJOR, HOLE, TOOL = 1.25, 8.0, 6.8, 5.8
ASIDE = (MAJOR - TOOL) / 2.0  # of its middle
DEEP = (MAJOR - HOLE) / 2.0
SECTION = DEEP * (PITCH / 8.0 + DEEP * tan(radians(30.0)))  # a V on a flat of an eighth
THREAD = MillThread(
    id="thread", tool="t8", on=DRILL.on, major_mm=MAJOR, pitch_mm=PITCH, depth_mm=16.0
)
TOOLS = (
    *build.TOOLS,
    build.tool(8, "thread-mill-m8-one"),
    build.tool(9, "thread-mill-m8-full"),
)


def left_of(key: str, path: Path) -> float:
    """What a path takes of a hole through 40 mm, mm³."""
    drilled = solids.block(np.array([-10.0, -10.0, -40.0]), np.array([10.0, 10.0, 0.0]))
    drilled = drilled - solids.bar(0.0, 0.0, HOLE / 2.0, -41.0, 1.0)
    grid = Grid.over(np.array([-6.0, -6.0]), np.array([6.0, 6.0]), 0.1)
    stock = columns_of(solids.to_mesh(drilled), grid)
    return carry(steps_of(path, 0.1, stock.top), shape_of(LIBRARY.tools[key]), stock).volume


def thread(key: str, depth: float, passes: int = 1) -> float:
    tool = LIBRARY.tools[key]
    radii = [(HOLE - tool.diameter_mm) / 2.0 + DEEP * k / passes for k in range(1, passes + 1)]
    turns = depth / PITCH if tool.rows == 1 else 1.0
    bottom = [(0.0, 0.0, 0.0, -depth)]
    return left_of(key, rounds.threaded(bottom, radii, turns, PITCH, 0.0, True, True, 1.0, 10.0))


def test_a_groove_takes_its_section_all_round():
    """Pappus: the sections' middles go round at their own radius."""
    flat, sides = PITCH / 8.0 * DEEP, DEEP**2 * tan(radians(30.0))
    around = flat * (HOLE / 2.0 + DEEP / 2.0) + sides * (HOLE / 2.0 + DEEP / 3.0)
    level = Path((Leg("cut", rounds.turn(0.0, 0.0, ASIDE, -20.0)),))
    assert left_of("thread-mill-m8-one", level) == pytest.approx(2.0 * pi * around, rel=0.02)


def test_a_turn_of_a_thread_is_wider_than_its_teeth_by_what_the_helix_rises_beside_them():
    """At each radius as high as the highest of its teeth's circle, which rises with its angle, less
    the lowest.
    """
    radius = np.linspace(HOLE / 2.0, MAJOR / 2.0, 400)
    angle = np.radians(np.linspace(-70.0, 70.0, 2001))
    away = np.sqrt(radius[:, None] ** 2 + ASIDE**2 - 2.0 * radius[:, None] * ASIDE * np.cos(angle))
    half = PITCH / 16.0 + (TOOL / 2.0 - away) * tan(radians(30.0))
    half[away > TOOL / 2.0] = -1.0
    rises = PITCH * angle / (2.0 * pi)
    high = (half + rises).max(axis=1) - (-half + rises).min(axis=1)
    turn = np.trapezoid(np.where(half.max(axis=1) > 0, high, 0.0) * 2.0 * pi * radius, radius)
    eight = thread("thread-mill-m8-one", 24.0) - thread("thread-mill-m8-one", 14.0)
    assert eight == pytest.approx(8 * turn, rel=0.02)


def test_rows_take_in_one_turn_what_one_row_takes_in_many():
    one = thread("thread-mill-m8-one", 16.25)
    assert thread("thread-mill-m8-full", 16.25) == pytest.approx(one, rel=0.02)
    assert thread("thread-mill-m8-full", 16.25, passes=3) == pytest.approx(one, rel=0.02)


def plan(*operations):
    return build.plan(FACE, *operations, tools=TOOLS)


@pytest.mark.parametrize(("tool", "teeth"), [("t8", 1), ("t9", 16.0 / PITCH)])
def test_a_pass_meets_the_section_of_all_its_teeth(tool, teeth):
    made = plan(DRILL, THREAD.model_copy(update={"tool": tool}))
    op = walk(made, LIBRARY, MEMO).operations()[-1]
    usual = float(np.median(op.found.loads().area[op.found.loads().in_cut]))
    assert usual == pytest.approx(teeth * SECTION, rel=0.1)
    assert op.value("teeth_height") * DEEP == pytest.approx(teeth * SECTION)
    seen = build.result(evaluate(made, LIBRARY, MEMO), "thread")
    assert seen.found_width_mm == pytest.approx(DEEP)
    assert 0 < seen.in_cut_s < seen.time_s and seen.gouge_mm is None
    assert [f.severity for f in build.answer(made).findings if f.operation == "thread"] != ["stop"]


def test_a_thread_where_nothing_is_drilled_runs_into_metal():
    """Also where a hole is only said to be there, and nobody drills it."""
    said = Points(at_mm=((0.0, 0.0),), diameter_mm=HOLE, depth_mm=20.0)
    blind = THREAD.model_copy(update={"on": said, "depth_mm": 14.0})
    into = {f.id: f for f in build.answer(plan(blind)).findings if f.operation == "thread"}
    assert into["cut.at-rapid"].severity == "stop"
    drilled = plan(DRILL.model_copy(update={"on": said}), blind)
    assert "cut.at-rapid" not in {f.id for f in build.answer(drilled).findings}


@pytest.mark.parametrize("wide", [14.0, 17.0, 22.0])
def test_a_hole_on_a_helix_takes_its_volume_in_its_time(wide):
    """Its middle goes slower than its edge: what is taken in a minute is of its way."""
    on = Points(at_mm=((0.0, 0.0),), diameter_mm=wide, depth_mm=10.0)
    hole = MillHole(id="hole", tool="t3", on=on, diameter_mm=wide, step_down_mm=1.0)
    made = plan(hole)
    op = walk(made, LIBRARY, MEMO).operations()[-1]
    taken, met = pi / 4.0 * wide**2 * 10.0, op.found.loads()
    time_min = met.length / op.value("centre_feed")
    assert op.found.trace.volume() == pytest.approx(taken, rel=0.02)
    rate = met.area * op.value("feed")
    assert float((rate * time_min).sum()) == pytest.approx(taken, rel=0.05)
    seen = build.result(evaluate(made, LIBRARY, MEMO), "hole")
    assert seen.found_removal_cm3_min < 3.0 * taken / 1000.0 / (seen.in_cut_s / 60.0)


def test_a_hole_on_a_helix_asks_for_the_power_of_what_it_takes():
    """And a steep one, which is a way down, for that of a turn as wide as the tool."""
    on = Points(at_mm=((0.0, 0.0),), diameter_mm=14.0, depth_mm=10.0)
    hole = MillHole(id="hole", tool="t3", on=on, diameter_mm=14.0, step_down_mm=1.0)
    ways = [plan(hole.model_copy(update={"step_down_mm": pitch})) for pitch in (1.0, 9.0)]
    level, steep = (walk(each, LIBRARY, MEMO).operations()[-1] for each in ways)
    of_volume = pi / 4.0 * 14.0**2 * 1.0 / (pi * (14.0 - level.tool.diameter_mm))  # of a turn
    assert level.figures["removal"].value * 1000.0 == pytest.approx(
        of_volume * level.value("centre_feed"), rel=0.05
    )
    assert steep.value("helix_angle") > 25.0
    assert steep.figures["removal"].value > 5.0 * level.figures["removal"].value
