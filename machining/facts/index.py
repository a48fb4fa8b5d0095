"""Turning another side of the held part, or another face of a tombstone, to the tool with a
machine's rotary axes: how far each goes, where that carries the part, how long it takes.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from functools import cached_property
from math import acos, cos, degrees, radians, sin

import numpy as np

from machining.geometry.frames import (
    DIRECTIONS,
    LEVEL,
    Direction,
    Vector,
    axis,
    is_square,
    named,
    orientation,
    standing,
)
from machining.geometry.solids import posed
from machining.placing import rotary
from machining.placing.zero import Lie
from machining.quantities.computed import Given
from machining.quantities.errors import Missing
from machining.world.feature import Slanted
from machining.world.machine import SpindleNose, Table
from machining.world.rotary_axis import RotaryAxis
from machining.world.stock.base import SIDE_WORDS

from .context import OperationFacts, Ready, StationFacts

Angles = Mapping[str, float]  # of rotary axes, by name, degrees
Aim = str  # one of the six directions, one turned on by an angle, or the id of what is slanted
SAME_DEG = 1e-6


@dataclass(frozen=True)
class Turned:
    """Axes, each with where it goes (degrees) to bring a side to the tool; what the work stands on
    turns first, then what carries that, or the head. ``across`` a spindle that turns the work the
    tool comes from its side.
    """

    to: tuple[tuple[RotaryAxis, float], ...]
    across: bool = False

    @property
    def in_reach(self) -> bool:
        return all(axis.low_deg <= to <= axis.high_deg for axis, to in self.to)

    @property
    def slowest(self) -> tuple[RotaryAxis, float]:
        """The axis that is on its way longest, and how far it goes."""
        axis, to = max(self.to, key=lambda each: abs(each[1]) / each[0].speed_deg_s)
        return axis, abs(to)

    @cached_property
    def rotation(self) -> Vector:
        """From the station's frame to the one it is cut in, whose Z looks to the tool: as what
        stands at a table goes round, then as it looks from a head that tilts. Across a spindle the
        cut's X is the spindle's Z.
        """
        if self.across:
            return rotary.ACROSS @ rotary.turn_about("z", -self.to[0][1])
        return _turns(self.to)

    @property
    def of_work(self) -> tuple[tuple[RotaryAxis, float], ...]:
        """What the work is turned by."""
        return tuple(each for each in self.to if each[0].carries == "work")

    @property
    def of_head(self) -> tuple[RotaryAxis, float] | None:
        """What the head is tilted by; None where it stands upright."""
        return next((e for e in self.to if e[0].carries == "tool" and abs(e[1]) > SAME_DEG), None)

    @cached_property
    def of_work_rotation(self) -> Vector:
        """From the station's frame to where its work stands then."""
        return self.rotation if self.of_head is None else _turns(self.of_work)


@dataclass(frozen=True, slots=True)
class TurnedTo:
    """A ``side`` of the part that is turned to the tool, empty where it is a tombstone's face;
    ``index`` is where the axes stand then at its first position, ``seconds`` what turning takes of
    a cycle. ``askew`` says whether the head is tilted for it, ``loose`` which axes it is turned by
    have no clamp.
    """

    side: str
    index: str
    seconds: float
    askew: bool = False
    loose: str = ""


def _turns(to: tuple[tuple[RotaryAxis, float], ...]) -> Vector:
    turn = np.eye(3)
    for each, by in to:
        turn = rotary.turn_about(each.about, by) @ turn
    return turn


def angle(op: OperationFacts) -> float:
    """How far (degrees) its side lies from that which is up at the station."""
    from_up = op.lie.pose.rotation[2] @ op.station.lie.pose.rotation[2]
    return degrees(acos(max(-1.0, min(1.0, float(from_up)))))


def side_of(op: OperationFacts) -> Vector:
    """The direction at its station that looks to its tool."""
    side: Vector = op.station.lie.pose.rotation @ op.lie.pose.rotation[2]
    return side


def ways(place: Table | SpindleNose, side: Vector) -> list[Turned]:
    """How a place's axes could bring a side of its stations to the tool, in reach or out of it."""
    axes = {each.about: each for each in place.rotaries}
    tilts = next((each for each in place.rotaries if each.about != "z"), None)
    if "z" in axes and tilts is not None:
        return [
            Turned(((axes["z"], turn), (tilts, tilt)))
            for turn, tilt in rotary.turned_then_tilted(side, tilts.about)
        ]
    across = isinstance(place, SpindleNose)
    alone = [each for each in place.rotaries if each.about != "z" or across]
    found = [(axis, rotary.to_side(side, axis.about)) for axis in alone]
    return [Turned(((axis, to),), across) for axis, to in found if to is not None]


def way(place: Table | SpindleNose, side: Vector) -> Turned | None:
    """The quickest that the machine reaches, None where it reaches none."""
    able = [each for each in ways(place, side) if each.in_reach]
    return min(able, key=lambda each: each.slowest[1] / each.slowest[0].speed_deg_s, default=None)


