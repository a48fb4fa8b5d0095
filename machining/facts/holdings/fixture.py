"""A part in the shop's own fixture: where that stands by it, what it lies on and against there, and
where it is pushed to.
"""

from __future__ import annotations

from collections.abc import Iterator
from math import hypot

import numpy as np
from shapely import affinity, box, unary_union

from machining.geometry.frames import Pose, Sideways, Vector
from machining.geometry.regions import Region
from machining.geometry.solids import (
    Solid,
    above,
    below,
    outline,
    posed,
    prism,
    section,
    section_across,
    to_mesh,
    top_surface,
    volume,
)
from machining.holding.contacts import Contact
from machining.holding.patch import Patch
from machining.plan.clamped import Clamped
from machining.quantities.errors import OutOfRange
from machining.world.fixture import Fixture, Locator, Thread

from ..stand import Body
from .lying import FAR_MM, Lying
from .vise_contacts import NEAR_MM

UP = np.eye(3)
UPSIDE_DOWN = Pose(np.diag([1.0, -1.0, -1.0]), np.zeros(3))
ROOM_MM = 0.05  # of its body round a part that only touches it
SOME_MM3 = 0.5
ON_THREAD_MM = 1.0  # so far from its middle a stud still goes in: straps have a slot


def fixture_of(lying: Lying) -> Fixture | None:
    base = lying.gear.base
    return base if isinstance(base, Fixture) else None


def origin(lying: Lying, fixture: Fixture) -> Vector:
    """Where its middle and its bottom lie in the frame of the setup (3,)."""
    x, y = lying.middle
    return np.array([x - lying.held.x_mm, y - lying.held.y_mm, lying.surface - fixture.thick_mm])


def _moved(region: Region, at: Vector) -> Region:
    return affinity.translate(region, float(at[0]), float(at[1]))


def bodies(lying: Lying, fixture: Fixture) -> tuple[Body, ...]:
    """Its pieces: those no higher than its seats a part lies over, the others stand beside it. The
    largest below carries its name.
    """
    at, found = origin(lying, fixture), list[Body]()
    named = max(
        fixture.blocks, key=lambda each: (each.high_mm <= fixture.thick_mm, each.region.area)
    )
    for each in fixture.blocks:
        role = "pallet" if each.high_mm <= fixture.thick_mm + NEAR_MM else "fixture"
        name = fixture.name if each is named else ""
        low, high = float(at[2] + each.low_mm), float(at[2] + each.high_mm)
        region = _moved(each.region, at)
        found.append(Body(role, name, region, low, high, of="" if name else fixture.name))  # type: ignore[arg-type]
    return tuple(found)


def pins(lying: Lying, fixture: Fixture) -> Iterator[Body]:
    """Its round locators, as what a part is pushed against."""
    at = origin(lying, fixture)
    for number, each in enumerate(fixture.locators, 1):
        if each.diameter_mm:
            low, high = float(at[2] + each.low_mm), float(at[2] + each.high_mm)
            yield Body("dowel", f"locator {number}", _moved(each.region, at), low, high)


def free_of(lying: Lying, fixture: Fixture) -> None:
    """Raises OutOfRange where part and fixture would be in one place."""
    if lying.held.raised_mm:
        raise OutOfRange("raised_mm", lying.held.raised_mm, f"0: a part lies in {fixture.name}")
    for each in bodies(lying, fixture):
        inside = each.region.buffer(-ROOM_MM)
        if inside.is_empty or each.top - each.bottom <= 2.0 * ROOM_MM:
            continue
        met = prism(inside, each.bottom + ROOM_MM, each.top - ROOM_MM) ^ lying.solid
        if volume(met) > SOME_MM3:
            x, y = outline(met).representative_point().coords[0]
            at = origin(lying, fixture)
            raise OutOfRange(
                f"place in {fixture.name}",
                f"in its body at X {x - at[0]:.1f}, Y {y - at[1]:.1f} of it",
                "where the part lies free of it",
            )


def screwed_in(lying: Lying, spot: tuple[float, float], thread_mm: float, name: str) -> None:
    """Raises OutOfRange where a fixture with threads has none of this size under a stud."""
    fixture = fixture_of(lying)
    if fixture is None or not fixture.threads:
        return
    at = origin(lying, fixture)
    near = min(fixture.threads, key=lambda each: _off(each, spot, at))
    if _off(near, spot, at) > ON_THREAD_MM or abs(near.size_mm - thread_mm) > ROOM_MM:
        raise OutOfRange(
            f"place of the stud of {name}",
            f"X {spot[0] - at[0]:.1f}, Y {spot[1] - at[1]:.1f} of {fixture.name}",
            f"at one of its threads of {thread_mm:g}; the nearest, {near.size_mm:g}, is at"
            f" X {near.at_mm[0]:g}, Y {near.at_mm[1]:g}",
        )


def _off(thread: Thread, spot: tuple[float, float], at: Vector) -> float:
    return hypot(spot[0] - at[0] - thread.at_mm[0], spot[1] - at[1] - thread.at_mm[1])


# -- what it touches


