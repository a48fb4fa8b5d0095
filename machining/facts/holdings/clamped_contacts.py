"""Where a part that is clamped down is touched as it is now: by what it lies on, its dowels and
clamps; and where the plate it lies on is touched by the vise that holds it.
"""

from __future__ import annotations

from collections.abc import Iterator
from math import cos, radians, sin

import numpy as np
from shapely import LineString, unary_union
from shapely.ops import nearest_points

from machining.geometry.frames import Vector
from machining.geometry.solids import Solid, above, below, outline, section, section_across
from machining.holding.contacts import Contact
from machining.holding.patch import PLACES, Patch
from machining.world.clamping import ScrewDown, SideClamp, Strap

from ..stand import Body, Pressed, Role, Stand
from . import fixture
from .lying import Lying
from .vise_contacts import NEAR_MM

UP = np.eye(3)
AT_ENDS = (1.0 / 6.0, 5.0 / 6.0)  # a line is touched a sixth in from both ends
Of = tuple[float, str, str]  # friction, body, group


def contacts(lying: Lying, stand: Stand, solid: Solid) -> list[Contact]:
    """On a part of which ``solid`` is left; every clamp that is on is a group, by its id."""
    found = list(_rests(lying, stand, solid))
    friction = lying.gear.base.friction
    for dowel in stand.of("dowel"):
        found += _pin(dowel, max(lying.bottom, dowel.bottom), lying.held.shim_mm, solid, friction)
    for k, clamp in enumerate(lying.held.clamps, 1):
        place = stand.clamps.get(clamp.id)
        if place is None or clamp.id not in stand.on:
            continue
        item = lying.gear.clamps[clamp.clamp]
        of = (item.friction, f"clamp {k}", clamp.id)
        if isinstance(item, SideClamp):
            found += _from_beside(place, *lying.across(clamp.side), item.down_deg, solid, of)
        elif isinstance(item, Strap):
            touched = section(solid, place.at - NEAR_MM).intersection(place.region)
            found += Patch(touched, place.at * UP[2], UP[0], UP[1], -UP[2]).contacts(*of)
        else:
            found += _under_head(place, item, solid, of)
    return found


def _rests(lying: Lying, stand: Stand, solid: Solid) -> Iterator[Contact]:
    """On parallels, on the plate as far as that goes, or on the machine's own."""
    if (own := fixture.fixture_of(lying)) is not None:
        yield from fixture.rests(lying, own, solid)
        yield from fixture.against(lying, own, solid)
        return
    raised, base = lying.held.raised_mm > 0.0, lying.gear.base
    role: Role = "parallel" if raised else "pallet"
    on = unary_union([each.region for each in stand.of(role) if each.top >= lying.bottom - NEAR_MM])
    touched = section(solid, lying.bottom + NEAR_MM).intersection(on)
    patch = Patch(touched, lying.bottom * UP[2], UP[0], UP[1], UP[2])
    name = "parallels" if raised else base.name if base.loose else "table"
    yield from patch.contacts(base.friction, name)


def _pin(pin: Body, bottom: float, shim: float, solid: Solid, friction: float) -> Iterator[Contact]:
    """Along a line up its side, or a shim on it; nothing where the part reaches it no more."""
    low, high = bottom, pin.top
    left = outline(above(below(solid, high), low))
    if left.is_empty:
        return
    middle = pin.region.centroid
    near, _ = nearest_points(left, middle)
    reach = np.array([middle.x - near.x, middle.y - near.y])
    far = float(np.hypot(*reach))
    radius = (pin.region.bounds[2] - pin.region.bounds[0]) / 2.0
    if far > radius + shim + NEAR_MM or far < NEAR_MM:
        return
    normal = (*(-reach / far).round(9).tolist(), 0.0)
    for share in AT_ENDS:
        z = low + share * (high - low)
        at = (round(near.x, PLACES), round(near.y, PLACES), round(z, PLACES))
        yield Contact(at, normal, friction, pin.name)


def _from_beside(
    place: Pressed, k: int, sign: float, down_deg: float, solid: Solid, of: Of
) -> list[Contact]:
    touched = section_across(solid, k, place.at - sign * NEAR_MM).intersection(place.region)
    down = radians(down_deg)
    normal: Vector = -sign * cos(down) * UP[k] - sin(down) * UP[2]
    return Patch(touched, place.at * UP[k], UP[1 - k], UP[2], normal).contacts(*of)


def _under_head(place: Pressed, item: ScrewDown, solid: Solid, of: Of) -> Iterator[Contact]:
    """Four points under the head of a screw, each in the middle of what it touches on that side."""
    touched = section(solid, place.at - NEAR_MM).intersection(place.region)
    middle, radius = place.region.centroid, item.head_mm / 2.0
    for across, along in ((1, 0), (0, 1), (-1, 0), (0, -1)):
        rim = middle.x + radius * across, middle.y + radius * along
        under = touched.intersection(LineString([(middle.x, middle.y), rim]))
        if under.length > NEAR_MM:
            x, y = under.centroid.x, under.centroid.y
            at = (round(x, PLACES), round(y, PLACES), round(place.at, PLACES))
            yield Contact(at, (0.0, 0.0, -1.0), *of)
