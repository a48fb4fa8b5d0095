"""A part before and after it is turned over, with the side that was up and the marked corner."""

from __future__ import annotations

from itertools import product

import numpy as np

from machining.facts.flip import MARKED, Corner, Flip
from machining.geometry.frames import Vector
from machining.quantities.display import System

from .svg import INK, Point2, Sheet

WIDE, HIGH, MOST, ROOM = 210.0, 76.0, 46.0, 14.0
DEEP = (0.42, 0.32)  # of a depth, sideways and up: the front is seen as it is
FACES = {  # that are seen, by the direction they look
    (0, -1, 0): ((-1, -1, -1), (1, -1, -1), (1, -1, 1), (-1, -1, 1)),
    (0, 0, 1): ((-1, -1, 1), (1, -1, 1), (1, 1, 1), (-1, 1, 1)),
    (1, 0, 0): ((1, -1, -1), (1, 1, -1), (1, 1, 1), (1, -1, 1)),
}
SHADED = "#c9d0e6"


def flip_drawing(flip: Flip, title: str, system: System) -> str:
    """Both beside each other, an arrow from the first to the second."""
    sheet = Sheet(WIDE, HIGH, title, system)
    up = np.array([0.0, 0.0, 1.0])
    after = np.abs(flip.turn @ np.array(flip.size))
    scale = MOST / max(*flip.size, *after)
    first = _block(sheet, np.array(flip.size) * scale, (ROOM, HIGH - ROOM), up, MARKED)
    start = WIDE / 2.0 + 22.0
    _block(sheet, after * scale, (start, HIGH - ROOM), flip.turn @ up, flip.lies)
    y = HIGH / 2.0 + 4.0
    sheet.line("line", (first + 10.0, y), (start - 14.0, y))
    sheet.line("line", (start - 20.0, y - 4.0), (start - 13.0, y), (start - 20.0, y + 4.0))
    return sheet.done()


def _block(sheet: Sheet, size: Vector, foot: Point2, shaded: Vector, mark: Corner) -> float:
    """From its left front foot; how far right it goes."""

    def at(corner: Corner) -> Point2:
        x, y, z = (np.array(corner) + 1.0) / 2.0 * size
        return foot[0] + x + DEEP[0] * y, foot[1] - z - DEEP[1] * y

    for looks, corners in FACES.items():
        face = [at(each) for each in corners]
        if np.allclose(shaded, looks, atol=1e-6):
            sheet.area(SHADED, [face])
        sheet.line("line", *face, closed=True)
    x, y = at(mark)
    hidden = mark == (-1, 1, -1)
    sheet.circle(x, y, 2.6, "#ffffff" if hidden else INK)
    return max(at((a, b, c))[0] for a, b, c in product((-1, 1), repeat=3))
