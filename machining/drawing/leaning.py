"""A holding that leans, seen along the axis it leans about: angle, table, how high the stock stands
over that.
"""

from __future__ import annotations

import numpy as np

from machining.facts.context import StationFacts
from machining.geometry.hidden_line import FROM_THE_FRONT, FROM_THE_RIGHT
from machining.geometry.mesh import Mesh

from . import dimension
from .svg import Sheet
from .views import axis, bodies_of, extent, fit, leant_mesh, lines, placed, title

WIDE, HIGH, MIDDLE = 205.0, 168.0, (440.0, 140.0)
ARC = 46.0  # from its foot, of the angle's mark


def leaning_from_beside(sheet: Sheet, seen: StationFacts) -> None:
    """Stock, jaws and bed as they lean; the angle from the table, and how high its top stands."""
    orientation = seen.planned.orientation
    k = "xy".index(orientation.raised[1])
    eye = FROM_THE_FRONT if k == 0 else FROM_THE_RIGHT
    bodies = [*bodies_of(seen), *_beds(seen)]
    place = placed(bodies, eye, fit(bodies, eye, WIDE, HIGH), *MIDDLE)
    title(sheet, 318, f"From the {'front' if k == 0 else 'right end'}")
    lines(sheet, bodies, eye, place)
    low, high = extent(bodies, eye)
    table = float(seen.lie.stock_low[2]) - seen.seat_mm
    left, right = (place.at(float(end[0]), table) for end in (low, high))
    sheet.line("thick", (left[0] - 14, left[1]), (right[0] + 14, right[1]))
    flat = np.vstack([eye.flat(mesh.vertices)[:, :2] for _, mesh in bodies])
    foot = place.at(*(float(v) for v in flat[flat[:, 1].argmin()]))
    dimension.angle(sheet, foot, ARC, orientation.raised_deg, orientation.raised[0] == "+")
    top = float(seen.lie.stock_high[2])
    dimension.upright(
        sheet,
        place.at(0, table)[1],
        place.at(0, top)[1],
        right[0] + 18,
        sheet.size(top - table),
        right[0],
        beside=True,
    )
    x, y = place.at(0.0, 0.0)
    axis(sheet, x, y, 0, -26, "Z")
    dimension.zero_mark(sheet, x, y)


def _beds(seen: StationFacts) -> list[tuple[str, Mesh]]:
    turn = seen.stand.turn
    assert turn is not None
    under = (each for each in seen.stand.upright if each.role in ("bed", "plate"))
    return [("bed", leant_mesh(each, turn)) for each in under]
