"""The ways to a chamfer at an angle no stock tool has: a special tool, a ball or bull nose in
steps, a standard tool tilted.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from math import ceil, inf, radians, sin, tan
from typing import Any

from machining.quantities.checks import positive, within
from machining.quantities.said import Said, Shown, length
from machining.world.capability import Rig, tilting

from . import engagement, finish, pointed, speeds

SAME_DEG = 0.1
TIP_BELOW_MM = 0.5  # of a pointed tool under the slope it cuts
STOCK_SIZES_MM = (6.0, 8.0, 10.0, 12.0, 16.0, 20.0, 25.0, 32.0)
SINE_MM = 100.0
SPECIAL_FLUTES = 4


@dataclass(frozen=True, slots=True)
class Slope:
    """``size`` is its width on the face, ``angle`` from the face, ``length`` of edge on one part
    (mm); ``cusp`` is allowed.
    """

    size: float
    angle: float
    length: float
    cusp: float = 0.01
    quantity: int = 1

    @property
    def height(self) -> float:
        return self.size * tan(radians(self.angle))


@dataclass(frozen=True, slots=True)
class Edge:
    """A tool as far as a slope needs it; ``chip`` per tooth and ``speed`` (m/min) are the data's
    for it.
    """

    name: str
    kind: str
    diameter: float
    flutes: int
    chip: float
    speed: float
    corner_radius: float = 0.0
    included_angle: float = 0.0
    tip: float = 0.0
    max_rpm: float = inf


@dataclass(frozen=True, slots=True)
class Special:
    """What a tool of the slope's own angle costs and how many days it takes; ``chip`` at 10 mm and
    ``speed`` are the data's.
    """

    cost: float
    days: int
    chip: float
    speed: float


@dataclass(frozen=True, slots=True)
class Way:
    """``seconds`` in cut on one part. ``tilt`` is from the spindle's axis, ``shift`` along it to
    the contact. ``per_part`` holds machine time and tool.
    """

    name: str
    tool: str = ""
    seconds: float = inf
    passes: int = 0
    cusp: float = 0.0
    tilt: float = 0.0
    shift: float = 0.0
    rpm: float = 0.0
    feed: float = 0.0
    diameter: float = 0.0
    cost: float = 0.0
    days: int = 0
    per_part: float = inf
    because: Said = field(default_factory=Said)
    suits: Said = field(default_factory=Said)

    @property
    def works(self) -> bool:
        return not self.because


@dataclass(frozen=True, slots=True)
class Ranking:
    """The ways, the cheapest for a part first. From ``pays_from`` parts on the special tool is
    cheaper than what else works; None where never.
    """

    ways: tuple[Way, ...]
    pays_from: int | None = None


def rank(slope: Slope, edges: Sequence[Edge], special: Special, rig: Rig) -> Ranking:
    """Every way on one machine. Raises OutOfRange for a slope that can't be.

    Source: geometry of :mod:`machining.cutting.pointed` and :mod:`machining.cutting.finish`; time
    is path over feed.
    """
    positive("size", slope.size), positive("length", slope.length), positive("cusp", slope.cusp)
    within("angle", slope.angle, 0.0, 90.0, low_open=True, high_open=True)
    ways = [
        _special(slope, special, rig),
        _stepped(slope, edges, rig),
        _tilted(slope, edges, rig),
    ]
    own = _own_angle(slope, edges, rig)
    found = tuple(
        sorted(
            [*([own] if own else []), *ways],
            key=lambda way: (not way.works, way.per_part, way.seconds),
        )
    )
    return Ranking(found, _pays_from(found, slope, rig))


def _turned(edge: Edge, at: float, rig: Rig) -> tuple[float, float]:
    """Spindle speed for the diameter where it cuts, and feed, inside the machine's limits."""
    rpm = max(
        min(speeds.spindle_speed(edge.speed, at), rig.spindle.max_rpm, edge.max_rpm),
        rig.spindle.min_rpm,
    )
    return rpm, min(rpm * edge.chip * edge.flutes, rig.machine.max_feed_mm_min)


def _made(
    name: str, edge: Edge, at: float, passes: int, slope: Slope, rig: Rig, **more: Any
) -> Way:
    rpm, feed = _turned(edge, at, rig)
    way = Way(
        name,
        edge.name,
        60.0 * passes * slope.length / feed,
        passes,
        rpm=rpm,
        feed=feed,
        diameter=at,
        **more,
    )
    return replace(
        way, per_part=way.seconds / 3600.0 * rig.machine.hourly_cost + way.cost / slope.quantity
    )


def _pointed_radius(half_angle: float, tip: float, slope: Slope) -> float:
    """Radius (mm) of a pointed tool's edge at the top of the slope."""
    return engagement.cone_diameter(slope.height + TIP_BELOW_MM, tip, 2.0 * half_angle) / 2.0


