"""Sharp edges of what comes off the machine, by the part's own lengths."""

from __future__ import annotations

from math import pi

import numpy as np
import pytest

from machining.facts.route import walk
from machining.facts.sharp import SHARP_DEG, left_sharp_mm, spots_of
from machining.geometry.mesh import convex_edges
from machining.geometry.solids import block, to_mesh
from machining.plan.apply import apply

from . import build
from .build import FACE, LIBRARY, MEMO, answer, finding, ids, plan, with_settings
from .cases_of_the_whole import broken, edged
from .test_sheet import sheets_of

AROUND = 2 * (80 + 50)
RIM = 2 * (40 + 24) - 8 * 4 + 2 * pi * 4  # of the recess, with its corners of 4
MOUTHS = 4 * pi * 6.8 + pi * 5.8  # two holes from both sides, and one from below
ASKS = with_settings(edges="ask")


def of(document):
    return walk(document, LIBRARY, MEMO)


def test_only_corners_that_stand_out_are_sharp_edges():
    """Of a block with a step its twelve edges and the step's three, but not the one inside it."""
    solid = block([0, 0, 0], [40, 20, 20]) - block([20, -1, 10], [41, 21, 21])
    ends, outwards = convex_edges(to_mesh(solid), SHARP_DEG)
    # an L 40 × 20 of 10 and 20: two outlines of 120, and five of six edges across
    assert np.linalg.norm(ends[:, 1] - ends[:, 0], axis=1).sum() == pytest.approx(2 * 120 + 5 * 20)
    middle = ends.mean(axis=1)
    assert not solid_there(solid, middle + 0.1 * outwards).any()


def solid_there(solid, places):
    tiny = [block((place - 0.01).tolist(), (place + 0.01).tolist()) for place in places]
    return np.array([(solid ^ each).volume() > 4e-6 for each in tiny])


def test_edges_are_as_long_as_they_are_drawn_and_all_sharp_where_nobody_breaks_them():
    whole = AROUND * 2 + 4 * 20 + RIM + MOUTHS
    facts = of(build.whole())
    assert spots_of(facts).length.sum() == pytest.approx(whole, rel=2e-3)
    assert left_sharp_mm(facts) == pytest.approx(whole, rel=2e-3)
    # its upright corners lie along both spindles
    assert left_sharp_mm(facts, by_machine=True) == pytest.approx(whole - 4 * 20, rel=2e-3)


def test_what_an_operation_breaks_or_has_to_stay_is_not_counted():
    before, after = of(build.whole()), of(broken())
    assert left_sharp_mm(before) - left_sharp_mm(after) == pytest.approx(RIM, rel=1e-2)
    stays = of(edged(build.whole(), sharp=("recess", "hole0")))
    less = left_sharp_mm(before) - left_sharp_mm(stays)
    assert less == pytest.approx(RIM + 2 * pi * 6.8, rel=1e-2)


def test_a_shop_that_asks_is_told_and_each_answer_settles_it():
    found = finding(build.whole(), "size.edges", ASKS)
    assert found.values["length"].value == pytest.approx(824.7, abs=2)
    assert len(found.fixes) == 3
    for fix in found.fixes:
        assert "size.edges" not in ids(apply(build.whole(), fix.edits), ASKS)
    on_machine = apply(build.whole(), found.fixes[0].edits)
    assert on_machine.part.edges == "machine"
    stops = {f.id for f in answer(on_machine, ASKS).findings if f.severity == "stop"}
    assert stops == {f.id for f in answer(build.whole(), ASKS).findings if f.severity == "stop"}


def test_nothing_is_asked_while_the_part_does_not_come_out_or_where_the_shop_has_its_way():
    assert "size.edges" not in ids(plan(FACE), ASKS)
    assert "size.edges" not in ids(build.whole())


def test_the_last_sheet_says_what_becomes_of_edges_and_every_sheet_what_stays_sharp():
    told = sheets_of(edged(build.whole(), sharp=("recess",)))
    rows = [
        [row["sentence"] for row in sheet["care"] if row["where"] == "Edges."] for sheet in told
    ]
    stays = "Those of pocket 8.0 mm deep stay sharp."
    assert rows == [[stays], ["Break by hand what no operation breaks.", stays]]
