"""A change of clamps between two operations: what is put on and what comes off, in which order."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import product

from machining.plan.clamped import Clamp, Clamped
from machining.plan.in_vise import CALLED
from machining.quantities.said import Said, Shown, length
from machining.world.clamping import AnyClamp, Strap
from machining.world.settings import Settings

from .context import OperationFacts, StationFacts
from .held import TAIL
from .holdings.clamped import clamps_of
from .holdings.clamped_bodies import meet
from .stand import Body


@dataclass(frozen=True, slots=True)
class Changed:
    """Clamps by number that are put on and come off; those come off ``first`` whose place is
    needed, ``left`` are on all the time. ``unknown`` are ids that the holding does not have.
    """

    on: tuple[int, ...]
    off: tuple[int, ...]
    first: bool
    left: tuple[int, ...]
    unknown: tuple[str, ...]

    @property
    def many(self) -> int:
        return len(self.on) + len(self.off)

    @property
    def loose(self) -> bool:
        """Does nothing hold the part for a moment?"""
        return not self.left and (self.first or not self.on)


def change_after(op: OperationFacts) -> Changed | None:
    """None where none is planned, or where nothing is held by clamps."""
    planned, station = op.operation.clamps_after, op.station
    known = {clamp.id: k for k, clamp, _, _ in clamps_of(station)}
    if planned is None:
        return None
    now, unknown = op.stand.on, [id for id in (*planned.on, *planned.off) if id not in known]
    on = tuple(known[id] for id in planned.on if id in known and id not in now)
    off = tuple(known[id] for id in planned.off if id in now)
    left = tuple(k for id, k in known.items() if id in now and id not in planned.off)
    first = any(
        meet(a, b) for new, old in product(on, off) for a, b in product(_at(op, new), _at(op, old))
    )
    return Changed(on, off, first, left, tuple(unknown))


def _at(op: OperationFacts, number: int) -> Sequence[Body]:
    """All that stands there of a clamp."""
    name = f"clamp {number}"
    every = op.station.stand.of("clamp", "heel")
    return [body for body in every if name in (body.name, body.of)]


def numbers_on(op: OperationFacts) -> list[int]:
    """Which clamps are on while it is cut, and 0 for a tailstock that is in."""
    if TAIL in op.stand.on:
        return [0]
    return [k for k, clamp, _, _ in clamps_of(op.station) if clamp.id in op.stand.on]


def said_after(op: OperationFacts) -> list[Said]:
    """The change after it, step by step; nothing where none is planned."""
    change = change_after(op)
    return said(change, op.station) if change is not None else []


def said(change: Changed, station: StationFacts) -> list[Said]:
    """Step by step, as somebody at the machine does it."""
    by_number = {k: (clamp, item) for k, clamp, item, _ in clamps_of(station)}
    on = [_put_on(k, *by_number[k]) for k in change.on]
    off = [_taken_off(k, *by_number[k]) for k in change.off]
    held = station.planned.holding
    again = isinstance(held, Clamped) and bool(held.dowels)
    if change.loose and change.on:
        words = "Nothing holds it now: push it against its dowels again."
        push = [Said(words if again else "Nothing holds it now: indicate it again.")]
        return [*off, *push, *on]
    return [*off, *on] if change.first else [*on, *off]


def _where(clamp: Clamp) -> str:
    """ "at its left, {at} behind the middle"."""
    ways = ("behind", "in front of") if clamp.side[1] == "x" else ("right of", "left of")
    way = ways[0] if clamp.at_mm > 0 else ways[1]
    away = f", {{at}} {way} the middle" if clamp.at_mm else ", in the middle"
    return f"at its {CALLED[clamp.side]}{away}"


def _put_on(number: int, clamp: Clamp, item: AnyClamp) -> Said:
    over = ", {over} over the part" if isinstance(item, Strap) else ""
    return Said(
        f"Put on clamp {number}, {item.name}, {_where(clamp)}{over}; tighten to {{torque}}.",
        {
            "at": length(abs(clamp.at_mm)),
            "over": length(clamp.over_mm),
            "torque": Shown(clamp.torque_nm, "torque"),
        },
    )


def _taken_off(number: int, clamp: Clamp, item: AnyClamp) -> Said:
    return Said(f"Take off clamp {number} {_where(clamp)}.", {"at": length(abs(clamp.at_mm))})


def stop_s(op: OperationFacts, settings: Settings) -> float | None:
    """How long somebody is at the stop after it: as said, or the shop's for a look and for every
    clamp; None where there is none.
    """
    change, operation = change_after(op), op.operation
    clamps = change.many if change is not None else 0
    if not operation.stop_after and not clamps:
        return None
    if operation.stop_s is not None:
        return operation.stop_s
    return clamps * settings.clamp_s + (settings.stop_s if operation.stop_after else 0.0)
