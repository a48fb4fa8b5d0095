"""How a setup is held, as a drawing of two views with the dimensions a setter needs."""

from __future__ import annotations

from machining.facts.context import PlanFacts, StationFacts
from machining.facts.holdings import kind_of
from machining.geometry.hidden_line import FROM_ABOVE, FROM_THE_FRONT, FROM_THE_RIGHT, Eye
from machining.geometry.mesh import Mesh
from machining.geometry.regions import polygons_of
from machining.plan.clamped import Clamped
from machining.quantities.display import System

from . import dimension
from .at_angle import from_beside
from .chuck import chuck_drawing
from .clamps import numbers
from .leaning import leaning_from_beside
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


def holding_drawing(seen: StationFacts, facts: PlanFacts, system: System = "metric") -> str:
    """Two views of the held stock with zero, jaws, parallels and dimensions; without a vise, the
    stock alone.
    """
    held = seen.planned.holding
    if held is not None and seen.item is not None and kind_of(held).turns and seen.turns:
        return chuck_drawing(seen, facts, system)
    seen = seen.during(seen.stand.during.get("", seen.stand))
    along = "xy".index(seen.planned.in_vise.fixed[1]) if seen.planned.in_vise else 1
    sheet = Sheet(WIDTH, HEIGHT, f"Setup {seen.number}: how the part is held", system)
    end = FROM_THE_RIGHT if along == 1 else FROM_THE_FRONT
    bodies = bodies_of(seen)
    scale = min(fit(bodies, FROM_ABOVE, 225.0, 186.0), fit(bodies, end, 215.0, 200.0))
    title(sheet, 16, "From above")
    wedge = seen.stand.wedge
    leans = seen.stand.turn is not None
    if wedge is None and not leans:
        title(sheet, 318, "From the right end" if along == 1 else "From the front")
    _from_above(
        sheet,
        seen,
        bodies,
        placed(bodies, FROM_ABOVE, scale, 160.0, 131.0),
        along,
        facts,
    )
    if wedge is not None:
        from_beside(sheet, seen, wedge)
        return sheet.done()
    if leans:
        leaning_from_beside(sheet, seen)
        return sheet.done()
    _from_the_end(sheet, seen, facts, bodies, end, placed(bodies, end, scale, 440.0, 131.0), along)
    return sheet.done()


def _from_above(
    sheet: Sheet,
    seen: StationFacts,
    bodies: list[tuple[str, Mesh]],
    place: Place,
    along: int,
    facts: PlanFacts,
) -> None:
    lines(sheet, bodies, FROM_ABOVE, place)
    for polygon in polygons_of(seen.part_outline):
        sheet.line("hidden", *(place.at(x, y) for x, y in polygon.exterior.coords))
    low, high = seen.lie.stock_low, seen.lie.stock_high
    left, bottom = place.at(float(low[0]), float(low[1]))
    right, top = place.at(float(high[0]), float(high[1]))
    base, edge = (place.at(float(x), float(y)) for x, y, *_ in extent(bodies, FROM_ABOVE))
    dimension.across(
        sheet,
        left,
        right,
        base[1] + 18,
        f"{sheet.size(high[0] - low[0])}{_over(sheet, seen, 'x', facts)}",
        bottom,
    )
    dimension.upright(
        sheet,
        bottom,
        top,
        base[0] - 16,
        f"{sheet.size(high[1] - low[1])}{_over(sheet, seen, 'y', facts)}",
        left,
    )
    _jaws_above(sheet, seen, place, along, edge[1])
    numbers(sheet, seen, place)
    zero_x, zero_y = place.at(0.0, 0.0)
    sheet.line("centre", (left - 8, zero_y), (right + 8, zero_y))
    sheet.line("centre", (zero_x, top - 8), (zero_x, bottom + 8))
    axis(sheet, zero_x, zero_y, 36, 0, "X")
    axis(sheet, zero_x, zero_y, 0, -36, "Y")
    dimension.zero_mark(sheet, zero_x, zero_y)
    sheet.text(
        zero_x + 10,
        zero_y + 18,
        seen.planned.work_offset,
        number=True,
        bold=True,
        anchor="start",
        halo=True,
    )
    if not _is_clamped(seen):  # its clamps have numbers of their own
        dimension.balloon(sheet, left + 16, top + 18, left + 34, top + 34, 2 + steps_before(seen))


def _jaws_above(sheet: Sheet, seen: StationFacts, place: Place, along: int, edge: float) -> None:
    """Their names, and how wide they are where they close along Y."""
    jaws = [body for body in seen.stand.shadows if body.role == "jaw"]
    for jaw in jaws:
        x0, y0, x1, y1 = jaw.region.bounds
        x, y = place.at((x0 + x1) / 2, (y0 + y1) / 2)
        sheet.text(
            x,
            y + 3.5,
            jaw.name,
            size=10,
            turn=0 if along == 1 else -90,
        )
    if (
        jaws
        and along == 1
        and seen.planned.in_vise
        and seen.stand.turn is None
        and not _is_clamped(seen)
    ):
        x0, _, x1, _ = jaws[0].region.bounds
        dimension.across(
            sheet, place.at(x0, 0)[0], place.at(x1, 0)[0], edge - 12, sheet.size(x1 - x0), edge
        )


