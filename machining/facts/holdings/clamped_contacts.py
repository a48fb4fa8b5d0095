"""Where a part that is clamped down is touched as it is now: by what it lies on, its dowels and
clamps; and where the plate it lies on is touched by the vise that holds it.
"""

from __future__ import annotations

from collections.abc import Iterator
from math import cos, radians, sin

import numpy as np
from shapely import Point, box, unary_union
from shapely.ops import nearest_points

from machining.geometry.frames import Vector
from machining.geometry.regions import Region
from machining.geometry.solids import Solid, above, below, outline, section, section_across
from machining.holding.contacts import Contact
from machining.holding.patch import PLACES, Patch
from machining.world.clamping import ScrewDown, SideClamp, Strap

from ..stand import Body, Role, Stand
from .clamped_bodies import Lying, nose_levels, pad_of, spot_of
from .vise_contacts import NEAR_MM

UP = np.eye(3)
AT_ENDS = (1.0 / 6.0, 5.0 / 6.0)  # a line is touched a sixth in from both ends
AT_HEAD = 2.0 / 3.0  # of a screw head's radius


def contacts(lying: Lying, stand: Stand, solid: Solid) -> list[Contact]:
    """On a part of which ``solid`` is left; every clamp that is on is a group, by its id."""
    found = list(_rests(lying, stand, solid))
    friction = lying.gear.base.friction
    for dowel in stand.of("dowel"):
        found += _pin(dowel, lying.bottom, solid, friction)
    for k, clamp in enumerate(lying.held.clamps, 1):
        if clamp.id not in stand.on:
            continue
        item, name = lying.gear.clamps[clamp.clamp], f"clamp {k}"
        if isinstance(item, Strap):
            pad, top = pad_of(lying, clamp, item, name)
            found += _from_above(pad, top, solid, (item.friction, name, clamp.id))
        elif isinstance(item, SideClamp):
            found += _from_beside(lying, k, item, solid)
        else:
            found += _under_head(lying, k, item, solid)
    return found


def _rests(lying: Lying, stand: Stand, solid: Solid) -> Iterator[Contact]:
    """On parallels, on the plate as far as that goes, or on the machine's own."""
    raised, base = lying.held.raised_mm > 0.0, lying.gear.base
    role: Role = "parallel" if raised else "pallet"
    on = unary_union([each.region for each in stand.of(role) if each.top >= lying.bottom - NEAR_MM])
    touched = section(solid, lying.bottom + NEAR_MM).intersection(on)
    patch = Patch(touched, lying.bottom * UP[2], UP[0], UP[1], UP[2])
    name = "parallels" if raised else base.name if base.loose else "table"
    yield from patch.contacts(base.friction, name)


def _pin(pin: Body, bottom: float, solid: Solid, friction: float) -> Iterator[Contact]:
    """Along a line up its side; nothing where the part does not reach it any more."""
    low, high = bottom, pin.top
    left = outline(above(below(solid, high), low))
    if left.is_empty:
        return
    middle = pin.region.centroid
    near, _ = nearest_points(left, middle)
    reach = np.array([middle.x - near.x, middle.y - near.y])
    far = float(np.hypot(*reach))
    radius = (pin.region.bounds[2] - pin.region.bounds[0]) / 2.0
    if far > radius + NEAR_MM or far < NEAR_MM:
        return
    normal = (*(-reach / far).round(9).tolist(), 0.0)
    for share in AT_ENDS:
        z = low + share * (high - low)
        at = (round(near.x, PLACES), round(near.y, PLACES), round(z, PLACES))
        yield Contact(at, normal, friction, pin.name)


def _from_above(pad: Region, top: float, solid: Solid, of: tuple[float, str, str]) -> list[Contact]:
    touched = section(solid, top - NEAR_MM).intersection(pad)
    return Patch(touched, top * UP[2], UP[0], UP[1], -UP[2]).contacts(*of)


def _from_beside(lying: Lying, number: int, item: SideClamp, solid: Solid) -> list[Contact]:
    clamp = lying.held.clamps[number - 1]
    k, sign = lying.across(clamp.side)
    low, high = nose_levels(lying, item)
    face = lying.face(clamp.side, clamp.at_mm, item.width_mm, (low, high))
    middle = lying.middle[1 - k] + clamp.at_mm
    nose = box(middle - item.width_mm / 2.0, low, middle + item.width_mm / 2.0, high)
    touched = section_across(solid, k, face - sign * NEAR_MM).intersection(nose)
    down = radians(item.down_deg)
    normal: Vector = -sign * cos(down) * UP[k] - sin(down) * UP[2]
    patch = Patch(touched, face * UP[k], UP[1 - k], UP[2], normal)
    return patch.contacts(item.friction, f"clamp {number}", clamp.id)


def _under_head(lying: Lying, number: int, item: ScrewDown, solid: Solid) -> Iterator[Contact]:
    """Four points under the head of a screw, where the part is under it."""
    clamp = lying.held.clamps[number - 1]
    x, y = spot_of(lying, clamp, item.head_mm)
    head = Point(x, y).buffer(item.head_mm / 2.0)
    top = lying.state.top().highest_within(head)
    if top is None:
        return
    under = section(solid, top - NEAR_MM)
    radius = AT_HEAD * item.head_mm / 2.0
    for across, along in ((1, 0), (0, 1), (-1, 0), (0, -1)):
        spot = x + radius * across, y + radius * along
        if under.buffer(NEAR_MM).intersects(Point(*spot)):
            at = (round(spot[0], PLACES), round(spot[1], PLACES), round(top, PLACES))
            yield Contact(at, (0.0, 0.0, -1.0), item.friction, f"clamp {number}", clamp.id)
