"""How a station's part is held, for who looks at it: where it is touched, what is left free, what
each cut asks, and all round of one of them.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Literal

import numpy as np

from machining.geometry.frames import Vector
from machining.geometry.regions import polygons_of
from machining.holding.contacts import Contacts
from machining.holding.cut import TURNS, in_plane
from machining.holding.held import MOST, carried_at, counted, factors, jams, not_pressed
from machining.holding.load import AnyLoad, Load
from machining.holding.located import Located, Motion, moves, said
from machining.quantities.said import Said, Shown

from . import hold, requirement
from .context import OperationFacts, PlanFacts, Ready, StationFacts
from .held import centring_groups, left_over, located_by, scale_for, seated, towards_said, what_if
from .observed import Held

Point = list[float]
SOME = 0.02  # of a unit: less of it is none


@dataclass(frozen=True, slots=True)
class TouchSeen:
    """A point (mm) where a body touches the part, with the normal into the part. ``presses_n`` is
    what it carries when the cut that is looked at is as large as is stood, 0 while none is.
    """

    body: str
    at: Point
    normal: Point
    friction: float
    clamps: bool
    presses_n: float


@dataclass(frozen=True, slots=True)
class StoodSeen:
    """An operation: its worn ``force_n``, how many times it is stood and is ``asked`` to be, least
    ``towards`` where, with the tool ``at`` a place; ``scale`` is how many times as hard the clamps
    have to press at least. ``of`` is what gives way, where that is not the part.
    """

    id: str
    force_n: float | None
    factor: float | None
    asked: float
    towards: str = ""
    at: Point = field(default_factory=list)
    scale: float | None = None
    of: str = ""


@dataclass(frozen=True, slots=True)
class MotionSeen:
    """One of the six: ``slide`` along or ``turn`` about an axis of the machine, stopped ``by``
    bodies, or ``free``.
    """

    kind: Literal["slide", "turn"]
    axis: Literal["X", "Y", "Z"]
    free: bool
    by: list[str]


@dataclass(frozen=True, slots=True)
class UnderSeen:
    """What the part is clamped to where that is a body of its own, and how it stands."""

    of: str
    seated: bool
    moves: Said
    left: Shown


@dataclass(frozen=True, slots=True)
class RoseSeen:
    """How many times a cut is stood in directions all round, the first ``along`` a direction, the
    others on towards ``aside``.
    """

    along: Point
    aside: Point
    factors: list[float]


@dataclass(frozen=True, slots=True)
class WhatIf:
    """A force and a friction to try, as shares of those that are planned."""

    force: float = 1.0
    friction: float = 1.0

    @property
    def asks(self) -> bool:
        return (self.force, self.friction) != (1.0, 1.0)

    def of(self, held: Held | None) -> Held | None:
        return what_if(held, self.force, self.friction) if held is not None and self.asks else held


AS_PLANNED = WhatIf()


@dataclass(frozen=True, slots=True)
class HoldSeen:
    """``asked`` is the factor the shop asks for. ``free`` are motions that what locates the part
    does not stop, ``moves`` is what clamps and weight do to the part where they find no balance.
    """

    station: str
    asked: float
    outline: list[list[Point]]
    low: Point
    high: Point
    clamps: dict[str, float]
    touches: list[TouchSeen]
    free: list[Said]
    seated: bool
    moves: Said
    left: Shown
    jams: bool
    not_pressed: list[str]
    operations: list[StoodSeen] = field(default_factory=list)
    rose: RoseSeen | None = None
    motions: list[MotionSeen] = field(default_factory=list)
    under: UnderSeen | None = None
    over: float = MOST


def hold_seen(
    station: StationFacts, facts: PlanFacts, operation: str = "", tried: WhatIf = AS_PLANNED
) -> HoldSeen | None:
    """With one of its operations, or as the part comes in; None while nothing holds it that is
    known.
    """
    looked = next((op for op in station.operations if op.id == operation), None)
    held = tried.of(looked.seen.held) if looked is not None else None
    contacts = held.contacts if held is not None else hold.as_it_comes(station, facts)
    if contacts is None:
        return None
    if held is None and tried.asks:
        contacts = contacts.scaled(tried.force, tried.friction)
    rest, place = seated(contacts), located_by(contacts)
    low, high = station.lie.stock_low, station.lie.stock_high
    return HoldSeen(
        station=station.id,
        asked=requirement.asked(looked, facts)
        if isinstance(looked, Ready)
        else facts.library.settings.holding_factor,
        outline=_rings(station, looked),
        low=low.round(4).tolist(),
        high=high.round(4).tolist(),
        clamps=_named(contacts),
        touches=_touches(contacts, held),
        free=[said(each) for each in place.free],
        seated=rest.seated,
        moves=Said() if rest.seated else moves(rest.left),
        left=left_over(contacts, rest),
        jams=jams(contacts),
        not_pressed=sorted({contacts.every[k].body for k in not_pressed(contacts)}),
        operations=[_stood(op, facts, tried) for op in station.operations if isinstance(op, Ready)],
        rose=_rose(held.weakest) if held is not None else None,
        motions=_motions(contacts, place),
        under=_under(held.under) if held is not None and held.under is not None else None,
    )


def _named(contacts: Contacts) -> dict[str, float]:
    """The forces of clamps by what they are called."""
    together = centring_groups(contacts)
    names = {
        each.group: each.body
        for each in contacts.every
        if each.group is not None and each.group not in together
    }
    return {names.get(group, group): force for group, force in contacts.groups.items()}


def _motions(contacts: Contacts, place: Located) -> list[MotionSeen]:
    """The six, about the setup's zero, and which bodies that only bear stop them."""
    found = []
    kinds: list[tuple[Literal["slide", "turn"], Literal["X", "Y", "Z"]]] = [
        (kind, axis) for kind in ("slide", "turn") for axis in ("X", "Y", "Z")
    ]
    for k, (kind, axis) in enumerate(kinds):
        free = any(_has(each, k) for each in place.free)
        sizes = np.abs(contacts.along_normals[:, k])
        by = [
            each.body
            for each, size in zip(contacts.every, sizes, strict=True)
            if each.group is None and size > SOME
        ]
        found.append(MotionSeen(kind, axis, free, [] if free else list(dict.fromkeys(by))))
    return found


