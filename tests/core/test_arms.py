"""The arms a table tilts between, against tools that come beside it; by hand."""

from __future__ import annotations

import numpy as np
import pytest

from machining.facts import around
from machining.facts.route import walk
from machining.plan.at import One
from machining.plan.operation import Face
from machining.world.machine import Table

from .build import LIBRARY, MEMO, changed, finding, ids, on_machine, plan, setup, with_part

FACE = Face(id="face", tool="t1", step_over_mm=35.0)
INSIDE, WIDE, DEEP, OVER = 520.0, 70.0, 260.0, 130.0  # as the seed's Petrel has them


def standing_at(x, y):
    """A plate faced so far from the middle of Petrel's table."""
    of = on_machine(plan(setups=(setup(FACE, at=One(at_mm=(x, y))),)), "petrel")
    return changed(of, "station:st1", holding__grip_depth_mm=20.0)


def face(of):
    return walk(of, LIBRARY, MEMO).stations[0].operations[0]


@pytest.mark.parametrize("x", [230.0, -230.0])
def test_a_face_mill_meets_the_arm_beside_it_by_so_much_as_it_is_low(x):
    of = standing_at(x, 0.0)
    op = face(of)
    tip = float(op.station.on_place(np.array([0.0, 0.0, op.path.bounds()[0][2]]), 0)[2])
    assert tip < OVER  # the jaws hold it deep, so that it cuts lower than the arms are
    assert (op.meets.body, op.meets.who, op.meets.station) == ("arm of A", "tool", "")
    margin = LIBRARY.settings.below_margin_mm
    assert op.meets.low_mm == pytest.approx(OVER - tip, abs=margin + 1e-6)
    assert "arm of A" in finding(of, "travel.neighbour").values["body"].value


@pytest.mark.parametrize(("x", "y"), [(0.0, 0.0), (150.0, 0.0), (230.0, 215.0)])
def test_between_them_and_past_their_ends_there_is_room(x, y):
    assert face(standing_at(x, y)).meets is None


def test_they_tilt_about_their_axis_and_do_not_turn_with_the_table():
    table = next(p for p in LIBRARY.machines["petrel"].places if isinstance(p, Table))
    found = [body.region.bounds for _, body in around.arms(table)]
    half = DEEP / 2.0
    assert found == [
        (-INSIDE / 2 - WIDE, -half, -INSIDE / 2, half),
        (INSIDE / 2, -half, INSIDE / 2 + WIDE, half),
    ]


def test_where_nobody_has_said_where_they_stand_it_is_said():
    table = LIBRARY.machines["petrel"].places[0]
    unsaid = tuple(each.model_copy(update={"arms_apart_mm": 0.0}) for each in table.rotaries)
    library = with_part("petrel", "places", rotaries=unsaid)
    of = standing_at(230.0, 0.0)
    assert "travel.arms" in ids(of, library) and "travel.neighbour" not in ids(of, library)
    assert "travel.arms" not in ids(of)
    assert "travel.arms" not in ids(plan(FACE))
