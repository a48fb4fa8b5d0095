"""Where a vise touches the part as it is now: jaws, stop, and what it rests on."""

from __future__ import annotations

from collections.abc import Iterator
from math import atan2, cos, sin

import numpy as np
from shapely import box, unary_union

from machining.geometry.frames import Vector
from machining.geometry.regions import Region
from machining.geometry.solids import Solid, section, section_across
from machining.holding.contacts import Contact
from machining.holding.patch import Patch, bearing
from machining.plan.in_vise import Holding
from machining.world.workholding import Vise

from ..context import StationFacts
from ..stand import Body, Stand, Wedge
from . import vise_profile

NEAR_MM = 0.05  # what lies so far from a face is touched by it


def contacts(station: StationFacts, holding: Holding, vise: Vise, solid: Solid) -> list[Contact]:
    """Points on a part as it lies in the vise, before that leans; the moving jaw's are its
    group's.
    """
    stand = station.stand
    bodies = stand.upright or stand.bodies
    across = "xy".index(holding.fixed[1])
    found = list[Contact]()
    out = vise_profile.cut_for(station, holding, vise, station.arrives.memo)
    if out is not None:
        found += _in_profile(station, holding, vise, solid, out)
        return found
    for jaw in (each for each in bodies if each.role == "jaw"):
        group = jaw.name if jaw.moves else None
        found += _side(jaw, across, holding.fixed[0] == "+", solid, vise.friction, group)
    for stop in (each for each in bodies if each.role == "stop"):
        found += _at_end(stop, 1 - across, holding.stop == "high", solid, vise.friction)
    if stand.wedge is not None:
        found += _on_wedge(stand.wedge, solid, vise.friction)
    else:
        seat = _seat(bodies, holding, vise)
        found += _below(seat, station, stand, solid, vise.friction)
    return found


def _in_profile(
    station: StationFacts, holding: Holding, vise: Vise, solid: Solid, out: Region
) -> Iterator[Contact]:
    """In jaws that are cut to its outline: round it, and on their floor."""
    bottom = float(station.lie.stock_low[2])
    across, sign = "xy".index(holding.fixed[1]), 1.0 if holding.fixed[0] == "+" else -1.0
    jaws = station.stand.of("jaw")
    for jaw in jaws:
        closes = np.zeros(2)
        closes[across] = sign if jaw.moves else -sign
        yield from vise_profile.contacts(jaw, closes, out, solid, bottom, vise.friction)
    seat = ("floor of the jaws", vise_profile.floor(jaws, out))
    yield from _below(seat, station, station.stand, solid, vise.friction)


def _side(
    jaw: Body, across: int, fixed_high: bool, solid: Solid, friction: float, group: str | None
) -> list[Contact]:
    high = fixed_high != jaw.moves  # the fixed jaw stands at this end, the moving one opposite
    return _on_face(jaw, across, high, solid, friction, group)


def _at_end(stop: Body, along: int, high: bool, solid: Solid, friction: float) -> list[Contact]:
    return _on_face(stop, along, high, solid, friction, None)


def _on_face(
    body: Body, along: int, high: bool, solid: Solid, friction: float, group: str | None
) -> list[Contact]:
    """What an upright face of a body touches; ``high`` where it stands at the part's high end."""
    low_corner, high_corner = np.array(body.region.bounds).reshape(2, 2)
    face = float((low_corner if high else high_corner)[along])
    inwards = -1.0 if high else 1.0
    other = 1 - along
    reach = box(float(low_corner[other]), body.bottom, float(high_corner[other]), body.top)
    touched = section_across(solid, along, face + inwards * NEAR_MM).intersection(reach)
    unit = np.eye(3)
    patch = Patch(touched, face * unit[along], unit[other], unit[2], inwards * unit[along])
    return patch.contacts(friction, body.name or body.role, group)


def _seat(bodies: tuple[Body, ...], holding: Holding, vise: Vise) -> tuple[str, Region]:
    """What the part can rest on: parallels, the step of soft jaws, else the bed between the
    jaws.
    """
    parallels = [each.region for each in bodies if each.role == "parallel"]
    if parallels:
        return "parallels", unary_union(parallels)
    across = "xy".index(holding.fixed[1])
    jaws = sorted(
        (each.region.bounds for each in bodies if each.role == "jaw"), key=lambda b: b[across]
    )
    near, far = jaws[0][across + 2], jaws[-1][across]
    steps = [(near, far)]
    if vise.jaws == "soft" and vise.step_mm:
        steps = [(near, near + vise.step_mm), (far - vise.step_mm, far)]
    runs = {(each[1 - across], each[3 - across]) for each in jaws}
    strips = [
        box(a, start, b, end) if across == 0 else box(start, a, end, b)
        for a, b in steps
        for start, end in sorted(runs)
    ]
    return ("step of the jaws" if len(steps) > 1 else "bed"), unary_union(strips)


def _below(
    seat: tuple[str, Region], station: StationFacts, stand: Stand, solid: Solid, friction: float
) -> Iterator[Contact]:
    body, region = seat
    lie = stand.lie or station.lie
    bottom = float(lie.stock_low[2])
    touched = section(solid, bottom + NEAR_MM).intersection(region)
    unit = np.eye(3)
    patch = Patch(touched, bottom * unit[2], unit[0], unit[1], unit[2])
    yield from patch.contacts(friction, body)


def _on_wedge(wedge: Wedge, solid: Solid, friction: float) -> Iterator[Contact]:
    """The face of a wedge, as far as the part lies over it."""
    (_, _), (_, _), (last, right), (start, left) = wedge.corners
    slope = atan2(right - left, last - start)
    along, up = np.array([cos(slope), sin(slope)]), np.array([-sin(slope), cos(slope)])
    k = 0 if wedge.axis == "y" else 1

    def placed(pair: Vector, across: float = 0.0) -> Vector:
        at = np.zeros(3)
        at[k], at[1 - k], at[2] = pair[0], across, pair[1]
        return at

    long = float(np.hypot(last - start, right - left))
    corners = bearing(box(0.0, wedge.low, long, wedge.high))
    normal = placed(up)
    for u, v in corners:
        point = placed(np.array([start, left]) + u * along, v)
        yield Contact(
            tuple(map(float, point)),  # type: ignore[arg-type]
            tuple(map(float, normal)),  # type: ignore[arg-type]
            friction,
            "angle",
        )