def _over(sheet: Sheet, seen: StationFacts, letter: str, facts: PlanFacts) -> str:
    """How much larger the blank can be across this direction: `` +1``."""
    left = [side for machine, side in seen.blank_sides.items() if machine[1] == letter]
    over = max((facts.plan.stock.tolerance_at(side) for side in left), default=0.0)
    return f" +{sheet.size(over)}" if over > 0 else ""


def _from_the_end(
    sheet: Sheet,
    seen: StationFacts,
    facts: PlanFacts,
    bodies: list[tuple[str, Mesh]],
    eye: Eye,
    place: Place,
    along: int,
) -> None:
    lines(sheet, bodies, eye, place)
    lie, high = seen.lie, float(seen.lie.stock_high[2])
    left = place.at(float(lie.stock_low[along]), 0)[0]
    extent_low, _ = extent(bodies, eye)
    part = [
        (float(lie.part_low[along]), float(lie.part_low[2])),
        (float(lie.part_high[along]), float(lie.part_high[2])),
    ]
    (a, c), (b, d) = part
    sheet.line(
        "hidden", place.at(a, c), place.at(a, d), place.at(b, d), place.at(b, c), closed=True
    )
    if _is_clamped(seen):
        _lies(sheet, seen, bodies, eye, place, along)
    elif seen.stand.of("jaw"):
        _grip(sheet, seen, bodies, eye, place, along)
    if high - float(lie.part_high[2]) > 0.05:
        over = high - float(lie.part_high[2])
        dimension.upright(
            sheet,
            place.at(0, high - over)[1],
            place.at(0, high)[1],
            place.at(float(extent_low[0]), 0)[0] - 6,
            sheet.size(over),
            left,
            beside=True,
        )
    x, y = place.at(0.0, 0.0)
    axis(sheet, x, y, 0, -26, "Z")
    dimension.zero_mark(sheet, x, y)


def _is_clamped(seen: StationFacts) -> bool:
    return isinstance(seen.planned.holding, Clamped)


def _lies(
    sheet: Sheet,
    seen: StationFacts,
    bodies: list[tuple[str, Mesh]],
    eye: Eye,
    place: Place,
    along: int,
) -> None:
    """How high it is, and how high it lies over what it is clamped on."""
    low, high = float(seen.lie.stock_low[2]), float(seen.lie.stock_high[2])
    right = place.at(float(seen.lie.stock_high[along]), 0)[0]
    far = place.at(float(extent(bodies, eye)[1][0]), 0)[0] + 14
    base = max((body.top for body in seen.stand.of("pallet")), default=low)
    for a, b in ((low, high), (base, low)):
        if b - a > 0.05:
            ends = place.at(0, a)[1], place.at(0, b)[1]
            dimension.upright(sheet, *ends, far, sheet.size(b - a), right, beside=True)


def _grip(
    sheet: Sheet,
    seen: StationFacts,
    bodies: list[tuple[str, Mesh]],
    eye: Eye,
    place: Place,
    along: int,
) -> None:
    """How deep the jaws hold, how far the stock stands out of them, parallels and jaws by name."""
    jaws, lie = seen.stand.of("jaw"), seen.lie
    low, high = float(lie.stock_low[2]), float(lie.stock_high[2])
    left, right = (place.at(float(each[along]), 0)[0] for each in (lie.stock_low, lie.stock_high))
    extent_low, extent_high = extent(bodies, eye)
    far, top = place.at(float(extent_high[0]), 0)[0] + 14, jaws[0].top

    def up(a: float, b: float, at: float, foot: float) -> None:
        from_, to = place.at(0, a)[1], place.at(0, b)[1]
        dimension.upright(sheet, from_, to, at, sheet.size(b - a), foot, beside=True)

    up(low, top, far, right)
    up(top, high, far, right)
    bottom, parallels = jaws[0].bottom, seen.stand.of("parallel")
    if parallels:
        middle = (left + right) / 2
        up(bottom, low, middle, middle - 0.5)
        near = min(parallels, key=lambda body: float(body.region.bounds[along]))
        across = (near.region.bounds[along] + near.region.bounds[along + 2]) / 2
        x, y = place.at(across, (bottom + low) / 2)
        dimension.balloon(sheet, x + 26, y + 14, x, y, 1 + steps_before(seen))
    for jaw in jaws:
        x0, y0, x1, y1 = jaw.region.bounds
        middle_u = (y0 + y1) / 2 if along == 1 else (x0 + x1) / 2
        x, y = place.at(middle_u, (jaw.top + jaw.bottom) / 2)
        sheet.text(x + 3.5, y, jaw.name, size=10, turn=-90)
        if jaw.moves:
            aside = -16 if middle_u < 0 else 16
            outer = place.at(float(extent_low[0] if middle_u < 0 else extent_high[0]), 0)[0]
            dimension.balloon(sheet, outer + aside, y + 24, outer, y + 24, 3 + steps_before(seen))
