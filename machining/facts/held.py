"""What a holding stands against an operation's cut: where it touches the part by then, what the cut
does to it, and the factor between.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import replace
from typing import NamedTuple

import numpy as np

from machining.geometry.frames import Vector
from machining.geometry.solids import bounds
from machining.holding import grip
from machining.holding.contacts import Contact, Contacts, Weight
from machining.holding.held import MOST, Seat, counted, factor, jams, least_scale, seat
from machining.holding.load import AnyLoad, Load, TurnedLoad, outermost
from machining.holding.located import Located, located
from machining.holding.patch import PLACES
from machining.plan.turned import PartOff, TurnFace, TurnGroove
from machining.quantities.computed import Given
from machining.quantities.said import Shown

from . import around
from .context import PlanFacts, Ready, StationFacts
from .loose import of_the_part
from .observed import Held
from .state import State

TouchesOf = Callable[[State], tuple[list[Contact], dict[str, float]]]


class Layer(NamedTuple):
    """What is held: the part by what touches it, or (``of``) what it is clamped to together with
    it, which weighs ``more`` than the part.
    """

    touches: TouchesOf
    of: str = ""
    more: Weight | None = None


TAIL = "tailstock"  # the group of a centre that presses the part towards its chuck
PULL_BACK = 0.3  # of a drill's thrust, as it breaks through
MOSTLY = 0.38  # of a direction's length
CUTS = ("cut", "ramp", "plunge")


def contacts_of(station: StationFacts, state: State, layer: Layer, facts: PlanFacts) -> Contacts:
    """Where what holds a station's part touches it, as it is at a moment."""
    seen = state.seen_in(station.stand.lie or station.lie)
    stands = station.stand.key if station.stand.on else ()  # clamps come and go in the cycle
    key = ("touches", facts.key, station.key, seen.key, layer.of, stands)

    def made() -> Contacts:
        every, groups = layer.touches(seen if station.turns else of_the_part(seen, facts.geometry))
        weight = _both(_weight(seen, station, facts), layer.more)
        return Contacts(_leant(station, every), groups, _length(facts), weight)

    return state.memo.get(key, made)


def _leant(station: StationFacts, every: list[Contact]) -> list[Contact]:
    turn = station.stand.turn
    if turn is None:
        return every
    return [
        replace(each, at=tuple(turn @ each.at), normal=tuple(turn @ each.normal)) for each in every
    ]


def _length(facts: PlanFacts) -> float:
    """Half of the part's diagonal, mm."""
    low, high = facts.geometry.bounds
    return float(np.linalg.norm(high - low)) / 2.0


def _weight(state: State, station: StationFacts, facts: PlanFacts) -> Weight | None:
    """What it weighs, in the middle of its box; it hangs down where Z is upright."""
    if facts.material is None or station.turns or station.tombstone is not None:
        return None
    low, high = bounds(state.solid)
    at = (low + high) / 2.0
    if station.stand.turn is not None:
        at = station.stand.turn @ at
    kg = state.volume() * facts.material.density_kg_dm3 / 1e6
    return Weight(round(kg, 6), (*at.round(PLACES).tolist(),))


def _both(one: Weight | None, other: Weight | None) -> Weight | None:
    """Two masses as one."""
    if one is None or other is None or not other.kg:
        return one
    kg = one.kg + other.kg
    at = (one.kg * np.array(one.at) + other.kg * np.array(other.at)) / kg
    return Weight(kg, (*at.round(PLACES).tolist(),))


def located_by(contacts: Contacts) -> Located:
    """By what only bears, and by what closes on the part from several sides at once."""
    centring = centring_groups(contacts)
    which = [
        bool(bears) or each.group in centring
        for each, bears in zip(contacts.every, contacts.bears, strict=True)
    ]
    return located(contacts.along_normals[np.array(which, dtype=bool)], contacts.length_mm)


def centring_groups(contacts: Contacts) -> frozenset[str]:
    """The names of what closes with several bodies that share a force: chuck and collet."""
    bodies: dict[str, set[str]] = {}
    for each in contacts.every:
        if each.group is not None:
            bodies.setdefault(each.group, set()).add(each.body)
    return frozenset(name for name, known in bodies.items() if len(known) > 1)


class End(NamedTuple):
    """One of what an operation can come to: the ``share`` of the clamps' force that is left, and
    the diameter (mm) that is turned then.
    """

    share: float = 1.0
    diameter: float = 0.0