def _has(motion: Motion, k: int) -> bool:
    return bool(abs((motion.slides if k < 3 else motion.turns)[k % 3]) > SOME)


def _under(held: Held) -> UnderSeen:
    rest = held.seat
    does = Said() if rest.seated else moves(rest.left)
    return UnderSeen(held.of, rest.seated, does, left_over(held.contacts, rest))


def _rings(station: StationFacts, op: OperationFacts | None) -> list[list[Point]]:
    """Outlines of the stock from above, as it is when it is cut."""
    state = (op.before if op is not None else station.arrives).seen_in(station.lie)
    return [
        [[round(float(x), 3), round(float(y), 3)] for x, y in each.exterior.coords]
        for each in polygons_of(state.outline())
    ]


def _touches(contacts: Contacts, held: Held | None) -> list[TouchSeen]:
    pressed = np.zeros(len(contacts.every))
    if held is not None and held.factor is not None:
        pressed = _pressed(contacts.with_share(held.share), held)
    return [
        TouchSeen(
            each.body,
            list(each.at),
            list(each.normal),
            each.friction,
            each.group is not None,
            round(float(pressed[k]), 1),
        )
        for k, each in enumerate(contacts.every)
    ]


def _pressed(contacts: Contacts, held: Held) -> Vector:
    """What each contact presses with (n,), N, when the cut is as large as is stood."""
    worst, found = np.inf, np.zeros(len(contacts.every))
    reckoned = counted(contacts)
    for load in held.loads:
        pushed, _ = load.pushes(contacts.length_mm)
        far = factors(reckoned, pushed)
        k = int(np.argmin(far))
        if far[k] < worst:
            worst, found = float(far[k]), carried_at(reckoned, pushed, k)
    return found


def _stood(op: Ready, facts: PlanFacts, tried: WhatIf) -> StoodSeen:
    held, asked = tried.of(op.seen.held), requirement.asked(op, facts)
    found, factor = held.weakest if held is not None else None, op.value("holding")
    if factor is not None and tried.asks and found is not None:
        factor = found.factor
    if found is None or found.towards is None or found.at is None:
        return StoodSeen(op.id, op.value("worn_force"), factor, asked)
    return StoodSeen(
        op.id,
        op.value("worn_force"),
        factor,
        asked,
        towards_said(found.towards),
        found.at.round(2).tolist(),
        scale_for(op, asked, tried.friction),
        found.of,
    )


def _rose(held: Held) -> RoseSeen | None:
    """Of a cut that pushes all round: the least over its places."""
    contacts = counted(held.contacts.with_share(held.share))
    round_ = [each for each in held.loads if _all_round(each)]
    if not round_:
        return None
    load = round_[0]
    pushed, _ = load.pushes(contacts.length_mm)
    far = factors(contacts, pushed)
    each = len(far) // len(load.places)
    least = far.reshape(len(load.places), each)[:, :TURNS].min(axis=0)
    if isinstance(load, Load):
        ways = in_plane(np.asarray(load.axis) / np.linalg.norm(load.axis))
    else:
        ways = np.eye(3)[[0] * (TURNS // 4) + [1]]
    along, aside = ways[0], ways[TURNS // 4]
    return RoseSeen(along.tolist(), aside.tolist(), least.round(4).tolist())


def _all_round(load: AnyLoad) -> bool:
    return not isinstance(load, Load) or load.force_n > 0.0
