"""Which motions of a part its locators stop, and the others in words."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from machining.geometry.frames import Vector
from machining.quantities.said import Said, Shown, length

SAME = 1e-6  # of the largest singular value
SQUARE = 1.0 - 1e-6
LETTERS = "XYZ"


@dataclass(frozen=True, slots=True, eq=False)
class Motion:
    """Turning (3,) about a point (3,) mm, and sliding (3,): unit directions, nought for what it
    does not do.
    """

    slides: Vector
    turns: Vector
    about: Vector

    @property
    def kind(self) -> Literal["slide", "turn"]:
        return "turn" if np.any(self.turns) else "slide"


@dataclass(frozen=True, slots=True, eq=False)
class Located:
    """How many of the six motions are stopped (``rank``), and those that are free."""

    rank: int
    free: tuple[Motion, ...]


def located(normals: Vector, length_mm: float) -> Located:
    """By locators that bear with 1 N along each normal, as wrenches (n, 6) with moments over a
    length (mm). Source: rank of the locator matrix by singular values.
    """
    if not len(normals):
        normals = np.zeros((1, 6))
    _, sizes, rows = np.linalg.svd(normals, full_matrices=True)
    rank = int((sizes > SAME * max(float(sizes.max(initial=0.0)), SAME)).sum())
    free = rows[rank:]  # twists (v, w·L) that no normal feels
    return Located(rank, tuple(_apart(free, length_mm)))


def _apart(free: Vector, length_mm: float) -> list[Motion]:
    """Free twists as slides, then turns: the simplest that span them."""
    if not len(free):
        return []
    _, sizes, rows = np.linalg.svd(free[:, 3:].T, full_matrices=True)
    turning = int((sizes > SAME).sum())
    slides = _simplest((rows[turning:] @ free)[:, :3])
    turns = []
    carried = rows[:turning] @ free
    axes = _simplest(carried[:, 3:])
    for axis in axes:
        by = np.linalg.lstsq(carried[:, 3:].T, axis, rcond=None)[0] @ carried
        turns.append(_turn(by[:3], by[3:] / length_mm, slides))
    return [*(Motion(each, np.zeros(3), np.zeros(3)) for each in slides), *turns]


def _simplest(ways: Vector) -> list[Vector]:
    """Directions (k, 3) that span the same: axes of the frame where it has them."""
    if not len(ways):
        return []
    span = np.linalg.qr(ways.T)[0][:, : len(ways)]
    found: list[Vector] = []
    for way in (*np.eye(3), *span.T):
        inside = span @ (span.T @ way)
        for known in found:
            inside = inside - known * (known @ inside)
        long = float(np.linalg.norm(inside))
        wanted = SQUARE if len(found) < 3 and way is not None and _is_axis(way) else 1e-3
        if long >= wanted and len(found) < len(ways):
            found.append(_positive(inside / long))
    return found


def _is_axis(way: Vector) -> bool:
    return bool(np.count_nonzero(way) == 1)


def _positive(way: Vector) -> Vector:
    """Its largest component positive."""
    return way if way[np.argmax(np.abs(way))] > 0 else -way


def _turn(velocity: Vector, turns: Vector, slides: list[Vector]) -> Motion:
    """About the point of its axis nearest to the zero; what it can slide as well is left out."""
    for each in slides:
        velocity = velocity - each * (each @ velocity)
    rate = float(np.linalg.norm(turns))
    axis = turns / rate
    about = np.cross(turns, velocity) / rate**2
    along = float(velocity @ axis)
    slide = axis * np.sign(along) if abs(along) > SAME * max(1.0, rate) else np.zeros(3)
    return Motion(slide, axis, about)


def said(motion: Motion) -> Said:
    """ "can slide along X", "can turn about Z at X 10, Y 0"."""
    if motion.kind == "slide":
        return Said(f"can slide along {_way(motion.slides)}")
    k = next((j for j in range(3) if abs(motion.turns[j]) > SQUARE), None)
    text = f"can turn about {_way(motion.turns)}"
    if np.any(motion.slides):
        text += " as a screw does"
    others = [j for j in range(3) if j != k]
    if np.abs(motion.about).max() <= 1e-3:
        return Said(text)
    at = ", ".join(f"{LETTERS[j]} {{{LETTERS[j].lower()}}}" for j in others)
    values: dict[str, Shown] = {
        LETTERS[j].lower(): length(round(float(motion.about[j]), 3) + 0.0) for j in others
    }
    return Said(f"{text} at {at}", values)


def _way(way: Vector) -> str:
    for k in range(3):
        if abs(way[k]) > SQUARE:
            return LETTERS[k]
    parts = (f"{LETTERS[k]} {way[k]:.2f}" for k in range(3) if abs(way[k]) > 0.005)
    return f"({', '.join(parts)})"


def moves(left: Vector) -> Said:
    """What a wrench (6,) that nothing balances does to a part, by its largest term."""
    k = int(np.argmax(np.abs(left)))
    sign = "+" if left[k] > 0 else "−"
    if k >= 3:
        return Said(f"turns about {sign}{LETTERS[k - 3]}")
    if k == 2 and left[k] > 0:
        return Said("lifts")
    return Said(f"slides towards {sign}{LETTERS[k]}")
