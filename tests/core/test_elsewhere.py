"""A station that stands elsewhere is answered as if nothing had been known; triangles, united."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from shapely import Polygon, polygons, unary_union

from machining.evaluate import evaluate
from machining.evaluation import to_plain
from machining.geometry.regions import side_by_side
from machining.memo import Memo
from machining.plan.at import Row, Spots
from machining.plan.document import Setup, Station

from .build import DRILL, FACE, LIBRARY, OUTSIDE, VISE, plan, setup
from .test_head import B, C, tilting

ROW = Row(count=3, pitch_mm=180.0)
SIDED = FACE.model_copy(update={"id": "end", "aim": "+z 25 y"})


@pytest.mark.parametrize(
    ("operations", "library"),
    [((FACE, OUTSIDE, DRILL), LIBRARY), ((FACE, SIDED), tilting(B, C))],
    ids=["from above", "by a head"],
)
def test_moved_it_is_answered_as_if_nothing_had_been_known(operations, library):
    known = Memo()
    for at in (ROW, ROW.moved(7.5, -3.0), Spots(at_mm=((-150.0, 10.0), (120.0, 0.0))), None, ROW):
        of = plan(setups=(setup(*operations, at=at),))
        warm, cold = (to_plain(evaluate(of, library, memo)) for memo in (known, Memo()))
        assert warm == cold, at
    assert known.hits > 0


def test_what_stands_higher_beside_it_is_told_in_every_load():
    """The tip goes over a higher neighbour from position to position: of one load, not of all."""
    known, up = Memo(), set[float]()
    for grip in (19.0, 6.0, 19.0):
        both = tuple(
            Station(
                id=id,
                takes="blank",
                holding=VISE.model_copy(update={"grip_depth_mm": deep}),
                work_offset=code,
                at=Row(count=1, pitch_mm=200.0, at_mm=(x, 0.0)),
            )
            for id, deep, code, x in (("st1", 19.0, "G54", -150.0), ("st2", grip, "G55", 150.0))
        )
        face = FACE.model_copy(update={"station": "st1"})
        of = plan(setups=(Setup(id="s1", machine="heron", stations=both, operations=(face,)),))
        warm, cold = (to_plain(evaluate(of, LIBRARY, memo)) for memo in (known, Memo()))
        assert warm["figures"] == cold["figures"], grip
        up.add(warm["figures"]["face.travel_up"][0])
    assert len(up) == 2


def test_only_what_its_travel_asks_is_worked_out_again():
    known = Memo()
    evaluate(plan(setups=(setup(FACE, OUTSIDE, DRILL, at=ROW),)), LIBRARY, known)
    facts = [key for key in known._kept if key[0] == "facts"]
    evaluate(plan(setups=(setup(FACE, OUTSIDE, DRILL, at=ROW.moved(5.0, 0.0)),)), LIBRARY, known)
    assert [key for key in known._kept if key[0] == "facts"] == facts != []


@given(st.lists(st.tuples(*[st.floats(-20, 20)] * 2), min_size=3, max_size=14), st.booleans())
def test_triangles_side_by_side_are_their_union(points, overlap):
    """A fan over the hull of points; and with one of them laid over others."""
    hull = Polygon(points).convex_hull
    if hull.geom_type != "Polygon" or hull.area < 1.0:
        return
    ring = list(hull.exterior.coords)[:-1]
    fan = [(ring[0], ring[k], ring[k + 1], ring[0]) for k in range(1, len(ring) - 1)]
    if overlap:
        middle = np.mean(ring, axis=0)
        fan.append((tuple(middle), ring[0], ring[1], tuple(middle)))
    every = polygons(np.array(fan))
    expected = unary_union(every)
    assert side_by_side(every).symmetric_difference(expected).area < 1e-6 * hull.area