def against(
    op: Ready, layers: Sequence[Layer], facts: PlanFacts, ends: Sequence[End] = (End(),)
) -> int | None:
    """Figures worn_force or worn_torque and holding; what was found on the way of the part and what
    it is clamped to. Which end is stood least; None where the cut does not push.
    """
    every = [replace(_held(op, layers, end, facts), end=k) for k, end in enumerate(ends)]
    factors = [each.weakest.factor for each in every]
    pushed = [k for k, each in enumerate(factors) if each is not None]
    least = min(pushed, key=lambda k: factors[k] or 0.0, default=None)
    rest = tuple(each for k, each in enumerate(every) if k != (least or 0))
    op.seen = replace(op.seen, held=replace(every[least or 0], others=rest))
    if least is not None:
        _figures(op, every[least].weakest, facts)
    return least


def _held(op: Ready, layers: Sequence[Layer], end: End, facts: PlanFacts) -> Held:
    loads, found = tuple(_loads(op, facts, end.diameter)), None
    for layer in reversed(layers):
        rest = contacts_of(op.station.during(op.stand), op.after, layer, facts)
        found = replace(_found(rest, loads, end), of=layer.of, under=found)
    assert found is not None
    return found


def what_if(held: Held, force: float, friction: float) -> Held:
    """The same closed with so much of the force that is set, and with so much of the friction;
    what a speed takes of the force it still takes.
    """
    every = [_tried(each, force, friction) for each in (held, *held.others)]
    return min(every, key=lambda each: MOST if (f := each.weakest.factor) is None else f)


def _tried(held: Held, force: float, friction: float) -> Held:
    share = max((force - 1.0 + held.share) / force, 0.0)
    rest = held.contacts.scaled(force, friction)
    found = _found(rest, held.loads, End(share))
    under = what_if(held.under, force, friction) if held.under is not None else None
    return replace(found, of=held.of, under=under)


def seated(contacts: Contacts) -> Seat:
    """Whether clamps and weight find a balance without friction; a centre presses against that of
    the jaws, and is left out.
    """
    return seat(contacts.without_group(TAIL))


def _found(rest: Contacts, loads: tuple[AnyLoad, ...], end: End) -> Held:
    contacts = rest.with_share(end.share) if end.share != 1.0 else rest
    found = Held(rest, end.share, seated(rest), loads, jams=jams(rest))
    reckoned = counted(contacts)
    for load in loads:
        pushed, places = load.pushes(contacts.length_mm)
        least = factor(reckoned, pushed)
        if least is not None and (found.factor is None or least.factor < found.factor):
            found = replace(
                found,
                factor=least.factor,
                towards=least.towards,
                at=places[least.which],
                carrying=least.carrying,
            )
    return found


def _figures(op: Ready, found: Held, facts: PlanFacts) -> None:
    assert found.factor is not None
    origin = f"statics of {len(found.contacts.every)} contacts"
    wear, worn = facts.shop("wear_factor"), op.figures.get("worn_force")
    if worn is not None:
        stands = Given(found.factor * worn.value, origin)
        op.work_out(grip.holding_factor, "holding", capacity=stands, force=worn)
    else:
        torque = op.work_out(
            grip.worn_torque, "worn_torque", torque=op.figures["cutting_torque"], wear=wear
        )
        stands = Given(found.factor * torque.value, origin)
        op.work_out(grip.twist_factor, "holding", capacity=stands, torque=torque)


def scale_for(op: Ready, required: float, friction: float = 1.0) -> float | None:
    """How many times as hard as at rest its clamps have to press for a factor where its cut is
    stood least, with so much of the friction; None where no force does.
    """
    return None if op.seen.held is None else scale_of(op.seen.held, required, friction)


def scale_of(held: Held, required: float, friction: float = 1.0) -> float | None:
    """The same of one of what it comes to."""
    found = held.weakest
    rubs = found.contacts if friction == 1.0 else found.contacts.scaled(1.0, friction)
    contacts, most = counted(rubs), 0.0
    for load in found.loads:
        least = least_scale(contacts, load.pushes(contacts.length_mm)[0], required)
        if least is None:
            return None
        most = max(most, least)
    return most


def untouched(op: Ready) -> list[str]:
    """Jaws and clamps that touch nothing of the part once its cut is done."""
    found, stand = op.seen.held, op.stand
    if found is None:
        return []
    every = (*found.contacts.every, *(found.under.contacts.every if found.under else ()))
    touched = {each.body for each in every}
    bodies = stand.upright or stand.bodies
    clamping = (e for e in bodies if e.role == "jaw" or (e.role == "clamp" and e.moves))
    return [each.name for each in clamping if each.name not in touched]


def left_over(contacts: Contacts, rest: Seat) -> Shown:
    """The largest force or moment of what clamps and weight leave without support."""
    k = int(np.argmax(np.abs(rest.left)))
    size = float(abs(rest.left[k]))
    if k < 3:
        return Shown(round(size, 3), "force")
    return Shown(round(size * contacts.length_mm / 1e3, 3), "torque")


