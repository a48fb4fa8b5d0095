"""How far a turned part bends under its cut, between what carries it."""

from __future__ import annotations

from collections.abc import Sequence
from math import pi

import numpy as np

from machining.geometry.frames import Vector
from machining.quantities.checks import not_negative
from machining.quantities.computed import formula
from machining.quantities.units import Newtons, Plain

PIECES = 60


def gives(
    heights: Vector, outer: Vector, inner: Vector, modulus_gpa: float, rests: Sequence[float]
) -> Vector:
    """How far (µm for each N) a shaft gives aside where a force pushes it, at each of its heights
    (n,), mm: the first is where it is clamped; ``outer`` and ``inner`` are its radii from each
    height to the next (n − 1,), ``rests`` heights at which it is carried.

    Source: Euler–Bernoulli beam in pieces of one section each, exact for them.
    """
    count = len(heights)
    stiff = np.zeros((2 * count, 2 * count))
    for k in range(count - 1):
        long = float(heights[k + 1] - heights[k])
        bent = modulus_gpa * 1000.0 * pi / 4.0 * (outer[k] ** 4 - inner[k] ** 4)
        piece = (bent / long**3) * np.array(
            [
                [12.0, 6.0 * long, -12.0, 6.0 * long],
                [6.0 * long, 4.0 * long**2, -6.0 * long, 2.0 * long**2],
                [-12.0, -6.0 * long, 12.0, -6.0 * long],
                [6.0 * long, 2.0 * long**2, -6.0 * long, 4.0 * long**2],
            ]
        )
        at = slice(2 * k, 2 * k + 4)
        stiff[at, at] += piece
    carried = {int(np.argmin(np.abs(heights - each))) for each in rests}
    fixed = {0, 1, *(2 * k for k in carried)}
    free = [k for k in range(2 * count) if k not in fixed]
    inverse = np.linalg.inv(stiff[np.ix_(free, free)])
    found = np.zeros(count)
    for place, k in enumerate(free):
        if k % 2 == 0:
            found[k // 2] = 1000.0 * inverse[place, place]
    return found


@formula(unit="mm")
def bends(force: Newtons, gives: Plain) -> float:
    """u = F·c/1000

    How far a part is pushed aside where it gives most along a cut, c in µm for each N. Raises
    OutOfRange for negative values.
    Source: Euler–Bernoulli beam clamped where it is gripped and carried by centre and steady, with
    the section the cut leaves; grip and rests are stiff.
    """
    return not_negative("force", force) * not_negative("gives", gives) / 1000.0
