"""Places that face each other can wedge a part by friction alone; others can't."""

from __future__ import annotations

from machining.findings.finding import in_words
from machining.plan.clamped import Dowel

from .build import POCKET, finding, ids
from .clamped import ON_TABLE, held_by


def between(*sides):
    """A dowel in the middle of each of some sides."""
    dowels = tuple(Dowel(id=f"d{k}", side=side, at_mm=0.0) for k, side in enumerate(sides))
    return held_by(ON_TABLE.model_copy(update={"dowels": dowels}), POCKET)


def test_two_dowels_that_face_each_other_wedge_the_part():
    found = finding(between("+y", "-y"), "hold.jams")
    assert found.severity == "note" and "(table, dowel 1, dowel 2)" in in_words(found)
    assert "not counted" in in_words(found)


def test_dowels_at_two_sides_that_meet_do_not():
    assert "hold.jams" not in ids(between("+y", "-x"))