def _own_angle(slope: Slope, edges: Sequence[Edge], rig: Rig) -> Way | None:
    """A tool of the library that has the angle already."""
    for edge in edges:
        if (
            edge.kind == "chamfer_mill"
            and abs(90.0 - edge.included_angle / 2.0 - slope.angle) <= SAME_DEG
        ):
            radius = _pointed_radius(edge.included_angle / 2.0, edge.tip, slope)
            if 2.0 * radius <= edge.diameter and edge.diameter <= rig.carrier.max_tool_diameter_mm:
                return _made("tool of that angle", edge, 2.0 * radius, 1, slope, rig)
    return None


def _special(slope: Slope, special: Special, rig: Rig) -> Way:
    """The smallest stock size whose edge reaches the top of the slope."""
    name, most = "special tool", 2.0 * _pointed_radius(90.0 - slope.angle, 0.0, slope)
    sizes = [size for size in STOCK_SIZES_MM if most <= size <= rig.carrier.max_tool_diameter_mm]
    if not sizes:
        return Way(
            name,
            because=Said("its edge would have to reach Ø {size}", {"size": Shown(most, "length")}),
        )
    edge = Edge(
        "",
        "chamfer_mill",
        sizes[0],
        SPECIAL_FLUTES,
        special.chip * (sizes[0] / 10.0) ** 0.75,
        special.speed,
    )
    suits = Said(
        "Ø {size}, included angle {angle}",
        {"size": Shown(sizes[0], "length"), "angle": Shown(180.0 - 2.0 * slope.angle, "angle")},
    )
    return _made(name, edge, most, 1, slope, rig, cost=special.cost, days=special.days, suits=suits)


def _stepped(slope: Slope, edges: Sequence[Edge], rig: Rig) -> Way:
    name = "ball or bull nose in steps"
    found = []
    for edge in edges:
        if (
            edge.kind != "end_mill"
            or edge.corner_radius <= 0
            or edge.diameter > rig.carrier.max_tool_diameter_mm
        ):
            continue
        cusp = min(slope.cusp, edge.corner_radius)
        along = pointed.slope_length(slope.size, slope.angle)
        passes = int(finish.passes_of_step(along, finish.scallop_step(edge.corner_radius, cusp)))
        at = pointed.slope_contact_diameter(edge.diameter, edge.corner_radius, slope.angle)
        left = finish.scallop_height(
            edge.corner_radius, min(along / passes, 2.0 * edge.corner_radius)
        )
        found.append(_made(name, edge, max(at, 0.05), passes, slope, rig, cusp=left))
    if not found:
        return Way(name, because=Said("there is no ball or bull nose that fits"))
    return min(found, key=lambda way: way.seconds)


def _tilted(slope: Slope, edges: Sequence[Edge], rig: Rig) -> Way:
    """A chamfer mill on its flank or an end mill on its bottom, as little tilted as can be."""
    name, along = "standard tool, tilted", pointed.slope_length(slope.size, slope.angle)
    found = []
    for edge in edges:
        if edge.diameter > rig.carrier.max_tool_diameter_mm:
            continue
        if edge.kind == "chamfer_mill" and 0 < edge.included_angle < 180:
            alpha = edge.included_angle / 2.0
            middle = (edge.tip + edge.diameter) / 4.0
            if (edge.diameter - edge.tip) / 2.0 / sin(radians(alpha)) < along:
                continue
            tilt, shift = pointed.tilted_edge(alpha, slope.angle, middle, edge.tip)
            found.append(_made(name, edge, 2.0 * middle, 1, slope, rig, tilt=tilt, shift=shift))
        elif (
            edge.kind == "end_mill"
            and edge.corner_radius < 0.1 * edge.diameter
            and edge.diameter - 2.0 * edge.corner_radius >= along
        ):
            found.append(_made(name, edge, edge.diameter, 1, slope, rig, tilt=slope.angle))
    if not found:
        return Way(name, because=Said("no edge of the library is as long as the slope"))
    best = min(found, key=lambda way: (way.tilt, way.seconds))
    if not rig.turns_to_sides:
        stack = SINE_MM * sin(radians(best.tilt))
        why = Said(
            f"{rig.machine.name} does not tilt; {best.tool} wants {{tilt}}: a sine bar of {{bar}}"
            " on {stack}, and a setup more",
            {
                "tilt": Shown(best.tilt, "angle"),
                "bar": length(SINE_MM),
                "stack": Shown(stack, "size"),
            },
        )
        return Way(name, best.tool, tilt=best.tilt, shift=best.shift, because=why)
    if tilting(rig) is None:
        return replace(best, suits=Said("only edges along its rotary axis"))
    return best


def _pays_from(ways: Sequence[Way], slope: Slope, rig: Rig) -> int | None:
    """Parts from which a special tool's price is less than the machine time it saves."""
    special = next((way for way in ways if way.name == "special tool" and way.works), None)
    others = [way for way in ways if way.works and way.name != "special tool"]
    if special is None or not others or rig.machine.hourly_cost <= 0:
        return None
    saved = (
        (min(way.seconds for way in others) - special.seconds) / 3600.0 * rig.machine.hourly_cost
    )
    return ceil(special.cost / saved - 1e-9) if saved > 0 else None
