"""How thick a mesh is along an axis under places on it."""

import numpy as np
import pytest

from machining.geometry.pierced import thick_along
from machining.geometry.solids import block, to_mesh

SLAB = to_mesh(block(np.zeros(3), np.array([10.0, 8.0, 3.0])))
# two slabs over each other: 3 thick, a gap of 2, 1 thick
PAIR = to_mesh(
    block(np.zeros(3), np.array([10.0, 8.0, 3.0]))
    + block(np.array([0.0, 0.0, 5.0]), np.array([10.0, 8.0, 6.0]))
)


@pytest.mark.parametrize(
    ("point", "axis", "mm"),
    [
        ((4.0, 3.0, 0.0), 2, 3.0),
        ((4.0, 3.0, 3.0), 2, 3.0),
        ((0.0, 3.0, 1.0), 0, 10.0),
        ((4.0, 8.0, 1.0), 1, 8.0),
        ((4.0, 3.0, 2.9), 2, 2.9),  # the face it is 0.1 from is the one it lies on
        ((4.0, 9.0, 1.0), 2, np.inf),
    ],
)
def test_of_a_slab(point, axis, mm):
    assert thick_along(np.array([point]), SLAB, axis, 0.3) == pytest.approx([mm])


def test_the_next_surface_counts_whichever_side_it_is_on():
    at = np.array([[4.0, 3.0, 6.0], [4.0, 3.0, 3.0], [4.0, 3.0, 5.0]])
    assert thick_along(at, PAIR, 2, 0.3) == pytest.approx([1.0, 2.0, 1.0])
