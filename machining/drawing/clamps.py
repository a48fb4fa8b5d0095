"""Clamps and dowels from above: which are on, which come off, with their numbers and torques."""

from __future__ import annotations

from collections.abc import Sequence

from shapely import unary_union

from machining.facts.clamp_change import Changed
from machining.facts.context import OperationFacts, StationFacts
from machining.facts.holdings.clamped import clamps_of
from machining.facts.stand import Body
from machining.geometry.regions import polygons_of
from machining.quantities.display import System, show

from .svg import Sheet
from .views import JAW, STOCK, Place

WIDE, HIGH, ROOM = 260.0, 130.0, 30.0
RADIUS = 6.5  # of the circle round a number


def change_drawing(op: OperationFacts, change: Changed, system: System) -> str:
    """As it stands after a change, what came off dashed."""
    station = op.station
    sheet = Sheet(WIDE, HIGH, "Clamps after the change: those taken off are dashed", system)
    shown = {*change.on, *change.off, *change.left}
    clamps = [e for e in _upper(station) if _number(e) in shown]
    base = [*station.stand.of("dowel"), *clamps]
    outline = op.after.seen_in(station.lie).outline()
    west, south, east, north = unary_union([outline, *(e.region for e in base)]).bounds
    scale = min((WIDE - 2 * ROOM) / (east - west), (HIGH - 2 * ROOM) / (north - south))
    place = Place(
        WIDE / 2.0 - (west + east) / 2.0 * scale, HIGH / 2.0 + (south + north) / 2.0 * scale, scale
    )
    for polygon in polygons_of(outline):
        ring = [place.at(x, y) for x, y in polygon.exterior.coords]
        sheet.area(STOCK, [ring])
        sheet.line("thick", *ring)
    for body in base:
        gone = body.role == "clamp" and _number(body) in change.off
        ring = [place.at(x, y) for x, y in body.region.exterior.coords]  # type: ignore[attr-defined]
        if not gone:
            sheet.area(JAW, [ring])
        sheet.line("hidden" if gone else "line", *ring)
    numbers(sheet, station, place, [e for e in clamps if _number(e) not in change.off])
    return sheet.done()


def numbers(
    sheet: Sheet, station: StationFacts, place: Place, clamps: Sequence[Body] | None = None
) -> None:
    """Of clamps, in the order in which they are tightened, each with its torque."""
    known = {k: clamp for k, clamp, _, _ in clamps_of(station)}
    for body in _upper(station) if clamps is None else clamps:
        clamp = known[_number(body)]
        west, south, east, north = body.region.bounds
        (left, low), (right, high) = place.at(west, south), place.at(east, north)
        x, y = (left + right) / 2.0, (low + high) / 2.0
        sheet.circle(x, y, RADIUS)
        sheet.text(x, y + 3.4, str(_number(body)), number=True, bold=True, size=9.5)
        torque = show(clamp.torque_nm, "torque", sheet.system)
        outwards = 1.0 if clamp.side[0] == "+" else -1.0
        if clamp.side[1] == "x":
            end, anchor = (right, "start") if outwards > 0 else (left, "end")
            end = max(end, x + RADIUS) if outwards > 0 else min(end, x - RADIUS)
            sheet.text(
                end + 3.0 * outwards, y + 3.0, torque, number=True, size=8, anchor=anchor, halo=True
            )
        else:
            end = min(high, y - RADIUS) - 4.0 if outwards > 0 else max(low, y + RADIUS) + 10.0
            sheet.text(x, end, torque, number=True, size=8, halo=True)


def _upper(station: StationFacts) -> list[Body]:
    return [body for body in station.stand.of("clamp") if body.name]


def _number(body: Body) -> int:
    return int(body.name.rpartition(" ")[2])
