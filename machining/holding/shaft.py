"""How far a turned part bends under its cut, between what carries it."""

from __future__ import annotations

from collections.abc import Sequence
from math import pi

import numpy as np
from numpy.typing import NDArray

from machining.geometry.frames import Vector
from machining.quantities.checks import not_negative
from machining.quantities.computed import formula
from machining.quantities.units import Newtons, Plain

PIECES = 60
Ints = NDArray[np.int64]


def gives(
    heights: Vector, outer: Vector, inner: Vector, modulus_gpa: float, rests: Sequence[float]
) -> Vector:
    """How far (µm for each N) a shaft gives aside where a force pushes it, at each of its heights
    (n,), mm: the first is where it is clamped; ``outer`` and ``inner`` are its radii from each
    height to the next (n − 1,), ``rests`` heights at which it is carried.

    Source: Euler–Bernoulli beam by unit loads, exact for pieces of one section each; rests by the
    forces that keep them where they are.
    """
    z = heights - heights[0]
    bent = modulus_gpa * 1000.0 * pi / 4.0 * (outer**4 - inner**4)
    sums = [
        np.concatenate([[0.0], np.cumsum(np.diff(z ** (k + 1)) / (k + 1) / bent)]) for k in range(3)
    ]

    def aside(a: Ints, b: Ints) -> Vector:
        """At a height by a unit force at another, of a shaft that nothing carries (mm/N)."""
        least = np.minimum(a, b)
        found: Vector = z[a] * z[b] * sums[0][least] - (z[a] + z[b]) * sums[1][least]
        return found + sums[2][least]

    every = np.arange(len(z))
    free = aside(every, every)
    carried = np.array(
        sorted({int(np.argmin(np.abs(heights - each))) for each in rests}), dtype=int
    )
    carried = carried[carried > 0]
    if len(carried):
        to_rests = aside(every[:, None], carried[None, :])
        between = aside(carried[:, None], carried[None, :])
        free = free - np.einsum("nk,kn->n", to_rests, np.linalg.solve(between, to_rests.T))
    return 1000.0 * np.maximum(free, 0.0)


@formula(unit="mm")
def bends(force: Newtons, gives: Plain) -> float:
    """u = F·c/1000

    How far a part is pushed aside where it gives most along a cut, c in µm for each N. Raises
    OutOfRange for negative values.
    Source: Euler–Bernoulli beam clamped where it is gripped and carried by centre and steady, with
    the section the cut leaves; grip and rests are stiff.
    """
    return not_negative("force", force) * not_negative("gives", gives) / 1000.0