def rests(lying: Lying, fixture: Fixture, solid: Solid) -> Iterator[Contact]:
    """On its seats, where the part has a face at their height."""
    at = origin(lying, fixture)
    for number, seat in enumerate(fixture.seats, 1):
        z = float(at[2] + seat.high_mm)
        touched = section(solid, z + NEAR_MM).intersection(_moved(seat.region, at))
        touched = touched.difference(section(solid, z - NEAR_MM))
        patch = Patch(touched, z * UP[2], UP[0], UP[1], UP[2])
        yield from patch.contacts(fixture.friction, f"seat {number}")


def against(lying: Lying, fixture: Fixture, solid: Solid) -> Iterator[Contact]:
    """On the faces that are its locators; pins are touched as dowels are."""
    at = origin(lying, fixture)
    for number, each in enumerate(fixture.locators, 1):
        if each.diameter_mm:
            continue
        k, sign = lying.across(each.side)
        face = float(at[k] + each.at_mm[k])
        reach = box(*_along(each, k, at, 0), *_along(each, k, at, 1))
        touched = section_across(solid, k, face - sign * NEAR_MM).intersection(reach)
        touched = touched.difference(section_across(solid, k, face + sign * NEAR_MM))
        patch = Patch(touched, face * UP[k], UP[1 - k], UP[2], -sign * UP[k])
        yield from patch.contacts(fixture.friction, f"locator {number}")


def _along(each: Locator, k: int, at: Vector, end: int) -> tuple[float, float]:
    """A corner of its face as (across, up)."""
    ends = sorted((each.at_mm[1 - k], each.to_mm[1 - k]))
    high = (each.low_mm, each.high_mm)[end]
    return float(at[1 - k] + ends[end]), float(at[2] + high)


# -- where a part goes in it


def put_in(lying: Lying, fixture: Fixture) -> Clamped:
    """The same let down on its seats, over their middle, and pushed against its locators: first
    where most of them are. Raises OutOfRange where it lies on none of its seats.
    """
    held = _over_seats(lying, fixture)
    sides: list[Sideways] = [each.side for each in fixture.locators]
    order = sorted(dict.fromkeys(sides), key=lambda side: (-sides.count(side), sides.index(side)))
    for _ in range(2):
        held = _let_down(_at(lying, held), fixture)
        for side in order:
            held = _pushed(_at(lying, held), fixture, side)
    return _let_down(_at(lying, held), fixture)


def _at(lying: Lying, held: Clamped) -> Lying:
    return Lying(held, lying.gear, lying.lie, lying.state)


def _over_seats(lying: Lying, fixture: Fixture) -> Clamped:
    x, y = unary_union([each.region for each in fixture.seats]).envelope.centroid.coords[0]
    fields = {"x_mm": round(x, 3), "y_mm": round(y, 3), "raised_mm": 0.0, "hangs_mm": 0.0}
    return lying.held.model_copy(update=fields)


def _let_down(lying: Lying, fixture: Fixture) -> Clamped:
    """How far it reaches below its highest seat: until one of them stops it."""
    at, found = origin(lying, fixture), list[float]()
    upside = top_surface(to_mesh(posed(lying.solid, UPSIDE_DOWN)))
    for seat in fixture.seats:
        mirrored = affinity.scale(_moved(seat.region, at), yfact=-1.0, origin=(0, 0))
        met = upside.highest_within(mirrored)
        if met is not None:
            found.append(-met - lying.bottom + fixture.thick_mm - seat.high_mm)
    if not found:
        raise OutOfRange(f"seats of {fixture.name}", "beside the part", "under it")
    return lying.held.model_copy(update={"hangs_mm": round(max(min(found), 0.0), 3)})


def _pushed(lying: Lying, fixture: Fixture, side: Sideways) -> Clamped:
    """Towards a side, until the first locator there stops it; as it lies where none is met."""
    k, sign = lying.across(side)
    at = origin(lying, fixture)
    gaps = [
        gap
        for each in fixture.locators
        if each.side == side and (gap := _gap(lying, each, at, k, sign)) is not None
    ]
    if not gaps:
        return lying.held
    field = ("x_mm", "y_mm")[k]
    now = getattr(lying.held, field)
    return lying.held.model_copy(update={field: round(now + sign * min(gaps), 4)})


def _gap(lying: Lying, each: Locator, at: Vector, k: int, sign: float) -> float | None:
    """How far (mm) the part can go towards a locator; None where it would pass beside it."""
    low, high = float(at[2] + each.low_mm), float(at[2] + each.high_mm)
    there = outline(above(below(lying.solid, high), max(low, lying.bottom)))
    if each.diameter_mm:
        there = there.buffer(each.diameter_mm / 2.0, quad_segs=64)
        ends = [float(at[1 - k] + each.at_mm[1 - k])] * 2
        ends = [ends[0] - NEAR_MM, ends[1] + NEAR_MM]
    else:
        ends = sorted(float(at[1 - k] + spot[1 - k]) for spot in (each.at_mm, each.to_mm))
    strip = (-FAR_MM, ends[0], FAR_MM, ends[1])
    met = there.intersection(box(*(strip if k == 0 else (ends[0], -FAR_MM, ends[1], FAR_MM))))
    if met.is_empty:
        return None
    out = met.bounds[k + 2] if sign > 0 else met.bounds[k]
    return float(sign * (at[k] + each.at_mm[k] - out))