def towards(station: StationFacts, aim: Aim) -> Vector | None:
    """The direction in part coordinates that is to look to the tool: of a side, square to a slanted
    face, along a slanted hole to an end a tool can come from. None for what is not there.
    """
    if aim in DIRECTIONS:
        return axis(aim)  # type: ignore[arg-type]
    if (on := turned_on(aim)) is not None:
        side, deg, about = axis(on[0]), radians(on[1]), axis(f"+{on[2]}")  # type: ignore[arg-type]
        turned: Vector = side * cos(deg) + np.cross(about, side) * sin(deg)
        return turned
    feature = station.geometry.feature(aim)
    if not isinstance(feature, Slanted):
        return None
    return -feature.direction if feature.comes == ("low",) else feature.direction


def turned_on(aim: Aim) -> tuple[Direction, float, str] | None:
    """A side, by how much it is turned on (degrees) and about which axis of the part; None for
    another aim. A side does not turn about its own axis.
    """
    side, _, rest = aim.partition(" ")
    if side not in DIRECTIONS or not rest:
        return None
    deg, _, about = rest.partition(" ")
    return None if about == side[1] else (side, float(deg), about)


def turns_on_about(station: StationFacts) -> str:
    """The axis of the part about which its machine turns one side of it after another to the tool;
    empty where it turns none, or the part lies at an angle to that.
    """
    place = station.place
    axes = [each.about for each in place.rotaries] if place is not None else []
    if not axes or (axes == ["z"] and not station.turns):
        return ""  # what turns about the tool's own axis brings no side to it
    about: Direction = f"+{'z' if 'z' in axes else axes[0]}"  # type: ignore[assignment]
    along = named(station.lie.pose.rotation.T @ axis(about))
    return along[1] if along is not None else ""


def aim_words(station: StationFacts, aim: Aim) -> str:
    """A side by its name, a slanted face or hole by what it leans."""
    if aim in DIRECTIONS:
        return SIDE_WORDS[aim]  # type: ignore[index]
    if (on := turned_on(aim)) is not None:
        return f"{SIDE_WORDS[on[0]]} turned on by {on[1]:g}°"
    feature = station.geometry.feature(aim)
    if not isinstance(feature, Slanted):
        return "side that is not there"
    return f"{feature.shape} {feature.lean_deg:g}° from its {SIDE_WORDS[feature.opens]}"


def way_to(station: StationFacts, aim: Aim) -> Turned | None:
    """The quickest way the machine has to bring it to the tool, None where it has none."""
    to = towards(station, aim)
    if to is None or station.place is None:
        return None
    return way(station.place, station.lie.pose.rotation @ to)


def turned_lie(station: StationFacts, aim: Aim) -> Lie:
    """How the part lies about its zero with a side or what is slanted turned to the tool, as the
    machine's axes do it; where none of them does, with that up. Raises Missing for what is not
    there.
    """
    pose, to = station.lie.pose, towards(station, aim)
    if to is None:
        raise Missing("Side to turn to the tool", aim)
    found = way_to(station, aim)
    upright = orientation(aim, 0) if aim in DIRECTIONS else standing(to)  # type: ignore[arg-type]
    turn = upright @ pose.rotation.T if found is None else found.rotation
    if is_square(turn):
        return station.lie.turned(np.rint(turn))
    solids = posed(station.geometry.solid, pose), station.arrives.seen_in(station.lie).solid
    return station.lie.turned(turn, solids)


def words(angles: Angles) -> str:
    """As a program has them: B-90, A90 C180, C1=90; axes at 0 are left out where others turn."""
    turned = {name: deg for name, deg in angles.items() if abs(deg) > SAME_DEG} or angles
    return " ".join(f"{_address(name)}{_degrees(deg)}" for name, deg in turned.items())


def _address(name: str) -> str:
    return f"{name}=" if name[-1].isdigit() else name


def _degrees(deg: float) -> str:
    return f"{deg + 0.0:.3f}".rstrip("0").rstrip(".")


def could_turn(station: StationFacts) -> Iterator[tuple[Aim, Turned]]:
    """The sides of the part and what is slanted on it that its machine turns to the tool in this
    holding.
    """
    slants = (each for each in station.geometry.features if isinstance(each, Slanted))
    shown = [each.id for each in slants if each.shape == "face" or each.comes]
    for aim in (*DIRECTIONS, *shown):
        turned = None if looks_up(station, aim) else way_to(station, aim)
        if turned is not None:
            yield aim, turned


def looks_up(station: StationFacts, aim: Aim) -> bool:
    """Is it to the tool as the part lies at the station?"""
    to = towards(station, aim)
    return to is not None and bool(station.lie.pose.rotation[2] @ to > LEVEL)


def other_way(station: StationFacts, side: Aim) -> str:
    """In words the second solution of two axes that bring a side to the tool, and why it is none;
    empty where there is only one.
    """
    to = towards(station, side)
    if station.place is None or to is None:
        return ""
    found = ways(station.place, station.lie.pose.rotation @ to)
    taken = way(station.place, station.lie.pose.rotation @ to)
    other = next((each for each in found if taken is not None and each.to != taken.to), None)
    if other is None:
        return ""
    goes = {each.name: to for each, to in other.to}
    said = words({each.name: goes[each.name] for each in station.place.rotaries})
    if other.in_reach:
        return f"{said} would do it too"
    out = next(each for each, to in other.to if not each.low_deg <= to <= each.high_deg)
    return f"{said} is out of reach: {out.name} goes from {out.low_deg:g}° to {out.high_deg:g}°"


