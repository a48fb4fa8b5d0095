"""A part that is held at an angle, seen along the axis it is raised about: the jaw that stands
before it is left out.
"""

from __future__ import annotations

from math import hypot

import numpy as np

from machining.facts.context import StationFacts
from machining.facts.stand import Body, Wedge
from machining.geometry.hidden_line import FROM_THE_FRONT, FROM_THE_RIGHT
from machining.geometry.regions import polygons_of
from machining.geometry.solids import outline, posed

from . import dimension
from .svg import Sheet
from .views import Place, axis, bodies_of, extent, fit, lines, placed, title

ARC_SHARE = 0.42  # of the underside's length: where the angle is written
WIDE, HIGH, MIDDLE = 215.0, 190.0, (440.0, 131.0)


def from_beside(sheet: Sheet, seen: StationFacts, wedge: Wedge) -> None:
    """Stock, fixed jaw and what it lies on; its angle, the grip, what stands over the jaws."""
    eye, across = (FROM_THE_FRONT, 1) if wedge.axis == "y" else (FROM_THE_RIGHT, 0)
    jaws = sorted(seen.stand.of("jaw"), key=lambda body: float(body.region.bounds[across]))
    before = jaws[0] if wedge.axis == "y" else jaws[-1]
    bodies = bodies_of(seen, without=before)
    place = placed(bodies, eye, fit(bodies, eye, WIDE, HIGH), *MIDDLE)
    side = "front" if wedge.axis == "y" else "right end"
    title(sheet, 318, f"From the {side}, the {before.name} left out")
    lines(sheet, bodies, eye, place)
    _part(sheet, seen, wedge, place)
    _angle(sheet, wedge, place, seen.planned.orientation.raised_deg)
    _heights(sheet, seen, before, place.at(float(extent(bodies, eye)[1][0]), 0.0)[0], place)
    x, y = place.at(0.0, 0.0)
    axis(sheet, x, y, 0, -26, "Z")
    dimension.zero_mark(sheet, x, y)


def _part(sheet: Sheet, seen: StationFacts, wedge: Wedge, place: Place) -> None:
    """What comes out of it, dashed."""
    turn = np.array([[1.0, 0, 0], [0, 0, 1.0], [0, -1.0, 0]])
    if wedge.axis == "x":
        turn = np.array([[0, 1.0, 0], [0, 0, 1.0], [1.0, 0, 0]])
    pose = seen.lie.pose.then(type(seen.lie.pose)(turn, np.zeros(3)))
    for polygon in polygons_of(outline(posed(seen.geometry.solid, pose))):
        sheet.line("hidden", *(place.at(u, v) for u, v in polygon.exterior.coords))


def _angle(sheet: Sheet, wedge: Wedge, place: Place, degrees: float) -> None:
    """At the edge it stands on, between level and its underside."""
    _, _, right, left = wedge.corners
    foot, end = (left, right) if left[1] < right[1] else (right, left)
    x, y = place.at(*foot)
    far = ARC_SHARE * hypot(end[0] - foot[0], end[1] - foot[1]) * place.scale
    to_right = end[0] > foot[0]
    sheet.line("dimension", (x, y), (x + (1.2 if to_right else -1.2) * far, y))
    dimension.angle(sheet, (x, y), far, degrees, to_right)


def _heights(sheet: Sheet, seen: StationFacts, jaw: Body, edge: float, place: Place) -> None:
    """How deep its lowest edge is in the jaws, what stands over them."""
    low, high = float(seen.lie.stock_low[2]), float(seen.lie.stock_high[2])
    for a, b in ((low, jaw.top), (jaw.top, high)):
        from_, to = place.at(0, a)[1], place.at(0, b)[1]
        dimension.upright(sheet, from_, to, edge + 14, sheet.size(b - a), edge, beside=True)
