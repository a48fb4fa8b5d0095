"""A part before and after it is turned over, with the side that was up and the marked corner."""

from __future__ import annotations

from itertools import product

import numpy as np

from machining.facts.flip import MARKED, Flip
from machining.geometry.frames import Vector
from machining.quantities.display import System

from .svg import INK, Point2, Sheet

WIDE, HIGH, MOST, ROOM = 210.0, 76.0, 46.0, 14.0
DEEP = (0.42, 0.32)  # of a depth, sideways and up: the front is seen as it is
VIEWER = np.array([DEEP[0], -1.0, DEEP[1]])  # the direction that is seen as a point
CORNERS = np.array([*product((-1.0, 1.0), repeat=3)])
SHADED = "#c9d0e6"


def flip_drawing(flip: Flip, title: str, system: System) -> str:
    """Both beside each other, an arrow from the first to the second."""
    sheet = Sheet(WIDE, HIGH, title, system)
    lying = CORNERS * np.array(flip.size) / 2.0
    boxes = lying, lying @ flip.turn.T
    scale = MOST / max(float(np.ptp(box, axis=0).max()) for box in boxes)
    first = _block(sheet, boxes[0] * scale, np.eye(3), (ROOM, HIGH - ROOM))
    start = WIDE / 2.0 + 22.0
    _block(sheet, boxes[1] * scale, flip.turn, (start, HIGH - ROOM))
    y = HIGH / 2.0 + 4.0
    sheet.line("line", (first + 10.0, y), (start - 14.0, y))
    sheet.line("line", (start - 20.0, y - 4.0), (start - 13.0, y), (start - 20.0, y + 4.0))
    return sheet.done()


def _block(sheet: Sheet, corners: Vector, turn: Vector, foot: Point2) -> float:
    """From its left and lowest; how far right it goes. The side that was up is shaded."""
    flat = np.column_stack(
        [corners[:, 0] + DEEP[0] * corners[:, 1], -corners[:, 2] - DEEP[1] * corners[:, 1]]
    )
    flat += np.array(foot) - [flat[:, 0].min(), flat[:, 1].max()]
    marked, seen = int(np.flatnonzero((CORNERS == MARKED).all(axis=1))[0]), set[int]()
    for axis, sign in product(range(3), (-1.0, 1.0)):
        if sign * turn[:, axis] @ VIEWER <= 1e-9:
            continue
        around = _face(axis, sign)
        seen.update(around)
        outline = [(float(flat[k, 0]), float(flat[k, 1])) for k in around]
        if axis == 2 and sign > 0:
            sheet.area(SHADED, [outline])
        sheet.line("line", *outline, closed=True)
    x, y = (float(each) for each in flat[marked])
    sheet.circle(x, y, 2.6, INK if marked in seen else "#ffffff")
    return float(flat[:, 0].max())


def _face(axis: int, sign: float) -> list[int]:
    """Its corners, round about."""
    own = [int(k) for k in np.flatnonzero(CORNERS[:, axis] == sign)]
    return [own[0], own[1], own[3], own[2]]
