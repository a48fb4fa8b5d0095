"""A part pulled down on a plate: as much of its lower face as is sealed or stuck, its friction
there, the edges it lies against, and what is left when a cut comes out through it.
"""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
from shapely import box

from machining.geometry.regions import Region
from machining.geometry.solids import Solid, section, section_across
from machining.holding import grip
from machining.holding.contacts import Contact
from machining.holding.patch import Patch
from machining.memo import Memo
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.plan.pulled import EDGES, Pulled
from machining.quantities.computed import Given
from machining.quantities.errors import OutOfRange
from machining.quantities.said import Said, Shown
from machining.world.machine import Machine, SpindleNose, Table
from machining.world.workholding import Puller

from ..context import PlanFacts, Ready, StationFacts
from ..stand import Body, Stand, key_of
from ..state import State
from .base import HeldWords, HoldingKind, Lying
from .efforts import pulled_down, puller_set

PULL = "pull"
NEAR_MM, LEAST_MM2 = 0.05, 1.0  # over the plate; of a way through it that lets air in
EDGE_MM, EDGE_HIGH_MM = 10.0, 4.0  # of a raised edge, across and over the plate
CALLED = {"-x": "left edge", "+x": "right edge", "-y": "front edge", "+y": "back edge"}
BESIDE_MM = 20.0  # of a plate that is as large as its part, beside it as it is shown


def held_in(station: StationFacts) -> tuple[Pulled, Puller] | None:
    """What pulls a station's part down, and how; None where it is held otherwise."""
    held, item = station.planned.holding, station.item
    if not isinstance(held, Pulled) or not isinstance(item, Puller):
        return None
    return held, item


def sealed(station: StationFacts, puller: Puller) -> Region:
    """What of the part's lower face as it comes lies on the plate, within its seal."""
    face = section(station.arrives.solid, float(station.lie.stock_low[2]) + NEAR_MM)
    inside = face.buffer(-puller.seal_mm) if puller.seal_mm else face
    return inside.intersection(_plate(station, puller))


def pulls(station: StationFacts, puller: Puller, state: State) -> float:
    """Area (mm²) that pulls with what is left of the part; 0 where air comes in."""
    key = ("pulls", station.key, station.arrives.key, state.key)
    found: float = state.memo.get(key, lambda: _pulls(station, puller, state.solid))
    return found


def _pulls(station: StationFacts, puller: Puller, solid: Solid) -> float:
    zone = sealed(station, puller)
    now = section(solid, float(station.lie.stock_low[2]) + NEAR_MM)
    left = zone.intersection(now)
    if puller.by == "vacuum" and zone.area - left.area > LEAST_MM2:
        return 0.0
    return float(left.area)


def _plate(station: StationFacts, puller: Puller) -> Region:
    low, high = station.lie.stock_low, station.lie.stock_high
    middle = (low + high) / 2.0
    wide = puller.x_mm or float(high[0] - low[0]) + 2.0 * BESIDE_MM
    deep = puller.y_mm or float(high[1] - low[1]) + 2.0 * BESIDE_MM
    x, y = float(middle[0]), float(middle[1])
    return box(x - wide / 2.0, y - deep / 2.0, x + wide / 2.0, y + deep / 2.0)


def _stand(station: StationFacts, held: Pulled, puller: Puller, memo: Memo) -> Stand:
    low, high = station.lie.stock_low, station.lie.stock_high
    seat = float(low[2])
    if sealed(station, puller).area < LEAST_MM2:
        raise OutOfRange(
            "area that pulls", 0, f"some of what lies on {puller.name}, inside its seal"
        )
    bodies = [Body("pallet", puller.name, _plate(station, puller), seat - puller.thick_mm, seat)]
    for side in held.sides:
        bodies.append(Body("stop", CALLED[side], _edge(side, low, high), seat, seat + EDGE_HIGH_MM))
    return Stand(tuple(bodies), (key_of(tuple(bodies)),))


def _edge(side: str, low: np.ndarray, high: np.ndarray) -> Region:
    """Along a side of the part and beside it."""
    k, outwards = "xy".index(side[1]), side[0] == "+"
    ends = [(float(low[j]), float(high[j])) for j in (0, 1)]
    at = ends[k][1] if outwards else ends[k][0] - EDGE_MM
    ends[k] = (at, at + EDGE_MM)
    return box(ends[0][0], ends[1][0], ends[0][1], ends[1][1])


def _figures(station: StationFacts, held: Pulled, puller: Puller, facts: PlanFacts) -> None:
    """The figure pull."""
    if not station.stand.bodies:
        return
    area = Given(sealed(station, puller).area, "part on its plate, within the seal")
    pressure = Given(puller.pull_kpa, f"plate:{puller.name}")
    station.work_out(grip.pull, "pull", pressure=pressure, area=area)


