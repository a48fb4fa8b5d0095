"""Directions evenly round an axis."""

from __future__ import annotations

from collections.abc import Iterable
from math import atan2, degrees

import numpy as np

from .frames import Vector

FEWEST, EVEN_DEG = 3, 0.05  # fewer say nothing of what they go round


def angle_about(looks: Vector, k: int) -> float:
    """Where a direction looks to about an axis (0 to 2), right-handed, from 0 to 360 degrees."""
    first, second = (k + 1) % 3, (k + 2) % 3
    return degrees(atan2(float(looks[second]), float(looks[first]))) % 360.0


def are_even(angles: Iterable[float]) -> bool:
    """Are at least three angles (degrees) as far apart all the way round?"""
    at = np.sort([*angles])
    if len(at) < FEWEST:
        return False
    steps = np.diff(np.append(at, at[0] + 360.0))
    return bool(np.abs(steps - 360.0 / len(at)).max() < EVEN_DEG)