def sides(station: StationFacts) -> dict[Aim, Turned]:
    """What its operations turn to the tool, as they come, where the machine's axes do; of what is
    turned alike the first.
    """
    found, known = dict[Aim, Turned](), set[tuple[float, ...]]()
    for op in station.work:
        aim = op.aim
        if aim is None or looks_up(station, aim):
            continue
        turned = way_to(station, aim)
        if turned is None or (at := tuple(round(to, 4) for _, to in turned.to)) in known:
            continue
        known.add(at)
        found[aim] = turned
    return found


def turning_axes(station: StationFacts) -> list[RotaryAxis]:
    """Those of its table on whose centre its zeros hang: of its sides, and of the faces it stands
    on.
    """
    if station.turns:
        return []
    used = {
        each.name: each
        for turned in sides(station).values()
        for each, to in turned.to
        if each.carries == "work" or abs(to) > SAME_DEG
    }
    for each in station.place.rotaries if station.place is not None else ():
        if each.about == "y" and any(map(station.turned_deg, range(station.planned.positions))):
            used[each.name] = each
    return [*used.values()]


def centre(place: Table | SpindleNose | None) -> Vector:
    """The point (mm, from the middle of a table's top) about which its axes turn."""
    above = [each.above_mm for each in place.turning if each.about != "z"] if place else []
    return np.array([0.0, 0.0, above[0] if above else 0.0])


def origins(op: OperationFacts) -> Vector:
    """Where the origin of the frame it is cut in is at each position (n, 3), from the middle of the
    table's top, with the axes at that position's index, mm.
    """
    if op.aimed is None:
        return origins_of(op.station)
    return origins_of(op.station, op.lie.pose.rotation @ op.station.lie.pose.rotation.T)


def origins_of(station: StationFacts, turn: Vector | None = None) -> Vector:
    """The same of the station's own frame, with what it stands on turned to the tool, and from
    there by a rotation.
    """
    if turn is not None:
        return rotary.carried_round(origins_of(station), turn, centre(station.place))
    first = station.on_place(np.zeros(3), 0)
    spots = np.array(station.planned.spots)
    found = np.empty((len(spots), 3))
    found[:, :2], found[:, 2] = first[:2] + spots - spots[0], first[2]
    return found


def angles(op: OperationFacts, position: int) -> dict[str, float] | None:
    """Where each axis of its table stands for it at a position; None where one does not get
    there.
    """
    turned = None
    if op.aimed is not None and op.station.place is not None:
        turned = way(op.station.place, side_of(op))
        if turned is None:
            return None
    return angles_of(op.station, position, turned)


def angles_of(
    station: StationFacts, position: int, turned: Turned | None = None
) -> dict[str, float] | None:
    """The same of a position of a station, with its up turned to the tool or so from there."""
    place = station.place
    if place is None:
        return {}
    found: dict[str, float] = {each.name: 0.0 for each in place.rotaries}
    found.update({each.name: to for each, to in turned.to} if turned is not None else {})
    face = station.turned_deg(position)
    for each in place.rotaries:
        if face and each.about == "y":
            to = rotary.within_reach(found[each.name] + face, each.low_deg, each.high_deg)
            if to is None:
                return None
            found[each.name] = to
    return found


def _nearest(angles: list[float], to: float) -> float:
    return min(angles, key=lambda each: abs(each - to))


def moved(place: Table | SpindleNose, before: Angles, after: Angles) -> tuple[Angles, float]:
    """Where its axes go from one position to another, each the shorter way within its ends,
    and what that takes (s): the longest way, and the clamp of what moved.
    """
    to, longest, clamp = dict[str, float](), 0.0, 0.0
    for each in place.rotaries:
        begin, end = before.get(each.name, 0.0), after.get(each.name, 0.0)
        able = rotary.same_within(end, each.low_deg, each.high_deg) or [end]
        to[each.name] = _nearest(able, begin)
        far = abs(to[each.name] - begin)
        if far > SAME_DEG:
            longest, clamp = max(longest, far / each.speed_deg_s), max(clamp, each.clamp_s)
    return to, longest + clamp


def of_operation(op: Ready) -> None:
    """The figure index_time: from what is up at its station to its side."""
    found = way(op.rig.place, side_of(op))
    if found is None:
        return
    axis, to = found.slowest
    op.work_out(
        rotary.index_time,
        "index_time",
        turned=Given(to, f"its aim with {axis.name}"),
        speed=op.of_machine(axis.speed_deg_s),
        positions=Given(1.0, "its aim"),
        clamp=op.of_machine(
            max(each.clamp_s for each, to in found.to if found.across or abs(to) > SAME_DEG)
        ),
    )
