"""What an edge meets that comes out of the part below: parallels, the bed, the step of soft jaws,
the face of a chuck.
"""

from __future__ import annotations

from dataclasses import dataclass

from shapely import LineString, MultiLineString, Point, unary_union

from machining.geometry.regions import Region
from machining.world.workholding import Chuck

from .context import Ready
from .found import shape_for
from .kinds import kind_of
from .stand import Body

FROM_INSIDE = ("boring_bar", "face_groove")  # tools of a lathe that come from the part's end
BESIDE_MM = 0.5  # parallels are laid by hand
FLUSH_MM = 0.01


@dataclass(frozen=True, slots=True)
class Met:
    """A body under the part, how far below its top the tool goes there, mm, and what it covers."""

    body: Body
    deep: float
    region: Region


def met_below(op: Ready) -> Met | None:
    """What it cuts deepest into, None where it stays over everything that stands under the part."""
    turned = kind_of(op.operation).turned
    if not op.path.legs or op.aimed is not None or (turned and op.tool.kind not in FROM_INSIDE):
        return None
    lowest = float(op.path.bounds()[0][2])
    found = []
    for body in op.stand.of("parallel", "angle", "pallet", "bed", "step", "chuck"):
        deep = body.top - lowest
        if deep <= FLUSH_MM:
            continue
        swept = _at_height(op, body.top)
        face = _face(body, op)
        if not swept.is_empty and swept.buffer(BESIDE_MM).intersects(face):
            found.append(Met(body, _deepest(op, body.top, face, deep), swept))
    return max(found, key=lambda each: (each.body.role != "parallel", each.deep), default=None)


def _deepest(op: Ready, top: float, face: Region, lowest: float) -> float:
    """How far below it the tip goes there: of several holes, of those over it."""
    over = [
        top - tip
        for x, y, _, tip in op.work.holes
        if tip < top and Point(x, y).buffer(_radius(op, top - tip) + BESIDE_MM).intersects(face)
    ]
    return max(over, default=lowest)


def _face(body: Body, op: Ready) -> Region:
    """Its top; a bar goes into a chuck's bore."""
    item = op.station.item
    if body.role == "chuck" and isinstance(item, Chuck):
        return body.region.difference(Point(0.0, 0.0).buffer(item.bore_mm / 2.0 + BESIDE_MM))
    return body.region


def _at_height(op: Ready, z: float) -> Region:
    """What the tool covers of a level under its lowest."""
    if op.work.holes:
        return unary_union(
            [Point(x, y).buffer(_radius(op, z - tip)) for x, y, _, tip in op.work.holes if tip < z]
        )
    if kind_of(op.operation).turned:
        return _turned(op, z)
    ways = [
        LineString(leg.points[:, :2]).buffer(max(_radius(op, z - float(leg.points[:, 2].min())), 0))
        for leg in op.path.legs
        if leg.kind != "rapid" and float(leg.points[:, 2].min()) < z
    ]
    return unary_union(ways) if ways else MultiLineString()


def _turned(op: Ready, z: float) -> Region:
    """The ring that a bar inside the part covers, from its tip as far in as it is thick."""
    legs = [leg.points for leg in op.path.legs if leg.kind != "rapid"]
    tips = [float(r) for points in legs for r, _, low in points if low < z]
    if not tips:
        return MultiLineString()
    axis, inner = Point(0.0, 0.0), min(tips) - (op.tool.shank_diameter_mm or 0.0)
    ring = axis.buffer(max(tips))
    return ring.difference(axis.buffer(inner)) if inner > 0.0 else ring


def _radius(op: Ready, over_tip: float) -> float:
    """Of the tool (mm) at a height over its tip: that of a drill's point grows."""
    shape = shape_for(op)
    wide = shape.lower <= over_tip
    return shape.radius * (float(wide.sum()) - 1.0) / (len(shape.lower) - 1.0)
