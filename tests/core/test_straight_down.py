"""Mills that go straight down, as drills do."""

from __future__ import annotations

from dataclasses import replace
from math import pi

import pytest

from machining.evaluate import evaluate
from machining.memo import Memo
from machining.plan.apply import apply
from machining.plan.operation import Drill
from machining.plan.places import Points
from machining.world.settings import Settings

from .build import FACE, LIBRARY, answer, finding, ids, plan, result, with_settings

ON = Points(at_mm=((0.0, 0.0),), diameter_mm=12.0, depth_mm=10.0)
DOWN = Drill(id="down", tool="t2", on=ON)  # the end mill 12, of three flutes
FIRST = Drill(id="first", tool="t4", on=ON.model_copy(update={"diameter_mm": 6.8}))
MILL = LIBRARY.tools["end-mill-12-z3"]
BLUNT = replace(
    LIBRARY,
    tools={**LIBRARY.tools, MILL.key: MILL.model_copy(update={"centre_cutting": False})},
)


def asked(*operations, library=BLUNT):
    found = evaluate(plan(FACE, *operations), library, Memo())
    return {f.id: f for f in found.open if f.operation == "down"}


def test_it_goes_by_the_data_of_milling_and_a_share_of_its_feed():
    got = result(answer(plan(FACE, DOWN)), "down")
    sideways = answer(plan(FACE, DOWN)).figures["down.wanted_feed"].value
    assert got.feed_mm_min == pytest.approx(0.3 * sideways, rel=0.02)
    slower = result(answer(plan(FACE, DOWN), with_settings(plunge_share=0.15)), "down")
    assert slower.feed_mm_min == pytest.approx(0.15 * sideways, rel=0.02)
    assert Settings().plunge_share == 0.3


def test_its_torque_and_thrust_are_those_of_level_edges_that_share_the_feed():
    """M = kc·f·D²/8000 with kc at the chip of each of three edges, Ff = kc·D·f/4 and 1.6 of it for
    the middle; P = 2πnM.
    """
    figures = answer(plan(FACE, DOWN)).figures
    value = {name: figures[f"down.{name}"].value for name in ("chip", "thrust", "rpm")}
    material = LIBRARY.materials[plan().material]
    kc = material.kc11_n_mm2 * (value["chip"] / 3.0) ** -material.mc
    torque = kc * value["chip"] * 144.0 / 8000.0
    assert figures["down.cutting_torque"].value == pytest.approx(torque, rel=1e-6)
    assert value["thrust"] == pytest.approx(1.6 * 0.25 * kc * 12.0 * value["chip"], rel=1e-6)
    power = 2.0 * pi * value["rpm"] * torque / 60_000.0
    assert figures["down.cutting_power"].value == pytest.approx(power, rel=1e-6)


def test_one_whose_middle_does_not_cut_never_plunges_into_full_metal():
    found = asked(DOWN)["reach.entry"]
    assert found.severity == "stop" and "cut.plunge" not in asked(DOWN)
    (fix,) = found.fixes  # the library has no drill of its size, but a mill that gets down
    mended = apply(plan(FACE, DOWN), fix.edits)
    assert "reach.entry" not in {f.id for f in evaluate(mended, BLUNT, Memo()).open}


def test_where_its_middle_finds_a_hole_it_may():
    assert "reach.entry" not in asked(FIRST, DOWN)
    beside = FIRST.model_copy(update={"on": FIRST.on.model_copy(update={"at_mm": ((8.0, 0.0),)})})
    assert "reach.entry" in asked(beside, DOWN)


def test_one_that_cuts_over_its_centre_is_asked_about():
    found = finding(plan(FACE, DOWN), "cut.plunge")
    assert found.severity == "look" and found.why == "down.thrust"
    assert "cut.plunge" not in ids(plan(FACE, FIRST, DOWN))
