"""How a chuck holds a setup: from the side with the spindle level, and into the jaws."""

from __future__ import annotations

import numpy as np
from shapely import Point, affinity, unary_union

from machining.facts.context import PlanFacts, StationFacts
from machining.geometry.hidden_line import FROM_ABOVE, Eye
from machining.geometry.mesh import Mesh
from machining.geometry.regions import polygons_of
from machining.geometry.solids import half_section, posed
from machining.quantities.display import System

from . import dimension
from .svg import Sheet
from .views import (
    HEIGHT,
    WIDTH,
    Place,
    axis,
    bodies_of,
    extent,
    fit,
    lines,
    placed,
    steps_before,
    title,
)

SHOWN_MM, WIDE = 0.05, 40.0  # of what is told, and on paper: a figure has room
FROM_THE_SIDE = Eye(np.array([0.0, 0, 1.0]), np.array([1.0, 0, 0]), np.array([0, 1.0, 0]))


def chuck_drawing(seen: StationFacts, facts: PlanFacts, system: System = "metric") -> str:
    """Two views of the stock in its jaws, with the finished part, the zero and what a setter
    measures.
    """
    sheet = Sheet(WIDTH, HEIGHT, f"Setup {seen.number}: how the part is held", system)
    bodies = bodies_of(seen)
    scale = min(fit(bodies, FROM_THE_SIDE, 250.0, 190.0), fit(bodies, FROM_ABOVE, 170.0, 190.0))
    title(sheet, 16, "From the side")
    title(
        sheet, 392, f"Into the {seen.planned.holding.kind if seen.planned.holding else 'spindle'}"
    )
    _side(sheet, seen, facts, bodies, placed(bodies, FROM_THE_SIDE, scale, 168.0, 131.0))
    face = [each for each in bodies if each[0] != "centre"]  # it would hide the end
    _into(sheet, seen, face, placed(face, FROM_ABOVE, scale, 484.0, 131.0))
    return sheet.done()


def _side(
    sheet: Sheet, seen: StationFacts, facts: PlanFacts, bodies: list[tuple[str, Mesh]], place: Place
) -> None:
    lines(sheet, bodies, FROM_THE_SIDE, place)
    half = half_section(posed(facts.geometry.solid, seen.lie.pose))
    for polygon in polygons_of(
        unary_union([half, affinity.scale(half, -1.0, 1.0, origin=(0.0, 0.0))])
    ):
        for ring in (polygon.exterior, *polygon.interiors):
            sheet.line("hidden", *(place.at(z, r) for r, z in ring.coords))
    _sizes(sheet, seen, bodies, place)
    low, _ = extent(bodies, FROM_THE_SIDE)
    base, right = place.at(float(low[0]), 0.0)[0], place.at(float(seen.lie.stock_high[2]), 0.0)[0]
    sheet.line("centre", (base - 8, place.at(0, 0)[1]), (right + 10, place.at(0, 0)[1]))
    x, y = place.at(0.0, 0.0)
    axis(sheet, x, y, 26, 0, "Z")
    axis(sheet, x, y, 0, -26, "X")
    dimension.zero_mark(sheet, x, y)
    sheet.text(
        x + 12, y + 18, seen.planned.work_offset, number=True, bold=True, anchor="start", halo=True
    )


def _sizes(sheet: Sheet, seen: StationFacts, bodies: list[tuple[str, Mesh]], place: Place) -> None:
    """How far the stock stands in the jaws and out of them, its diameter, what is faced off."""
    lie, (low, _) = seen.lie, extent(bodies, FROM_THE_SIDE)
    base, end = place.at(float(low[0]), float(low[1])), float(lie.stock_high[2])
    radius = float(lie.stock_high[0])
    top = place.at(0.0, radius)[1]
    if seen.stand.top is not None:
        jaw = seen.stand.top
        bottom = place.at(0.0, -radius)[1]
        stands = place.at(end, 0)[0] - place.at(jaw, 0)[0]
        dimension.across(
            sheet,
            place.at(jaw, 0)[0],
            place.at(end, 0)[0],
            base[1] + (16 if stands > WIDE else 29),  # beside the grip's its figure would touch
            sheet.size(end - jaw),
            bottom,
        )
        if jaw - float(lie.stock_low[2]) > SHOWN_MM:
            dimension.across(
                sheet,
                place.at(float(lie.stock_low[2]), 0)[0],
                place.at(jaw, 0)[0],
                base[1] + 16,
                sheet.size(jaw - float(lie.stock_low[2])),
                base[1],
            )
        out = max(body.region.bounds[3] for body in seen.stand.beside)
        x, y = place.at(jaw - 6.0, float(out) - 6.0)
        dimension.balloon(sheet, x + 26, y - 4, x, y, 3 + steps_before(seen))
    right = place.at(end, 0.0)[0]
    dimension.upright(
        sheet,
        place.at(0, -radius)[1],
        place.at(0, radius)[1],
        right + 68,
        f"Ø{sheet.size(2 * radius)}",
        right,
    )
    over = end - float(lie.part_high[2])
    if over > 0.05:
        dimension.across(sheet, place.at(end - over, 0)[0], right, top - 14, sheet.size(over), top)


def _into(sheet: Sheet, seen: StationFacts, bodies: list[tuple[str, Mesh]], place: Place) -> None:
    lines(sheet, bodies, FROM_ABOVE, place)
    x, y = place.at(0.0, 0.0)
    radius = float(seen.lie.stock_high[0]) * place.scale
    sheet.line("centre", (x - radius - 8, y), (x + radius + 8, y))
    sheet.line("centre", (x, y - radius - 8), (x, y + radius + 8))
    for jaw in seen.stand.of("jaw"):
        at = jaw.region.centroid
        u, v = place.at(float(at.x), float(at.y))
        sheet.text(u, v + 3.5, jaw.name, size=10, number=True, bold=jaw.name == "1")
    _bored(sheet, seen, place)


def _bored(sheet: Sheet, seen: StationFacts, place: Place) -> None:
    """What soft jaws are bored to, how deep, and the spacer they are closed on meanwhile."""
    held = seen.planned.in_chuck
    if held is None or held.bored_mm is None or not seen.stand.of("step"):
        return
    words = f"jaws bored Ø{sheet.size(held.bored_mm)}, {sheet.size(held.grip_mm)} deep"
    if held.spacer_mm is not None:
        words += f", on a spacer Ø{sheet.size(held.spacer_mm)}"
        round_ = Point(0.0, 0.0).buffer(held.spacer_mm / 2.0)
        ring = [place.at(float(x), float(y)) for x, y in round_.exterior.coords]
        sheet.line("hidden", *ring, closed=True)
    sheet.text(WIDTH - 12, HEIGHT - 6, words, size=10, number=True, anchor="end")
