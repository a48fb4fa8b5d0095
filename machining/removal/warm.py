"""Compiles what goes column by column, or reads it where that was done before: nobody waits for it
in a request. ``python -m machining.removal.warm``
"""

from __future__ import annotations

import numpy as np

from machining.geometry.along import farthest_along
from machining.geometry.columns import Grid, columns_of, common
from machining.geometry.mesh import by_creases
from machining.geometry.nearest import distances
from machining.geometry.pierced import thick_along
from machining.geometry.shells import shells
from machining.geometry.solids import block, to_mesh
from machining.geometry.standing import spots_on, standing_over
from machining.holding.simplex import base_of, best, farthest
from machining.motion.path import Leg, Path

from .carry import carry, steps_of
from .near import near
from .shape import ABOVE, Shape


def warm() -> None:
    """Two small tools through a small block, what stands over it, and a programme over two
    columns.
    """
    low, high = np.zeros(3), np.array([4.0, 4.0, 2.0])
    solid = to_mesh(block(low, high))
    stock = columns_of(solid, Grid.over(low, high, 0.5))
    shells(by_creases(solid))
    standing_over(*spots_on(solid)[:2], solid)
    distances(low[None], solid)
    thick_along(low[None], solid, 2, 0.1)
    farthest_along(np.zeros((1, 2, 2)), np.zeros(1), True, 0.1)
    path = Path((Leg("cut", np.array([[-1.0, 2.0, 1.0], [5.0, 2.0, 1.0]])),))
    steps = steps_of(path, 0.5, stock.top)
    for flat in (True, False):
        shape = Shape(1.0, np.zeros(8), np.full(8, ABOVE), flat)
        near(path, shape, stock.grid, stock.top)
        common(carry(steps, shape, stock).left, stock)
    base = base_of(np.eye(2), np.ones(2))
    assert base is not None
    best(base, np.ones(2))
    farthest(base, np.ones((1, 2)), np.ones(1), least=True)


if __name__ == "__main__":
    warm()
