"""What a solid is named by: equal for equal metal and skin, however it came to be."""

from __future__ import annotations

import manifold3d as m3
import numpy as np
import pytest
from shapely import Point, box

from machining.facts.taken import tilts
from machining.geometry.content import content_of
from machining.geometry.frames import Pose
from machining.geometry.solids import Solid, as_blank, block, posed, prism
from machining.plan.document import Orientation

from .build import changed, good


def blank() -> Solid:
    return as_blank(block(np.zeros(3), np.array([80.0, 50.0, 30.0])))


POCKET = prism(box(10, 10, 40, 30), 12.0, 31.0)
SLOT = prism(box(30, 20, 81, 28), 18.0, 31.0)
HOLE = prism(Point(62.0, 38.0).buffer(4.0), -1.0, 31.0)
FACE = prism(box(-1, -1, 81, 51), 28.5, 31.0)
CUTS = (POCKET, SLOT, HOLE, FACE)


def cut(*gone: Solid) -> Solid:
    found = blank()
    for each in gone:
        found = found - each
    return found


@pytest.mark.parametrize("order", [(3, 0, 1, 2), (2, 1, 0, 3), (1, 3, 2, 0)])
def test_the_order_it_was_cut_in_does_not_matter(order):
    assert content_of(cut(*(CUTS[k] for k in order))) == content_of(cut(*CUTS))


def test_what_is_cut_twice_or_bit_by_bit_is_the_same():
    bit = prism(box(10, 10, 25, 30), 15.0, 31.0)
    assert content_of(cut(bit, *CUTS)) == content_of(cut(*CUTS))
    assert content_of(cut(*CUTS, SLOT)) == content_of(cut(*CUTS))


@pytest.mark.parametrize(
    "other",
    [
        (POCKET, SLOT, HOLE),
        (prism(box(10, 10, 40, 30), 12.00001, 31.0), SLOT, HOLE, FACE),
        (POCKET, SLOT, prism(Point(62.0, 38.00001).buffer(4.0), -1.0, 31.0), FACE),
        (POCKET, SLOT, HOLE, prism(box(-1, -1, 81, 51), 30.0, 31.0)),
        (*CUTS, prism(box(79.9, -1, 81, 51), -1.0, 31.0)),
    ],
)
def test_other_metal_has_another_name(other):
    assert content_of(cut(*other)) != content_of(cut(*CUTS))


def test_a_side_that_was_cut_is_not_one_that_the_blank_came_with():
    cut_to_size = block(np.zeros(3), np.array([80.0, 50.0, 30.0]))
    assert content_of(cut_to_size) != content_of(blank())
    larger = as_blank(block(np.zeros(3), np.array([80.0, 50.0, 32.0])))
    assert content_of(larger - prism(box(-1, -1, 81, 51), 30.0, 33.0)) != content_of(blank())


def test_for_who_looks_at_it_tilted_its_triangles_count():
    other = cut(*(CUTS[k] for k in (3, 0, 1, 2)))
    assert content_of(other, by_triangles=True) != content_of(cut(*CUTS), by_triangles=True)
    assert content_of(cut(*CUTS), by_triangles=True) == content_of(cut(*CUTS), by_triangles=True)


def test_how_it_lies_matters_and_rounding_does_not():
    lying = cut(*CUTS)
    half = Pose(np.diag([-1.0, -1.0, 1.0]), np.array([80.0, 50.0, 0.0]))
    assert content_of(posed(lying, half)) != content_of(lying)
    there = Pose(np.eye(3), np.array([1e-11, -1e-11, 1e-11]))
    assert content_of(posed(lying, there)) == content_of(lying)
    around = posed(posed(lying, half), half)
    assert content_of(around) == content_of(lying)


def test_slopes_that_are_cut_into_other_triangles_are_told_apart():
    """They are asked how high each of their triangles stands."""
    under = [[0, 0, 0], [10, 0, 0], [10, 10, 0], [0, 10, 0]]
    corners = np.array([*under, [0, 0, 5], [10, 0, 5], [10, 10, 8], [0, 10, 8.0]])
    below = [[0, 2, 1], [0, 3, 2], [0, 1, 5], [0, 5, 4], [3, 7, 6], [3, 6, 2]]
    sides = [[1, 2, 6], [1, 6, 5], [0, 4, 7], [0, 7, 3]]
    tops = [[4, 5, 6], [4, 6, 7]], [[4, 5, 7], [5, 6, 7]]
    one, other = (
        Solid(m3.Mesh64(corners.astype(float), np.array(below + sides + top, dtype=np.uint64)))
        for top in tops
    )
    assert one.volume() == pytest.approx(other.volume()) and one.volume() > 0
    assert content_of(one) != content_of(other)
    turned = [[0, 3, 1], [1, 3, 2], *below[2:]]
    same = Solid(m3.Mesh64(corners.astype(float), np.array(turned + sides + tops[0], np.uint64)))
    assert content_of(one) == content_of(same)


def test_a_plan_that_looks_along_the_axes_of_its_part_is_not_tilted():
    assert not tilts(good())
    assert not tilts(changed(good(), "operation:face", aim="+x"))
    assert tilts(changed(good(), "operation:face", aim="slant"))
    raised = Orientation(raised_deg=12.0)
    station = good().stations[0].model_copy(update={"orientation": raised})
    setup = good().setups[0].model_copy(update={"stations": (station,)})
    assert tilts(good().model_copy(update={"setups": (setup,)}))
