"""How a part mostly lies in a fixture of the shop: on its seats, against its locators, under the
clamps that its threads are for.
"""

from __future__ import annotations

from collections.abc import Iterator

from shapely import Point

from machining.geometry.frames import Sideways
from machining.placing.zero import Lie
from machining.plan.clamped import Clamp, Clamped
from machining.quantities.errors import OutOfRange
from machining.world.clamping import ScrewDown, Strap
from machining.world.fixture import Fixture, Thread
from machining.world.gear import Gear
from machining.world.library import Library

from ..state import State
from . import fixture as own
from .clamped_bodies import apart, standing
from .lying import Lying

SIDES: tuple[Sideways, ...] = ("-x", "+x", "-y", "+y")
LEAST_PAD, MOST_PADS = 0.75, 3.0  # of its pad, that a strap lies over the part
USUAL_SHARE, MOST = 0.8, 6  # of the most a clamp takes; clamps


def usual_in(
    fixture: Fixture, before: Clamped | None, lie: Lie, state: State, library: Library
) -> Clamped:
    """Where its locators stop the part; as it is where it goes in nowhere."""
    held = Clamped(base=fixture.key, vise=before.vise if before is not None else None)
    lying = Lying(held, Gear(fixture, dict(library.clamps)), lie, state)
    try:
        held = own.put_in(lying, fixture)
    except OutOfRange:
        return held
    clamps = list[Clamp]()
    for thread in fixture.threads:
        if len(clamps) == MOST:
            break
        known = Lying(held, lying.gear, lie, state)
        for each in _over(thread, known, fixture, library):
            fresh = each.model_copy(update={"id": f"c{len(clamps) + 1}"})
            if _goes(known, (*clamps, fresh)):
                clamps.append(fresh)
                break
    return held.model_copy(update={"clamps": tuple(clamps)})


def _goes(lying: Lying, clamps: tuple[Clamp, ...]) -> bool:
    held = lying.held.model_copy(update={"clamps": clamps})
    here = Lying(held, lying.gear, lying.lie, lying.state)
    try:
        apart(here, standing(here), {each.id for each in clamps})
    except OutOfRange:
        return False
    return True


def _over(thread: Thread, lying: Lying, fixture: Fixture, library: Library) -> Iterator[Clamp]:
    """Clamps of its size that would press on the part from there, the nearest side first."""
    x, y, _ = own.origin(lying, fixture)
    spot = Point(x + thread.at_mm[0], y + thread.at_mm[1])
    inside = lying.shadow.envelope.contains(spot)
    found = []
    for item in library.clamps.values():
        if getattr(item, "thread_mm", None) != thread.size_mm:
            continue
        for side in SIDES:
            if isinstance(item, Strap) and not inside:
                found += _strap(item, side, spot, lying)
            elif isinstance(item, ScrewDown) and inside:
                found += _screw(item, side, spot, lying)
    yield from (clamp for _, _, clamp in sorted(found, key=lambda each: each[:2]))


def _strap(
    item: Strap, side: Sideways, spot: Point, lying: Lying
) -> list[tuple[float, str, Clamp]]:
    """Its stud there, its nose over the part."""
    found = _from_side(side, spot, item.width_mm, lying)
    if found is None:
        return []
    along, inwards = found
    over = item.pad_mm / 2.0 + item.nose_to_stud_mm + inwards
    if inwards >= 0.0 or not LEAST_PAD <= over / item.pad_mm <= MOST_PADS:
        return []
    return [(-inwards, item.key, _clamp(item.key, side, along, over, item.max_torque_nm))]


def _screw(
    item: ScrewDown, side: Sideways, spot: Point, lying: Lying
) -> list[tuple[float, str, Clamp]]:
    found = _from_side(side, spot, item.head_mm, lying)
    if found is None or found[1] < 0.0:
        return []
    along, inwards = found
    return [(inwards, item.key, _clamp(item.key, side, along, inwards, item.max_torque_nm))]


def _from_side(
    side: Sideways, spot: Point, wide: float, lying: Lying
) -> tuple[float, float] | None:
    """How far along a side a place is, and how far in from it (mm); None where there is no part."""
    k, sign = lying.across(side)
    place = (spot.x, spot.y)
    along = round(place[1 - k] - lying.middle[1 - k], 3)
    levels = lying.bottom, float(lying.lie.stock_high[2])
    try:
        edge = lying.face(side, along, wide, levels)
    except OutOfRange:
        return None
    return along, sign * (edge - place[k])


def _clamp(key: str, side: Sideways, along: float, over: float, most: float) -> Clamp:
    return Clamp(
        id="c",
        clamp=key,
        side=side,
        at_mm=along,
        over_mm=round(over, 3),
        torque_nm=round(USUAL_SHARE * most, 1),
    )
