"""What mouths, undercuts and edges take of the part's solid is asked about, each by its solids."""

from __future__ import annotations

from math import pi

import pytest

from machining.plan.operation import Chamfer, Counterbore, Countersink
from machining.plan.places import OnFeatures, Top

from .build import GOOD, TOOLS, answer, finding, ids, plan, result, tool

IN_BOTH = OnFeatures(ids=("hole0", "hole1"))


def with_last(operation):
    return plan(*GOOD, operation, tools=(*TOOLS, tool(8, "chamfer-8-90")))


def test_a_counterbore_that_the_solid_does_not_have_is_asked_about():
    """Ø11 and 4 deep in holes of Ø6.8: two rings, 2.1 wide."""
    sunk = Counterbore(
        id="cb", tool="t3", on=IN_BOTH, diameter_mm=11.0, depth_mm=4.0, step_down_mm=2.0
    )
    found = finding(with_last(sunk), "reach.gouges")
    assert (found.severity, found.operation) == ("look", "cb")
    rings = 2.0 * pi / 4.0 * (11.0**2 - 6.8**2) * 4.0
    assert found.values["volume"].value == pytest.approx(rings, rel=0.01)
    assert [fix.label for fix in found.fixes] == ["Keep it: {words}"]


@pytest.mark.parametrize(("size", "asked"), [(0.3, False), (0.9, False), (1.6, True)])
def test_an_edge_is_broken_as_usual_or_asked_about(size, asked):
    broken = with_last(Chamfer(id="edge", tool="t8", on=Top(), size_mm=size))
    assert ("reach.gouges" in ids(broken)) == asked
    assert (result(answer(broken), "edge").gouge_mm > 0.0) == asked


@pytest.mark.parametrize(("mouth", "asked"), [(8.4, False), (9.0, True)])
def test_a_mouth_is_broken_as_an_edge_is(mouth, asked):
    """Over holes of Ø6.8: 0.8 mm all round, and 1.1 mm."""
    tools = (*TOOLS, tool(8, "spot-10-90"))
    sunk = Countersink(id="k", tool="t8", on=IN_BOTH, mouth_diameter_mm=mouth)
    assert ("reach.gouges" in ids(plan(*GOOD, sunk, tools=tools))) == asked
