"""What typed places leave at an open edge of the stock, where the tool does not pass it."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from math import hypot

from shapely import LineString, Polygon, box, unary_union

from machining.geometry.regions import Region, filled, grown, polygons_of
from machining.geometry.solids import posed, section
from machining.memo import digest
from machining.plan.operation import FinishFloor, FinishWalls, RoughPocket, Slot
from machining.plan.places import Drawn, DrawnArea, Lines, Rectangle

from .context import PlanFacts, Ready
from .left import last_station
from .tabs import hands_on

CLEAR_MM = 1.0  # past an edge beyond the tool's radius, and the thinnest web that is meant
NEAR_MM, THIN_MM = 0.02, 0.05  # of the edge; thinner is what chords are off
PART_MM = 0.05
Spot = tuple[float, float]


@dataclass(frozen=True, slots=True)
class Lip:
    """A piece of stock left beside the way out, its middle in plan, how wide and how high (mm)."""

    at: Spot
    wide: float
    high: float


@dataclass(frozen=True, slots=True)
class End:
    """An end of a line: which line, whether its first, and how far ahead of it the edge of the
    stock lies (mm); below 0 where it is past that.
    """

    line: int
    first: bool
    ahead: float


def lips(op: Ready, facts: PlanFacts) -> tuple[Lip, ...]:
    """Those that no later operation takes either, widest first; none where the place is not typed,
    or is cut again later.
    """
    last = last_station(facts)
    if last is None or op.aimed is not None or op.work.is_thin or not _typed(op):
        return ()
    if any(each.operation.on == op.operation.on for each in _after(op)):
        return ()
    stays = hands_on(last, facts.geometry).seen_in(op.lie)
    key = (
        "lips",
        digest(op.operation.on),
        op.work.key,
        op.tool.diameter_mm,
        op.before.key,
        stays.key,
        facts.geometry.key,
        op.lie.key,
    )

    def found() -> tuple[Lip, ...]:
        low, high = op.work.floor, min(op.work.top, float(op.before.bounds()[1][2]))
        if high - low < THIN_MM:
            return ()
        z = (low + high) / 2.0
        uncut = _asked(op).difference(grown(op.work.region, NEAR_MM))
        part = section(posed(facts.geometry.solid, op.lie.pose), z)
        left = uncut.intersection(section(stays.solid, z)).difference(grown(part, PART_MM))
        rim = unary_union([each.exterior for each in polygons_of(section(op.before.solid, z))])
        pieces = [
            each
            for each in polygons_of(left)
            if 2.0 * each.area > THIN_MM * each.length and each.distance(rim) < NEAR_MM
        ]
        return tuple(sorted((_lip(each, high - low) for each in pieces), key=lambda e: -e.wide))

    return op.after.memo.get(key, found)


def _lip(piece: Polygon, high: float) -> Lip:
    x, y = piece.representative_point().coords[0]
    corners = piece.minimum_rotated_rectangle.exterior.coords
    sides = [hypot(b[0] - a[0], b[1] - a[1]) for a, b in zip(corners, corners[1:], strict=False)]
    return Lip((float(x), float(y)), float(min(sides)), high)


def _typed(op: Ready) -> bool:
    kind, on = op.operation, op.operation.on
    if isinstance(kind, Slot):
        return isinstance(on, Rectangle | Lines | Drawn)
    return isinstance(kind, RoughPocket | FinishWalls | FinishFloor) and isinstance(
        on, Rectangle | DrawnArea
    )


def _after(op: Ready) -> Iterator[Ready]:
    mine = op.station.operations
    here = next(k for k, each in enumerate(mine) if each.id == op.id)
    yield from (each for each in mine[here + 1 :] if isinstance(each, Ready))


def _asked(op: Ready) -> Region:
    """What should be gone in plan: an area as it is typed, a slot on to where it comes out."""
    on = op.operation.on
    if not isinstance(op.operation, Slot):
        if isinstance(on, Rectangle):
            half = on.length_mm / 2.0, on.width_mm / 2.0
            return box(on.x_mm - half[0], on.y_mm - half[1], on.x_mm + half[0], on.y_mm + half[1])
        assert isinstance(on, DrawnArea)
        return on.region
    most = op.work.across / 2.0 + CLEAR_MM
    return unary_union(
        [_strip(op, each) for each in ends(op) if -NEAR_MM < each.ahead <= most] or [Polygon()]
    )


def _strip(op: Ready, end: End) -> Region:
    """From an end of a slot's middle line straight on to the edge, as wide as the slot."""
    spot, (ux, uy) = _outwards(op, end)
    on = spot[0] + ux * end.ahead, spot[1] + uy * end.ahead
    if end.ahead < NEAR_MM:
        return Polygon()
    return LineString([spot, on]).buffer(op.work.across / 2.0, cap_style="flat")


def ends(op: Ready) -> list[End]:
    """The ends of its lines that lie near an edge of the stock, or past one."""
    if not op.work.lines:
        return []
    low, high = op.work.floor, min(op.work.top, float(op.before.bounds()[1][2]))
    stands = filled(section(op.before.solid, (low + high) / 2.0))
    found = []
    for number, line in enumerate(op.work.lines):
        if line[0][:2] == line[-1][:2]:
            continue
        for first in (True, False):
            ahead = _ahead(op, End(number, first, 0.0), stands)
            if ahead is not None:
                found.append(End(number, first, ahead))
    return found


def _outwards(op: Ready, end: End) -> tuple[Spot, Spot]:
    line = op.work.lines[end.line]
    (x, y, _), (bx, by, _) = (line[0], line[1]) if end.first else (line[-1], line[-2])
    long = hypot(x - bx, y - by)
    return (x, y), ((x - bx) / long, (y - by) / long)


def _ahead(op: Ready, end: End, stands: Region) -> float | None:
    """How far ahead the stock ends, None where that is farther than the slot is wide."""
    (x, y), (ux, uy) = _outwards(op, end)
    far = 2.0 * op.work.across + CLEAR_MM
    ray = LineString([(x - ux * far, y - uy * far), (x + ux * far, y + uy * far)])
    runs = []
    for each in getattr(met := ray.intersection(stands), "geoms", [met]):
        if not each.is_empty and each.length > NEAR_MM:
            along = [(px - x) * ux + (py - y) * uy for px, py in each.coords]
            runs.append((min(along), max(along)))
    before = [run for run in runs if run[0] < NEAR_MM]
    if not before:
        return None
    out = max(run[1] for run in before)
    return None if out > far - NEAR_MM else float(out)