def _touches(
    station: StationFacts, held: Pulled, puller: Puller, state: State
) -> tuple[list[Contact], dict[str, float]]:
    """What it lies on bears, what pulls has its middle; edges bear."""
    low, unit = float(station.lie.stock_low[2]), np.eye(3)
    on = section(state.solid, low + NEAR_MM).intersection(_plate(station, puller))
    found = Patch(on, low * unit[2], unit[0], unit[1], unit[2]).contacts(
        puller.friction, puller.name
    )
    area = pulls(station, puller, state)
    zone = sealed(station, puller).intersection(on)
    middle = (zone if not zone.is_empty else on).centroid
    groups = {}
    if not middle.is_empty:
        at = (float(middle.x), float(middle.y), low)
        found.append(Contact(at, (0.0, 0.0, -1.0), 0.0, PULL, PULL))
        groups[PULL] = grip.pull(puller.pull_kpa, area)
    for side, body in zip(held.sides, station.stand.of("stop"), strict=True):
        found += _at_edge(side, body, state.solid, puller.friction)
    return found, groups


def _at_edge(side: str, body: Body, solid: Solid, friction: float) -> list[Contact]:
    k, outwards = "xy".index(side[1]), side[0] == "+"
    bounds = body.region.bounds
    face = float(bounds[k] if outwards else bounds[k + 2])
    inwards = -1.0 if outwards else 1.0
    reach = box(bounds[1 - k], body.bottom, bounds[3 - k], body.top)
    touched = section_across(solid, k, face + inwards * NEAR_MM).intersection(reach)
    unit = np.eye(3)
    patch = Patch(touched, face * unit[k], unit[1 - k], unit[2], inwards * unit[k])
    return patch.contacts(friction, body.name)


def _fits(machine: Machine, place: Table | SpindleNose) -> str | None:
    if isinstance(place, SpindleNose):
        return f"{machine.name} turns the part: what pulls on its face is not worked out."
    return None


def _seat_mm(held: Pulled, puller: Puller) -> float:
    return puller.thick_mm


def _none_mm(held: object) -> float:
    return 0.0


def _as_it_is(puller: Puller, asked: float) -> float:
    return 0.0


def _force(held: Pulled, puller: Puller) -> Shown:
    return Shown(puller.pull_kpa, "pull")


def _tighten(op: Ready, held: Pulled, puller: Puller, factor: float) -> Iterator[Proposal]:
    """It pulls with what it has: edges that stand against the cut."""
    for edges, words in EDGES:
        if edges and not held.against:
            change = Change(on=op.station.on, fields={"holding.against": edges})
            yield Proposal(f"Push it against edges, {words}", (change,))


def _usual(
    station: StationFacts, puller: Puller, before: Pulled | None, facts: PlanFacts
) -> Pulled:
    if before is not None:
        return before.model_copy(update={"plate": puller.key})
    return Pulled(plate=puller.key, against="-x-y")


def _offers(station: StationFacts, facts: PlanFacts) -> Iterator[Proposal]:
    """Of low, flat parts that the plate is large enough for."""
    size = [float(each) for each in station.lie.stock_high - station.lie.stock_low]
    for item in facts.library.holdings.values():
        if not isinstance(item, Puller) or item.x_mm == 0.0 or size[2] > min(size[:2]) / 2.0:
            continue
        if size[0] <= item.x_mm and size[1] <= item.y_mm:
            held = _usual(station, item, None, facts)
            change = Change(on=station.on, fields={"holding": held.model_dump(mode="json")})
            yield Proposal("Hold it on the {item}", (change,), {"item": Shown(item.name)})


def _words(held: Pulled, puller: Puller, lying: Lying) -> HeldWords:
    pull = _force(held, puller)
    where = dict(EDGES)[held.against]
    pushed = f" Push it against the edges, {where}." if held.against else ""
    if puller.by == "vacuum":
        on = Said(
            "Vacuum on: the gauge shows {pull} or more, and stays there." + lying.reason,
            {"pull": pull},
        )
        first = "Wipe plate and part, lay the cord round every hole and inside the outline."
        caution = (
            "The gauge is looked at before every start: a cord that leaks or a cut through the part"
            " lets it go at once. The pump's alarm stops the feed."
        )
    else:
        first = "Plate and part clean, dry and free of oil; no bubbles under it."
        on = Said("Press it down all over and let it sit as its maker says." + lying.reason)
        caution = (
            "Warm or wet it holds less: coolant as its maker allows. Take it off by heat or wedge,"
            " not by hand over an edge."
        )
    return HeldWords(
        puller.name,
        pull,
        "over what it seals" if puller.by == "vacuum" else "over what sticks",
        Said(f"on the {puller.name}"),
        (Said(first), Said(f"{lying.handling}. {lying.up}.{pushed}{lying.note}"), on),
        Said(caution),
        "Pulled down.",
        "Light first cut, then look whether it has moved.",
    )


def _built(held: Pulled, puller: Puller) -> bool:
    return True


PULLED = HoldingKind(
    Puller,
    _fits,
    _seat_mm,
    _none_mm,
    _force,
    _none_mm,
    "",
    _as_it_is,
    _as_it_is,
    _usual,
    _offers,
    _stand,
    _figures,
    _touches,
    _tighten,
    _words,
    called="plate",
    stands="It stands",
    grips="It holds",
    built=_built,
    closed=pulled_down,
    set_up=puller_set,
)
