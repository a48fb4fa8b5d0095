"""What a cut takes of the finished part."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from machining.geometry.columns import Columns
from machining.geometry.frames import Vector
from machining.geometry.regions import Region
from machining.motion.path import Path

from .carry import carry_on, more_intervals, parts_of
from .shape import Shape

LEAST_MM3 = 1e-3  # less is none


@dataclass(frozen=True, slots=True)
class Gouge:
    """How deep (mm) an operation cuts into the finished part, how much of it it takes (mm³), and
    where: the tip of a tool that turns at (x, y, z), a cut into what turns at (radius, 0, z), mm.
    ``share`` is what that is of all it takes from what turns.
    """

    deep: float
    at: tuple[float, float, float]
    volume: float
    share: float = 0.0


@dataclass(frozen=True, slots=True, eq=False)
class Compared:
    """The stock it leaves was held against the part; ``gouge`` is None where that stays whole,
    ``section`` is the part's of (radius, z) where it turns.
    """

    gouge: Gouge | None
    section: Region | None = None


@dataclass(frozen=True, slots=True, eq=False)
class Into:
    """How much of a part a path takes (mm³), the most of it over one another (mm), and where the
    tip stands in its highest contact.
    """

    volume: float
    above: float
    at: Vector


def into_part(path: Path, shape: Shape, part: Columns) -> Into | None:
    """What a tool takes of a part along a path; None where it stays clear."""
    ceiling = part.top
    left = part.copy(more_intervals(float(path.bounds()[0][2]), shape, ceiling))
    volume, deepest, at = 0.0, -1.0, np.zeros(3)
    for steps in parts_of(path, part.grid.cell, ceiling):
        met = carry_on(steps, shape, ceiling, left)
        volume += met.volume
        k = int(np.argmax(met.deep)) if len(met.deep) else -1
        if k >= 0 and met.deep[k] > deepest:
            deepest, at = float(met.deep[k]), steps.at[k]
    if volume <= LEAST_MM3:
        return None
    gone = (part.tops - part.lows).sum(axis=2) - (left.tops - left.lows).sum(axis=2)
    return Into(volume, float(gone.max()), at)