def towards_said(way: Vector) -> str:
    """A direction by the axes it goes along most: "+X −Y"."""
    parts = [("+" if way[k] > 0 else "−") + "XYZ"[k] for k in range(3) if abs(way[k]) > MOSTLY]
    return " ".join(parts)


def stands_n(op: Ready) -> float | None:
    """The force of its own cut that is stood where it is stood least, N; None where nobody
    knows.
    """
    known, worn = op.seen.held, op.value("worn_force")
    if known is None or known.weakest.factor is None or worn is None:
        return None
    return known.weakest.factor * worn


def _loads(op: Ready, facts: PlanFacts, diameter: float) -> Iterator[AnyLoad]:
    if "cutting_force" in op.figures:
        yield from _turned(op, facts, diameter)
    else:
        yield from _by_a_tool(op, facts)


def _turned(op: Ready, facts: PlanFacts, diameter: float) -> Iterator[TurnedLoad]:
    """Along the surface, against the way it is fed in and square to both."""
    legs = [leg.points[:, 2] for leg in op.path.legs if leg.kind in CUTS]
    if not legs:
        return
    wear = facts.shop("wear_factor")
    worn = op.work_out(grip.worn_force, "worn_force", force=op.figures["cutting_force"], wear=wear)
    feed, push = (wear.value * (op.value(f"{each}_force") or 0.0) for each in ("feed", "push"))
    across = isinstance(op.operation, TurnFace | TurnGroove | PartOff)
    along, inwards = (push, feed) if across else (feed, push)
    outwards = inwards if getattr(op.operation.on, "side", "") == "inside" else -inwards
    z = np.concatenate(legs)
    places = np.array([(diameter / 2.0, end) for end in sorted({float(z.min()), float(z.max())})])
    yield TurnedLoad(places, worn.value, outwards, -along)


def _by_a_tool(op: Ready, facts: PlanFacts) -> Iterator[Load]:
    """A mill pushes any way square to its axis and lifts by its helix, a drill pushes and twists
    and pulls as it breaks through, a tap twists.
    """
    wear, places = facts.shop("wear_factor"), _places(op)
    if not len(places):
        return
    axis = _turned_back(op).T[2]
    worst = "worst_" if "worst_side_force" in op.figures else ""
    side, thrust = op.figures.get(f"{worst}side_force"), op.figures.get("thrust")
    twist = op.value("cutting_torque") or 0.0
    if side is not None:
        worn = op.work_out(grip.worn_force, "worn_force", force=side, wear=wear)
        lift = (op.value(f"{worst}axial_force") or 0.0) * wear.value
        torque = (op.value(f"{worst}torque") or 0.0) * wear.value
        yield Load(places, axis, worn.value, lift, -torque)
    elif thrust is not None:
        worn = op.work_out(grip.worn_force, "worn_force", force=thrust, wear=wear)
        yield Load(places, axis, 0.0, -worn.value, -twist * wear.value)
        yield Load(places, axis, 0.0, PULL_BACK * worn.value, -twist * wear.value)
    elif twist > 0.0:
        for way in (-1.0, 1.0):
            yield Load(places, axis, 0.0, 0.0, way * twist * wear.value)


def _cutting(op: Ready) -> Vector:
    """Where its tip goes at feed (n, 3); while it has no path, where its work is."""
    legs = [leg.points for leg in op.path.legs if leg.kind in CUTS]
    if legs:
        return np.vstack(legs)
    if op.work.holes:
        return np.array([hole[:3] for hole in op.work.holes], dtype=float)
    if op.work.region.is_empty:
        return np.zeros((0, 3))
    west, south, east, north = op.work.region.bounds
    corners = [(x, y) for x in (west, east) for y in (south, north)]
    return np.array([(x, y, z) for z in (op.work.floor, op.work.top) for x, y in corners])


def _turned_back(op: Ready) -> Vector:
    """The rotation from how its tool sees it to its station."""
    turned: Vector = around.aim_of(op).T
    return turned


def _places(op: Ready) -> Vector:
    """Where its tool cuts (k, 3), at half its depth of cut, in the station's frame: the outermost
    of its path, lowest and highest.
    """
    points = _cutting(op)
    if not len(points):
        return points
    half = (op.seen.depth_mm or 0.0) / 2.0
    levels = sorted({float(points[:, 2].min()), float(points[:, 2].max())})
    corners = outermost(points)
    at = [[x, y, z + half] for z in levels for x, y in corners]
    if op.aimed is None:
        return np.array(at)
    moved: Vector = op.station.lie.pose.apply(op.lie.pose.inverse().apply(np.array(at)))
    return moved
