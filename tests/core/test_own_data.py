"""Form tools start at a share of the data of their process."""

from __future__ import annotations

from math import pi

import pytest

from machining.cutting.data import constant
from machining.facts.kinds import KINDS
from machining.facts.own_data import own_data, share
from machining.plan.operation import Engrave, FinishFloor, RoughOutside, RoundEdge, Undercut
from machining.plan.places import Lines, OnFeatures, Outside, Text

from .build import FACE, LIBRARY, TOOLS, answer, ids, plan, result, tool

LINE = Lines(at_mm=(((-60.0, -20.0), (60.0, -20.0)),))
CASES = {
    "undercut-mill-20-60": Undercut(id="k", tool="t9", on=LINE, depth_mm=5.0, width_mm=2.0),
    "corner-rounder-10-r2": RoundEdge(id="k", tool="t9", on=LINE, radius_mm=2.0),
    "engraver-6-60": Engrave(id="k", tool="t9", on=Text(text="A"), depth_mm=0.3),
    "end-mill-12-z3": RoughOutside(
        id="k", tool="t9", on=Outside(depth_mm=10.0), step_down_mm=5.0, step_over_mm=1.0
    ),
}


@pytest.mark.parametrize("key", CASES)
def test_speed_and_chip_start_at_their_share(key):
    operation, used = CASES[key], LIBRARY.tools[LIBRARY.assemblies[key].tool]
    material = LIBRARY.materials[plan().material]
    kind = type(operation).model_fields["kind"].default
    row = material.data_for(KINDS[kind].process, used.material)
    own = own_data(operation, used, material)
    slower, thinner = share(used, "form_speed"), share(used, "form_chip")
    assert own.speed_start == pytest.approx(slower * row.speed_start)
    assert own.chip_mm(10.0) == pytest.approx(thinner * row.chip_mm(10.0))
    of = plan(FACE, operation, tools=(*TOOLS, tool(9, key)))
    figures, got = answer(of).figures, result(answer(of), "k")
    assert ("k.own_speed" in figures) is (slower < 1.0)
    assert ("k.own_chip" in figures) is (thinner < 1.0)
    if slower < 1.0:
        assert figures["k.own_speed"].value == pytest.approx(own.speed_start)
        assert figures["k.own_speed"].value == pytest.approx(
            figures["k.cutting_speed"].value, rel=0.3
        )
        assert "cut.speed-band" not in ids(of)  # it is held to its own band
    assert got.rpm > 0


def test_a_dovetail_starts_where_its_corners_last():
    """0.3 of 400 m/min at 19 mm is 2 000, not 6 700, turns a minute."""
    of = plan(FACE, CASES["undercut-mill-20-60"], tools=(*TOOLS, tool(9, "undercut-mill-20-60")))
    got = result(answer(of), "k")
    assert constant("form_speed", "undercut_mill") == 0.3
    speed = answer(of).figures["k.cutting_speed"].value
    data = own_data(
        CASES["undercut-mill-20-60"],
        LIBRARY.tools["undercut-mill-20-60"],
        LIBRARY.materials[of.material],
    )
    assert speed <= data.speed_start * 1.001 and got.rpm < 2500


def test_what_is_typed_stays():
    typed = CASES["undercut-mill-20-60"].model_copy(update={"rpm": 4000.0, "feed_mm_min": 300.0})
    of = plan(FACE, typed, tools=(*TOOLS, tool(9, "undercut-mill-20-60")))
    got = result(answer(of), "k")
    assert (got.rpm, got.feed_mm_min) == (4000.0, 300.0)
    assert "k.own_speed" not in answer(of).figures


@pytest.mark.parametrize(
    ("key", "depth", "cuts_on"),
    [
        ("ball-mill-8", 0.3, 2.0 * (0.3 * 7.7) ** 0.5),
        ("bull-mill-10-r1", 0.3, 8.0 + 2.0 * (0.3 * 1.7) ** 0.5),
        ("bull-mill-10-r1", 1.5, 10.0),
        ("end-mill-8-z3", 0.3, 8.0),
    ],
)
def test_a_nose_on_a_floor_turns_for_the_diameter_that_cuts(key, depth, cuts_on):
    floor = FinishFloor(
        id="k",
        tool="t9",
        on=OnFeatures(ids=("recess",)),
        depth_mm=depth,
        step_over_mm=0.5,
        cutting_speed_m_min=50.0,
    )
    seen = answer(plan(FACE, floor, tools=(*TOOLS, tool(9, key))))
    assert result(seen, "k").rpm == pytest.approx(50_000.0 / (pi * cuts_on), rel=5e-3)
