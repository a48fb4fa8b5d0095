"""What brings the next part to the same place: a fixed jaw, a stop, dowels, what it lies on."""

from __future__ import annotations

from typing import Literal

import numpy as np

from machining.geometry.frames import Direction, axis, named
from machining.placing.stack_up import Link
from machining.plan.clamped import Clamped
from machining.plan.in_vise import Holding
from machining.plan.pulled import Pulled
from machining.quantities.said import Said, Shown
from machining.world.fixture import Fixture, Locator
from machining.world.gear import Gear
from machining.world.stock.base import SIDE_WORDS

from . import hold
from .context import PlanFacts, StationFacts
from .holdings.vise import touched
from .leaning import leans
from .made import AXES, Made, NotKnown, surface_of
from .once import once

RAW = frozenset({"sawn", "cast"})
Links = tuple[Link, ...]


def end_of(station: StationFacts, on: int, high: bool, facts: PlanFacts) -> Made:
    """The stock's end along an axis of a station, as it comes."""
    lie = station.lie
    return surface_at(
        station, on, high, float((lie.stock_high if high else lie.stock_low)[on]), facts
    )


def surface_at(station: StationFacts, on: int, high: bool, at: float, facts: PlanFacts) -> Made:
    way: Direction = f"{'+' if high else '-'}{AXES[on]}"  # type: ignore[assignment]
    back = station.lie.pose.inverse()
    side = named(back.rotation @ axis(way))
    if side is None:
        raise NotKnown(Said("what it lies against there is slanted"), "angle", station.id)
    point = np.zeros(3)
    point[on] = at
    return surface_of(station, side, float(back.apply(point) @ axis(side)), facts)


def located(station: StationFacts, on: int, facts: PlanFacts) -> tuple[Links, Made]:
    """What brings the next part to the same place along an axis. Raises NotKnown."""
    key = ("located", station.id, on)
    return once(facts, key, lambda: _located(station, on, facts), station)


def _located(station: StationFacts, on: int, facts: PlanFacts) -> tuple[Links, Made]:
    held = station.planned.in_vise
    if isinstance(station.planned.holding, Clamped):
        place, what = _against_dowels(station.planned.holding, station, on, facts)
        return _and_uneven(place, what, station, facts)
    if isinstance(station.planned.holding, Pulled):
        side = next((e for e in station.planned.holding.sides if AXES.index(e[1]) == on), "-z")
        if side != "-z" or on == 2:
            what = "seat" if on == 2 else "stop"
            return _and_uneven(end_of(station, on, side[0] == "+", facts), what, station, facts)
    if on == 2 and station.stand.of("step"):
        return _and_uneven(end_of(station, 2, False, facts), "seat", station, facts)
    if held is None:
        raise NotKnown(
            Said("nothing says what brings the next part to the same place"), "stop", station.id
        )
    across = AXES.index(held.fixed[1])
    if on == 2:
        place, what = end_of(station, 2, False, facts), "seat"
    elif on == across:
        place, what = _against("jaw", held, station, facts), "jaw"
    elif held.profile_mm:
        place, what = end_of(station, on, False, facts), "jaw"
    elif held.stop:
        place, what = _against("stop", held, station, facts), "stop"
    else:
        raise NotKnown(
            Said(
                "nothing stops the next part along the jaws of setup {setup}", setup_said(station)
            ),
            "stop",
            station.id,
        )
    return _and_uneven(place, what, station, facts)


def _and_uneven(
    place: Made, what: str, station: StationFacts, facts: PlanFacts
) -> tuple[Links, Made]:
    raw = uneven(place, station, facts)
    again = _again(station, what, facts)
    return (again, *(() if raw is None else (raw,))), place


def _against_dowels(
    held: Clamped, station: StationFacts, on: int, facts: PlanFacts
) -> tuple[Made, str]:
    """What of the part its dowels touch along an axis; what it lies on along Z."""
    if on == 2:
        return end_of(station, 2, False, facts), "seat"
    sides = [each.side for each in held.dowels]
    sides += [each.side for each in _locators(station, facts)]
    side = next((each for each in sides if AXES.index(each[1]) == on), None)
    if side is None:
        raise NotKnown(
            Said(
                f"no dowel stops the next part along {AXES[on].upper()} in setup {{setup}}",
                setup_said(station),
            ),
            "dowel",
            station.id,
        )
    return end_of(station, on, side[0] == "+", facts), "dowel"


def _locators(station: StationFacts, facts: PlanFacts) -> tuple[Locator, ...]:
    """Those of the fixture it lies in that it touches as it comes."""
    item, contacts = station.item, hold.as_it_comes(station, facts)
    if not isinstance(item, Gear) or not isinstance(item.base, Fixture) or contacts is None:
        return ()
    touched = {each.body for each in contacts.every}
    numbered = enumerate(item.base.locators, 1)
    return tuple(each for k, each in numbered if f"locator {k}" in touched)


def _against(
    of: Literal["jaw", "stop"], held: Holding, station: StationFacts, facts: PlanFacts
) -> Made:
    """What of the part a fixed jaw or a stop touches."""
    if station.stand.gripped is None or (of == "stop" and leans(station)):
        raise NotKnown(Said("how it is held is not worked out"), "held", station.id)
    return surface_at(station, *touched(of, held, station.stand.gripped), facts)


def _again(station: StationFacts, what: str, facts: PlanFacts) -> Link:
    field = "seat_again_mm" if what == "seat" else "jaw_again_mm"
    against = {
        "seat": "down on its seat",
        "jaw": "against the fixed jaw",
        "stop": "against the stop",
        "dowel": "against its dowels",
    }
    return Link(
        f"again:{station.id}:{what}",
        Said(f"the next part {against[what]} in setup {{setup}}", setup_said(station)),
        float(getattr(facts.library.settings, field)),
        f"shop.{field}",
    )


def setup_said(station: StationFacts) -> dict[str, Shown]:
    return {"setup": Shown(str(station.number))}


def uneven(place: Made, station: StationFacts, facts: PlanFacts) -> Link | None:
    """What a raw side adds where a part lies on it or is found by it."""
    if not place.raw or place.side is None or facts.plan.stock.skin(place.side) not in RAW:
        return None
    skin = facts.plan.stock.skin(place.side)
    return Link(
        f"uneven:{station.id}:{place.key}",
        Said(f"{skin} {SIDE_WORDS[place.side]}, uneven"),
        facts.library.settings.raw_side_mm,
        "shop.raw_side_mm",
    )
