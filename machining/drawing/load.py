"""A load on its table from above, or on the faces of a tombstone: positions, offsets, pitches."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import partial

from machining.facts.loaded import LoadSeen, Spot, StationSeen
from machining.quantities.display import System

from . import dimension
from .svg import Point2, Sheet

Put = Callable[[float, float], Point2]
WIDTH, ROOM, FOOT, MOST_HIGH = 560.0, 26.0, 34.0, 300.0
MOST_HIGH_OF_ONE = 170.0
APART = 1.12  # from face to face, as they are drawn beside each other
FILLS = {"bed": "#f6f8fb", "handle": "#f6f8fb", "jaw": "#dfe3ea", "part": "#eef1fa"}
ORDER = (
    "bed",
    "handle",
    "step",
    "jaw",
    "stop",
    "nose",
    "centre",
    "steady",
    "chuck",
    "pallet",
    "heel",
    "dowel",
    "part",
    "clamp",
)


def load_drawing(load: LoadSeen, title: str, system: System) -> str:
    """To scale: the table, or the faces of a tombstone beside each other, what stands there, and
    from middle to middle what is even of it.
    """
    grounds = _grounds(load)
    wide, deep = grounds[-1].x + grounds[-1].wide / 2.0, grounds[0].deep
    several = sum(len(each.spots) for each in load.stations) > 1
    high = MOST_HIGH if several else MOST_HIGH_OF_ONE
    scale = min((WIDTH - 2 * ROOM) / (2.0 * wide), high / deep)
    out = _below(load, deep) * scale
    high = deep * scale + ROOM + FOOT + out
    sheet = Sheet(WIDTH, high, title, system)
    middle = WIDTH / 2.0, ROOM + deep * scale / 2.0

    def at(x: float, y: float) -> tuple[float, float]:
        return middle[0] + x * scale, middle[1] - y * scale

    for ground in grounds:
        _ground(sheet, ground, at)
        if (on := load.plate) is not None:
            _ground(sheet, Ground(0.0, on.x_mm, on.y_mm), at)
        for number, station in enumerate(load.stations, 1):
            for k, spot in enumerate(station.spots):
                if spot.face == ground.face:
                    name = f"{number}·{k + 1}" if len(load.stations) > 1 else str(k + 1)
                    _position(sheet, station, spot, name, partial(_from, at, ground.x))
    foot = at(0.0, -deep / 2.0)[1]
    for station in load.stations:
        _pitches(sheet, station, partial(_from, at, grounds[0].x), foot)
    words = f"table {sheet.size(load.table[0])} × {sheet.size(load.table[1])}, its middle is 0, 0"
    if (stone := load.tombstone) is not None:
        words = f"{stone.name}: each face {sheet.size(stone.wide_mm)} × {sheet.size(stone.tall_mm)}"
    if (on := load.plate) is not None:
        sizes = " × ".join(sheet.size(each) for each in (on.x_mm, on.y_mm, on.thick_mm))
        words += f"; on the {on.name}, {sizes}"
    sheet.text(at(-wide, 0.0)[0], foot + 28 + out, words, size=9.5, anchor="start")
    return sheet.done()


def _below(load: LoadSeen, deep: float) -> float:
    """How far (mm) what stands on a table reaches out of it in front."""
    if load.tombstone is not None:
        return 0.0
    lowest = (
        y + spot.y_mm
        for station in load.stations
        for spot in station.spots
        for shape in station.shapes
        for ring in shape.rings
        for _, y in ring
    )
    return max(0.0, -deep / 2.0 - min(lowest, default=0.0))


@dataclass(frozen=True, slots=True)
class Ground:
    """What positions stand on: its middle in the drawing, its size (mm), and which face it is."""

    x: float
    wide: float
    deep: float
    face: int = 0
    words: str = ""


def _grounds(load: LoadSeen) -> list[Ground]:
    on = load.tombstone
    if on is None:
        return [Ground(0.0, *load.table)]
    step, first = on.wide_mm * APART, (len(on.faces) - 1) / 2.0
    return [
        Ground((k - first) * step, on.wide_mm, on.tall_mm, k + 1, f"face {k + 1}, at {deg:g}°")
        for k, deg in enumerate(on.faces)
    ]


def _from(at: Put, x0: float, x: float, y: float) -> Point2:
    return at(x0 + x, y)


def _ground(sheet: Sheet, ground: Ground, at: Put) -> None:
    half, up = ground.wide / 2.0, ground.deep / 2.0
    low, far = at(ground.x - half, -up), at(ground.x + half, up)
    sheet.line("line", low, (far[0], low[1]), far, (low[0], far[1]), closed=True)
    if ground.words:
        sheet.text(low[0], far[1] - 5, ground.words, size=9.5, anchor="start")


def _position(sheet: Sheet, station: StationSeen, spot: Spot, name: str, at: Put) -> None:
    for shape in sorted(station.shapes, key=lambda each: ORDER.index(each.role)):
        rings = [[at(x + spot.x_mm, y + spot.y_mm) for x, y in r] for r in shape.rings]
        sheet.area(FILLS.get(shape.role, FILLS["jaw"]), rings)
        for ring in rings:
            sheet.line("thick" if shape.role == "part" else "line", *ring, closed=True)
    x, y = at(spot.x_mm, spot.y_mm)
    sheet.text(x, y - 1, name, number=True, bold=True)
    sheet.text(x, y + 11, spot.code, number=True, size=9.5)


def _pitches(sheet: Sheet, station: StationSeen, at: Put, foot: float) -> None:
    """Between its first two along X, and along Y, where there are such."""
    first = station.spots[0]
    alike = [each for each in station.spots[1:] if each.face == first.face]
    for other in alike:
        if other.y_mm == first.y_mm:
            (x0, y0), (x1, _) = at(first.x_mm, first.y_mm), at(other.x_mm, other.y_mm)
            pitch = sheet.size(abs(other.x_mm - first.x_mm))
            dimension.across(sheet, min(x0, x1), max(x0, x1), foot + 12, pitch, y0 + 14)
            break
    for other in alike:
        if other.x_mm == first.x_mm:
            (x0, y0), (_, y1) = at(first.x_mm, first.y_mm), at(other.x_mm, other.y_mm)
            pitch = sheet.size(abs(other.y_mm - first.y_mm))
            dimension.upright(sheet, y0, y1, 16.0, pitch, x0 - 14)
            break
