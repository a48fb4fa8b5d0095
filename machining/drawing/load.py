"""A load on its table from above, with every position's number, offset and pitch."""

from __future__ import annotations

from collections.abc import Callable

from machining.facts.loaded import LoadSeen, StationSeen
from machining.quantities.display import System

from . import dimension
from .svg import Point2, Sheet

Put = Callable[[float, float], Point2]
WIDTH, ROOM, FOOT, MOST_HIGH = 560.0, 26.0, 34.0, 300.0
FILLS = {"bed": "#f6f8fb", "jaw": "#dfe3ea", "part": "#eef1fa"}
ORDER = ("bed", "jaw", "stop", "nose", "chuck", "part")


def load_drawing(load: LoadSeen, title: str, system: System) -> str:
    """To scale: the table, what stands on it, and from middle to middle what is even of it."""
    wide, deep = load.table
    scale = min((WIDTH - 2 * ROOM) / wide, MOST_HIGH / deep)
    high = deep * scale + ROOM + FOOT
    sheet = Sheet(WIDTH, high, title, system)
    middle = WIDTH / 2.0, ROOM + deep * scale / 2.0

    def at(x: float, y: float) -> tuple[float, float]:
        return middle[0] + x * scale, middle[1] - y * scale

    low, far = at(-wide / 2.0, -deep / 2.0), at(wide / 2.0, deep / 2.0)
    sheet.line("line", low, (far[0], low[1]), far, (low[0], far[1]), closed=True)
    for number, station in enumerate(load.stations, 1):
        for k, spot in enumerate(station.spots):
            for shape in sorted(station.shapes, key=lambda each: ORDER.index(each.role)):
                rings = [[at(x + spot.x_mm, y + spot.y_mm) for x, y in r] for r in shape.rings]
                sheet.area(FILLS.get(shape.role, FILLS["jaw"]), rings)
                for ring in rings:
                    sheet.line("thick" if shape.role == "part" else "line", *ring, closed=True)
            x, y = at(spot.x_mm, spot.y_mm)
            name = f"{number}·{k + 1}" if len(load.stations) > 1 else str(k + 1)
            sheet.text(x, y - 1, name, number=True, bold=True)
            sheet.text(x, y + 11, spot.code, number=True, size=9.5)
        _pitches(sheet, station, at, low[1])
    words = f"table {sheet.size(wide)} × {sheet.size(deep)}, its middle is 0, 0"
    sheet.text(low[0], low[1] + 28, words, size=9.5, anchor="start")
    return sheet.done()


def _pitches(sheet: Sheet, station: StationSeen, at: Put, foot: float) -> None:
    """Between its first two along X, and along Y, where there are such."""
    first = station.spots[0]
    for other in station.spots[1:]:
        if other.y_mm == first.y_mm:
            (x0, y0), (x1, _) = at(first.x_mm, first.y_mm), at(other.x_mm, other.y_mm)
            pitch = sheet.size(abs(other.x_mm - first.x_mm))
            dimension.across(sheet, min(x0, x1), max(x0, x1), foot + 12, pitch, y0 + 14)
            break
    for other in station.spots[1:]:
        if other.x_mm == first.x_mm:
            (x0, y0), (_, y1) = at(first.x_mm, first.y_mm), at(other.x_mm, other.y_mm)
            pitch = sheet.size(abs(other.y_mm - first.y_mm))
            dimension.upright(sheet, y0, y1, 16.0, pitch, x0 - 14)
            break
