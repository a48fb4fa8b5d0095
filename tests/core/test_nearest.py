"""How far points are from the surface of a mesh."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from machining.geometry.mesh import Mesh
from machining.geometry.nearest import distances
from machining.geometry.solids import block, to_mesh

BLOCK = to_mesh(block(np.zeros(3), np.array([4.0, 4.0, 2.0])))


@pytest.mark.parametrize(
    ("point", "mm"),
    [
        ((2.0, 2.0, 5.0), 3.0),  # over a face
        ((2.0, 2.0, 0.5), 0.5),  # within
        ((7.0, 2.0, 2.0 + 4.0), 5.0),  # beside an edge: 3, 4, 5
        ((4.0 + 2.0, 4.0 + 3.0, 2.0 + 6.0), 7.0),  # beside a corner: 2, 3, 6, 7
        ((4.0, 1.0, 1.0), 0.0),
    ],
)
def test_of_a_block(point, mm):
    assert distances(np.array([point]), BLOCK) == pytest.approx([mm], abs=1e-12)


def test_nothing_is_endlessly_far():
    empty = Mesh(np.zeros((0, 3)), np.zeros((0, 3), np.int32), np.zeros(0, np.int32))
    assert distances(np.zeros((2, 3)), empty).tolist() == [np.inf, np.inf]


COORDINATE = st.floats(-5.0, 5.0)
POINT = st.tuples(COORDINATE, COORDINATE, COORDINATE)


@given(POINT, st.tuples(POINT, POINT, POINT))
def test_not_farther_than_any_place_of_a_triangle_and_as_far_as_one(point, corners):
    mesh = Mesh(np.array(corners), np.array([[0, 1, 2]], np.int32), np.zeros(1, np.int32))
    far = float(distances(np.array([point]), mesh)[0])
    a, b = np.meshgrid(np.linspace(0.0, 1.0, 60), np.linspace(0.0, 1.0, 60))
    inside = a + b <= 1.0
    share = np.stack([1.0 - a - b, a, b], axis=-1)[inside]
    places = share @ np.array(corners)
    nearest = float(np.linalg.norm(places - np.array(point), axis=1).min())
    assert far <= nearest + 1e-9
    apart = max(np.linalg.norm(np.subtract(corners[k], corners[k - 1])) for k in range(3)) / 59.0
    assert nearest <= far + 2.0 * apart + 1e-9
